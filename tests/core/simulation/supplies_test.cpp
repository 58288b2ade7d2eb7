// The 24 V supply and the control transformer: current limit, hold-up, voltage drop, with sums done by hand.

#include "tests/support/circuits.h"

#include <cmath>

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;

CircuitBuilder supply(double ratedA)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("G1", "supply_24v_dc", {{"input_voltage_v", 230.0}, {"rated_current_a", ratedA}});
    b.wire("G0:L1", "G1:L").wire("G0:N", "G1:N");
    return b;
}

ParameterMap heavyCoil(double w)
{
    return {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"coil_power_w", w}};
}

TEST(DcSupply, KeepsItsVoltageUpToTheLimit)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(48.0)); // 12 ohm, 2 A
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.5);
    // 24 V * 12 / 12.01
    EXPECT_NEAR(bench.directVoltage("Q1:A1", "Q1:A2"), 24.0 * 12.0 / 12.01, 1e-9);
    EXPECT_EQ(bench.frame().converters[0], ConverterMode::Voltage);
}

TEST(DcSupply, BeyondItsLimitItIsACurrentSource)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(96.0)); // 6 ohm: 4 A would flow, the limit is 1.3 * 2.5 = 3.25 A
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.5);
    EXPECT_EQ(bench.frame().converters[0], ConverterMode::Limit);
    EXPECT_NEAR(bench.directVoltage("Q1:A1", "Q1:A2"), 3.25 * 6.0, 1e-6);
}

TEST(DcSupply, GivesTooLittleOrTooMuchWhenItFailsSo)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(48.0)); // 12 ohm behind 0.01 ohm
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.5).fault("G1/output:high").to(1.0);
    EXPECT_NEAR(bench.directVoltage("Q1:A1", "Q1:A2"), 1.3 * 24.0 * 12.0 / 12.01, 1e-9);
    bench.fault("G1/output:high", false).fault("G1/output:low").to(1.5);
    EXPECT_NEAR(bench.directVoltage("Q1:A1", "Q1:A2"), 0.5 * 24.0 * 12.0 / 12.01, 1e-9);
    bench.fault("G1/output:low", false).to(2.0);
    EXPECT_NEAR(bench.directVoltage("Q1:A1", "Q1:A2"), 24.0 * 12.0 / 12.01, 1e-9);
    EXPECT_TRUE(bench.is("Q1", "in"));
}

TEST(DcSupply, TooLowFromTheStartItPullsNothingIn)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(3.5));
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    Bench bench(b.plant());
    bench.fault("G1/output:low").to(1.0);
    EXPECT_TRUE(bench.is("Q1", "out")) << "12 V is less than 0.75 of 24 V";
}

TEST(DcSupply, ComesBackWhenTheOverloadGoes)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(3.5))
        .device("S1", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}});
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-").wire("G1:+", "S1:13").wire("S1:14", "G1:-");
    Bench bench(b.plant());
    bench.to(0.5);
    EXPECT_TRUE(bench.is("Q1", "in"));
    bench.act("S1", "press").to(1.0);
    EXPECT_TRUE(bench.is("Q1", "out")) << "a dead short leaves nothing for the coil";
    bench.act("S1", "release").to(1.5);
    EXPECT_TRUE(bench.is("Q1", "in"));
    EXPECT_EQ(bench.frame().converters[0], ConverterMode::Voltage);
}

TEST(DcSupply, HoldsUpForItsTimeAndNoLonger)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(3.5));
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    Bench dip(b.plant());
    dip.to(0.5).set("G0.L1", 0.0).to(0.515).set("G0.L1", 1.0).to(1.0);
    EXPECT_TRUE(dip.is("Q1", "in")) << "a dip of 15 ms against 20 ms of hold-up";
    for (const Event& e : dip.trace().events)
        if (e.at > timeNs(seconds(0.5)))
            EXPECT_NE(e.why, Why::Moved) << "nothing moved";
    Bench loss(b.plant());
    loss.to(0.5).set("G0.L1", 0.0).to(0.519);
    EXPECT_EQ(loss.frame().converters[0], ConverterMode::HoldUp);
    loss.to(0.521);
    EXPECT_EQ(loss.frame().converters[0], ConverterMode::Off);
    loss.to(0.6);
    EXPECT_TRUE(loss.is("Q1", "out"));
}

