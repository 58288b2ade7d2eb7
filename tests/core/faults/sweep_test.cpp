// How the sweep works: the same results by a plain run, on one and two threads, in shards; refusals and cancelling.

#include "core/faults/second_faults.h"
#include "core/patterns/machine.h"
#include "core/simulation/frame.h"
#include "tests/core/faults/stop_circuits.h"

#include <set>

namespace ts::faults {
namespace {

using namespace test;

std::unique_ptr<Context> healthyContext(const Dossier& d)
{
    auto plant = compile(d.circuit);
    Workspace workspace;
    auto cycle = cycleOf(*plant, d, d.functions.front(), d.functions.front().demandScenario, workspace);
    EXPECT_TRUE(cycle);
    auto c = std::make_unique<Context>(*plant, *cycle);
    c->base = wholeRun(c->course, workspace);
    c->healthy = healthyOf(c->course, c->base, d.functions.front().allowedTimeS);
    return c;
}

/// The same fault without any short cut: simply simulated from switching on.
RunResult plainRun(const Context& c, const SweptFault& fault, const std::vector<Fault>& faults, Moment moment)
{
    Verdict verdict(c.course, c.base, c.healthy);
    const std::vector<Stimulus> supply = supplyCourse(c.plant, fault, c.cycle.at(moment));
    if (fault.id == "supply:interrupted")
        verdict.watchReturn(supply.back().at);
    State state = initialState(c.plant);
    Workspace workspace;
    std::vector<Stimulus> stimuli = c.cycle.stimuli;
    for (const Stimulus& s : supply)
        stimuli.insert(std::lower_bound(stimuli.begin(), stimuli.end(), s,
                           [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; }),
            s);
    for (const Fault& f : faults) {
        Stimulus s;
        s.at = c.cycle.at(moment);
        s.kind = Stimulus::Kind::PutFault;
        s.fault = f;
        stimuli.insert(std::lower_bound(stimuli.begin(), stimuli.end(), s,
                           [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; }),
            s);
    }
    const TimeNs end = moment == Moment::AtReset ? c.cycle.end : c.cycle.goes[1].released;
    ForkedRun passage;
    passage.faults = faults;
    for (std::size_t k = 0; k < c.times.size() && c.times[k].at <= end; ++k) {
        const auto next = std::find_if(stimuli.begin(), stimuli.end(),
            [&](const Stimulus& s) { return s.at > state.now || (!state.isSettled && s.at == state.now); });
        Trace trace;
        passage.pause = advance(c.plant, state, {next, stimuli.end()}, {c.times[k].at}, trace, workspace);
        Stretch stretch;
        stretch.events = trace.events;
        if (passage.pause != Pause::Reached
            || (k > 0 && c.times[k].at > c.cycle.at(moment) && !verdict(k, stretch, state)))
            break;
    }
    return judged(verdict, passage);
}

TEST(Sweep, SaysTheSameAsPlainRuns)
{
    const Dossier d = stopping(twoChannels(false).circuit());
    const auto c = healthyContext(d);
    const Sweep s = swept(d, false);
    int compared = 0;
    for (std::size_t k = 0; k < s.faults.size(); k += 2)
        for (Moment m : kMoments) {
            const auto i = static_cast<std::size_t>(m);
            const RunResult plain = plainRun(*c, s.faults[k], s.faults[k].variants[s.outcomes[k].variant[i]], m),
                            &fast = s.outcomes[k].runs[i];
            EXPECT_EQ(plain.loss, fast.loss) << s.faults[k].id << " " << nameOf(m);
            EXPECT_EQ(plain.blocks, fast.blocks) << s.faults[k].id << " " << nameOf(m);
            EXPECT_EQ(plain.notice, fast.notice) << s.faults[k].id << " " << nameOf(m);
            ++compared;
        }
    EXPECT_GT(compared, 100);
}

TEST(Sweep, ALostPhaseIsDecidedAtEveryLimit)
{
    // What the 24 V supply draws then follows its voltage through the motor that runs on: it must not be looked at anew
    // for ever.
    const auto file = io::loadDossier(sourcePath("data/demo/larkspur_db2_chip_blower.sentry"));
    for (const Limit limit : {Limit::None, Limit::FastTimes, Limit::SlowTimes, Limit::LowVoltage, Limit::HighVoltage}) {
        const auto c = contextOf(file->dossier, file->dossier.functions.front(), {}, limit);
        ASSERT_TRUE(c);
        Workspace workspace;
        for (const char* fault : {"G0/L1:lost", "G0/L2:lost", "G0/L3:lost"}) {
            const std::vector<Fault> faults{faultFrom((*c)->plant, fault).value().fault};
            EXPECT_FALSE(
                judgedRun((*c)->course, (*c)->base, (*c)->healthy, {faults, Moment::Running}, workspace).isUndecided)
                << fault << " " << nameOf(limit);
        }
    }
}

TEST(Sweep, AMotorWhosePlateLeavesNoResistanceIsSweptToTheEnd)
{
    // 24 V on a lead of such a motor once had no solution, and the program ended.
    const std::vector<std::string> choices{"base=star_delta", "stop=straight", "motor=30kW"};
    const Dossier d = patterns::machine(*patterns::MachinePlan::from(choices))->dossier;
    SafetyFunction f;
    f.id = {900};
    f.name = "Emergency stop";
    f.trigger = {d.circuit.device("S0")->id, "press"};
    f.mustRest = {d.circuit.device("M1")->id};
    for (const Scenario& s : d.scenarios)
        for (const Step& step : s.steps)
            if (step.target == "S0")
                f.demandScenario = s.id;
    SweepOptions options;
    options.withPairs = options.withLimits = options.withExcluded = false;
    const auto s = sweep(d, f, options);
    ASSERT_TRUE(s) << s.error().message.id;
    EXPECT_GT(s->runCount, 100u);
}

TEST(Sweep, IsTheSameOnOneAndTwoThreads)
{
    const Dossier d = stopping(twoChannels(false).circuit());
    SweepOptions one, two;
    one.threads = 1;
    two.threads = 2;
    EXPECT_TRUE(*sweep(d, d.functions.front(), one) == *sweep(d, d.functions.front(), two));
}

TEST(Sweep, IsTheSameInShardsPutTogether)
{
    const Dossier d = stopping(twoChannels(false).circuit());
    SecondFaults found;
    for (int k = 0; k < 3; ++k) {
        SweepOptions options;
        options.shard = k;
        options.shards = 3;
        const SecondFaults part = secondFaultsOf(*sweep(d, d.functions.front(), options));
        found.pairs.insert(found.pairs.end(), part.pairs.begin(), part.pairs.end());
        found.hides.insert(found.hides.end(), part.hides.begin(), part.hides.end());
        found.runCount += part.runCount;
        found.skippedCount = part.skippedCount;
        found.checkedCount = part.checkedCount;
    }
    SweepOptions singles;
    singles.withPairs = false;
    const Sweep whole = swept(d), merged = withSecondFaults(*sweep(d, d.functions.front(), singles), found);
    EXPECT_FALSE(whole.pairs.empty());
    EXPECT_EQ(whole, merged) << "every field";
}

TEST(Sweep, RefusesACircuitThatDoesNotStopWithoutAnyFault)
{
    CircuitBuilder b = motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}}, "door")
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.wire("G1:+", "S3:13")
        .wire("S3:14", "Q1:A1")
        .wire("S3:13", "Q1:13")
        .wire("Q1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-"); // S0 is not in the circuit
    const Dossier d = stopping(b.circuit());
    const auto s = sweep(d, d.functions.front(), {});
    ASSERT_FALSE(s);
    EXPECT_EQ(s.error().message.id, "sweep.never_rests");
}

