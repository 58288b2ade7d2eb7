// What is no motor and yet must come to rest: a valve, a heater. It goes through the same runs, faults and verdicts.

#include "core/analysis/analysis.h"
#include "core/analysis/fault_analysis.h"
#include "core/analysis/stop_run.h"
#include "core/analysis/stop_study.h"
#include "core/checks/check.h"
#include "core/exploration/explore.h"
#include "core/patterns/machine.h"
#include "core/safety/level.h"
#include "core/studies/working_out.h"
#include "core/suggestions/claim_suggestion.h"
#include "core/suggestions/suggestion.h"
#include "tests/core/faults/stop_circuits.h"

#include <algorithm>

namespace ts {
namespace {

constexpr double kValveS = 0.08; // back by its spring

/// Two channels as usual; a valve at the relay's first output beside Q1, a heater behind a pole of Q2.
Dossier press()
{
    test::CircuitBuilder b = test::twoChannels();
    b.device("Y1", "solenoid",
        {{"coil_voltage_v", 24.0}, {"coil_current", test::word("dc")}, {"coil_power_w", 12.0}, {"acts_in_s", 0.05},
            {"rests_in_s", kValveS}},
        "field");
    b.wire("K1:14", "Y1:A1").wire("Y1:A2", "G1:-");
    b.device("E1", "heater",
        {{"rated_voltage_v", 230.0}, {"rated_power_w", 500.0}, {"heats_in_s", 1.0}, {"cools_in_s", 6.0}}, "field");
    b.wire("Q2:2", "E1:1").wire("E1:2", "G0:N");
    Dossier d = test::stopping(b.circuit());
    d.functions[0].mustRest = {d.circuit.device("Y1")->id, d.circuit.device("E1")->id};
    return d;
}

TEST(Outputs, StopAtTheTimesThatTheirPartsNeed)
{
    const Dossier d = press();
    const auto run = stopRun(d, d.functions[0], Timing::Nominal);
    ASSERT_TRUE(run) << run.error().message.id;
    ASSERT_EQ(run->actuators.size(), 2u);
    const safety::ActuatorStop &valve = run->actuators[0], &heater = run->actuators[1];
    // 3 ms button + 20 ms relay, then the armature; power that goes while it acts takes its arc along.
    EXPECT_EQ(valve.category, 0);
    EXPECT_NEAR(valve.removedAfter->si(), 0.003 + 0.020 + safety::arcTime().si(), 1e-9);
    EXPECT_NEAR(valve.restAfter->si(), 0.003 + 0.020 + kValveS + safety::arcTime().si(), 1e-9);
    // And 15 ms contactor.
    EXPECT_EQ(heater.category, 0);
    EXPECT_NEAR(heater.removedAfter->si(), 0.003 + 0.020 + 0.015 + safety::arcTime().si(), 1e-9);
    EXPECT_NEAR(heater.restAfter->si(), 0.003 + 0.020 + 0.015 + 6.0 + safety::arcTime().si(), 1e-9);
}

TEST(Outputs, AHeaterIsHotAtAnyVoltageAValveNeedsItsOwn)
{
    Dossier d = press();
    Plant plant = *compile(d.circuit);
    test::Bench b(plant);
    b.to(0.5).tap("S3").to(4.0);
    EXPECT_TRUE(b.is("Y1", "driven"));
    EXPECT_TRUE(b.is("E1", "driven"));
    setCoilBand(plant, CoilBand::LetsGo);
    const auto heater = std::find_if(plant.coils.begin(), plant.coils.end(), [&](const PlantCoil& c) {
        return plant.devices[static_cast<std::size_t>(plant.movers[static_cast<std::size_t>(c.mover)].device)].tag
            == "E1";
    });
    ASSERT_NE(heater, plant.coils.end());
    EXPECT_DOUBLE_EQ(heater->data.pickUpV, 23.0) << "a resistance has no band";
}

TEST(Outputs, AnArmatureThatStaysAndARelayPathThatWeldsLoseTheStop)
{
    Dossier d = press();
    d.functions[0].mustRest = {d.circuit.device("Y1")->id};
    const auto s = faults::sweep(d, d.functions[0], {});
    ASSERT_TRUE(s) << s.error().message.id;
    const auto outcome = [&](std::string_view id) {
        for (std::size_t k = 0; k < s->faults.size(); ++k)
            if (s->faults[k].id == id)
                return s->outcomes[k].overall;
        ADD_FAILURE() << id << " was not tried";
        return faults::Outcome::NotRun;
    };
    EXPECT_EQ(outcome("Y1/armature:stuck_in"), faults::Outcome::Lost);
    EXPECT_NE(outcome("Q1/main:welded"), faults::Outcome::Lost) << "the valve does not hang on it";
    EXPECT_NE(outcome("Y1/coil:open"), faults::Outcome::Lost);
}

TEST(Outputs, TheValveIsAPartOfItsOwnStop)
{
    Dossier d = press();
    d.functions[0].mustRest = {d.circuit.device("Y1")->id};
    const auto claim = suggestedClaim(d, d.functions[0]);
    ASSERT_TRUE(claim) << claim.error().message.id;
    ASSERT_FALSE(claim->empty());
    const ClaimedSubsystem& last = claim->back();
    ASSERT_EQ(last.channels.size(), 1u);
    EXPECT_EQ(last.channels[0].parts[0].device, d.circuit.device("Y1")->id);
    EXPECT_EQ(last.channels[0].parts[0].element, "armature");
}

TEST(Outputs, NeedAFunctionAndMustNotStartByAReset)
{
    Dossier d = press();
    d.functions[0].mustRest = {d.circuit.device("M1")->id};
    d.functions[0].resetBy = d.circuit.device("S3")->id;
    Results results;
    ASSERT_TRUE(workOut(d, {.only = {kLevels.id, kDirected.id, kChecks.id}}, results));
    const auto has = [&](std::string_view what, std::string_view tag) {
        const auto& all = results.find(kChecks)->findings;
        return std::any_of(all.begin(), all.end(), [&](const Finding& f) {
            return f.what.id == what && std::find(f.devices.begin(), f.devices.end(), tag) != f.devices.end();
        });
    };
    EXPECT_TRUE(has("finding.motor.no_function", "Y1"));
    EXPECT_TRUE(has("finding.motor.no_function", "E1"));
    EXPECT_FALSE(has("finding.motor.no_function", "M1"));
    EXPECT_TRUE(has("finding.start.reset", "Y1")) << "it hangs on the relay's output alone";
}

/// Everything that is worked out of a dossier, once through: nothing may take a valve for a motor.
TEST(Outputs, GoTheWholeWay)
{
    Dossier d = press();
    d.functions[0].mustRest.push_back(d.circuit.device("M1")->id);
    d.functions[0].claim = *suggestedClaim(d, d.functions[0]);
    Results results;
    ASSERT_TRUE(workOut(d, {}, results));
    for (const auto study : {kLevels.id, kScenarios.id, kDirected.id, kChecks.id})
        EXPECT_FALSE(results.trouble(study, wholeMachine())) << study;
    const auto levels = results.find(kLevels);
    ASSERT_TRUE(levels);
    EXPECT_EQ(levels->functions[0].nominal->actuators.size(), 3u);
    EXPECT_TRUE(results.find(kBuilt, about(d.functions[0].id)));
    for (const Finding& f : results.find(kChecks)->findings)
        EXPECT_TRUE(f.what.id != "finding.stop.load" || f.devices != std::vector<std::string>{"Y1"});
    const auto stop = stopStudy(d, d.functions[0], {});
    ASSERT_TRUE(stop) << stop.error().message.id;
    ASSERT_EQ(stop->actuators.size(), 3u);
    EXPECT_EQ(stop->actuators[0].category, 0) << "of the valve, over all states and limits";
    exploration::Request request;
    request.motor = "Y1";
    request.withFaults = request.withInterlocks = false;
    const auto orders = exploration::explore(d, request);
    ASSERT_TRUE(orders) << orders.error().message.id;
    ASSERT_EQ(orders->motors.size(), 1u);
    const auto& proofs = orders->motors[0].healthy.proofs;
    const auto stays = std::find_if(proofs.begin(), proofs.end(),
        [](const exploration::Proof& p) { return p.claim == exploration::Claim::StaysStopped; });
    ASSERT_NE(stays, proofs.end());
    EXPECT_EQ(stays->answer, exploration::Answer::Proved);
}

/// The same machine with a magnet that carries something, fed from `feed`, and let go by a button of its own.
Dossier carrying(const char* feed)
{
    test::CircuitBuilder b = test::twoChannels();
    b.device("S8", "push_button", {{"contacts", test::Words{"11-12"}}}, "door");
    b.device("Y2", "solenoid",
        {{"coil_voltage_v", 24.0}, {"coil_current", test::word("dc")}, {"coil_power_w", 12.0}, {"acts_in_s", 0.05},
            {"rests_in_s", 0.05}, {"hazard_when", test::word("let_go")}},
        "field");
    b.wire(feed, "S8:11").wire("S8:12", "Y2:A1").wire("Y2:A2", "G1:-");
    return test::stopping(b.circuit());
}

std::vector<std::string> heldIn(const Dossier& d)
{
    Results results;
    EXPECT_TRUE(workOut(d, {.only = {kLevels.id, kDirected.id, kChecks.id}}, results));
    std::vector<std::string> all;
    for (const Finding& f : results.find(kChecks)->findings)
        if (f.id == "held")
            all.push_back(std::string(nameOf(f.severity)) + " " + std::get<std::string>(f.what.arguments[1]));
    std::sort(all.begin(), all.end());
    return all;
}

/// ISO 13850 clause 4.1: an emergency stop makes no new hazard. Its own button may let it go, and power that fails is
/// to be thought of.
TEST(Held, AMagnetIsNotLetGoByAnEmergencyStop)
{
    using Texts = std::vector<std::string>;
    EXPECT_EQ(heldIn(carrying("G1:+")), (Texts{"note @leaving.phase_lost", "note @leaving.supply_lost"}));
    const Texts behind = heldIn(carrying("K1:14"));
    EXPECT_TRUE(std::find(behind.begin(), behind.end(), "stop @leaving.emergency_stop") != behind.end())
        << ::testing::PrintToString(behind);
}

TEST(Held, NeedsNoStopOfItsOwn)
{
    Results results;
    ASSERT_TRUE(workOut(carrying("G1:+"), {.only = {kLevels.id, kDirected.id, kChecks.id}}, results));
    for (const Finding& f : results.find(kChecks)->findings)
        EXPECT_TRUE(f.what.id != "finding.motor.no_function" || f.devices != std::vector<std::string>{"Y2"});
}

/// Healthy or with a fault that was there before: what the demand releases loses the function. A coil that breaks in
/// that very moment is no matter of the stop.
TEST(Held, AFaultThatLetsTheStopReleaseItLosesTheStop)
{
    const Dossier behind = carrying("K1:14");
    const auto refused = faults::sweep(behind, behind.functions[0], {});
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().message.id, "sweep.healthy_loses");
    const Dossier ahead = carrying("G1:+");
    faults::SweepOptions options;
    options.withLimits = false;
    const auto s = faults::sweep(ahead, ahead.functions[0], options);
    ASSERT_TRUE(s) << s.error().message.id;
    for (std::size_t k = 0; k < s->faults.size(); ++k)
        if (s->faults[k].id == "Y2/coil:open")
            EXPECT_NE(s->outcomes[k].overall, faults::Outcome::Lost);
    const bool isAny = std::any_of(s->outcomes.begin(), s->outcomes.end(), [](const faults::FaultOutcome& o) {
        return std::any_of(
            o.runs.begin(), o.runs.end(), [](const faults::RunResult& r) { return r.loss == faults::Loss::LetsGo; });
    });
    EXPECT_FALSE(isAny) << "fed ahead of everything that the stop opens";
}

/// Six kilowatts on three lines behind Q1 and Q2 in series, in the place of the motor.
Dossier kiln(const char* connection)
{
    test::CircuitBuilder b = test::twoChannels();
    b.device("E1", "heater_three_phase",
        {{"rated_voltage_v", 400.0}, {"rated_power_w", 2000.0}, {"connection", test::word(connection)},
            {"heats_in_s", 1.0}, {"cools_in_s", 6.0}},
        "field");
    b.wire("Q2:2", "E1:U").wire("Q2:4", "E1:V").wire("Q2:6", "E1:W");
    Dossier d = test::stopping(b.circuit());
    d.functions[0].mustRest = {d.circuit.device("E1")->id};
    return d;
}

TEST(Outputs, AHeaterOnThreeLinesComesToRestAsOne)
{
    for (const char* connection : {"star", "delta"}) {
        const Dossier d = kiln(connection);
        const auto run = stopRun(d, d.functions[0], Timing::Nominal);
        ASSERT_TRUE(run) << run.error().message.id;
        ASSERT_EQ(run->actuators.size(), 1u) << connection;
        EXPECT_EQ(run->actuators[0].category, 0) << connection;
        EXPECT_NEAR(run->actuators[0].removedAfter->si(), 0.003 + 0.020 + 0.015 + safety::arcTime().si(), 1e-9);
        EXPECT_NEAR(run->actuators[0].restAfter->si() - run->actuators[0].removedAfter->si(), 6.0, 1e-9);
    }
}

/// One welded contactor is no loss, the other opens; a third heater element that broke takes nothing from the stop, and
/// one line lost is no stop: it goes on heating.
TEST(Outputs, NoSingleFaultKeepsAHeaterOnThreeLinesHot)
{
    const Dossier d = kiln("delta");
    const auto s = faults::sweep(d, d.functions[0], {.withPairs = false, .withLimits = false, .withExcluded = false});
    ASSERT_TRUE(s) << s.error().message.id;
    EXPECT_TRUE(s->notRunning.empty());
    int welded = 0, elements = 0;
    for (std::size_t k = 0; k < s->faults.size(); ++k) {
        const std::string& id = s->faults[k].id;
        welded += id == "Q1/main:welded" || id == "Q2/main:welded";
        elements += id.starts_with("E1/") && id.ends_with(":open");
        if (id == "Q1/main:welded" || id.starts_with("E1/"))
            EXPECT_NE(s->outcomes[k].overall, faults::Outcome::Lost) << id;
    }
    EXPECT_EQ(welded, 2);
    EXPECT_EQ(elements, 3) << "each of its own";
}

/// Rest comes the armature's own time after the power has gone, whatever that time is.
TEST(Outputs, RestAsLongAfterTheirPowerAsTheirSheetSays)
{
    for (double rests : {0.01, 0.3, 5.0, 120.0}) {
        Dossier d = press();
        for (Device& device : d.circuit.devices)
            if (device.tag == "Y1")
                device.parameters["rests_in_s"] = rests;
        d.functions[0].mustRest = {d.circuit.device("Y1")->id};
        d.scenarios[0].lengthS = 200;
        const auto run = stopRun(d, d.functions[0], Timing::Nominal);
        ASSERT_TRUE(run) << rests;
        EXPECT_NEAR(run->actuators[0].restAfter->si() - run->actuators[0].removedAfter->si(), rests, 1e-9);
    }
}

/// A supply that sags below what the coil holds with lets the valve go: that is the safe way, and no stop of its own.
TEST(Outputs, AValveLetsGoWhenItsVoltageSinks)
{
    Dossier d = press();
    test::Bench b(*compile(d.circuit));
    b.to(0.5).tap("S3").to(4.0);
    ASSERT_TRUE(b.is("Y1", "driven"));
    for (const char* line : {"G0.L1", "G0.L2", "G0.L3"})
        b.set(line, 0.0);
    b.to(8.0);
    EXPECT_TRUE(b.is("Y1", "at_rest"));
    EXPECT_TRUE(b.is("E1", "turning")) << "still hot";
    b.to(12.0);
    EXPECT_TRUE(b.is("E1", "at_rest"));
}

/// A monitor that watches the sequence stops the motor when two lines are exchanged.
TEST(OtherTriggers, TwoLinesExchanged)
{
    Dossier d = patterns::machine(*patterns::MachinePlan::from(test::Words{"monitor=voltage"}))->dossier;
    Scenario s;
    s.id = {9000};
    s.name = "Lines exchanged while running";
    s.lengthS = 40;
    s.steps = {{2.0, "operate", "S2", 0.6}, {15.0, "exchange", "G0", 0.0}};
    d.scenarios.push_back(s);
    SafetyFunction f;
    f.id = {9001};
    f.name = "Sequence";
    f.trigger = {d.circuit.device("G0")->id, "exchange"};
    f.mustRest = {d.circuit.device("M1")->id};
    f.demandScenario = s.id;
    const Plant plant = *compile(d.circuit);
    const auto triggers = possibleTriggers(plant);
    EXPECT_NE(std::find(triggers.begin(), triggers.end(), f.trigger), triggers.end());
    const auto run = stopRun(d, f, Timing::Nominal);
    ASSERT_TRUE(run) << run.error().message.id;
    EXPECT_EQ(run->actuators[0].category, 0);
    EXPECT_TRUE(run->actuators[0].stops);
    const auto swept = faults::sweep(d, f, {});
    ASSERT_TRUE(swept) << swept.error().message.id;
    const auto lost = [&](std::string_view id) {
        for (std::size_t k = 0; k < swept->faults.size(); ++k)
            if (swept->faults[k].id == id)
                return swept->outcomes[k].overall == faults::Outcome::Lost;
        ADD_FAILURE() << id << " was not tried";
        return false;
    };
    EXPECT_TRUE(lost("B1/relay:stays_in")) << "then nothing sees it";
    EXPECT_TRUE(lost("Q1/main:welded"));
    EXPECT_FALSE(lost("P1/lamp:open"));
}

/// A controller's enabling signal, a thermostat, a pressure switch: that it goes demands the stop.
TEST(OtherTriggers, ASignalFromElsewhereThatGoes)
{
    Dossier d = patterns::machine(*patterns::MachinePlan::from(test::Words{"operation=hand_off_auto"}))->dossier;
    const Scenario* called = d.scenario("Called from outside");
    ASSERT_TRUE(called);
    SafetyFunction f;
    f.id = {9001};
    f.name = "Enabling signal";
    f.trigger = {d.circuit.device("B5")->id, "end_call"};
    f.mustRest = {d.circuit.device("M1")->id};
    f.demandScenario = called->id;
    const auto triggers = possibleTriggers(*compile(d.circuit));
    EXPECT_NE(std::find(triggers.begin(), triggers.end(), f.trigger), triggers.end());
    EXPECT_EQ(
        std::find(triggers.begin(), triggers.end(), Trigger{d.circuit.device("S0")->id, "unlatch"}), triggers.end())
        << "nobody demands a stop by unlatching";
    const auto run = stopRun(d, f, Timing::Nominal);
    ASSERT_TRUE(run) << run.error().message.id;
    EXPECT_EQ(run->actuators[0].category, 0);
    const auto swept = faults::sweep(d, f, {});
    ASSERT_TRUE(swept) << swept.error().message.id;
    for (std::size_t k = 0; k < swept->faults.size(); ++k)
        if (swept->faults[k].id == "Q1/main:welded" || swept->faults[k].id == "B5/13-14:welded")
            EXPECT_EQ(swept->outcomes[k].overall, faults::Outcome::Lost) << swept->faults[k].id;
}

} // namespace
} // namespace ts