TEST(DcSupply, NeedsItsInputVoltage)
{
    CircuitBuilder b = supply(2.5);
    b.device("Q1", "contactor", heavyCoil(3.5));
    b.wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    Bench bench(b.plant());
    // Lowest input 0.85 * 230 V = 195.5 V; the line stands at 230.9 V.
    bench.to(0.2).set("G0.L1", 0.86).to(0.5);
    EXPECT_TRUE(bench.is("Q1", "in"));
    bench.set("G0.L1", 0.84).to(1.0);
    EXPECT_TRUE(bench.is("Q1", "out"));
}

CircuitBuilder transformer(double va)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("T1", "control_transformer", {{"rated_va", va}, {"primary_v", 400.0}, {"secondary_v", 230.0}});
    b.wire("G0:L1", "T1:1").wire("G0:L2", "T1:2").wire("T1:4", "G0:PE");
    return b;
}

TEST(ControlTransformer, GivesItsRatioWithoutLoadAndDropsUnderLoad)
{
    Bench open(transformer(100).plant());
    open.to(0.1);
    const double without = std::abs(open.voltage("T1:3", "T1:4"));
    EXPECT_NEAR(without, 230.0, 0.2); // less the drop of its own magnetising current in the supply
    CircuitBuilder b = transformer(100);
    // A lamp of 230 V and 100/230 A is rated load: resistive part of uk is 0.9 * 9 % = 8.1 %.
    b.device("P1", "lamp", {{"rated_voltage_v", 230.0}, {"rated_current_a", 100.0 / 230.0}});
    b.wire("T1:3", "P1:X1").wire("P1:X2", "T1:4");
    Bench loaded(b.plant());
    loaded.to(0.1);
    // Z_load = 1; Z_k = 0.09 (0.9 + j 0.436): |1 / (1.081 + j 0.0392)| = 0.9245
    EXPECT_NEAR(std::abs(loaded.voltage("T1:3", "T1:4")) / without, 0.9245, 0.001);
}

TEST(DcSupply, AtTheEdgeOfItsInputComesToAnEnd)
{
    // 60 W behind a transformer of 40 VA, its line taken down in small steps: somewhere the input is high enough
    // without the load and too low with it.
    CircuitBuilder b = transformer(40);
    b.device("G1", "supply_24v_dc", {{"input_voltage_v", 230.0}, {"rated_current_a", 5.0}})
        .device("Q1", "contactor", heavyCoil(60.0));
    b.wire("T1:3", "G1:L").wire("T1:4", "G1:N").wire("G1:+", "Q1:A1").wire("Q1:A2", "G1:-");
    const Plant plant = b.plant();
    int held = 0;
    for (int percent = 100; percent >= 50; percent -= 2) {
        Bench bench(plant);
        EXPECT_EQ(bench.to(0.3).set("G0.L1", percent / 100.0).pause, Pause::Reached) << percent << " %";
        EXPECT_EQ(bench.to(1.0).pause, Pause::Reached) << percent << " %";
        bool isHeldUp = false;
        for (const Event& e : bench.trace().events)
            isHeldUp = isHeldUp
                || (e.why == Why::SupplyMode && static_cast<ConverterMode>(e.to) == ConverterMode::HoldUp);
        held += isHeldUp;
    }
    EXPECT_GT(held, 0);
}

