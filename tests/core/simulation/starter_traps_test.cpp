// Mistakes that starters are really built with. Each shows by simulation alone; the program knows none of them.

#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using Words = std::vector<std::string>;

ParameterMap contactor(Words auxiliaries)
{
    return {
        {"coil_voltage_v", 230.0}, {"coil_current", std::string("ac")}, {"auxiliary_contacts", std::move(auxiliaries)}};
}

ParameterMap motor()
{
    return {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"cos_phi", 0.75},
        {"speed_per_min", 1440.0}};
}

/// Two contactors for two directions on one motor; control circuit is the caller's.
CircuitBuilder reversing(bool exchangeBehindQ2 = true, bool exchangeBeforeQ2 = false)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("F1", "fuse", {{"poles", 3.0}, {"rated_current_a", 16.0}});
    b.device("Q1", "contactor", contactor({"13-14", "21-22"})).device("Q2", "contactor", contactor({"13-14", "21-22"}));
    b.device("M1", "motor", motor());
    b.device("S0", "push_button", {{"contacts", Words{"11-12"}}});
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}})
        .device("S2", "push_button", {{"contacts", Words{"13-14"}}});
    b.wire("G0:L1", "F1:1").wire("G0:L2", "F1:3").wire("G0:L3", "F1:5");
    b.wire("F1:2", "Q1:1").wire("F1:4", "Q1:3").wire("F1:6", "Q1:5");
    b.wire("F1:2", exchangeBeforeQ2 ? "Q2:5" : "Q2:1")
        .wire("F1:4", "Q2:3")
        .wire("F1:6", exchangeBeforeQ2 ? "Q2:1" : "Q2:5");
    b.wire("Q1:2", "M1:U1").wire("Q1:4", "M1:V1").wire("Q1:6", "M1:W1");
    b.wire("Q2:2", exchangeBehindQ2 ? "M1:W1" : "M1:U1")
        .wire("Q2:4", "M1:V1")
        .wire("Q2:6", exchangeBehindQ2 ? "M1:U1" : "M1:W1");
    b.wire("G0:L1", "S0:11").wire("Q1:A2", "G0:N").wire("Q2:A2", "G0:N");
    return b;
}

/// Start buttons with holds, each coil past the other's opening contact. `holdBehind`: the hold joins behind it.
void wireControl(CircuitBuilder& b, bool interlock, bool holdBehind = false)
{
    for (const auto& [own, other, start] :
        {std::tuple{std::string("Q1"), std::string("Q2"), std::string("S1")}, {"Q2", "Q1", "S2"}}) {
        b.wire("S0:12", start + ":13").wire(start + ":13", own + ":13");
        if (interlock) {
            b.wire(start + ":14", other + ":21").wire(other + ":22", own + ":A1");
            b.wire(own + ":14", holdBehind ? own + ":A1" : start + ":14");
        } else {
            b.wire(start + ":14", own + ":A1").wire(own + ":14", own + ":A1");
        }
    }
}

TEST(Reversing, ProperlyWiredTurnsBothWaysAndNeverBoth)
{
    CircuitBuilder b = reversing();
    wireControl(b, true);
    Bench bench(b.plant());
    bench.to(0.1).tap("S1").to(2.0);
    EXPECT_GT(bench.frame().motors[0].speedRadPerS, 100.0);
    bench.tap("S2").to(3.0);
    EXPECT_TRUE(bench.is("Q2", "out")) << "the other direction is locked while this one runs";
    bench.tap("S0").to(20.0).tap("S2").to(23.0);
    EXPECT_LT(bench.frame().motors[0].speedRadPerS, -100.0) << "left";
    EXPECT_TRUE(bench.is("F1", "whole"));
}

TEST(Reversing, WithoutInterlockBothButtonsShortTwoLines)
{
    CircuitBuilder b = reversing();
    wireControl(b, false);
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "press").act("S2", "press").to(1.0);
    EXPECT_FALSE(bench.is("F1", "whole"));
}

