// What practitioners know about these circuits, found by breaking them: no case here is known to the program.

#include "core/analysis/response.h"
#include "core/faults/structure.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts::faults {
namespace {

using namespace test;

const RunResult& runAt(const FaultOutcome& o, Moment m)
{
    return o.runs[static_cast<std::size_t>(m)];
}

AsBuilt builtOf(Dossier& d, const Sweep& s)
{
    d.functions.front().claim = {claimedPair(d.circuit, "Q1", "Q2", "4", 0.99)};
    return asBuilt(s, d.functions.front());
}

TEST(TwoChannelsWithFullFeedback, TolerateAnAccumulation)
{
    Dossier d = stopping(twoChannels().circuit());
    const Sweep s = swept(d);
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").overall, Outcome::Caught);
    EXPECT_EQ(outcomeOf(s, "Q2/armature:stuck_in").overall, Outcome::Caught);
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").runs[2].notice.grade, Grade::Automatic);
    const AsBuilt b = builtOf(d, s);
    EXPECT_EQ(b.subsystems[0].verdict.structure, Structure::AccumulationTolerated);
    for (const auto& channel : b.subsystems[0].channels) {
        EXPECT_EQ(channel[0].built, 0.99);
        for (int k : channel[0].uncovered)
            ADD_FAILURE() << s.faults[static_cast<std::size_t>(k)].id
                          << nameOf(s.outcomes[static_cast<std::size_t>(k)].overall);
    }
}

TEST(TwoChannelsWithoutOneFeedbackContact, TolerateASingleFaultAndHaveNoCoverageThere)
{
    Dossier d = stopping(twoChannels(false).circuit());
    const Sweep s = swept(d);
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").overall, Outcome::Caught);
    EXPECT_EQ(outcomeOf(s, "Q2/main:welded").overall, Outcome::Hidden);
    const AsBuilt b = builtOf(d, s);
    EXPECT_EQ(b.subsystems[0].verdict.structure, Structure::SingleFaultTolerated);
    EXPECT_EQ(b.subsystems[0].channels[0][0].built, 0.99);
    EXPECT_EQ(b.subsystems[0].channels[1][0].built, 0.0); // (0.99 + 0) / 2 = 49.5 %: see the analysis test
}

TEST(ContactorsWithoutFeedback, WeldHidden)
{
    const Sweep s = swept(stopping(twoChannels(false, false).circuit()));
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").overall, Outcome::Hidden);
    EXPECT_EQ(outcomeOf(s, "Q2/main:welded").overall, Outcome::Hidden);
}

TEST(ContactorsWithoutMirrorContacts, WeldHiddenThoughTheyAreInTheLoop)
{
    const Sweep s = swept(stopping(twoChannels(true, true, false).circuit()));
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").overall, Outcome::Hidden);
}

TEST(AnOpenCoil, IsSafeNotCaught)
{
    const Sweep s = swept(stopping(twoChannels().circuit()));
    EXPECT_EQ(outcomeOf(s, "Q1/coil:open").overall, Outcome::Safe);
    EXPECT_TRUE(runAt(outcomeOf(s, "Q1/coil:open"), Moment::Running).blocks);
}

TEST(ABridgedFeedbackLoop, IsHiddenBecauseItHidesAWeld)
{
    CircuitBuilder b = twoChannels();
    Dossier d = stopping(b.circuit());
    const RouteId route{9500};
    d.circuit.routes = {{route, "cable", RouteKind::Cable}};
    for (Wire& w : d.circuit.wires) // the two ends of Q1's contact run beside each other
        if (d.circuit.nameOf(w.to) == "Q1:21" || d.circuit.nameOf(w.from) == "Q1:22")
            w.route = route;
    const Sweep s = swept(d);
    const FaultOutcome& bridge = outcomeOf(s, "S3:14+Q1:22:short");
    EXPECT_EQ(bridge.overall, Outcome::Hidden);
    ASSERT_GE(bridge.hides, 0);
    EXPECT_EQ(s.faults[static_cast<std::size_t>(bridge.hides)].id, "Q1/main:welded");
}

TEST(AStopStraightInTheCoilCircuitOfOneContactor, IsOneChannel)
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
    const Sweep s = swept(d);
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").overall, Outcome::Lost);
    EXPECT_EQ(outcomeOf(s, "S0/11-12:welded").overall, Outcome::Lost);
    EXPECT_EQ(asBuilt(s, d.functions.front()).whole.structure, Structure::OneChannel);
}