TEST(Sweep, RefusesAFunctionWithoutScenarioOrTrigger)
{
    Dossier d = stopping(twoChannels().circuit());
    d.functions.front().demandScenario = {};
    EXPECT_EQ(sweep(d, d.functions.front(), {}).error().message.id, "stop.no_scenario");
    d = stopping(twoChannels().circuit());
    d.functions.front().trigger.device = {};
    EXPECT_EQ(sweep(d, d.functions.front(), {}).error().message.id, "stop.no_demand");
}

TEST(Sweep, TellsItsProgressAndCanBeCancelled)
{
    const Dossier d = stopping(twoChannels().circuit());
    std::stop_source stop;
    std::size_t last = 0, total = 0;
    const auto s = sweep(
        d, d.functions.front(), {},
        [&](const SweepProgress& p) {
            EXPECT_GE(p.done, last);
            last = p.done;
            total = p.total;
            if (p.done > 50)
                stop.request_stop();
        },
        stop.get_token());
    ASSERT_FALSE(s);
    EXPECT_EQ(s.error().code, ErrorCode::Cancelled);
    EXPECT_LT(last, total);
}

TEST(Sweep, CountsAStopThatTakesTooLongAsLost)
{
    Dossier d = stopping(twoChannels().circuit());
    const double needed = swept(d, false).runDownS;
    d.functions.front().allowedTimeS = needed * 0.5;
    const auto s = sweep(d, d.functions.front(), {});
    ASSERT_FALSE(s) << "not even the healthy circuit is in time";
    EXPECT_EQ(s.error().message.id, "sweep.healthy_loses");
}