TEST(Reversing, HoldBehindTheInterlockMakesBothInStable)
{
    // One button at a time never shows it.
    CircuitBuilder b = reversing();
    wireControl(b, true, true);
    Bench bench(b.plant());
    bench.to(0.1).tap("S1").to(1.0).tap("S2").to(2.0);
    EXPECT_TRUE(bench.is("Q1", "in"));
    EXPECT_TRUE(bench.is("Q2", "out"));
    // An armature pushed by hand meets a hold that asks no interlock.
    bench.act("Q2", "push_in").to(2.5).act("Q2", "let_go").to(3.0);
    EXPECT_TRUE(bench.is("Q1", "in"));
    EXPECT_TRUE(bench.is("Q2", "in")) << "both stay in by themselves";
    EXPECT_FALSE(bench.is("F1", "whole"));
}

TEST(Reversing, HoldAheadOfTheInterlockDropsOneOfBoth)
{
    CircuitBuilder b = reversing();
    wireControl(b, true, false);
    Bench bench(b.plant());
    bench.to(0.1).tap("S1").to(1.0).act("Q2", "push_in").to(1.5).act("Q2", "let_go").to(2.0);
    EXPECT_FALSE(bench.is("Q1", "in") && bench.is("Q2", "in"));
}

TEST(Reversing, PhasesExchangedOnBothSidesCancel)
{
    CircuitBuilder b = reversing(true, true);
    wireControl(b, true);
    Bench bench(b.plant());
    bench.to(0.1).tap("S2").to(2.0);
    EXPECT_GT(bench.frame().motors[0].speedRadPerS, 100.0) << "the button says left, the motor turns right";
}

TEST(Reversing, MechanicalInterlockAloneHoldsTheLosingCoilAtInrush)
{
    CircuitBuilder b = reversing();
    wireControl(b, false);
    Circuit c = b.circuit();
    c.interlocks.push_back({c.device("Q1")->id, c.device("Q2")->id});
    Bench bench(*compile(c));
    bench.to(0.1).act("S1", "press").to(0.5).act("S2", "press").to(2.0);
    EXPECT_TRUE(bench.is("Q1", "in"));
    EXPECT_FALSE(bench.is("Q2", "in")) << "the lever holds it";
    EXPECT_TRUE(bench.is("F1", "whole"));
    // Its coil stays at the impedance of an open armature: 70 VA / 230 V = 304 mA against 8 VA / 230 V = 35 mA.
    const Frame f = bench.frame();
    const auto coilA = [&](const char* tag) {
        for (std::size_t z = 0; z < bench.plant().impedances.size(); ++z)
            if (bench.plant().impedances[z].kind == PlantImpedance::Kind::Coil
                && bench.plant().devices[static_cast<std::size_t>(bench.plant().impedances[z].device)].tag == tag)
                return f.impedancesA[z];
        return 0.0;
    };
    EXPECT_NEAR(coilA("Q2"), 70.0 / 230.0, 0.01);
    EXPECT_NEAR(coilA("Q1"), 8.0 / 230.0, 0.002);
}

TEST(DirectReversal, DrawsMoreThanAStart)
{
    CircuitBuilder b = reversing();
    wireControl(b, false);
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "press").to(0.13);
    const double start = bench.frame().motors[0].currentA[0];
    bench.to(2.0).act("S0", "press").act("S1", "release").to(2.2).act("S0", "release").act("S2", "press").to(2.23);
    EXPECT_GT(bench.frame().motors[0].speedRadPerS, 50.0) << "still turning right";
    EXPECT_GT(bench.frame().motors[0].currentA[0], start) << "slip near two";
}

/// Stop, start and a hold whose place is the caller's.
CircuitBuilder selfHolding(const char* holdFrom)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("S0", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("Q1", "contactor", contactor({"13-14"}));
    b.wire("G0:L1", "S0:11")
        .wire("S0:12", "S1:13")
        .wire("S1:14", "Q1:A1")
        .wire("Q1:A2", "G0:N")
        .wire(holdFrom, "Q1:13")
        .wire("Q1:14", "Q1:A1");
    return b;
}

