// Motors with six ends, brakes, hanging loads, soft starters, drives, phase monitors: known answers from physics.

#include "tests/support/circuits.h"

#include <numbers>

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

ParameterMap plate(ParameterMap more = {})
{
    ParameterMap p{{"rated_power_w", 5500.0}, {"voltage_v", 400.0}, {"current_a", 11.0}, {"cos_phi", 0.83},
        {"speed_per_min", 1455.0}};
    p.merge(more);
    return p;
}
CircuitBuilder supplied()
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    return b;
}
double speedOf(Bench& b)
{
    return b.frame().motors[0].speedRadPerS;
}

TEST(SixEnds, StarTakesAThirdOfTheCurrentAndATorqueOfAThird)
{
    // Textbook: in star the winding has 1/sqrt 3 of the voltage, the line current and the torque are a third.
    const auto started = [](bool star) {
        CircuitBuilder b = supplied();
        b.device("M1", "motor", plate({{"connection", word("delta")}, {"rotor_inertia_kgm2", 50.0}})); // stands still
                                                                                                       // for a while
        b.wire("G0:L1", "M1:U1").wire("G0:L2", "M1:V1").wire("G0:L3", "M1:W1");
        if (star)
            b.wire("M1:U2", "M1:V2").wire("M1:V2", "M1:W2");
        else
            b.wire("M1:U2", "G0:L2").wire("M1:V2", "G0:L3").wire("M1:W2", "G0:L1");
        return Bench(b.plant());
    };
    Bench delta = started(false), star = started(true);
    delta.to(0.1);
    star.to(0.1);
    // Line current of delta = winding current * sqrt 3; the frame reads the current into U1, a winding's.
    const double lineDelta = delta.frame().motors[0].currentA[0] * std::numbers::sqrt3,
                 lineStar = star.frame().motors[0].currentA[0];
    EXPECT_NEAR(lineStar / lineDelta, 1.0 / 3.0, 0.01); // the source's impedance softens both a little
    EXPECT_NEAR(speedOf(star) / speedOf(delta), 1.0 / 3.0, 0.02) << "speed gained in equal time";
}

TEST(SixEnds, DeltaAtThePlateRunsAsTheSamePlateWithThreeEnds)
{
    CircuitBuilder three = supplied(), six = supplied();
    three.device("M1", "motor", plate({{"load", word("constant")}}))
        .wire("G0:L1", "M1:U1")
        .wire("G0:L2", "M1:V1")
        .wire("G0:L3", "M1:W1");
    six.device("M1", "motor", plate({{"load", word("constant")}, {"connection", word("delta")}}));
    six.wire("G0:L1", "M1:U1")
        .wire("G0:L2", "M1:V1")
        .wire("G0:L3", "M1:W1")
        .wire("M1:U2", "G0:L2")
        .wire("M1:V2", "G0:L3")
        .wire("M1:W2", "G0:L1");
    Bench a(three.plant()), b(six.plant());
    a.to(3.0);
    b.to(3.0);
    EXPECT_NEAR(speedOf(a), speedOf(b), 1e-6);
    EXPECT_GT(speedOf(a), 150.0);
}

TEST(SixEnds, WithoutABridgeNothingTurns)
{
    CircuitBuilder b = supplied();
    b.device("M1", "motor", plate({{"connection", word("delta")}}))
        .wire("G0:L1", "M1:U1")
        .wire("G0:L2", "M1:V1")
        .wire("G0:L3", "M1:W1");
    Bench bench(b.plant());
    bench.to(1.0);
    EXPECT_TRUE(bench.is("M1", "at_rest"));
}

/// Motor with brake; S1 feeds both, S2 lifts the brake alone.
CircuitBuilder braked(ParameterMap motor, double brakeNm)
{
    CircuitBuilder b = supplied();
    b.device("G1", "supply_external_24v").device("M1", "motor", plate(std::move(motor)));
    b.device("Y1", "brake", {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"torque_nm", brakeNm}});
    b.device("Q1", "contactor",
        {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"auxiliary_contacts", Words{"13-14"}}});
    b.device("S1", "selector", {{"contacts", Words{"13-14/on", "23-24/on"}}})
        .device("S2", "selector", {{"contacts", Words{"13-14/on"}}});
    b.wire("G0:L1", "Q1:1")
        .wire("G0:L2", "Q1:3")
        .wire("G0:L3", "Q1:5")
        .wire("Q1:2", "M1:U1")
        .wire("Q1:4", "M1:V1")
        .wire("Q1:6", "M1:W1");
    b.wire("G1:+", "S1:13")
        .wire("S1:14", "Q1:A1")
        .wire("Q1:A2", "G1:-")
        .wire("G1:+", "S1:23")
        .wire("S1:24", "Y1:A1")
        .wire("Y1:A2", "G1:-");
    b.wire("G1:+", "S2:13").wire("S2:14", "Y1:A1");
    return b;
}
Plant onOneShaft(const CircuitBuilder& b)
{
    Circuit c = b.circuit();
    c.shafts.push_back({c.device("Y1")->id, c.device("M1")->id});
    return *compile(c);
}

