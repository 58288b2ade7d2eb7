// Devices of the rest of the trade, each against what can be worked out by hand: enabling switch, inputs with pull-up,
// relays on any supply, small motors, extensions, resistors.

#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

/// Current through the first impedance of a device, A.
double currentOf(Bench& bench, std::string_view tag)
{
    const Frame f = bench.frame();
    for (std::size_t z = 0; z < bench.plant().impedances.size(); ++z)
        if (const int d = bench.plant().impedances[z].device;
            d >= 0 && bench.plant().devices[static_cast<std::size_t>(d)].tag == tag)
            return f.impedancesA[z];
    ADD_FAILURE() << tag;
    return 0.0;
}

int timesLit(const Bench& bench)
{
    return static_cast<int>(std::count_if(
        bench.trace().events.begin(), bench.trace().events.end(), [](const Event& e) { return e.why == Why::Lit; }));
}

TEST(EnablingSwitch, ClosesInTheMiddleOnlyAndNotOnTheWayBack)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S8", "enabling_switch", {{"contacts", Words{"13-14"}}})
        .device("P1", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "S8:13").wire("S8:14", "P1:X1").wire("P1:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("P1", "dark"));
    bench.act("S8", "hold_halfway").to(0.2);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("S8", "clench").to(0.3);
    EXPECT_TRUE(bench.is("P1", "dark")) << "a hand that clenches in fright stops it";
    bench.act("S8", "hold_halfway").to(0.5);
    EXPECT_TRUE(bench.is("P1", "dark")) << "it must be let go first";
    bench.act("S8", "release").to(0.7);
    EXPECT_EQ(timesLit(bench), 1) << "the middle is passed without closing";
    bench.act("S8", "hold_halfway").to(0.9);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("S8", "clench").to(1.0).act("S8", "release").to(1.2);
    EXPECT_EQ(timesLit(bench), 2);
    EXPECT_TRUE(bench.is("P1", "dark"));
}

