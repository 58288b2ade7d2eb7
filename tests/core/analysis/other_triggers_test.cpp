// A function that two emergency stops demand: the second one is wired in one channel only. With the first one every
// single fault is borne; with the second one its only contact loses the stop.

#include "core/analysis/function_verdict.h"
#include "core/analysis/other_triggers.h"
#include "core/analysis/stop_run.h"
#include "core/checks/groups.h"
#include "core/keeping/kept_sweep.h"
#include "core/results/subjects.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

using test::Words;

/// S10 lies in series with S0; with one channel its second contact is left out.
Dossier twoStops(int channels)
{
    test::CircuitBuilder b = test::motorBehind({"Q1", "Q2"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}}, "door");
    b.device("S10", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}}, "field");
    b.device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.device("K1", "safety_relay", {{"reset", test::word("monitored")}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-").wire("K1:S11", "S0:11").wire("S0:12", "S10:11");
    b.wire("S10:12", "K1:S12").wire("K1:S21", "S0:21");
    if (channels == 2)
        b.wire("S0:22", "S10:21").wire("S10:22", "K1:S22");
    else
        b.wire("S0:22", "K1:S22");
    b.wire("K1:S33", "S3:13").wire("S3:14", "Q1:21").wire("Q1:22", "Q2:21").wire("Q2:22", "K1:S34");
    b.wire("G1:+", "K1:13").wire("K1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    b.wire("G1:+", "K1:23").wire("K1:24", "Q2:A1").wire("Q2:A2", "G1:-");
    Dossier d = test::stopping(b.circuit());
    SafetyFunction& f = d.functions.front();
    f.alsoBy = {{d.circuit.device("S10")->id, "press"}};
    ClaimedSubsystem input;
    input.name = "Emergency stops";
    input.category = safety::Category::Three;
    for (const char* contact : {"11-12", "21-22"})
        input.channels.push_back({contact, {{d.circuit.device("S0")->id, contact}}});
    f.claim = {input, test::claimedPair(d.circuit, "Q1", "Q2", "4", 0.99)};
    return d;
}

faults::SweepOptions singles()
{
    faults::SweepOptions options;
    options.withPairs = options.withLimits = options.withExcluded = false;
    return options;
}

bool losesAlone(const FaultAnalysis& a, std::string_view id)
{
    return std::any_of(a.built.whole.alone.begin(), a.built.whole.alone.end(),
        [&](int k) { return a.sweep.faults[static_cast<std::size_t>(k)].id == id; });
}

std::vector<Finding> found(const Dossier& d, const FaultAnalysis& first, const OtherTriggers& others)
{
    Results results;
    results.put(kBuilt.id, about(others.function), Value::of(first, 1));
    results.put(kOtherTriggers.id, about(others.function), Value::of(others, 1));
    std::vector<Finding> findings;
    checks::otherTriggersTried({d, results}, findings);
    return findings;
}

TEST(OtherTriggers, AStopInOneChannelIsFoundThoughTheFirstOneHasTwo)
{
    const Dossier d = twoStops(1);
    const SafetyFunction& f = d.functions.front();
    const auto first = faultAnalysis(d, f, singles());
    ASSERT_TRUE(first);
    EXPECT_FALSE(losesAlone(*first, "S0/11-12:welded"));
    EXPECT_FALSE(losesAlone(*first, "S10/11-12:welded"));
    const auto others = otherTriggers(d, f, singles());
    ASSERT_TRUE(others);
    ASSERT_EQ(others->tried.size(), 1u);
    EXPECT_EQ(others->tried[0].tag, "S10");
    ASSERT_TRUE(others->tried[0].analysis);
    EXPECT_TRUE(losesAlone(*others->tried[0].analysis, "S10/11-12:welded"));

    const std::vector<Finding> findings = found(d, *first, *others);
    EXPECT_TRUE(std::any_of(findings.begin(), findings.end(),
        [](const Finding& x) { return x.what.id == "finding.as_built.one_channel"; }));
    EXPECT_TRUE(checks::hasOtherTriggers(d, about(f.id)));
}

TEST(OtherTriggers, InTwoChannelsItIsBorneAndNothingIsSaidTwice)
{
    const Dossier d = twoStops(2);
    const SafetyFunction& f = d.functions.front();
    const auto first = faultAnalysis(d, f, singles());
    const auto others = otherTriggers(d, f, singles());
    ASSERT_TRUE(first && others);
    ASSERT_TRUE(others->tried[0].analysis);
    EXPECT_FALSE(losesAlone(*others->tried[0].analysis, "S10/11-12:welded"));
    const std::vector<Finding> findings = found(d, *first, *others);
    for (const Finding& x : findings)
        EXPECT_NE(x.what.id, "finding.as_built.outside") << "the same outputs lose it with S0: said there";
    const FunctionVerdict v = verdictOf(d, f, {}, &*first, &*others);
    for (const Message& m : v.notKnown)
        EXPECT_NE(m.id, "unknown.other_triggers");
    EXPECT_TRUE(std::any_of(v.notKnown.begin(), v.notKnown.end(),
        [](const Message& m) { return m.id == "unknown.other_triggers_second"; }));
}

/// Second faults, too: then nothing of it is left unknown, and a pair that only this trigger shows counts.
TEST(OtherTriggers, SecondFaultsAreTriedWithEach)
{
    const Dossier d = twoStops(2);
    const SafetyFunction& f = d.functions.front();
    faults::SweepOptions pairs = singles();
    pairs.withPairs = true;
    const auto first = faultAnalysis(d, f, pairs);
    faults::SweepOptions limits = pairs;
    limits.withLimits = true;
    const auto others = otherTriggers(d, f, limits);
    ASSERT_TRUE(first && others);
    const FaultAnalysis& other = *others->tried[0].analysis;
    ASSERT_TRUE(other.sweep.hasPairs);
    const auto loses = [](const FaultAnalysis& a, std::string_view one, std::string_view two) {
        return std::any_of(a.sweep.pairs.begin(), a.sweep.pairs.end(), [&](const faults::FaultPair& p) {
            const std::string &x = a.sweep.faults[static_cast<std::size_t>(p.first)].id,
                              &y = a.sweep.faults[static_cast<std::size_t>(p.second)].id;
            return ((x == one && y == two) || (x == two && y == one)) && faults::isStopLost(p.run.loss);
        });
    };
    EXPECT_TRUE(loses(other, "S10/11-12:welded", "S10/21-22:welded"));
    EXPECT_FALSE(loses(*first, "S10/11-12:welded", "S10/21-22:welded")) << "with S0 it is no part of it";
    for (const Message& m : verdictOf(d, f, {}, &*first, &*others).notKnown) {
        EXPECT_NE(m.id, "unknown.other_triggers");
        EXPECT_NE(m.id, "unknown.other_triggers_second");
    }
}

/// A trigger at whose limits nothing could be tried is found fault with, and second faults without limits are not all.
TEST(OtherTriggers, LimitsAreTriedWithEach)
{
    const Dossier d = twoStops(2);
    const SafetyFunction& f = d.functions.front();
    faults::SweepOptions limits = singles();
    limits.withLimits = true;
    const auto first = faultAnalysis(d, f, limits);
    auto others = otherTriggers(d, f, limits);
    ASSERT_TRUE(first && others);
    FaultAnalysis& other = *others->tried[0].analysis;
    EXPECT_GT(other.sweep.limitRunCount, 0u);
    EXPECT_TRUE(other.sweep.limitTrouble.empty());
    const auto isAboutLimits = [](const Finding& x) { return x.what.id == "finding.as_built.limit"; };
    std::vector<Finding> findings = found(d, *first, *others);
    EXPECT_TRUE(std::none_of(findings.begin(), findings.end(), isAboutLimits));
    other.sweep.limitTrouble = {{faults::Limit::LowVoltage, message("stop.chatter")}};
    findings = found(d, *first, *others);
    EXPECT_TRUE(std::any_of(findings.begin(), findings.end(), isAboutLimits));

    other.sweep.hasPairs = true;
    other.sweep.limitTrouble.clear();
    const auto isOpen = [&] {
        const auto& open = verdictOf(d, f, {}, &*first, &*others).notKnown;
        return std::any_of(
            open.begin(), open.end(), [](const Message& m) { return m.id == "unknown.other_triggers_second"; });
    };
    EXPECT_FALSE(isOpen());
    other.sweep.limitRunCount = 0;
    EXPECT_TRUE(isOpen()) << "no limit was tried";
}

/// Kept in the user's folder and read again: the same sweeps, and what follows from them; or nothing at all.
TEST(OtherTriggers, AreKeptAndReadAgain)
{
    Dossier d = twoStops(2);
    d.functions.front().alsoBy.push_back({d.circuit.device("S10")->id, "shout"});
    const SafetyFunction& f = d.functions.front();
    const auto others = otherTriggers(d, f, singles());
    ASSERT_TRUE(others);
    const std::string text = keptText(*others);
    const auto back = otherTriggersFrom(text, d, f);
    ASSERT_TRUE(back);
    ASSERT_EQ(back->tried.size(), 2u);
    ASSERT_TRUE(back->tried[0].analysis);
    EXPECT_EQ(back->tried[0].analysis->sweep, others->tried[0].analysis->sweep);
    EXPECT_EQ(back->tried[0].analysis->atMost, others->tried[0].analysis->atMost);
    EXPECT_EQ(back->tried[0].tag, "S10");
    EXPECT_FALSE(back->tried[1].analysis);
    EXPECT_EQ(back->tried[1].trouble, others->tried[1].trouble);
    Dossier fewer = d;
    fewer.functions.front().alsoBy.pop_back();
    EXPECT_FALSE(otherTriggersFrom(text, fewer, fewer.functions.front()));
    for (std::size_t k = 1; k < text.size(); k += text.size() / 50)
        EXPECT_FALSE(otherTriggersFrom(text.substr(0, k), d, f));
}

TEST(OtherTriggers, TheWorstOneCounts)
{
    const Dossier d = twoStops(1);
    const SafetyFunction& f = d.functions.front();
    FaultAnalysis built;
    built.atMost = safety::Level::E;
    OtherTriggers others{f.id, {{f.alsoBy[0], "S10", built}}};
    others.tried[0].analysis->atMost = safety::Level::B;
    EXPECT_EQ(verdictOf(d, f, {}, &built, &others).atMost, safety::Level::B);
    others.tried[0].analysis->atMost.reset();
    EXPECT_EQ(verdictOf(d, f, {}, &built, &others).atMost, std::nullopt);
    EXPECT_EQ(verdictOf(d, f, {}, &built, nullptr).atMost, safety::Level::E);
}

TEST(OtherTriggers, OneThatCannotBeTriedSaysWhy)
{
    Dossier d = twoStops(2);
    d.functions.front().alsoBy[0].action = "shout";
    const auto others = otherTriggers(d, d.functions.front(), singles());
    ASSERT_TRUE(others);
    EXPECT_FALSE(others->tried[0].analysis);
    EXPECT_FALSE(others->tried[0].trouble.id.empty());
    std::stop_source stopped;
    stopped.request_stop();
    const auto cancelled = otherTriggers(d, d.functions.front(), singles(), {}, stopped.get_token());
    EXPECT_TRUE(!cancelled || !cancelled->tried[0].analysis);
}

/// A supply that is lost, or one of its lines, demands a function like a hand does.
TEST(SupplyAsTrigger, ALostLineIsFoundInTheScenarioAndTriedWithFaults)
{
    const Plant plant = *compile(twoStops(2).circuit);
    EXPECT_EQ(losses(plant, "G0"), (std::vector<std::string>{"lose", "lose_l1", "lose_l2", "lose_l3", "exchange"}));
    EXPECT_TRUE(losses(plant, "S0").empty());
    const auto all = stimuliFor(plant, "G0", "lose", kSecondNs);
    ASSERT_TRUE(all);
    EXPECT_EQ(all->size(), 3u);
    const auto line = stimuliFor(plant, "G0", "lose_l2", kSecondNs);
    ASSERT_TRUE(line);
    ASSERT_EQ(line->size(), 1u);
    EXPECT_EQ(plant.knobs[static_cast<std::size_t>(line->front().slot)].name, "G0.L2");
    EXPECT_EQ(line->front().value, 0.0);
    EXPECT_EQ(stimuliFor(plant, "G0", "return_l2", 0)->front().value, 1.0);
    EXPECT_FALSE(stimuliFor(plant, "G0", "lose_l4", 0));

    Dossier d = twoStops(2);
    SafetyFunction& f = d.functions.front();
    f.trigger = {d.circuit.device("G0")->id, "lose"};
    f.alsoBy = {{f.trigger.device, "lose_l1"}};
    d.scenarios.front().steps.back() = {5.0, "lose", "G0", 0.0};
    const auto run = stopRun(d, f, Timing::Nominal);
    ASSERT_TRUE(run) << run.error().message.id;
    EXPECT_TRUE(run->actuators.front().stops);
    const auto sweep = faults::sweep(d, f, singles());
    ASSERT_TRUE(sweep) << sweep.error().message.id;
    EXPECT_EQ(test::outcomeOf(*sweep, "Q1/main:welded").overall, faults::Outcome::Caught)
        << "without supply the motor stands, and the reset finds the weld";
    // Set as a knob in a scenario it is the same demand.
    d.scenarios.front().steps.pop_back();
    for (const char* knob : {"G0.L1", "G0.L2", "G0.L3"})
        d.scenarios.front().steps.push_back({5.0, "set", knob, 0.0});
    EXPECT_TRUE(stopRun(d, f, Timing::Nominal));
    // L1 feeds the 24 V supply: without it the motor is switched off.
    const auto others = otherTriggers(d, f, singles());
    ASSERT_TRUE(others);
    EXPECT_EQ(others->tried[0].tag, "G0 lose_l1");
    EXPECT_TRUE(others->tried[0].analysis) << others->tried[0].trouble.id;
}

TEST(OtherTriggers, OneThatWasNotTriedIsAFindingThatSaysWhy)
{
    const Dossier d = twoStops(2);
    OtherTriggers others{d.functions.front().id, {{d.functions.front().alsoBy[0], "S10", {}, message("stop.chatter")}}};
    const std::vector<Finding> findings = found(d, {}, others);
    ASSERT_EQ(findings.size(), 1u);
    EXPECT_EQ(findings.front().what.id, "finding.trigger.untried");
    EXPECT_EQ(findings.front().evidence.id, "stop.chatter");
}

TEST(OtherTriggers, TheClaimIsThatOfTheTriggerThatDemands)
{
    const Dossier d = twoStops(2);
    const SafetyFunction& f = d.functions.front();
    const SafetyFunction asked = demandedBy(f, 0);
    EXPECT_EQ(asked.trigger, f.alsoBy[0]);
    EXPECT_EQ(asked.alsoBy[0], f.trigger) << "nothing is lost";
    EXPECT_EQ(asked.claim[0].channels[0].parts[0].device, f.alsoBy[0].device);
    EXPECT_EQ(asked.claim[1], f.claim[1]) << "the outputs are the same";
    EXPECT_EQ(demandedBy(asked, 0), f);
}

} // namespace
} // namespace ts