TEST(Brake, StopsInTheTimeOfInertiaOverTorque)
{
    Bench b(onOneShaft(braked({{"rotor_inertia_kgm2", 0.05}, {"load_inertia_x", 0.0}}, 40.0)));
    b.to(0.1).act("S1", "turn_to_on").to(3.0);
    const double w = speedOf(b);
    EXPECT_GT(w, 150.0);
    b.act("S1", "turn_to_off").to(10.0);
    EXPECT_TRUE(b.is("M1", "at_rest"));
    TimeNs off = 0, closed = 0, rest = 0;
    const int brake = b.plant().devices[static_cast<std::size_t>(b.plant().deviceIndex("Y1"))].movers[0];
    for (const Event& e : b.trace().events) {
        if (e.why == Why::PowerOff)
            off = e.at;
        if (e.why == Why::Moved && e.slot == brake && e.to == 0)
            closed = e.at;
        if (e.why == Why::AtRest)
            rest = e.at;
    }
    EXPECT_GT(closed, off) << "the brake needs its own time";
    // From the brake's closing to 1 % of 157 rad/s: J (w - w1) / (brake + friction); friction 0.31 N m is in it.
    const double friction = b.plant().motors[0].data.frictionNm,
                 left = w - friction * secondsOf(closed - off).si() / 0.05;
    EXPECT_NEAR(secondsOf(rest - closed).si(), 0.05 * (left - 1.57) / (40.0 + friction), 2e-3);
}

TEST(Brake, ThatDoesNotCloseLeavesTheMotorRunningDown)
{
    Bench b(onOneShaft(braked({{"rotor_inertia_kgm2", 0.05}, {"load_inertia_x", 0.0}}, 40.0)));
    b.to(0.1).act("S1", "turn_to_on").to(3.0).fault("Y1/brake:does_not_close").act("S1", "turn_to_off").to(5.0);
    EXPECT_TRUE(b.is("M1", "turning"));
    Bench weak(onOneShaft(braked({{"rotor_inertia_kgm2", 0.05}, {"load_inertia_x", 0.0}}, 40.0)));
    weak.fault("Y1/brake:torque_low").to(0.1).act("S1", "turn_to_on").to(3.0).act("S1", "turn_to_off").to(3.22);
    Bench whole(onOneShaft(braked({{"rotor_inertia_kgm2", 0.05}, {"load_inertia_x", 0.0}}, 40.0)));
    whole.to(0.1).act("S1", "turn_to_on").to(3.0).act("S1", "turn_to_off").to(3.22);
    EXPECT_GT(speedOf(weak), speedOf(whole));
}

TEST(HangingLoad, IsHeldByTheBrakeAndFallsWithoutIt)
{
    // 0.75 of 36 N m hangs on the shaft; the brake holds 40.
    Bench b(onOneShaft(braked({{"load", word("hanging")}}, 40.0)));
    b.to(1.0);
    EXPECT_TRUE(b.is("M1", "at_rest"));
    b.act("S2", "turn_to_on").to(1.5);
    EXPECT_LT(speedOf(b), -10.0) << "brake lifted without power: the load runs away backwards";
    b.act("S2", "turn_to_off").to(6.0);
    EXPECT_TRUE(b.is("M1", "at_rest")) << "and is caught again";
    b.act("S1", "turn_to_on").to(9.0);
    EXPECT_GT(speedOf(b), 140.0) << "with power it lifts";
}

TEST(HangingLoad, OverloadsABrakeThatIsTooWeak)
{
    Bench b(onOneShaft(braked({{"load", word("hanging")}}, 20.0)));
    b.to(1.0);
    EXPECT_LT(speedOf(b), -1.0);
}

