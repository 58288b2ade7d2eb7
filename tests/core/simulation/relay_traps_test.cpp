// Safety relays, controllers and operators' habits: what goes wrong although every part does what it says.

#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

ParameterMap contactor24(Words auxiliaries = {"13-14", "21-22"})
{
    return {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"auxiliary_contacts", std::move(auxiliaries)},
        {"mirror_contacts", true}};
}

/// One contactor behind a relay; the emergency stop's contact lies in the relay's supply, its channel is bridged.
CircuitBuilder stopInTheSupply(bool feedback)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}});
    b.device("K1", "safety_relay",
        {{"channels", Words{"S11-S12"}}, {"channel_polarity", Words{"positive"}}, {"reset", word("automatic")}});
    b.device("Q1", "contactor", contactor24());
    b.wire("G1:+", "S0:11").wire("S0:12", "K1:A1").wire("K1:A2", "G1:-").wire("K1:S11", "K1:S12");
    if (feedback)
        b.wire("K1:S33", "Q1:21").wire("Q1:22", "K1:S34");
    else
        b.wire("K1:S33", "K1:S34");
    b.wire("S0:12", "K1:13").wire("K1:14", "Q1:A1").wire("Q1:A2", "G1:-");
    return b;
}

TEST(StopInTheRelaysSupply, WithAWeldedContactorStopsNothing)
{
    Bench healthy(stopInTheSupply(false).plant());
    healthy.to(1.0);
    EXPECT_TRUE(healthy.is("Q1", "in"));
    healthy.act("S0", "press").to(2.0);
    EXPECT_TRUE(healthy.is("Q1", "out"));
    Bench welded(stopInTheSupply(false).plant());
    welded.to(1.0).fault("Q1/main:welded").act("S0", "press").to(2.0);
    EXPECT_TRUE(welded.frame().links[static_cast<std::size_t>(welded.plant().devices[2 + 1].links[0])].closed)
        << "one contactor, one weld";
    welded.act("S0", "unlatch").to(4.0);
    EXPECT_TRUE(welded.is("K1", "outputs_on")) << "and without a feedback nobody is told";
    Bench told(stopInTheSupply(true).plant());
    told.to(1.0).fault("Q1/main:welded").act("S0", "press").to(2.0).act("S0", "unlatch").to(4.0);
    EXPECT_TRUE(told.is("K1", "outputs_off")) << "the feedback refuses the reset; the motor runs all the same";
}

/// A reset circuit that begins at the channel (S12-S34) has supply only while the channel is closed.
TEST(ResetCircuit, MayBeginAtAChannel)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}});
    b.device("S3", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("K1", "safety_relay",
        {{"channels", Words{"S11-S12"}}, {"channel_polarity", Words{"positive"}}, {"reset_circuit", word("S12-S34")}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-").wire("K1:S11", "S0:11").wire("S0:12", "K1:S12");
    b.wire("K1:S12", "S3:13").wire("S3:14", "K1:S34");
    Bench bench(b.plant());
    bench.to(0.5).tap("S3").to(1.5);
    EXPECT_TRUE(bench.is("K1", "outputs_on"));
    bench.act("S0", "press").to(2.0);
    EXPECT_TRUE(bench.is("K1", "outputs_off"));
    bench.tap("S3").to(3.0);
    EXPECT_TRUE(bench.is("K1", "outputs_off")) << "the channel is open";
    bench.act("S0", "unlatch").to(3.5).tap("S3").to(4.5);
    EXPECT_TRUE(bench.is("K1", "outputs_on"));
}

TEST(DelayedOutputs, StayOnForTheirTimeAndDropWithTheSupply)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S0", "emergency_stop");
    b.device("K1", "safety_relay",
        {{"reset", word("automatic")}, {"outputs", Words{"13-14"}}, {"delayed_outputs", Words{"37-38"}},
            {"delay_s", 1.5}, {"release_time_s", 0.02}});
    b.device("P1", "lamp", {{"rated_voltage_v", 24.0}}).device("P2", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "K1:A1")
        .wire("K1:A2", "G1:-")
        .wire("K1:S11", "S0:11")
        .wire("S0:12", "K1:S12")
        .wire("K1:S21", "S0:21")
        .wire("S0:22", "K1:S22")
        .wire("K1:S33", "K1:S34");
    b.wire("G1:+", "K1:13")
        .wire("K1:14", "P1:X1")
        .wire("P1:X2", "G1:-")
        .wire("G1:+", "K1:37")
        .wire("K1:38", "P2:X1")
        .wire("P2:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(1.0);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "lit"));
    bench.act("S0", "press").to(1.05);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "lit"));
    bench.to(2.50);
    EXPECT_TRUE(bench.is("P2", "lit")) << "1 s + 3 ms + 1.5 s + 20 ms";
    bench.act("S0", "unlatch").to(2.51);
    EXPECT_TRUE(bench.is("K1", "outputs_off")) << "no new start while the delayed relays are still in";
    bench.to(2.6);
    EXPECT_TRUE(bench.is("K1", "outputs_on")) << "automatic reset, once all relays have dropped";
    bench.to(4.0).act("S0", "press").to(4.1).set("G1.+", 0.0).to(4.2);
    EXPECT_TRUE(bench.is("P2", "dark"));
}