TEST(ControllerInput, WithAPullUpReadsAnOpenContact)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("K1", "controller_input", {{"pull", word("up")}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.wire("G1:+", "K1:+").wire("K1:M", "G1:-").wire("K1:IN", "S1:13").wire("S1:14", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    // By hand: 24 V over 2200 and 3900 ohm.
    EXPECT_NEAR(bench.directVoltage("K1:IN", "K1:M"), 24.0 * 3900.0 / 6100.0, 0.02);
    EXPECT_TRUE(bench.is("K1", "lit")) << "on while nothing pulls it down";
    bench.act("S1", "press").to(0.2);
    EXPECT_NEAR(bench.directVoltage("K1:IN", "K1:M"), 0.0, 0.02);
    EXPECT_TRUE(bench.is("K1", "dark"));
    CircuitBuilder plain;
    plain.device("K1", "controller_input");
    EXPECT_EQ(plain.plant().terminalIndex("K1", "+"), -1);
}

/// A safety relay with both channels and a reset button, fed as said.
CircuitBuilder relayOn(const char* supply, ParameterMap supplyIs, const char* plus, const char* minus, double ratedV)
{
    CircuitBuilder b;
    b.device("G1", supply, std::move(supplyIs))
        .device("K1", "safety_relay", {{"supply_voltage_v", ratedV}, {"supply_current", word("ac_dc")}})
        .device("S1", "emergency_stop", {{"contacts", Words{"11-12", "21-22"}}})
        .device("S3", "push_button", {{"contacts", Words{"13-14"}}});
    b.wire(plus, "K1:A1").wire(minus, "K1:A2");
    b.wire("K1:S11", "S1:11").wire("S1:12", "K1:S12").wire("K1:S21", "S1:21").wire("S1:22", "K1:S22");
    b.wire("K1:S33", "S3:13").wire("S3:14", "K1:S34");
    return b;
}

bool isOn(const Bench& bench)
{
    return bench.state().relays[0].outputs;
}

TEST(SafetyRelayForAnyCurrent, WorksOnMainsAndOnDirectCurrentAlike)
{
    for (const bool mains : {true, false}) {
        CircuitBuilder b = mains ? relayOn("supply_single_phase", {{"voltage_v", 230.0}}, "G1:L", "G1:N", 230.0)
                                 : relayOn("supply_external_24v", {{"output_voltage_v", 48.0}}, "G1:+", "G1:-", 48.0);
        Bench bench(b.plant());
        bench.to(0.5);
        EXPECT_NEAR(std::abs(bench.directVoltage("K1:S11", "K1:S22")), 24.0, 0.6)
            << "its inputs live on 24 V of its own";
        EXPECT_FALSE(isOn(bench));
        bench.tap("S3").to(1.5);
        EXPECT_TRUE(isOn(bench)) << mains;
        bench.act("S1", "press").to(2.0);
        EXPECT_FALSE(isOn(bench));
        bench.act("S1", "unlatch").to(2.5).tap("S3").to(3.5);
        EXPECT_TRUE(isOn(bench));
        bench.set(mains ? "G1.L" : "G1.+", 0.0).to(4.5);
        EXPECT_FALSE(isOn(bench));
        EXPECT_NEAR(bench.directVoltage("K1:S11", "K1:S22"), 0.0, 0.1) << "without supply its inputs are dead";
        bench.set(mains ? "G1.L" : "G1.+", 1.0).to(5.5);
        EXPECT_FALSE(isOn(bench)) << "it waits for a reset";
    }
}

TEST(SafetyRelayForAnyCurrent, NoticesAShortBetweenItsChannels)
{
    Bench bench(relayOn("supply_single_phase", {{"voltage_v", 230.0}}, "G1:L", "G1:N", 230.0).plant());
    bench.to(0.5).tap("S3").to(1.5);
    ASSERT_TRUE(isOn(bench));
    bench.fault("K1:S11+K1:S21:short").to(2.0);
    EXPECT_FALSE(isOn(bench)) << "opposite polarity: the inner supply breaks down";
}

TEST(SinglePhaseMotor, TakesItsLockedCurrentUntilItRuns)
{
    CircuitBuilder b;
    b.device("G1", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("S1", "selector", {{"contacts", Words{"13-14/on"}}})
        .device("F2", "overload_relay", {{"setting_a", 2.0}, {"phase_loss_sensitive", false}})
        .device("M1", "motor_single_phase",
            {{"voltage_v", 230.0}, {"current_a", 2.0}, {"locked_rotor_ratio", 5.0}, {"runs_up_in_s", 0.5},
                {"runs_down_in_s", 3.0}});
    b.wire("G1:L", "S1:13").wire("S1:14", "F2:1").wire("F2:2", "M1:U1").wire("M1:U2", "G1:N");
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "turn_to_on").to(0.3);
    EXPECT_NEAR(currentOf(bench, "M1"), 10.0, 0.05) << "five times its rated current";
    EXPECT_FALSE(bench.is("M1", "at_rest"));
    bench.to(2.0);
    EXPECT_NEAR(currentOf(bench, "M1"), 2.0, 0.01);
    EXPECT_TRUE(bench.is("M1", "driven"));
    bench.act("S1", "turn_to_off").to(4.5);
    EXPECT_FALSE(bench.is("M1", "at_rest")) << "it runs down for three seconds";
    bench.to(5.5);
    EXPECT_TRUE(bench.is("M1", "at_rest"));
    // Held, it goes on taking five times: class 10A trips between 2 and 10 s at 7.2 times, later at five.
    bench.fault("M1/armature:stuck_out").act("S1", "turn_to_on").to(40.0);
    EXPECT_TRUE(bench.is("F2", "tripped"));
}

TEST(SinglePhaseMotor, DoesNotStartAtHalfItsVoltage)
{
    CircuitBuilder b;
    b.device("G1", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("M1", "motor_single_phase",
            {{"voltage_v", 230.0}, {"current_a", 2.0}, {"runs_up_in_s", 0.5}, {"runs_down_in_s", 3.0}});
    b.wire("G1:L", "M1:U1").wire("M1:U2", "G1:N");
    Bench bench(b.plant());
    bench.to(3.0);
    EXPECT_TRUE(bench.is("M1", "driven"));
    bench.set("G1.L", 0.4).to(9.0);
    EXPECT_TRUE(bench.is("M1", "at_rest")) << "it stalls";
    bench.set("G1.L", 0.6).to(12.0);
    EXPECT_TRUE(bench.is("M1", "at_rest")) << "what it still held it does not start";
    bench.set("G1.L", 0.9).to(15.0);
    EXPECT_TRUE(bench.is("M1", "driven"));
}

TEST(DirectCurrentMotor, TakesWhatItsArmatureLetsThroughUntilItTurns)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v", {{"source_resistance_ohm", 0.001}})
        .device("S1", "selector", {{"contacts", Words{"13-14/on"}}})
        .device("M1", "motor_dc",
            {{"voltage_v", 24.0}, {"current_a", 4.0}, {"locked_rotor_ratio", 8.0}, {"runs_up_in_s", 0.4},
                {"runs_down_in_s", 1.0}});
    b.wire("G1:+", "S1:13").wire("S1:14", "M1:A1").wire("M1:A2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "turn_to_on").to(0.3);
    EXPECT_NEAR(currentOf(bench, "M1"), 32.0, 0.1);
    bench.to(1.0);
    EXPECT_NEAR(currentOf(bench, "M1"), 4.0, 0.01);
    EXPECT_TRUE(bench.is("M1", "driven"));
    bench.act("S1", "turn_to_off").to(3.0);
    EXPECT_TRUE(bench.is("M1", "at_rest"));
    EXPECT_NEAR(currentOf(bench, "M1"), 0.0, 1e-6);
}

TEST(RelayExtension, OpensWithOneRelayStuckAndShowsIt)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "selector", {{"contacts", Words{"13-14/on"}}})
        .device("K2", "relay_extension")
        .device("P1", "lamp", {{"rated_voltage_v", 24.0}})
        .device("P2", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "S1:13").wire("S1:14", "K2:A1").wire("K2:A2", "G1:-").wire("G1:+", "K2:13").wire("G1:+", "K2:51");
    b.wire("K2:14", "P1:X1").wire("P1:X2", "G1:-").wire("K2:52", "P2:X1").wire("P2:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "lit"));
    bench.act("S1", "turn_to_on").to(0.3);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "dark"));
    bench.fault("K2/armature:stuck_in").act("S1", "turn_to_off").to(0.6);
    EXPECT_TRUE(bench.is("P1", "dark")) << "the other relay opens";
    EXPECT_TRUE(bench.is("P2", "dark")) << "and the signalling contact keeps the reset from coming";
}

TEST(Resistor, TakesWhatOhmSays)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v", {{"source_resistance_ohm", 0.0001}})
        .device("E1", "resistor", {{"rated_voltage_v", 24.0}, {"rated_power_w", 48.0}});
    b.wire("G1:+", "E1:1").wire("E1:2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_NEAR(currentOf(bench, "E1"), 2.0, 1e-3);
    bench.fault("E1/resistor:open").to(0.2);
    EXPECT_NEAR(currentOf(bench, "E1"), 0.0, 1e-6);
}

} // namespace
} // namespace ts
