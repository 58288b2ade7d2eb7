// One verdict for a function: the worse of claimed and built, with what is not known by name. Structures as built of
// the two contactor circuits are known answers (tests/core/faults/known_answers_test.cpp).

#include "core/library/registry.h"
#include "core/studies/standing.h"
#include "core/studies/working_out.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

using Answer = FunctionVerdict::Answer;
using Extent = FunctionVerdict::Extent;
using safety::Level;

/// Two contactors claimed as category 4; `secondInFeedback`: both are watched.
Dossier claimed(bool secondInFeedback, Level required, const char* category = "4")
{
    Dossier d = test::stopping(test::twoChannels(secondInFeedback).circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1" || device.tag == "Q2")
            device.reliability = Reliability{.b10dCycles = 1.0e6, .source = "made up for this test"};
    SafetyFunction& f = d.functions.front();
    f.claim = {test::claimedPair(d.circuit, "Q1", "Q2", category, 0.99)};
    f.claim.front().ccfAnswers = {
        "separation", "overload_protection", "emc_contamination", "other_environment"}; // 15 + 15 + 25 + 10 = 65 points
    f.requiredLevel = required;
    f.conditions = {true, true, true, true, true, {}, {}, {}};
    const RouteId cabinet{9000}; // an enclosure to EN 60204-1, shorts excluded
    d.circuit.routes = {{cabinet, "cabinet", RouteKind::Enclosure}};
    for (Wire& w : d.circuit.wires)
        w.route = cabinet;
    d.exclusions.push_back({"route/9000:short", "enclosure to EN 60204-1, wires in ducts"});
    return d;
}

FunctionVerdict verdictWith(const Dossier& d, const WorkOptions& options)
{
    Results results;
    EXPECT_TRUE(workOut(d, options, results));
    const auto v = verdictOf(d, d.functions.front().id, results);
    EXPECT_TRUE(v);
    return v.value_or(FunctionVerdict{});
}

TEST(Verdict, BeforeAnyFaultItIsOnlyClaimed)
{
    const FunctionVerdict v = verdictWith(claimed(true, Level::D), {.only = {kLevels.id}});
    EXPECT_EQ(v.extent, Extent::Claimed);
    EXPECT_EQ(v.claimed, Level::E);
    EXPECT_EQ(v.answer, Answer::NotKnown) << "never in order by a claim alone";
    ASSERT_EQ(v.notKnown.size(), 2u);
    EXPECT_EQ(v.notKnown[0].id, "unknown.single_faults");
    EXPECT_EQ(v.notKnown[1].id, "unknown.second_faults");
}

TEST(Verdict, AfterSingleFaultsItIsABound)
{
    const FunctionVerdict good = verdictWith(claimed(true, Level::D), {});
    EXPECT_EQ(good.extent, Extent::SingleFaults);
    EXPECT_EQ(good.atMost, Level::E) << "no contactor's fault alone loses the stop";
    EXPECT_EQ(good.answer, Answer::NotKnown);
    EXPECT_FALSE(good.built);
}

TEST(Verdict, OneChannelAsBuiltIsNotReachedAfterSingleFaultsAlready)
{
    Dossier d = claimed(true, Level::D);
    // Q2's poles are bridged: Q1 alone takes the power away.
    const DeviceId q2 = d.circuit.device("Q2")->id;
    int id = 8000;
    for (const auto& [in, out] : {std::pair{"1", "2"}, {"3", "4"}, {"5", "6"}}) {
        Wire w;
        w.id = {id++};
        w.number = std::string("bridge ") + in;
        w.from = {q2, in};
        w.to = {q2, out};
        d.circuit.wires.push_back(w);
    }
    const FunctionVerdict v = verdictWith(d, {});
    EXPECT_EQ(v.claimed, Level::E);
    ASSERT_TRUE(v.atMost);
    EXPECT_LT(*v.atMost, Level::D);
    EXPECT_EQ(v.answer, Answer::NotReached);
    EXPECT_EQ(v.counting(), v.atMost) << "the worse counts";
}

TEST(Verdict, WithSecondFaultsItStandsAsBuilt)
{
    const FunctionVerdict v = verdictWith(claimed(true, Level::D), {.only = {kLevels.id, kSecondFaults.id, kBuilt.id}});
    EXPECT_EQ(v.extent, Extent::Built);
    ASSERT_TRUE(v.built);
    EXPECT_EQ(v.counting(), std::min(*v.claimed, *v.built));
    EXPECT_EQ(v.answer, Answer::Reached);
    EXPECT_TRUE(v.notKnown.empty());
}

TEST(Verdict, AWeldThatNobodyNoticesIsNotWhatWasClaimed)
{
    const FunctionVerdict v = verdictWith(
        claimed(false, Level::E), {.only = {kLevels.id, kSecondFaults.id, kBuilt.id}});
    EXPECT_EQ(v.claimed, Level::E);
    EXPECT_EQ(v.answer, Answer::NotReached) << "Q2's weld stays hidden: no category 4";
    EXPECT_NE(v.counting(), v.claimed);
}

TEST(Verdict, ABuiltLevelIsNeverBetterThanTheBound)
{
    for (const bool watched : {true, false})
        for (const char* category : {"3", "4"}) {
            const Dossier d = claimed(watched, Level::D, category);
            const FunctionVerdict bound = verdictWith(d, {}),
                                  whole = verdictWith(d, {.only = {kLevels.id, kSecondFaults.id, kBuilt.id}});
            if (whole.built)
                EXPECT_LE(*whole.built, bound.atMost.value_or(Level::A)) << watched << category;
        }
}

TEST(Verdict, WiresThatAreLaidNowhereLeaveTheStructureUnknown)
{
    Dossier d = claimed(true, Level::D);
    d.circuit.wires.front().route = {};
    const FunctionVerdict v = verdictWith(d, {.only = {kLevels.id, kSecondFaults.id, kBuilt.id}});
    EXPECT_EQ(v.answer, Answer::NotKnown);
    ASSERT_EQ(v.notKnown.size(), 1u);
    EXPECT_EQ(v.notKnown[0].id, "unknown.routes");
}

/// An assumption about a contact stands beside the verdict that rests on it, also where the contact comes with its
/// part.
TEST(Verdict, AContactThatNobodyKnowsIsNamedInIt)
{
    Dossier d = claimed(true, Level::D);
    std::string pair;
    for (Device& device : d.circuit.devices)
        if (device.tag == "Q1") {
            auto& contacts = std::get<std::vector<std::string>>(device.parameters.at("auxiliary_contacts"));
            pair = std::exchange(contacts.front(), contacts.front() + "/unknown"); // taken to act by its digits
        }
    const FunctionVerdict v = verdictWith(d, {.only = {kLevels.id, kSecondFaults.id, kBuilt.id}});
    EXPECT_EQ(v.answer, Answer::NotKnown);
    ASSERT_EQ(v.notKnown.size(), 1u);
    EXPECT_EQ(v.notKnown[0], message("unknown.contacts", {"Q1 " + pair}));
    Device ofPart;
    ofPart.part = "p";
    d.circuit.parts.push_back(
        {"p", "relay", "contactor_relay", {{"auxiliary_contacts", std::vector<std::string>{"5-6/unknown"}}}, {}});
    EXPECT_EQ(unknownContacts(d.circuit, ofPart), std::vector<std::string>{"5-6"});
    ofPart.parameters["auxiliary_contacts"] = std::vector<std::string>{"5-6/nc"};
    EXPECT_TRUE(unknownContacts(d.circuit, ofPart).empty()) << "said at the device";
}

TEST(Verdict, OpenConditionsAndAnUndecidedNeedAreNamed)
{
    Dossier d = claimed(true, Level::D);
    d.functions.front().conditions.environment = false;
    const FunctionVerdict open = verdictWith(d, {.only = {kLevels.id, kSecondFaults.id, kBuilt.id}});
    EXPECT_EQ(open.answer, Answer::NotKnown);
    ASSERT_EQ(open.notKnown.size(), 1u);
    EXPECT_EQ(open.notKnown[0], message("unknown.condition", {"@condition.environment"}));
    d.functions.front().requiredLevel.reset();
    EXPECT_EQ(verdictWith(d, {}).notKnown.front().id, "unknown.required");
    d.functions.front().reliedOnByPerson = false;
    EXPECT_EQ(verdictWith(d, {}).answer, Answer::NotAsked);
}

TEST(Standing, IsInOrderOnlyWhenEverythingWasLookedAt)
{
    const Dossier d = claimed(true, Level::D);
    Results results;
    ASSERT_TRUE(workOut(d, {}, results));
    Standing s = standingOf(d, results);
    s.checked.findings.clear(); // what they say is for other tests
    EXPECT_EQ(s.word(), Standing::Word::NotLookedAt);
    for (CheckMade& c : s.checked.checks)
        c.missing.clear();
    EXPECT_EQ(s.word(), Standing::Word::NotLookedAt) << "second faults are still not known";
    s.verdicts.front().answer = Answer::Reached;
    EXPECT_EQ(s.word(), Standing::Word::InOrder);
    s.checked.findings.push_back({"x", Severity::Note, {}, {}, {}, {}, {}, {}});
    EXPECT_EQ(s.word(), Standing::Word::InOrder) << "a note forbids nothing";
    s.checked.findings.back().severity = Severity::Fix;
    EXPECT_EQ(s.word(), Standing::Word::Findings);
    s.checked.findings.clear();
    s.verdicts.front().answer = Answer::NotReached;
    EXPECT_EQ(s.word(), Standing::Word::Findings);
    s.verdicts.clear();
    EXPECT_EQ(s.word(), Standing::Word::NotLookedAt) << "a dossier without functions cannot be in order";
}

} // namespace
} // namespace ts
