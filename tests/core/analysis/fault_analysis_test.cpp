// Structure and coverage as built, held against the claim.

#include "core/analysis/fault_analysis.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

using namespace test;

FaultAnalysis analysisOf(bool secondInFeedback, const char* category)
{
    Dossier d = stopping(twoChannels(secondInFeedback).circuit());
    for (const char* tag : {"Q1", "Q2"})
        for (Device& device : d.circuit.devices)
            if (device.tag == tag)
                device.reliability = Reliability{.b10dCycles = 1.0e6, .source = "made up for this test"};
    d.functions.front().claim = {claimedPair(d.circuit, "Q1", "Q2", category, 0.99)};
    auto a = faultAnalysis(d, d.functions.front(), {});
    EXPECT_TRUE(a);
    return *a;
}

bool hasFinding(const FaultAnalysis& a, const char* id)
{
    return std::any_of(a.findings.begin(), a.findings.end(), [id](const Finding& f) { return f.what.id == id; });
}

TEST(AsBuilt, FullFeedbackBearsTheClaimOutForTheContactors)
{
    const FaultAnalysis a = analysisOf(true, "4");
    ASSERT_EQ(a.compared.size(), 1u);
    EXPECT_NEAR(*a.compared[0].coverage, 0.99, 1e-12);
    for (const auto& channel : a.built.subsystems[0].channels)
        for (int k : channel[0].uncovered)
            ADD_FAILURE() << a.sweep.faults[static_cast<std::size_t>(k)].id;
    EXPECT_FALSE(hasFinding(a, "finding.as_built.coverage"));
    EXPECT_FALSE(hasFinding(a, "finding.as_built.accumulates"));
    EXPECT_TRUE(a.compared[0].pfhdPerHour);
}

TEST(AsBuilt, OneMissingContactIsAFindingWithTheFaultAndHalfTheCoverage)
{
    const FaultAnalysis a = analysisOf(false, "3");
    EXPECT_NEAR(*a.compared[0].coverage, 0.495, 1e-12); // (0.99 / MTTFd + 0 / MTTFd) / (2 / MTTFd)
    ASSERT_TRUE(hasFinding(a, "finding.as_built.coverage"));
    for (const Finding& f : a.findings)
        if (f.what.id == "finding.as_built.coverage") {
            EXPECT_EQ(f.devices, std::vector<std::string>{"Q2"});
            const Phrases& named = std::get<Phrases>(f.what.arguments.back());
            EXPECT_NE(std::find(named.begin(), named.end(), message("fault.device", {"Q2", "@element.main", "@mode.welded"})), named.end()) << "the fault in words, not by its id";
        }
}

TEST(AsBuilt, TheStructureIsEnoughForItsCategoryOrNot)
{
    using faults::Structure;
    EXPECT_TRUE(checks::isEnoughFor(Structure::SingleFaultTolerated, "3"));
    EXPECT_FALSE(checks::isEnoughFor(Structure::SingleFaultTolerated, "4"));
    EXPECT_FALSE(checks::isEnoughFor(Structure::OneChannel, "3"));
    EXPECT_TRUE(checks::isEnoughFor(Structure::OneChannel, "1"));
    EXPECT_FALSE(checks::isEnoughFor(Structure::OneChannel, "2"));
    EXPECT_TRUE(checks::isEnoughFor(Structure::Tested, "2"));
    EXPECT_FALSE(checks::isEnoughFor(Structure::Tested, "3"));
    EXPECT_FALSE(checks::isEnoughFor(Structure::Unknown, "3"));
}

TEST(AsBuilt, AContactorThatTheClaimDoesNotNameIsOutsideIt)
{
    CircuitBuilder b = motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}}, "door").device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.wire("G1:+", "S0:11").wire("S0:12", "S3:13").wire("S3:14", "Q1:A1").wire("S3:13", "Q1:13").wire("Q1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    const Dossier d = stopping(b.circuit());
    const auto a = faultAnalysis(d, d.functions.front(), {.withPairs = false});
    ASSERT_TRUE(a);
    EXPECT_TRUE(hasFinding(*a, "finding.as_built.outside"));
}

} // namespace
} // namespace ts