/// Two emergency stops on two input modules.
CircuitBuilder controller()
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("S1", "emergency_stop").device("S2", "emergency_stop");
    b.device("S3", "push_button", {{"contacts", Words{"13-14"}}}).device("Q1", "contactor", contactor24());
    b.device("K1", "safety_controller", {{"input_modules", 2.0}, {"delayed_modules", 1.0}, {"delay_s", 1.0}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    for (const char* n : {"1", "2"}) {
        const std::string k = std::string("K1:") + n + ".", s = std::string("S") + n;
        b.wire(k + "S11", s + ":11").wire(s + ":12", k + "S12").wire(k + "S21", s + ":21").wire(s + ":22", k + "S22");
    }
    b.wire("K1:S33", "S3:13")
        .wire("S3:14", "Q1:21")
        .wire("Q1:22", "K1:S34")
        .wire("G1:+", "K1:13")
        .wire("K1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-");
    return b;
}

TEST(SafetyController, NeedsEveryInputModuleAndAReset)
{
    Bench b(controller().plant());
    b.to(1.0);
    EXPECT_TRUE(b.is("Q1", "out"));
    b.tap("S3").to(2.0);
    EXPECT_TRUE(b.is("Q1", "in"));
    for (const char* stop : {"S1", "S2"}) {
        b.act(stop, "press").to(b.now() + 1.0);
        EXPECT_TRUE(b.is("Q1", "out")) << stop;
        b.act(stop, "unlatch").to(b.now() + 1.0);
        EXPECT_TRUE(b.is("Q1", "out")) << "no start without reset";
        b.tap("S3").to(b.now() + 1.0);
        EXPECT_TRUE(b.is("Q1", "in")) << stop;
    }
}

TEST(SafetyController, LocksOutWhenOneChannelOfAModuleDoesNotOpen)
{
    Bench b(controller().plant());
    b.to(1.0).tap("S3").to(2.0).fault("S1/11-12:welded").act("S1", "press").to(3.0);
    EXPECT_TRUE(b.is("Q1", "out")) << "the other channel stopped it";
    b.act("S1", "unlatch").to(4.0).tap("S3").to(5.0);
    EXPECT_TRUE(b.is("Q1", "out")) << "the module does not come back";
    b.act("S2", "press").to(6.0).act("S2", "unlatch").to(7.0).tap("S3").to(8.0);
    EXPECT_TRUE(b.is("Q1", "out")) << "modules do not clear one another: each has its own memory";
}

TEST(SafetyController, RefusesMoreOutputModulesThanItsBusTakes)
{
    CircuitBuilder b;
    b.device("K1", "safety_controller", {{"output_modules", 3.0}, {"delayed_modules", 2.0}});
    EXPECT_EQ(compile(b.circuit()).error().message.id, "kind.too_many_modules");
}

/// Emergency stop straight in the coil circuit, start with hold.
CircuitBuilder straight()
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("Q1", "contactor", contactor24())
        .wire("G1:+", "S0:11")
        .wire("S0:12", "S1:13")
        .wire("S1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-");
    b.wire("S1:13", "Q1:13").wire("Q1:14", "Q1:A1");
    return b;
}

TEST(StartButton, HeldWhileTheEmergencyStopIsUnlatchedStartsAtOnce)
{
    Bench b(straight().plant());
    b.to(0.5).tap("S1").to(1.0).act("S0", "press").to(2.0).act("S1", "press").to(3.0);
    EXPECT_TRUE(b.is("Q1", "out"));
    b.act("S0", "unlatch").to(3.5);
    EXPECT_TRUE(b.is("Q1", "in")) << "unlatching itself started the machine";
}

TEST(StartButton, JammedDoesTheSame)
{
    Bench b(straight().plant());
    b.to(0.5)
        .tap("S1")
        .to(1.0)
        .fault("S1/actuator:jammed_pressed")
        .act("S0", "press")
        .to(2.0)
        .act("S0", "unlatch")
        .to(2.5);
    EXPECT_TRUE(b.is("Q1", "in"));
}

/// Selector run / inch; the inch position cuts the hold.
CircuitBuilder runInch()
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S0", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("S4", "selector", {{"positions", Words{"inch", "run"}}, {"contacts", Words{"13-14/run"}}})
        .device("Q1", "contactor", contactor24());
    b.wire("G1:+", "S0:11")
        .wire("S0:12", "S1:13")
        .wire("S1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-")
        .wire("S1:13", "S4:13")
        .wire("S4:14", "Q1:13")
        .wire("Q1:14", "Q1:A1");
    return b;
}