TEST(AFailedSupply, IsTriedTooLowAndTooHighAndStopsAllTheSame)
{
    const Sweep s = swept(stopping(twoChannels().circuit()));
    ASSERT_EQ(faultNamed(s.faults, "G1/output:low")->variants.size(), 2u)
        << "half, where nothing pulls in, and four fifths, where it may";
    for (const char* id : {"G1/output:low", "G1/output:high", "G1/output:missing"})
        EXPECT_NE(outcomeOf(s, id).overall, Outcome::Lost) << id;
}

TEST(AShortedWinding, BlowsTheFuseAndStopsTheMotor)
{
    const Sweep s = swept(stopping(twoChannels().circuit()), false);
    const FaultOutcome& o = outcomeOf(s, "M1/winding:shorted");
    EXPECT_NE(o.overall, Outcome::Lost);
    EXPECT_EQ(runAt(o, Moment::Running).loss, Loss::None);
}

TEST(AContactBlockThatComesOff, LosesTheStopUnlessItIsMonitored)
{
    const auto with = [](bool isMonitored) {
        Dossier d = stopping(twoChannels().circuit());
        for (Device& device : d.circuit.devices)
            if (device.tag == "S0" && isMonitored)
                device.parameters["monitored_block"] = true;
        return swept(d);
    };
    const Sweep plain = with(false);
    EXPECT_EQ(outcomeOf(plain, "S0/block:fallen_off").overall, Outcome::Lost)
        << "both channels stay closed under a head that moves nothing";
    const Sweep monitored = with(true);
    EXPECT_EQ(outcomeOf(monitored, "S0/block:fallen_off").overall, Outcome::Safe) << "it stops, and does not start";
    for (Moment m : {Moment::AtRest, Moment::Running})
        EXPECT_EQ(runAt(outcomeOf(monitored, "S0/block:fallen_off"), m).loss, Loss::None);
}

TEST(ATestedChannel, LosesOnlyWhatHappensAfterTheLastTest)
{
    // No circuit of these kinds tests a closed contact while the machine runs: what a sweep of one that did would say
    // is written here by hand.
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
    Sweep s = swept(d);
    const auto whole = [&] { return asBuilt(s, d.functions.front()).whole; };
    const std::vector<int> alone = whole().alone;
    ASSERT_FALSE(alone.empty());
    EXPECT_EQ(whole().structure, Structure::OneChannel);
    for (int k : alone)
        for (Moment m : {Moment::AtRest, Moment::Running}) {
            RunResult& r = s.outcomes[static_cast<std::size_t>(k)].runs[static_cast<std::size_t>(m)];
            r.loss = Loss::None;
            r.notice = {Grade::Automatic, NoticedWhen::BeforeDemand, 0};
            RunResult& end = s.outcomes[static_cast<std::size_t>(k)].runs[static_cast<std::size_t>(Moment::JustBefore)];
            end.loss = Loss::RunsOn;
        }
    EXPECT_EQ(whole().structure, Structure::Tested);
    EXPECT_FALSE(whole().testOnlyWarns);
    RunResult& first = s.outcomes[static_cast<std::size_t>(alone.front())]
                           .runs[static_cast<std::size_t>(Moment::Running)];
    first.notice.grade = Grade::Warning;
    EXPECT_TRUE(whole().testOnlyWarns);
    first.notice.when = NoticedWhen::OnReset;
    EXPECT_EQ(whole().structure, Structure::OneChannel) << "a feedback that is looked at after the demand is no test";
    EXPECT_EQ(whole().alone, alone);
}

TEST(AStopInTheSupplyOfARelayThatSwitchesOneContactor, LosesByAWeldedContactor)
{
    CircuitBuilder b = motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}}, "door")
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.device("K1", "safety_relay",
        {{"channels", Words{"S11-S12"}}, {"channel_polarity", Words{"positive"}}, {"reset", word("monitored")}});
    b.wire("G1:+", "S0:11").wire("S0:12", "K1:A1").wire("K1:A2", "G1:-").wire("K1:S11", "K1:S12");
    b.wire("K1:S33", "S3:13")
        .wire("S3:14", "Q1:21")
        .wire("Q1:22", "K1:S34")
        .wire("G1:+", "K1:13")
        .wire("K1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-");
    const Sweep s = swept(stopping(b.circuit()), false);
    EXPECT_EQ(outcomeOf(s, "Q1/main:welded").overall, Outcome::Lost);
    EXPECT_EQ(runAt(outcomeOf(s, "Q1/main:welded"), Moment::JustBefore).loss, Loss::RunsOn);
}

