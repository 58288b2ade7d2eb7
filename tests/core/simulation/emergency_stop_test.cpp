// The demo's emergency stop, healthy and with single faults: it stops, and what is noticed refuses the reset.

#include "tests/support/circuits.h"

#include <map>
#include <set>

namespace ts {
namespace {

using test::Bench;
using test::runningDemo;

/// Emergency stop pressed at 4 s, at rest, unlatched at 26 s, reset and start tried.
void stopThenTryAll(Bench& b)
{
    b.act("S0", "press").to(25.0);
    EXPECT_TRUE(b.is("M1", "at_rest"));
    b.to(26.0).act("S0", "unlatch").to(26.5).tap("S3").to(28.0).tap("S2").to(29.0);
}

TEST(EmergencyStop, HealthyStopsWithinFiftyMillisecondsAndNeedsResetAndStart)
{
    Bench b = runningDemo();
    b.act("S0", "press").to(4.05);
    EXPECT_TRUE(b.is("Q1", "out"));
    EXPECT_TRUE(b.is("Q2", "out"));
    // 3 ms opening + 20 ms relay + 15 ms * 1.2 (varistor) contactor = 41 ms after the demand.
    double removedS = 0;
    for (const Event& e : b.trace().events)
        if (e.why == Why::PathChanged && e.to == 0)
            removedS = secondsOf(e.at).si() - 4.0;
    EXPECT_NEAR(removedS, 0.041, 1e-9);
    b.to(26.0).act("S0", "unlatch").to(27.0);
    EXPECT_TRUE(b.is("M1", "at_rest")) << "unlatching starts nothing";
    EXPECT_TRUE(b.is("K1", "outputs_off"));
    b.tap("S2").to(28.0);
    EXPECT_TRUE(b.is("Q1", "out")) << "start does nothing before the reset";
    b.tap("S3").to(29.0);
    EXPECT_TRUE(b.is("K1", "outputs_on"));
    EXPECT_TRUE(b.is("Q1", "out")) << "reset starts nothing";
    b.tap("S2").to(32.0);
    EXPECT_TRUE(b.is("M1", "driven"));
}

TEST(EmergencyStop, StaysLatchedWhenTheHandLeaves)
{
    Bench b = runningDemo();
    b.act("S0", "press").act("S0", "release").to(20.0);
    EXPECT_TRUE(b.is("S0", "in"));
    EXPECT_TRUE(b.is("K1", "outputs_off"));
}

class OneWeldedStopContact : public ::testing::TestWithParam<const char*> { };
TEST_P(OneWeldedStopContact, StopsThenRefusesReset)
{
    Bench b = runningDemo();
    b.fault(GetParam());
    stopThenTryAll(b);
    EXPECT_TRUE(b.is("K1", "locked_out"));
    EXPECT_TRUE(b.is("K1", "outputs_off"));
    EXPECT_TRUE(b.is("M1", "at_rest"));
}
INSTANTIATE_TEST_SUITE_P(Both, OneWeldedStopContact, ::testing::Values("S0/11-12:welded", "S0/21-22:welded"));

class OneWeldedContactor : public ::testing::TestWithParam<const char*> { };
TEST_P(OneWeldedContactor, OtherOneStopsAndResetIsRefused)
{
    Bench b = runningDemo();
    b.fault(GetParam());
    stopThenTryAll(b);
    EXPECT_TRUE(b.is("K1", "outputs_off")) << "its mirror contact keeps the reset loop open";
    EXPECT_FALSE(b.is("K1", "locked_out"));
    EXPECT_TRUE(b.is("M1", "at_rest"));
}
INSTANTIATE_TEST_SUITE_P(All, OneWeldedContactor,
    ::testing::Values("Q1/main:welded", "Q2/main:welded", "Q1/1-2:welded", "Q2/5-6:welded", "Q1/armature:stuck_in"));

TEST(EmergencyStop, ShortBetweenChannelsPullsDownTheInputsAndStops)
{
    Bench b = runningDemo();
    b.fault("K1:S12+K1:S22:short").to(5.0);
    EXPECT_TRUE(b.is("K1", "outputs_off")) << "channels of opposite polarity";
    EXPECT_FALSE(b.is("M1", "driven"));
}

TEST(EmergencyStop, BlockFallenOffIsLost)
{
    Bench b = runningDemo();
    b.fault("S0/block:fallen_off").act("S0", "press").to(6.0);
    EXPECT_TRUE(b.is("M1", "driven")) << "both contacts stay closed: nothing stops";
}

TEST(EmergencyStop, BridgedResetButtonDoesNotResetByItself)
{
    Bench b = runningDemo();
    b.act("S3", "press").act("S0", "press").to(26.0).act("S0", "unlatch").to(28.0);
    EXPECT_TRUE(b.is("K1", "outputs_off")) << "monitored reset wants an edge";
    b.act("S3", "release").to(30.0);
    EXPECT_TRUE(b.is("K1", "outputs_off")) << "an edge that was held too long is no reset";
}

TEST(Restart, DoesNotFollowReturningPower)
{
    for (const char* fault : {"", "Q1/main:welded", "Q2/main:welded"}) {
        Bench b = runningDemo();
        if (*fault)
            b.fault(fault);
        for (const char* phase : {"G0.L1", "G0.L2", "G0.L3"})
            b.set(phase, 0.0);
        b.to(20.0);
        for (const char* phase : {"G0.L1", "G0.L2", "G0.L3"})
            b.set(phase, 1.0);
        b.to(25.0);
        EXPECT_TRUE(b.is("M1", "at_rest")) << fault;
        EXPECT_TRUE(b.is("K1", "outputs_off")) << fault;
    }
}

TEST(Restart, DoesNotFollowTheReleaseOfStop)
{
    for (const char* fault : {"", "Q1/main:welded", "Q2/main:welded"}) {
        Bench b = runningDemo();
        if (*fault)
            b.fault(fault);
        b.act("S1", "press").to(20.0);
        EXPECT_TRUE(b.is("M1", "at_rest")) << fault;
        b.act("S1", "release").to(22.0);
        EXPECT_TRUE(b.is("M1", "at_rest")) << fault;
    }
}

TEST(Restart, HoldFromOneContactorOnlyWouldRestartWithThatOneWelded)
{
    // The counter-example to the demo's series hold: wire Q2's hold contact out (33 to 34 directly).
    DossierFile file = test::demoFile();
    for (Wire& w : file.dossier.circuit.wires)
        if (w.number == "33")
            w.to = {file.dossier.circuit.device("Q2")->id, "14"};
    Bench b(*compile(file.dossier.circuit));
    b.to(0.5).tap("S3").to(1.5).tap("S2").to(4.0);
    ASSERT_TRUE(b.is("M1", "driven"));
    b.fault("Q1/armature:stuck_in").act("S1", "press").to(20.0);
    EXPECT_TRUE(b.is("M1", "at_rest"));
    b.act("S1", "release").to(22.0);
    EXPECT_TRUE(b.is("M1", "driven")) << "the stuck contactor's own hold contact starts the motor again";
}

TEST(Overload, HandResetDoesNotRestart)
{
    Bench b = runningDemo();
    b.act("F2", "test").to(20.0);
    EXPECT_TRUE(b.is("M1", "at_rest"));
    EXPECT_TRUE(b.is("P3", "lit"));
    b.act("F2", "reset").to(22.0);
    EXPECT_TRUE(b.is("M1", "at_rest"));
    EXPECT_TRUE(b.is("P3", "dark"));
}

TEST(ExchangedWires, ChangeWhatTheCircuitDoes)
{
    // Stop button's and start button's door wires exchanged at the hold: 32 goes to Q1:14, 33 to Q1:13 side.
    DossierFile file = test::demoFile();
    Circuit& c = file.dossier.circuit;
    for (Wire& w : c.wires) {
        if (w.number == "35")
            w.to = {c.device("Q2")->id, "A1"};
        if (w.number == "36")
            w.to = {c.device("Q1")->id, "A1"};
    }
    Bench b(*compile(c));
    b.to(0.5).tap("S3").to(1.5).tap("S2").to(4.0);
    EXPECT_TRUE(b.is("M1", "driven"));
    bool q1OnNet36 = false;
    for (const Event& e : b.trace().events)
        if (e.why == Why::Moved && b.plant().devices[static_cast<std::size_t>(e.device)].tag == "Q1" && e.to == 2)
            q1OnNet36 = b.plant().nets[static_cast<std::size_t>(e.net)].name == "36";
    EXPECT_TRUE(q1OnNet36);
}

/// Tags of the devices along an event's chain of causes, the event's own first.
std::vector<std::string> chainOf(const test::Bench& b, int event)
{
    std::vector<std::string> tags;
    for (int i = event; i >= 0; i = b.trace().events[static_cast<std::size_t>(i)].cause)
        if (const int d = b.trace().events[static_cast<std::size_t>(i)].device; d >= 0)
            tags.push_back(b.plant().devices[static_cast<std::size_t>(d)].tag);
    return tags;
}

TEST(Causes, OfThreeMotorsThatStopTogetherAreEachMotorsOwn)
{
    const DossierFile file = *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    test::Bench b(*compile(file.dossier.circuit));
    b.to(0.5)
        .tap("S4")
        .to(1.2)
        .tap("S22")
        .to(1.6)
        .tap("S12")
        .to(2.0)
        .act("S7", "turn_to_run")
        .to(2.2)
        .tap("S2")
        .to(9.0);
    const std::size_t before = b.trace().events.size();
    b.act("S0", "press").to(30.0);
    const std::map<std::string, std::set<std::string>> own{
        {"M1", {"Q1", "Q9"}}, {"M2", {"Q3", "Q9"}}, {"M3", {"Q6", "Q9"}}};
    int seen = 0;
    for (std::size_t i = before; i < b.trace().events.size(); ++i) {
        const Event& e = b.trace().events[i];
        if (e.why != Why::AtRest)
            continue;
        ++seen;
        const auto chain = chainOf(b, static_cast<int>(i));
        const auto& contactors = own.at(chain.front());
        for (const std::string& tag : chain)
            EXPECT_TRUE(tag == chain.front() || contactors.contains(tag) || tag == "K0" || tag == "S0")
                << chain.front() << " because of " << tag;
        EXPECT_EQ(chain.back(), "S0") << chain.front();
    }
    EXPECT_EQ(seen, 3);
}

TEST(Causes, OfACoilIsTheContactThatOpenedItAndNotOneThatMovedAtTheSameInstant)
{
    test::CircuitBuilder b;
    using Words = std::vector<std::string>;
    b.device("G1", "supply_external_24v")
        .device("S1", "selector", {{"contacts", Words{"13-14/on"}}})
        .device("S2", "selector", {{"contacts", Words{"13-14/on"}}});
    for (const char* q : {"Q1", "Q2"})
        b.device(q, "contactor", {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}});
    for (const char* n : {"1", "2"})
        b.wire("G1:+", std::string("S") + n + ":13")
            .wire(std::string("S") + n + ":14", std::string("Q") + n + ":A1")
            .wire(std::string("Q") + n + ":A2", "G1:-");
    test::Bench bench(b.plant());
    bench.to(0.1).act("S1", "turn_to_on").act("S2", "turn_to_on").to(1.0);
    for (std::size_t i = 0; i < bench.trace().events.size(); ++i) {
        const Event& e = bench.trace().events[i];
        if (e.why != Why::Moved || e.to != 2)
            continue;
        const auto chain = chainOf(bench, static_cast<int>(i));
        if (chain.front() == "Q1" || chain.front() == "Q2") {
            EXPECT_EQ(chain[1], std::string("S") + chain.front().back());
        }
    }
}

} // namespace
} // namespace ts