TEST(RunInchSelector, TurnedToRunWhileTheButtonIsHeldTurnsInchingIntoRunning)
{
    Bench inch(runInch().plant());
    inch.to(0.5).tap("S1", 0.5).to(2.0);
    EXPECT_TRUE(inch.is("Q1", "out")) << "inching stops with the button";
    inch.act("S1", "press").to(2.5).act("S4", "turn_to_run").to(3.0).act("S1", "release").to(4.0);
    EXPECT_TRUE(inch.is("Q1", "in")) << "let go, and it keeps running";
    inch.act("S4", "turn_to_inch").to(4.5);
    EXPECT_TRUE(inch.is("Q1", "out"));
}

TEST(Coil, HeldOutByAMechanicalInterlockBurnsWithinAMinuteAndASealedOneDoesNot)
{
    CircuitBuilder b;
    const ParameterMap ac{{"coil_voltage_v", 230.0}, {"coil_current", word("ac")}};
    b.device("G0", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("Q1", "contactor", ac)
        .device("Q2", "contactor", ac);
    b.device("S2", "selector", {{"contacts", Words{"13-14/on"}}});
    b.wire("G0:L", "Q1:A1").wire("Q1:A2", "G0:N").wire("G0:L", "S2:13").wire("S2:14", "Q2:A1").wire("Q2:A2", "G0:N");
    Circuit c = b.circuit();
    c.interlocks.push_back({c.device("Q1")->id, c.device("Q2")->id});
    Bench bench(*compile(c));
    bench.to(600.0);
    EXPECT_TRUE(bench.is("Q1", "in") && bench.is("Q1", "whole")) << "sealed, it may stay on for ever";
    bench.act("S2", "turn_to_on").to(605.0);
    EXPECT_TRUE(bench.is("Q2", "out") && bench.is("Q2", "whole"));
    // (70/8)^2 = 76.6 times the sealed heat; limit 3: 600 s * ln(76.6 / 73.6) = 24 s, and 3 ms of the switch.
    bench.to(623.9);
    EXPECT_TRUE(bench.is("Q2", "whole"));
    bench.to(625.0);
    EXPECT_TRUE(bench.is("Q2", "tripped")) << "burnt out";
    EXPECT_LT(bench.frame().coilShare[1], 1.1);
    bench.act("S2", "turn_to_off").to(700.0).act("S2", "turn_to_on").to(701.0);
    EXPECT_TRUE(bench.is("Q2", "tripped")) << "for good";
}

/// A relay at the far end of a control cable; its contact and its coil's core run side by side.
Bench cabled(double lengthM, bool sameCable)
{
    CircuitBuilder b;
    b.device("G0", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("S1", "selector", {{"contacts", Words{"13-14/on"}}});
    b.device("K1", "plug_in_relay", {{"coil_voltage_v", 230.0}, {"coil_current", word("ac")}});
    b.wire("G0:L", "S1:13", lengthM).wire("S1:14", "K1:A1", lengthM).wire("K1:A2", "G0:N");
    Circuit c = b.circuit();
    c.routes = {{{900}, "W1", RouteKind::Cable}, {{901}, "W2", RouteKind::Cable}};
    c.wires[0].route = {900};
    c.wires[1].route = {sameCable ? 900 : 901};
    return Bench(*compile(c));
}

TEST(LongCable, HoldsARelayByItsCapacitanceAfterTheContactHasOpened)
{
    // 0.12 uF/km, 500 m: 53.1 kohm in series with a sealed coil of 27.8 kohm at cos phi 0.75: about 0.7 Us, it holds
    // above 0.45.
    Bench b = cabled(500.0, true);
    b.to(0.1).act("S1", "turn_to_on").to(1.0);
    EXPECT_TRUE(b.is("K1", "in"));
    b.act("S1", "turn_to_off").to(3.0);
    EXPECT_TRUE(b.is("K1", "in")) << "held by the cable alone";
    EXPECT_NEAR(b.frame().coilShare[0], 27.8 / std::abs(std::complex<double>(27.8 * 0.75, 27.8 * 0.661 - 53.1)), 0.02);
    Bench apart = cabled(500.0, false);
    apart.to(0.1).act("S1", "turn_to_on").to(1.0).act("S1", "turn_to_off").to(3.0);
    EXPECT_TRUE(apart.is("K1", "out")) << "in separate cables it drops";
    Bench brief = cabled(60.0, true);
    brief.to(0.1).act("S1", "turn_to_on").to(1.0).act("S1", "turn_to_off").to(3.0);
    EXPECT_TRUE(brief.is("K1", "out"));
}

TEST(TwoFuses, InOneShortTheSmallerMeltsFirstAndTheOtherStays)
{
    CircuitBuilder b;
    b.device("G0", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("F1", "fuse", {{"rated_current_a", 16.0}})
        .device("F2", "fuse", {{"rated_current_a", 4.0}});
    b.device("X1", "terminal_block", {{"terminals", Words{"1"}}})
        .wire("G0:L", "F1:1")
        .wire("F1:2", "F2:1")
        .wire("F2:2", "X1:1", 200.0);
    Bench bench(b.plant());
    bench.to(0.5).fault("X1:1:to_earth").to(5.0);
    EXPECT_FALSE(bench.is("F2", "whole"));
    EXPECT_TRUE(bench.is("F1", "whole"));
}

} // namespace
} // namespace ts