TEST(AnOrdinaryRelayThatBreaksTwoCircuits, LosesByItsStuckArmature)
{
    CircuitBuilder b = motorBehind({"Q1", "Q2"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}}, "door")
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.device("K5", "plug_in_relay",
        {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")},
            {"contacts", Words{"11-12-14", "21-22-24", "31-32-34"}}});
    b.wire("G1:+", "S0:11")
        .wire("S0:12", "S3:13")
        .wire("S3:14", "K5:A1")
        .wire("S3:13", "K5:31")
        .wire("K5:34", "K5:A1")
        .wire("K5:A2", "G1:-");
    b.wire("G1:+", "K5:11")
        .wire("K5:14", "Q1:A1")
        .wire("Q1:A2", "G1:-")
        .wire("K5:11", "K5:21")
        .wire("K5:24", "Q2:A1")
        .wire("Q2:A2", "G1:-");
    const Sweep s = swept(stopping(b.circuit()), false);
    EXPECT_EQ(outcomeOf(s, "K5/armature:stuck_in").overall, Outcome::Lost);
    EXPECT_NE(outcomeOf(s, "Q1/main:welded").overall, Outcome::Lost);
}

/// Both coils on one output; its wire runs in a cable beside +24 V.
Dossier bothOnOneOutput(RouteKind kind)
{
    CircuitBuilder b = motorBehind({"Q1", "Q2"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}}, "door")
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.device("K1", "safety_relay", {{"reset", word("monitored")}});
    b.wire("G1:+", "K1:A1")
        .wire("K1:A2", "G1:-")
        .wire("K1:S11", "S0:11")
        .wire("S0:12", "K1:S12")
        .wire("K1:S21", "S0:21")
        .wire("S0:22", "K1:S22");
    b.wire("K1:S33", "S3:13").wire("S3:14", "Q1:21").wire("Q1:22", "Q2:21").wire("Q2:22", "K1:S34");
    b.wire("G1:+", "K1:13").wire("K1:14", "Q1:A1").wire("Q1:A1", "Q2:A1").wire("Q1:A2", "G1:-").wire("Q2:A2", "G1:-");
    Dossier d = stopping(b.circuit());
    d.circuit.routes = {{{9500}, "W7", kind}};
    for (Wire& w : d.circuit.wires)
        if (d.circuit.nameOf(w.to) == "K1:13" || d.circuit.nameOf(w.from) == "K1:14")
            w.route = {9500};
    return d;
}

TEST(BothContactorsOnOneOutputBesideItsSupply, AreLostUnlessTheShortIsExcluded)
{
    Dossier d = bothOnOneOutput(RouteKind::Enclosure);
    const Sweep s = swept(d, false);
    EXPECT_EQ(outcomeOf(s, "G1:++K1:14:short").overall, Outcome::Lost);
    EXPECT_EQ(asBuilt(s, d.functions.front()).whole.structure, Structure::OneChannel);
    d.exclusions = {{"route/9500:short", "enclosure to EN 60204-1"}};
    const Sweep without = swept(d);
    EXPECT_TRUE(faultNamed(without.faults, "G1:++K1:14:short")->isExcluded);
    const AsBuilt b = asBuilt(without, d.functions.front());
    EXPECT_TRUE(std::none_of(b.whole.alone.begin(), b.whole.alone.end(),
        [&](int k) { return without.faults[static_cast<std::size_t>(k)].family == Family::Short; }));
    EXPECT_EQ(b.wholeWithoutExclusions, Structure::OneChannel);
}

TEST(AShortInAnOpenCable, CannotBeExcluded)
{
    Dossier d = bothOnOneOutput(RouteKind::Cable);
    d.exclusions = {{"route/9500:short", "it will not happen"}};
    const Plant plant = *compile(d.circuit);
    const auto list = faultList(plant, d);
    EXPECT_FALSE(faultNamed(list, "G1:++K1:14:short")->isExcluded);
}