CircuitBuilder softStarted(ParameterMap starter)
{
    CircuitBuilder b = supplied();
    starter.merge(ParameterMap{{"line_voltage_v", 400.0}, {"motor_current_a", 11.0}});
    b.device("G1", "supply_external_24v")
        .device("Q1", "soft_starter", std::move(starter))
        .device("M1", "motor", plate({{"load", word("fan")}}));
    b.device("S1", "selector", {{"contacts", Words{"13-14/on"}}});
    b.wire("G0:L1", "Q1:1")
        .wire("G0:L2", "Q1:3")
        .wire("G0:L3", "Q1:5")
        .wire("Q1:2", "M1:U1")
        .wire("Q1:4", "M1:V1")
        .wire("Q1:6", "M1:W1");
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-").wire("G1:+", "S1:13").wire("S1:14", "Q1:B1");
    return b;
}

TEST(SoftStarter, StartsWithAShareOfTheStartingCurrentAndEndsBridged)
{
    Bench direct([] {
        CircuitBuilder b = supplied();
        b.device("M1", "motor", plate()).wire("G0:L1", "M1:U1").wire("G0:L2", "M1:V1").wire("G0:L3", "M1:W1");
        return b.plant();
    }());
    direct.to(0.01);
    const double startA = direct.frame().motors[0].currentA[0];
    Bench b(softStarted({{"initial_voltage_pct", 40.0}, {"ramp_up_s", 4.0}}).plant());
    b.to(0.5);
    EXPECT_TRUE(b.is("Q1", "blocking") && b.is("M1", "at_rest"));
    b.act("S1", "turn_to_on").to(0.52);
    EXPECT_NEAR(b.frame().motors[0].currentA[0] / startA, 0.4, 0.06)
        << "series reactance and a locked motor do not add in phase";
    EXPECT_EQ(b.frame().motors[0].fedTerminals, 3) << "thyristors are a path";
    b.to(6.0);
    EXPECT_TRUE(b.is("Q1", "bridged"));
    EXPECT_GT(speedOf(b), 150.0);
    b.act("S1", "turn_to_off").to(6.1);
    EXPECT_EQ(b.frame().motors[0].fedTerminals, 0) << "no ramp down is set: off at once";
}

TEST(SoftStarter, WithAWeldedBypassNeverStops)
{
    Bench b(softStarted({{"ramp_up_s", 1.0}}).plant());
    b.to(0.1).act("S1", "turn_to_on").to(4.0).fault("Q1/main:welded").act("S1", "turn_to_off").to(8.0);
    EXPECT_TRUE(b.is("M1", "driven"));
}

CircuitBuilder driven(bool leadsExchanged = false)
{
    CircuitBuilder b = supplied();
    b.device("G1", "supply_external_24v")
        .device("T1", "drive", {{"line_voltage_v", 400.0}, {"ramp_up_s", 2.0}, {"ramp_down_s", 1.0}});
    b.device("M1", "motor", plate())
        .device("S1", "selector",
            {{"positions", Words{"left", "off", "right"}}, {"contacts", Words{"13-14/right", "23-24/left"}}});
    b.device("S0", "emergency_stop");
    b.wire("G0:L1", "T1:L1").wire("G0:L2", "T1:L2").wire("G0:L3", "T1:L3");
    b.wire("T1:U", leadsExchanged ? "M1:V1" : "M1:U1")
        .wire("T1:V", leadsExchanged ? "M1:U1" : "M1:V1")
        .wire("T1:W", "M1:W1");
    b.wire("G1:+", "S1:13").wire("S1:14", "T1:DI1").wire("G1:+", "S1:23").wire("S1:24", "T1:DI2").wire("T1:0V", "G1:-");
    b.wire("G1:+", "S0:11").wire("S0:12", "T1:STO1").wire("G1:+", "S0:21").wire("S0:22", "T1:STO2");
    return b;
}