TEST(FaultList, ShortsAreBetweenNetsThatShareARoute)
{
    Dossier d = stopping(twoChannels().circuit());
    for (const SweptFault& f : faultList(*compile(d.circuit), d))
        EXPECT_NE(f.family, Family::Short);
    d.circuit.routes = {{{9500}, "W7", RouteKind::Cable}};
    int wires = 0;
    for (Wire& w : d.circuit.wires)
        if (d.circuit.nameOf(w.from).starts_with("K1:S") && wires < 4) {
            w.route = {9500};
            ++wires;
        }
    int shorts = 0;
    for (const SweptFault& f : faultList(*compile(d.circuit), d))
        shorts += f.family == Family::Short;
    EXPECT_EQ(wires, 3); // S11, S21, S33: each an own net
    EXPECT_EQ(shorts, 3 + 3); // three pairs and three to earth
}

TEST(FaultList, NamesEachFaultOnceAndEachExclusionThatNamesNothing)
{
    Dossier d = stopping(twoChannels().circuit());
    d.exclusions = {
        {"S0/latch:does_not_hold", "device to IEC 60947-5-5"}, {"Q7/main:welded", "?"}, {"route/1:short", "?"}};
    const auto list = faultList(*compile(d.circuit), d);
    std::set<std::string> ids;
    for (const SweptFault& f : list)
        EXPECT_TRUE(ids.insert(f.id).second) << f.id;
    EXPECT_TRUE(faultNamed(list, "S0/latch:does_not_hold")->isExcluded);
    EXPECT_EQ(emptyExclusions(list, d), (std::vector<std::string>{"Q7/main:welded", "route/1:short"}));
}

TEST(Sweep, TellsWhatSingleFaultsSayBeforeItTriesSecondOnes)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    SweepOptions options;
    std::vector<Sweep> early;
    options.onSoFar = [&](const Sweep& s) { early.push_back(s); };
    options.soFarEveryS = 1e9;
    const auto whole = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(whole);
    ASSERT_EQ(early.size(), 1u);
    EXPECT_FALSE(early[0].hasPairs);
    EXPECT_EQ(early[0].count(Outcome::Lost, false), whole->count(Outcome::Lost, false))
        << "what is lost alone is known already";
    EXPECT_GE(early[0].count(Outcome::Hidden, false), whole->count(Outcome::Hidden, false))
        << "second faults show what is harmless";
}

TEST(Sweep, TellsWhatCameOfEachFaultAsItComes)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    SweepOptions options;
    options.withPairs = options.withLimits = false;
    options.soFarEveryS = 0.0;
    std::vector<Sweep> told;
    options.onSoFar = [&](const Sweep& s) { told.push_back(s); };
    const auto whole = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(whole);
    ASSERT_EQ(told.size(), whole->faults.size()) << "once for each";
    std::size_t before = 0;
    for (const Sweep& s : told) {
        const auto known = static_cast<std::size_t>(
            std::count_if(s.outcomes.begin(), s.outcomes.end(), [](const FaultOutcome& o) { return o.isRun; }));
        EXPECT_EQ(known, before + 1);
        before = known;
        for (std::size_t k = 0; k < s.outcomes.size(); ++k)
            EXPECT_TRUE(!s.outcomes[k].isRun || s.outcomes[k] == whole->outcomes[k])
                << "what is told stays so: " << s.faults[k].id;
    }
    EXPECT_EQ(*whole, *sweep(d, d.functions.front(), {.withPairs = false, .withLimits = false}))
        << "telling changes nothing";
}

} // namespace
} // namespace ts::faults