TEST(Hold, AheadOfStopCannotBeStopped)
{
    Bench right(selfHolding("S0:12").plant());
    right.to(0.1).tap("S1").to(1.0).act("S0", "press").to(2.0);
    EXPECT_TRUE(right.is("Q1", "out"));
    Bench wrong(selfHolding("S0:11").plant());
    wrong.to(0.1).tap("S1").to(1.0).act("S0", "press").to(2.0);
    EXPECT_TRUE(wrong.is("Q1", "in")) << "the hold goes past the stop button";
}

TEST(Stop, WithAClosingContactNeverLetsItStart)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("S0", "push_button", {{"contacts", Words{"13-14"}}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("Q1", "contactor", contactor({"13-14"}));
    b.wire("G0:L1", "S0:13").wire("S0:14", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G0:N");
    Bench bench(b.plant());
    bench.to(0.1).tap("S1").to(1.0);
    EXPECT_TRUE(bench.is("Q1", "out"));
}

TEST(Overload, InTheReturnIsBridgedByOneEarthFaultOfABondedSupply)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("F2", "overload_relay", {{"setting_a", 1.8}}).device("Q1", "contactor", contactor({}));
    b.wire("G0:L1", "Q1:A1").wire("Q1:A2", "F2:95").wire("F2:96", "G0:N");
    Bench bench(b.plant());
    bench.to(0.5).fault("Q1:A2:to_earth").act("F2", "test").to(1.0);
    EXPECT_TRUE(bench.is("F2", "tripped"));
    EXPECT_TRUE(bench.is("Q1", "in")) << "the trip contact is bridged through earth and neutral";
}

TEST(Lamp, InParallelToAnOpenContactFeedsTheCoilBackwards)
{
    // A lamp across a start button: at a sensitive coil its current is enough to hold, not to pull in.
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}}).device("Q1", "contactor", contactor({}));
    b.device("P1", "lamp", {{"rated_voltage_v", 230.0}, {"rated_current_a", 0.2}});
    b.wire("G0:L1", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G0:N").wire("G0:L1", "P1:X1").wire("P1:X2", "Q1:A1");
    Bench bench(b.plant());
    bench.to(0.5);
    EXPECT_TRUE(bench.is("Q1", "out")) << "1150 ohm in front of an inrush impedance of 756 ohm";
    bench.tap("S1").to(2.0);
    EXPECT_TRUE(bench.is("Q1", "in")) << "but in front of a hold impedance of 6.6 kohm it keeps the coil for ever";
}

TEST(OrdinaryRelay, WithAStuckArmatureKeepsBothItsCircuits)
{
    // An emergency stop by way of an ordinary relay that breaks two contactors' circuits with two of its poles.
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("S0", "emergency_stop", {{"contacts", Words{"11-12"}}});
    b.device("K1", "contactor_relay", contactor({"13-14", "23-24"}));
    b.device("Q1", "contactor", contactor({})).device("Q2", "contactor", contactor({}));
    b.wire("G0:L1", "S0:11").wire("S0:12", "K1:A1").wire("K1:A2", "G0:N");
    b.wire("G0:L1", "K1:13")
        .wire("K1:14", "Q1:A1")
        .wire("Q1:A2", "G0:N")
        .wire("G0:L1", "K1:23")
        .wire("K1:24", "Q2:A1")
        .wire("Q2:A2", "G0:N");
    Bench healthy(b.plant());
    healthy.to(0.5).act("S0", "press").to(1.0);
    EXPECT_TRUE(healthy.is("Q1", "out") && healthy.is("Q2", "out"));
    Bench stuck(b.plant());
    stuck.to(0.5).fault("K1/armature:stuck_in").act("S0", "press").to(1.0);
    EXPECT_TRUE(stuck.is("Q1", "in") && stuck.is("Q2", "in")) << "one armature, one channel";
}

} // namespace
} // namespace ts