TEST(AHoldFromOneContactorOnly, RestartsTheMotorWhenStopIsReleased)
{
    // Q1 and Q2 in parallel on the stop line; only Q1 holds. Q1 welded keeps the hold closed.
    CircuitBuilder b = motorBehind({"Q2"});
    b.device("Q1", "contactor", contactor24(false)).device("S0", "push_button", {{"contacts", Words{"11-12"}}}, "door");
    b.device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door");
    b.wire("G1:+", "S0:11")
        .wire("S0:12", "S3:13")
        .wire("S3:13", "Q1:13")
        .wire("S3:14", "Q1:14")
        .wire("S3:14", "Q1:A1")
        .wire("S3:14", "Q2:A1");
    b.wire("Q1:A2", "G1:-").wire("Q2:A2", "G1:-");
    const Sweep s = swept(stopping(b.circuit()), false);
    EXPECT_EQ(runAt(outcomeOf(s, "Q1/armature:stuck_in"), Moment::JustBefore).loss, Loss::StartsOnRelease);
    EXPECT_EQ(runAt(outcomeOf(s, "Q1/13-14:welded"), Moment::JustBefore).loss, Loss::StartsOnRelease);
}

TEST(StopsInSeries, MaskAndClearALockOut)
{
    // Two devices in series on both channels: the welded contact of S0 is noticed, and forgotten when S9 is operated.
    CircuitBuilder b = motorBehind({"Q1", "Q2"});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}}, "door")
        .device("S9", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}}, "door");
    b.device("S3", "push_button", {{"contacts", Words{"13-14"}}}, "door")
        .device("K1", "safety_relay", {{"reset", word("monitored")}});
    b.wire("G1:+", "K1:A1")
        .wire("K1:A2", "G1:-")
        .wire("K1:S11", "S0:11")
        .wire("S0:12", "S9:11")
        .wire("S9:12", "K1:S12");
    b.wire("K1:S21", "S0:21").wire("S0:22", "S9:21").wire("S9:22", "K1:S22");
    b.wire("K1:S33", "S3:13").wire("S3:14", "Q1:21").wire("Q1:22", "Q2:21").wire("Q2:22", "K1:S34");
    b.wire("G1:+", "K1:13")
        .wire("K1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-")
        .wire("G1:+", "K1:23")
        .wire("K1:24", "Q2:A1")
        .wire("Q2:A2", "G1:-");
    const Sweep s = swept(stopping(b.circuit()));
    const FaultOutcome& welded = outcomeOf(s, "S0/11-12:welded");
    EXPECT_EQ(runAt(welded, Moment::JustBefore).notice.when, NoticedWhen::OnDemand);
    EXPECT_EQ(welded.forgottenBy, "operate S9");
    EXPECT_EQ(welded.overall, Outcome::Hidden);
}

TEST(AMirrorContactThatDoesNotOpen, IsShownAsExcluded)
{
    const Dossier d = stopping(twoChannels().circuit());
    const auto list = faultList(*compile(d.circuit), d);
    const SweptFault* f = faultNamed(list, "Q1/21-22:welded");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->mode, "does_not_open");
    EXPECT_TRUE(f->isExcluded);
    EXPECT_EQ(f->table, "D.9");
}

TEST(CommonCause, OneShortThatWeldsBothContactorsLosesTheStopAndIsNoSingleFault)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    const Sweep s = test::swept(d);
    EXPECT_EQ(test::outcomeOf(s, "Q1+Q2:welded_together").overall, Outcome::Lost);
    const AsBuilt built = asBuilt(s, d.functions.front());
    ASSERT_EQ(built.commonCauses.size(), 1u);
    EXPECT_EQ(s.faults[static_cast<std::size_t>(built.commonCauses.front())].id, "Q1+Q2:welded_together");
    for (int k : built.whole.alone)
        EXPECT_NE(s.faults[static_cast<std::size_t>(k)].family, Family::CommonCause);
    for (const FaultPair& p : s.pairs)
        EXPECT_NE(s.faults[static_cast<std::size_t>(p.second)].family, Family::CommonCause);
}

TEST(CommonCause, ACutCableStopsAndACrushedOneIsTried)
{
    test::CircuitBuilder b = test::twoChannels();
    Dossier d = test::stopping(b.circuit());
    Circuit& c = d.circuit;
    c.routes.push_back({{9900}, "cable to S0", RouteKind::Cable});
    for (Wire& w : c.wires)
        if (w.from.device == c.device("S0")->id || w.to.device == c.device("S0")->id)
            w.route = {9900};
    const Sweep s = test::swept(d);
    EXPECT_EQ(test::outcomeOf(s, "route/9900:cut").overall, Outcome::Caught)
        << "both channels open: it cannot be reset";
    EXPECT_TRUE(test::outcomeOf(s, "route/9900:crushed").isRun);
    EXPECT_EQ(test::outcomeOf(s, "route/9900:crushed").runs.size(), kMoments.size());
}

