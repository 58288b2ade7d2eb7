// Structure and coverage as built, held against the claim.

#include "core/checks/as_built.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

using namespace test;

Dossier dossierOf(bool secondInFeedback, const char* category)
{
    Dossier d = stopping(twoChannels(secondInFeedback).circuit());
    for (const char* tag : {"Q1", "Q2"})
        for (Device& device : d.circuit.devices)
            if (device.tag == tag)
                device.reliability = Reliability{.b10dCycles = 1.0e6, .source = "made up for this test"};
    d.functions.front().claim = {claimedPair(d.circuit, "Q1", "Q2", category, 0.99)};
    return d;
}

FaultAnalysis analysisOf(bool secondInFeedback, const char* category)
{
    const Dossier d = dossierOf(secondInFeedback, category);
    auto a = faultAnalysis(d, d.functions.front(), {});
    EXPECT_TRUE(a) << a.error().message.id;
    return *a;
}

/// The dossier of analysisOf(), once more.
std::vector<Finding> findingsOf(const FaultAnalysis& a, const Dossier& d)
{
    return checks::asBuiltFindings(d.circuit, d.functions.front(), a);
}

bool hasFinding(const std::vector<Finding>& findings, const char* id)
{
    return std::any_of(findings.begin(), findings.end(), [id](const Finding& f) { return f.what.id == id; });
}

TEST(AsBuilt, FullFeedbackBearsTheClaimOutForTheContactors)
{
    const FaultAnalysis a = analysisOf(true, "4");
    ASSERT_EQ(a.compared.size(), 1u);
    EXPECT_NEAR(*a.compared[0].coverage, 0.99, 1e-12);
    for (const auto& channel : a.built.subsystems[0].channels)
        for (int k : channel[0].uncovered)
            ADD_FAILURE() << a.sweep.faults[static_cast<std::size_t>(k)].id;
    const auto findings = findingsOf(a, dossierOf(true, "4"));
    EXPECT_FALSE(hasFinding(findings, "finding.as_built.coverage"));
    EXPECT_FALSE(hasFinding(findings, "finding.as_built.accumulates"));
    EXPECT_TRUE(a.compared[0].pfhdPerHour);
}

TEST(AsBuilt, OneMissingContactIsAFindingWithTheFaultAndHalfTheCoverage)
{
    const FaultAnalysis a = analysisOf(false, "3");
    EXPECT_NEAR(*a.compared[0].coverage, 0.495, 1e-12); // (0.99 / MTTFd + 0 / MTTFd) / (2 / MTTFd)
    const auto findings = findingsOf(a, dossierOf(false, "3"));
    ASSERT_TRUE(hasFinding(findings, "finding.as_built.coverage"));
    for (const Finding& f : findings)
        if (f.what.id == "finding.as_built.coverage") {
            EXPECT_EQ(f.devices, std::vector<std::string>{"Q2"});
            const Phrases& named = std::get<Phrases>(f.what.arguments.back());
            EXPECT_NE(
                std::find(named.begin(), named.end(), message("fault.device", {"Q2", "@element.main", "@mode.welded"})),
                named.end())
                << "the fault in words, not by its id";
        }
}

TEST(AsBuilt, TheStructureIsEnoughForItsCategoryOrNot)
{
    using faults::Structure;
    EXPECT_TRUE(checks::isEnoughFor(Structure::SingleFaultTolerated, safety::Category::Three));
    EXPECT_FALSE(checks::isEnoughFor(Structure::SingleFaultTolerated, safety::Category::Four));
    EXPECT_FALSE(checks::isEnoughFor(Structure::OneChannel, safety::Category::Three));
    EXPECT_TRUE(checks::isEnoughFor(Structure::OneChannel, safety::Category::One));
    EXPECT_FALSE(checks::isEnoughFor(Structure::OneChannel, safety::Category::Two));
    EXPECT_TRUE(checks::isEnoughFor(Structure::Tested, safety::Category::Two));
    EXPECT_FALSE(checks::isEnoughFor(Structure::Tested, safety::Category::Three));
    EXPECT_FALSE(checks::isEnoughFor(Structure::Unknown, safety::Category::Three));
}

TEST(AsBuilt, AContactorThatTheClaimDoesNotNameIsOutsideIt)
{
    CircuitBuilder b = motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}}, "door")
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.wire("G1:+", "S0:11")
        .wire("S0:12", "S3:13")
        .wire("S3:14", "Q1:A1")
        .wire("S3:13", "Q1:13")
        .wire("Q1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-");
    const Dossier d = stopping(b.circuit());
    const auto a = faultAnalysis(d, d.functions.front(), {.withPairs = false});
    ASSERT_TRUE(a);
    EXPECT_TRUE(hasFinding(findingsOf(*a, d), "finding.as_built.outside"));
}