TEST(ControlTransformer, LiftsALostPhaseThroughItsWinding)
{
    // L1 lost at the supply: the winding between L1 and L2 carries L2's voltage to it.
    CircuitBuilder b = transformer(100);
    Bench bench(b.plant());
    bench.to(0.1).set("G0.L1", 0.0).to(0.2);
    EXPECT_NEAR(std::abs(bench.voltage("G0:L1", "G0:N")), 230.9, 1.0)
        << "a voltage threshold on L1 sees a healthy phase";
    EXPECT_NEAR(std::abs(bench.voltage("T1:3", "T1:4")), 0.0, 1.0);
}

TEST(ThreePhaseSupply, EarthingDecidesWhatAnEarthFaultDraws)
{
    const auto current = [](const char* earthing) {
        CircuitBuilder b;
        b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}, {"earthing", std::string(earthing)}});
        b.device("F1", "fuse", {{"rated_current_a", 63.0}});
        b.wire("G0:L1", "F1:1");
        Bench bench(b.plant());
        bench.to(0.1).fault("F1:2:to_earth").to(0.1);
        return bench.frame().links[0].rmsA();
    };
    EXPECT_GT(current("tn_s"), 1000.0);
    EXPECT_NEAR(current("tt"), 231.0 / 10.03, 0.5); // 10 ohm of earth electrode
    EXPECT_LT(current("it"), 0.001);
}

test::CircuitBuilder tapped(const char* tap, double supplyV)
{
    test::CircuitBuilder b;
    b.device("G0", "supply_single_phase", {{"voltage_v", supplyV}});
    b.device("T1", "control_transformer",
        {{"rated_va", 250.0}, {"primary_v", 400.0}, {"secondary_v", 24.0},
            {"primary_taps_v", std::vector<std::string>{"230", "400"}}});
    b.device("P1", "lamp", {{"rated_voltage_v", 24.0}, {"rated_current_a", 5.0}});
    b.wire("G0:L", std::string("T1:") + tap).wire("G0:N", "T1:0").wire("T1:3", "P1:X1").wire("P1:X2", "T1:4");
    return b;
}

TEST(Transformer, OnEitherTapGivesItsSecondaryVoltage)
{
    for (const auto& [tap, supplyV] : {std::pair{"230", 230.0}, {"400", 400.0}}) {
        test::Bench b(tapped(tap, supplyV).plant());
        b.to(0.1);
        // 5 A of 10.4 A, short-circuit voltage 6 %, nearly all resistive: 24 V less about 0.7 V; on one section of two
        // about 1.2 V.
        EXPECT_NEAR(std::abs(b.voltage("T1:3", "T1:4")), 23.1, 0.4) << tap;
    }
    test::Bench open(tapped("230", 230.0).plant());
    open.to(0.1);
    EXPECT_NEAR(std::abs(open.voltage("T1:400", "T1:0")), 400.0, 15.0)
        << "the tap that nobody uses is live all the same";
}

TEST(Transformer, OnTheWrongTapGivesTheWrongVoltage)
{
    test::Bench low(tapped("400", 230.0).plant());
    low.to(0.1);
    EXPECT_NEAR(std::abs(low.voltage("T1:3", "T1:4")), 24.0 * 230.0 / 400.0, 0.6);
    test::Bench high(tapped("230", 400.0).plant());
    high.to(0.1);
    EXPECT_NEAR(std::abs(high.voltage("T1:3", "T1:4")), 24.0 * 400.0 / 230.0, 2.5);
}

TEST(Transformer, RefusesTapsThatDoNotRiseToThePrimaryVoltage)
{
    for (const std::vector<std::string>& taps : {std::vector<std::string>{"400", "230"}, {"230"}, {"low", "400"}}) {
        test::CircuitBuilder b;
        b.device("T1", "control_transformer",
            {{"rated_va", 250.0}, {"primary_v", 400.0}, {"secondary_v", 24.0}, {"primary_taps_v", taps}});
        EXPECT_EQ(compile(b.circuit()).error().message.id, "kind.taps");
    }
}

} // namespace
} // namespace ts