TEST(Limits, AStopThatIsInTimeOnlyNominallyIsSaid)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    const double nominal = test::swept(d, false).runDownS;
    d.functions.front().allowedTimeS = nominal + 0.005; // the slow limit alone is 29 ms later
    SweepOptions options;
    options.withPairs = false;
    const auto s = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(s);
    ASSERT_FALSE(s->limitTrouble.empty());
    EXPECT_TRUE(std::any_of(s->limitTrouble.begin(), s->limitTrouble.end(),
        [](const auto& t) { return t.first == Limit::SlowTimes && t.second.id == "sweep.healthy_loses"; }));
    for (const FaultOutcome& o : s->outcomes)
        EXPECT_TRUE(std::find(o.limits.begin(), o.limits.end(), Limit::SlowTimes) == o.limits.end())
            << "nothing is said of faults where the circuit without them fails";
}

TEST(Limits, MakeNothingBetterAndAreMarkedWhereTheyAreWorse)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    SweepOptions options;
    options.withPairs = false;
    const auto with = sweep(d, d.functions.front(), options);
    options.withLimits = false;
    const auto without = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(with && without);
    EXPECT_EQ(without->limitRunCount, 0u);
    EXPECT_GT(with->limitRunCount, with->faults.size()) << "four limits";
    for (std::size_t k = 0; k < with->outcomes.size(); ++k)
        for (std::size_t m = 0; m < kMoments.size(); ++m) {
            if (without->outcomes[k].runs[m].loss != Loss::None) {
                EXPECT_NE(with->outcomes[k].runs[m].loss, Loss::None) << with->faults[k].id;
            }
            EXPECT_EQ(
                with->outcomes[k].limits[m] != Limit::None, with->outcomes[k].runs[m] != without->outcomes[k].runs[m])
                << with->faults[k].id;
        }
}

Dossier withLeastLoad(double share)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    for (Device& device : d.circuit.devices)
        if (device.tag == "M1")
            device.parameters["lowest_load_share"] = share;
    return d;
}

/// A fan that runs down by itself: with a tenth of its load it takes longer, with each fault, too.
TEST(Limits, TheLeastLoadCountsWithEachFaultWhereItWasEntered)
{
    SweepOptions options;
    options.withPairs = options.withExcluded = false;
    const Dossier bare = test::stopping(test::twoChannels().circuit()), full = withLeastLoad(0.75),
                  least = withLeastLoad(0.075);
    const auto none = sweep(bare, bare.functions.front(), options);
    const auto all = sweep(full, full.functions.front(), options);
    const auto tenth = sweep(least, least.functions.front(), options);
    ASSERT_TRUE(none && all && tenth);
    EXPECT_EQ(none->limitRunCount, all->limitRunCount) << "nobody entered it, or it is the load itself";
    EXPECT_EQ(tenth->limitRunCount * 4, none->limitRunCount * 5) << "a fifth limit";
    EXPECT_NEAR(none->worstRestS, all->worstRestS, 1e-9);
    EXPECT_GT(tenth->worstRestS, 1.2 * none->worstRestS);
}

/// The distance rests on the sweep that was tried at the limits, where there is one; what was excluded is no part of
/// it.
TEST(Limits, TheResponseRestsOnTheWiderSweep)
{
    const Dossier d = withLeastLoad(0.075);
    const auto single = sweep(d, d.functions.front(), {.withPairs = false, .withLimits = false});
    const auto wide = sweep(d, d.functions.front(), {.withPairs = false});
    ASSERT_TRUE(single && wide);
    EXPECT_EQ(widerOf(&*single, nullptr), &*single);
    EXPECT_EQ(widerOf(&*single, &*single), &*single);
    EXPECT_EQ(widerOf(&*single, &*wide), &*wide);
    EXPECT_EQ(widerOf(nullptr, nullptr), nullptr);
    safety::ActuatorStop healthy;
    healthy.tag = "M1";
    healthy.removedAfter = seconds(0.05);
    healthy.restAfter = seconds(single->runDownS);
    const auto usual = responseOf(d.circuit, d.functions.front(), {healthy}, &*single);
    const auto least = responseOf(d.circuit, d.functions.front(), {healthy}, widerOf(&*single, &*wide));
    ASSERT_TRUE(usual && least);
    EXPECT_FALSE(usual->areLimitsTried);
    EXPECT_TRUE(least->areLimitsTried);
    EXPECT_GT(least->wholeS(), 1.2 * usual->wholeS());
    Sweep troubled = *wide;
    troubled.limitTrouble.emplace_back(Limit::SlowTimes, message("sweep.healthy_loses"));
    EXPECT_FALSE(responseOf(d.circuit, d.functions.front(), {healthy}, &troubled)->areLimitsTried)
        << "one of them could not be tried";
}