double sumOfSets(const CutSets& c)
{
    double sum = c.commonCausePerHour + c.makersPerHour;
    for (const CutSet& set : c.sets)
        sum += set.pfhdPerHour;
    return sum;
}

TEST(CutSets, OfTwoContactorsAreTheirPairAndOneCause)
{
    // B10d 1e6, 10 000 operations a year: MTTFd 1000 y each. Both noticed at the next reset, a year apart as demands
    // are not known.
    const FaultAnalysis a = analysisOf(true, "4");
    ASSERT_TRUE(a.cutSets);
    ASSERT_EQ(a.cutSets->parts.size(), 2u);
    EXPECT_NEAR(a.cutSets->parts[0].mttfdYears, 1000.0, 1e-6);
    ASSERT_EQ(a.cutSets->sets.size(), 1u);
    EXPECT_GE(a.cutSets->sets[0].second, 0);
    const double rate = 1.0 / (1000.0 * 8760.0);
    EXPECT_NEAR(a.cutSets->commonCausePerHour, 0.02 * rate, 1e-15);
    // Within a year both fail: about rate^2 times half a year, doubled for the order; the hundredth that is not noticed
    // waits half the mission more.
    const double noticed = 0.98 * 0.98 * rate * rate * 8760.0;
    EXPECT_GT(a.cutSets->sets[0].pfhdPerHour, 0.9 * noticed);
    EXPECT_LT(a.cutSets->sets[0].pfhdPerHour, 1.5 * noticed);
    EXPECT_NEAR(a.cutSets->pfhdPerHour(), sumOfSets(*a.cutSets), 1e-20);
    ASSERT_TRUE(a.compared[0].pfhdPerHour);
    EXPECT_NEAR(a.cutSets->pfhdPerHour() / *a.compared[0].pfhdPerHour, 1.0, 0.01)
        << "the two ways of reckoning agree where a channel is one part";
}

TEST(CutSets, APartAloneCountsWithItsWholeRate)
{
    Dossier d = stopping(motorBehind({"Q1"})
                             .device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}}, "door")
                             .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door")
                             .wire("G1:+", "S0:11")
                             .wire("S0:12", "S3:13")
                             .wire("S3:14", "Q1:A1")
                             .wire("S3:13", "Q1:13")
                             .wire("Q1:14", "Q1:A1")
                             .wire("Q1:A2", "G1:-")
                             .circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1")
            device.reliability = Reliability{.b10dCycles = 1.0e6, .source = "made up for this test"};
    ClaimedSubsystem one = claimedPair(d.circuit, "Q1", "Q1", "1", 0.0);
    one.channels.pop_back();
    d.functions.front().claim = {one};
    const auto a = faultAnalysis(d, d.functions.front(), {});
    ASSERT_TRUE(a && a->cutSets);
    ASSERT_EQ(a->cutSets->sets.size(), 1u);
    EXPECT_EQ(a->cutSets->sets[0].second, -1);
    EXPECT_NEAR(a->cutSets->pfhdPerHour(), 1.0 / (1000.0 * 8760.0), 1e-12);
    const auto lines = linesOf(*a->cutSets, a->sweep, d.circuit, 0.0);
    ASSERT_EQ(lines.size(), 2u);
    EXPECT_TRUE(lines[0].isSum);
    EXPECT_EQ(lines[0].what, message("cut_sets.once_a_year", {Measured{20.0, "y"}}))
        << "the interval and the time that were taken are said";
    EXPECT_EQ(lines[1].what.id, "cut_sets.alone");
}

TEST(CutSets, AreNotGivenWithoutSecondFaultsOrWithoutANumber)
{
    Dossier d = stopping(twoChannels(true).circuit());
    d.functions.front().claim = {claimedPair(d.circuit, "Q1", "Q2", "4", 0.99)};
    const auto withoutPairs = faultAnalysis(d, d.functions.front(), {.withPairs = false});
    ASSERT_TRUE(withoutPairs);
    EXPECT_FALSE(withoutPairs->cutSets);
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1")
            device.reliability = Reliability{.b10dCycles = 1.0e6, .source = "made up for this test"};
    const auto withoutNumber = faultAnalysis(d, d.functions.front(), {});
    ASSERT_TRUE(withoutNumber);
    EXPECT_FALSE(withoutNumber->cutSets) << "Q2 has no MTTFd";
}

} // namespace
} // namespace ts