TEST(Drive, FollowsItsRampsBothWays)
{
    Bench b(driven().plant());
    b.to(0.5).act("S1", "turn_to_right").to(1.5);
    EXPECT_NEAR(speedOf(b), 157.08 * (1.0 - 0.003) / 2.0, 1.0); // 2 s to synchronous speed, begun 3 ms late
    b.to(3.0);
    EXPECT_NEAR(speedOf(b), 157.08, 0.01);
    b.act("S1", "turn_to_off").to(3.5);
    EXPECT_NEAR(speedOf(b), 157.08 / 2.0, 1.0);
    EXPECT_EQ(b.frame().motors[0].fedTerminals, 3) << "it brakes under power";
    b.to(4.1);
    EXPECT_TRUE(b.is("M1", "at_rest") && b.is("T1", "ready"));
    EXPECT_EQ(b.frame().motors[0].fedTerminals, 0);
    b.act("S1", "turn_to_left").to(7.0);
    EXPECT_NEAR(speedOf(b), -157.08, 0.01);
    Bench exchanged(driven(true).plant());
    exchanged.to(0.5).act("S1", "turn_to_right").to(3.0);
    EXPECT_NEAR(speedOf(exchanged), -157.08, 0.01) << "two leads exchanged";
}

TEST(Drive, TorqueOffLetsItCoastAndStartsNothingWhenItReturns)
{
    Bench b(driven().plant());
    b.to(0.5).act("S1", "turn_to_right").to(3.0).act("S0", "press").to(3.1);
    EXPECT_EQ(b.frame().motors[0].fedTerminals, 0);
    EXPECT_GT(speedOf(b), 140.0) << "coasting, not braking";
    b.act("S0", "unlatch").to(30.0);
    EXPECT_TRUE(b.is("M1", "at_rest")) << "the run command stood all the time";
    b.act("S1", "turn_to_off").to(31.0).act("S1", "turn_to_right").to(34.0);
    EXPECT_TRUE(b.is("M1", "driven"));
    Bench one(driven().plant());
    one.to(0.5).act("S1", "turn_to_right").to(3.0).fault("S0/11-12:welded").act("S0", "press").to(3.1);
    EXPECT_EQ(one.frame().motors[0].fedTerminals, 0) << "each channel alone takes the torque away";
}

TEST(MotorProtectionSwitch, TripsOnALostPhaseAndItsAuxiliaryOpens)
{
    CircuitBuilder b = supplied();
    b.device("Q1", "motor_protection_switch", {{"setting_a", 11.0}, {"auxiliary_contacts", Words{"13-14"}}});
    b.device("M1", "motor", plate({{"load", word("constant")}}));
    b.wire("G0:L1", "Q1:1")
        .wire("G0:L2", "Q1:3")
        .wire("G0:L3", "Q1:5")
        .wire("Q1:2", "M1:U1")
        .wire("Q1:4", "M1:V1")
        .wire("Q1:6", "M1:W1");
    Bench healthy(b.plant());
    healthy.to(600.0);
    EXPECT_TRUE(healthy.is("Q1", "whole"));
    Bench b2(b.plant());
    b2.to(5.0).fault("wire/8:open").to(600.0);
    EXPECT_TRUE(b2.is("Q1", "tripped")) << "about 150 % of rated current in two lines";
}

TEST(OverloadRelay, WithAutomaticResetClosesAgainWhenCool)
{
    CircuitBuilder b = supplied();
    b.device("F2", "overload_relay", {{"setting_a", 5.0}, {"reset", word("automatic")}})
        .device("M1", "motor", plate({{"load", word("constant")}}));
    b.device("Q1", "contactor", {{"coil_voltage_v", 230.0}, {"coil_current", word("ac")}});
    b.wire("G0:L1", "Q1:1")
        .wire("G0:L2", "Q1:3")
        .wire("G0:L3", "Q1:5")
        .wire("Q1:2", "F2:1")
        .wire("Q1:4", "F2:3")
        .wire("Q1:6", "F2:5");
    b.wire("F2:2", "M1:U1")
        .wire("F2:4", "M1:V1")
        .wire("F2:6", "M1:W1")
        .wire("G0:L1", "F2:95")
        .wire("F2:96", "Q1:A1")
        .wire("Q1:A2", "G0:N");
    Bench bench(b.plant());
    bench.to(2000.0);
    int trips = 0, resets = 0;
    const int trip = bench.plant().devices[static_cast<std::size_t>(bench.plant().deviceIndex("F2"))].movers[0];
    for (const Event& e : bench.trace().events)
        if (e.why == Why::Moved && e.slot == trip)
            (e.to == 2 ? trips : resets) += 1;
    EXPECT_GE(trips, 2);
    EXPECT_GE(resets, 1) << "the motor starts again by itself: that is what such a setting does";
}

} // namespace
} // namespace ts