/// What is in time at its usual load and not at the least is lost there, and only there.
TEST(Limits, WhatIsInTimeOnlyWithItsLoadIsLostAtTheLeast)
{
    SweepOptions options;
    options.withPairs = options.withExcluded = false;
    Dossier d = withLeastLoad(0.075);
    const auto free = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(free);
    d.functions.front().allowedTimeS = 1.1 * free->runDownS + 0.5;
    const auto s = sweep(d, d.functions.front(), options);
    ASSERT_TRUE(s);
    ASSERT_EQ(s->limitTrouble.size(), 1u) << "without a fault it is too late there, too";
    EXPECT_EQ(s->limitTrouble.front().first, Limit::LeastLoad);
    EXPECT_EQ(nameOf(Limit::LeastLoad), "least_load");
}

/// A selector that stays where it is put, straight before the contactor's coil; the emergency stop in the same path.
Dossier selectorMachine()
{
    test::CircuitBuilder b = test::motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", test::Words{"11-12"}}}, "door")
        .device("S1", "selector", {{"contacts", test::Words{"13-14/on"}}}, "door");
    b.wire("G1:+", "S0:11").wire("S0:12", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    Dossier d = test::stopping(b.circuit(), "S0", "press", "S1");
    d.scenarios[0].steps[0] = {1.0, "turn_to_on", "S1", 0.0};
    return d;
}

TEST(SupplyReturns, AMaintainedSelectorStartsTheMotorAgain)
{
    const auto s = sweep(
        selectorMachine(), selectorMachine().functions.front(), {.withPairs = false, .withLimits = false});
    ASSERT_TRUE(s) << s.error().message.id;
    const FaultOutcome& o = test::outcomeOf(*s, "supply:interrupted");
    EXPECT_EQ(o.overall, Outcome::Lost);
    EXPECT_EQ(o.runs[static_cast<std::size_t>(Moment::AtRest)].loss, Loss::StartsAlone)
        << "turned on while the supply was away";
}

TEST(SupplyReturns, ASafetyRelayWithAMonitoredResetStaysOut)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    const auto s = sweep(d, d.functions.front(), {.withPairs = false, .withLimits = false});
    ASSERT_TRUE(s);
    for (const char* id : {"supply:interrupted", "supply:interrupted_briefly", "supply:dip_to_40", "supply:dip_to_70",
             "supply:overvoltage"})
        for (const RunResult& r : test::outcomeOf(*s, id).runs)
            EXPECT_EQ(r.loss, Loss::None) << id;
    const std::size_t singles = s->count(Outcome::Safe, true) + s->count(Outcome::Caught, true)
        + s->count(Outcome::Hidden, true) + s->count(Outcome::Lost, true);
    EXPECT_EQ(singles,
        static_cast<std::size_t>(std::count_if(
            s->faults.begin(), s->faults.end(), [](const SweptFault& f) { return f.family != Family::CommonCause; })))
        << "a disturbance of the supply is no single fault of the circuit";
}

TEST(PhasesExchanged, TurnTheMotorTheOtherWayAndAreNoticedByNobodyHere)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    const Plant plant = *compile(d.circuit);
    const auto fault = faultFrom(plant, "G0/phases:exchanged");
    ASSERT_TRUE(fault);
    const auto speedWith = [&](std::vector<Fault> faults) {
        Workspace workspace;
        const ScenarioRun run = *runScenario(plant, d.scenarios[0], faults, 4.5, workspace);
        return observe(plant, run.end).motors[0].speedRadPerS;
    };
    EXPECT_NEAR(speedWith({fault->fault}), -speedWith({}), 1e-6) << "the same speed, the other way";
    const auto tried = tryFault(d, d.functions.front(), "G0/phases:exchanged");
    ASSERT_TRUE(tried);
    EXPECT_EQ(tried->outcome.overall, Outcome::Hidden) << "the stop works all the same";
}

} // namespace
} // namespace ts::faults
