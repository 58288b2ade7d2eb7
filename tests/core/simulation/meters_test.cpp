// A clamp around wires and a tester of the phase sequence, against what can be worked out by hand.

#include "core/simulation/meters.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

int terminal(const Plant& plant, std::string_view name)
{
    const std::size_t colon = name.find(':');
    const int t = plant.terminalIndex(name.substr(0, colon), name.substr(colon + 1));
    EXPECT_GE(t, 0) << name;
    return t;
}

/// 24 V on two resistors of 2 A and 1 A, wired from one terminal to the next.
CircuitBuilder twoLoads(double lengthM)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v", {{"source_resistance_ohm", 0.0001}})
        .device("E1", "resistor", {{"rated_voltage_v", 24.0}, {"rated_power_w", 48.0}})
        .device("E2", "resistor", {{"rated_voltage_v", 24.0}, {"rated_power_w", 24.0}});
    b.wire("G1:+", "E1:1", lengthM).wire("E1:1", "E2:1", lengthM).wire("E1:2", "G1:-").wire("E2:2", "E1:2");
    return b;
}

TEST(Clamp, ReadsEachWireAtATerminalByItself)
{
    for (const double lengthM : {0.5, 12.0}) { // a wire taken as ideal, and one with a resistance
        Bench bench(twoLoads(lengthM).plant());
        bench.to(0.1);
        const auto readings = clampAt(bench.plant(), bench.frame(), terminal(bench.plant(), "E1:1"));
        ASSERT_EQ(readings.size(), 2u) << "one comes in, one goes on";
        EXPECT_NEAR(readings[0].rmsA, 3.0, 0.1) << lengthM;
        EXPECT_NEAR(readings[1].rmsA, 1.0, 0.05) << lengthM;
        EXPECT_EQ(bench.plant().wires[static_cast<std::size_t>(readings[0].wire)].number, "4");
    }
}

TEST(Clamp, AroundNothingReadsNothing)
{
    CircuitBuilder b = twoLoads(0.5);
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(clampAt(bench.plant(), bench.frame(), terminal(bench.plant(), "S1:13")).empty());
}

TEST(Clamp, OnAMotorLineReadsWhatTheMotorTakes)
{
    Bench bench = test::runningDemo();
    const Frame frame = bench.frame();
    for (const auto& [name, k] : {std::pair{"M1:U1", 0}, {"M1:V1", 1}, {"M1:W1", 2}}) {
        const auto readings = clampAt(bench.plant(), frame, terminal(bench.plant(), name));
        ASSERT_EQ(readings.size(), 1u) << name;
        EXPECT_NEAR(readings[0].rmsA, frame.motors[0].currentA[static_cast<std::size_t>(k)], 0.02) << name;
    }
}

class Sequence : public ::testing::Test {
protected:
    PhaseSequence of(Bench& bench, const char* a, const char* b, const char* c)
    {
        const auto node = [&](const char* name) {
            return bench.plant().terminals[static_cast<std::size_t>(terminal(bench.plant(), name))].node;
        };
        return sequenceOf(bench.frame(), {node(a), node(b), node(c)});
    }
};

TEST_F(Sequence, OfAllSixOrdersThreeTurnRight)
{
    Bench bench(*compile(test::demoFile().dossier.circuit));
    bench.to(0.1);
    EXPECT_EQ(of(bench, "G0:L1", "G0:L2", "G0:L3"), PhaseSequence::Right);
    EXPECT_EQ(of(bench, "G0:L2", "G0:L3", "G0:L1"), PhaseSequence::Right);
    EXPECT_EQ(of(bench, "G0:L3", "G0:L1", "G0:L2"), PhaseSequence::Right);
    EXPECT_EQ(of(bench, "G0:L2", "G0:L1", "G0:L3"), PhaseSequence::Left);
    EXPECT_EQ(of(bench, "G0:L1", "G0:L3", "G0:L2"), PhaseSequence::Left);
    EXPECT_EQ(of(bench, "G0:L3", "G0:L2", "G0:L1"), PhaseSequence::Left);
}

TEST_F(Sequence, OfWhatIsNotThreeLinesIsNone)
{
    Bench bench(*compile(test::demoFile().dossier.circuit));
    bench.to(0.1);
    EXPECT_EQ(of(bench, "G0:L1", "G0:L1", "G0:L2"), PhaseSequence::None);
    bench.set("G0.L1", 0.0).set("G0.L2", 0.0).set("G0.L3", 0.0).to(1.0);
    EXPECT_EQ(of(bench, "G0:L1", "G0:L2", "G0:L3"), PhaseSequence::None);
}

/// A motor wired in the order that is told turns that way.
TEST_F(Sequence, AgreesWithTheMotor)
{
    for (const bool exchanged : {false, true}) {
        CircuitBuilder b;
        b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}})
            .device("M1", "motor",
                {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"cos_phi", 0.75},
                    {"speed_per_min", 1440.0}});
        b.wire("G0:L1", exchanged ? "M1:V1" : "M1:U1").wire("G0:L2", exchanged ? "M1:U1" : "M1:V1");
        b.wire("G0:L3", "M1:W1").wire("G0:PE", "M1:PE");
        Bench bench(b.plant());
        bench.to(3.0);
        const bool right = of(bench, "M1:U1", "M1:V1", "M1:W1") == PhaseSequence::Right;
        EXPECT_EQ(right, bench.frame().motors[0].speedRadPerS > 0) << exchanged;
        EXPECT_EQ(right, !exchanged);
    }
}

} // namespace
} // namespace ts
