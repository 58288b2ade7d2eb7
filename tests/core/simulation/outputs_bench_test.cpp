// A valve and a heater on the bench: what they do when they are fed, broken, half fed, and let go.

#include "tests/support/circuits.h"

#include <array>
#include <cmath>

namespace ts {
namespace {

using test::word;

test::CircuitBuilder valveAndHeater()
{
    test::CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("G2", "supply_single_phase", {{"voltage_v", 230.0}})
        .device("S1", "selector",
            {{"positions", std::vector<std::string>{"off", "on"}},
                {"contacts", std::vector<std::string>{"13-14/on", "23-24/on"}}});
    b.device("Y1", "solenoid",
        {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"coil_power_w", 8.0}, {"acts_in_s", 0.05},
            {"rests_in_s", 0.08}});
    b.device("E1", "heater",
        {{"rated_voltage_v", 230.0}, {"rated_power_w", 1000.0}, {"heats_in_s", 2.0}, {"cools_in_s", 30.0}});
    b.wire("G1:+", "S1:13").wire("S1:14", "Y1:A1").wire("Y1:A2", "G1:-");
    b.wire("G2:L", "S1:23").wire("S1:24", "E1:1").wire("E1:2", "G2:N");
    return b;
}

class OnTheBench : public ::testing::Test {
protected:
    test::Bench b{valveAndHeater().plant()};
    std::string state(const char* tag)
    {
        return b.is(tag, "driven") ? "acts" : b.is(tag, "turning") ? "goes to rest" : "at rest";
    }
};

TEST_F(OnTheBench, BothActAfterTheirTimesAndComeToRestAfterTheirs)
{
    EXPECT_EQ(state("Y1") + ", " + state("E1"), "at rest, at rest");
    b.to(1.0).act("S1", "turn_to_on").to(1.04);
    EXPECT_EQ(state("Y1"), "at rest") << "50 ms";
    b.to(1.1);
    EXPECT_EQ(state("Y1"), "acts");
    EXPECT_EQ(state("E1"), "at rest") << "2 s";
    b.to(4.0);
    EXPECT_EQ(state("E1"), "acts");
    b.to(10.0).act("S1", "turn_to_off").to(10.05);
    EXPECT_EQ(state("Y1"), "goes to rest");
    b.to(10.2);
    EXPECT_EQ(state("Y1"), "at rest");
    b.to(39.0);
    EXPECT_EQ(state("E1"), "goes to rest") << "still hot";
    b.to(41.0);
    EXPECT_EQ(state("E1"), "at rest");
}

TEST_F(OnTheBench, AnArmatureThatSticksStaysWithoutPower)
{
    b.to(1.0).act("S1", "turn_to_on").to(2.0).fault("Y1/armature:stuck_in").act("S1", "turn_to_off").to(5.0);
    EXPECT_EQ(state("Y1"), "goes to rest") << "it never arrives";
    EXPECT_TRUE(b.is("Y1", "in"));
}

TEST_F(OnTheBench, ABrokenCoilActsNeverAShortedOneNeither)
{
    b.to(0.5).fault("Y1/coil:open").to(1.0).act("S1", "turn_to_on").to(3.0);
    EXPECT_EQ(state("Y1"), "at rest");
    test::Bench shorted{valveAndHeater().plant()};
    shorted.to(0.5).fault("Y1/coil:shorted").to(1.0).act("S1", "turn_to_on").to(3.0);
    EXPECT_TRUE(shorted.is("Y1", "at_rest"));
}

TEST_F(OnTheBench, AnArmatureStuckOutActsNever)
{
    b.to(0.5).fault("Y1/armature:stuck_out").to(1.0).act("S1", "turn_to_on").to(3.0);
    EXPECT_EQ(state("Y1"), "at rest");
}

/// A resistance does not ask for its rated voltage: at a half it still has a quarter of its power.
TEST_F(OnTheBench, AHeaterIsHotAtHalfItsVoltageAndNotAtATwentieth)
{
    b.to(1.0).act("S1", "turn_to_on").to(5.0).set("G2.L", 0.5).to(60.0);
    EXPECT_EQ(state("E1"), "acts");
    b.set("G2.L", 0.05).to(61.0);
    EXPECT_EQ(state("E1"), "goes to rest");
    b.to(92.0);
    EXPECT_EQ(state("E1"), "at rest");
}

/// A heater on three lines behind a selector's contacts, in star without a wire at its star point, or in delta.
test::Bench onThreeLines(const char* connection)
{
    test::CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}, {"frequency_hz", 50.0}, {"earthing", word("tn_s")}})
        .device("F1", "fuse", {{"poles", 3.0}, {"rated_current_a", 16.0}})
        .device("E1", "heater_three_phase",
            {{"rated_voltage_v", 400.0}, {"rated_power_w", 6000.0}, {"connection", word(connection)},
                {"heats_in_s", 1.0}, {"cools_in_s", 10.0}});
    b.wire("G0:L1", "F1:1").wire("G0:L2", "F1:3").wire("G0:L3", "F1:5");
    b.wire("F1:2", "E1:U").wire("F1:4", "E1:V").wire("F1:6", "E1:W");
    return test::Bench{b.plant()};
}

/// The current of each line at its fuse.
std::array<double, 3> linesOf(test::Bench& b)
{
    std::array<double, 3> amperes{};
    std::size_t k = 0;
    const Frame frame = b.frame();
    for (std::size_t l = 0; l < b.plant().links.size(); ++l)
        if (const PlantLink& link = b.plant().links[l]; link.device == b.plant().deviceIndex("F1") && k < 3)
            amperes[k++] = frame.links[l].rmsA();
    return amperes;
}

/// 6 kW at 400 V: 8.66 A in each line, in star as in delta.
TEST(OnThreeLines, AHeaterTakesItsPowerFromAllThree)
{
    for (const char* connection : {"star", "delta"}) {
        test::Bench b = onThreeLines(connection);
        b.to(5.0);
        EXPECT_TRUE(b.is("E1", "driven")) << connection;
        for (double a : linesOf(b))
            EXPECT_NEAR(a, 6000.0 / (std::sqrt(3.0) * 400.0), 0.05) << connection;
    }
}

/// One line lost: in star two elements in series at 400 V, half the power; in delta one at 400 V beside two in series,
/// half as well. Two lost: without a star point nothing flows, and it cools.
TEST(OnThreeLines, AHeaterGoesOnWithoutOneLineAndStopsWithoutTwo)
{
    for (const char* connection : {"star", "delta"}) {
        test::Bench b = onThreeLines(connection);
        b.to(5.0).fault("G0/L3:lost").to(60.0);
        EXPECT_TRUE(b.is("E1", "driven")) << connection << ": it stays hot";
        EXPECT_NEAR(linesOf(b)[0], 7.5, 0.05) << connection;
        EXPECT_NEAR(linesOf(b)[1], 7.5, 0.05) << connection;
        EXPECT_NEAR(linesOf(b)[2], 0.0, 0.05) << connection;
        b.fault("G0/L2:lost").to(61.0);
        EXPECT_FALSE(b.is("E1", "driven")) << connection;
        b.to(75.0);
        EXPECT_TRUE(b.is("E1", "at_rest")) << connection;
    }
}

TEST(OnThreeLines, OneElementOfAHeaterIsEnoughToStayHot)
{
    test::Bench b = onThreeLines("delta");
    b.to(5.0).fault("E1/U-V:open").fault("E1/V-W:open").to(60.0);
    EXPECT_TRUE(b.is("E1", "driven"));
    b.fault("E1/W-U:open").to(61.0);
    EXPECT_FALSE(b.is("E1", "driven"));
    EXPECT_TRUE(b.is("E1", "turning")) << "it cools";
    b.to(75.0);
    EXPECT_TRUE(b.is("E1", "at_rest"));
}

TEST(OnThreeLines, AHeaterIsOneThingThatMustRest)
{
    const test::Bench b = onThreeLines("star");
    ASSERT_EQ(b.plant().actuators.size(), 1u);
    EXPECT_EQ(b.plant().actuators[0].coils.size(), 3u);
    EXPECT_EQ(b.plant().actuators[0].nodes.size(), 4u) << "three lines and the star point";
}

/// 230 V through 2 ohm of earth return: what a motor's fuse sees when its line is on its frame.
TEST(OnOneLine, AFaultToTheFrameComesBackThroughTheEarthReturn)
{
    const auto flows = [](double earthOhm) {
        test::CircuitBuilder b;
        b.device("G0", "supply_single_phase", {{"voltage_v", 230.0}, {"earth_return_ohm", earthOhm}})
            .device("F1", "fuse", {{"poles", 1.0}, {"rated_current_a", 63.0}})
            .device("M1", "motor_single_phase",
                {{"voltage_v", 230.0}, {"current_a", 2.0}, {"runs_up_in_s", 0.5}, {"runs_down_in_s", 1.0}});
        b.wire("G0:L", "F1:1").wire("F1:2", "M1:U1").wire("M1:U2", "G0:N").wire("M1:PE", "G0:PE");
        test::Bench bench{b.plant()};
        bench.to(5.0).fault("F1:2+M1:PE:short");
        return linesOf(bench)[0];
    };
    EXPECT_NEAR(flows(2.0), 115.0, 3.0) << "beside the motor's 2 A";
    EXPECT_NEAR(flows(23.0), 10.0, 2.0);
}

/// Events in the order in which power and armature go, each because of the one before it.
TEST_F(OnTheBench, TheTraceTellsPowerThenMotionWithItsCause)
{
    b.to(1.0).act("S1", "turn_to_on").to(3.0).act("S1", "turn_to_off").to(4.0);
    std::vector<Why> whys;
    const auto& events = b.trace().events;
    const int valve = b.plant().deviceIndex("Y1");
    for (const Event& e : events)
        if (e.device == valve && e.why != Why::Moved) {
            whys.push_back(e.why);
            ASSERT_GE(e.cause, 0) << "nothing comes by itself";
            EXPECT_LE(events[static_cast<std::size_t>(e.cause)].at, e.at);
        }
    EXPECT_EQ(whys, (std::vector<Why>{Why::PathChanged, Why::Turning, Why::PathChanged, Why::PowerOff, Why::AtRest}));
}

TEST_F(OnTheBench, MotorsKeepTheirSlotsAndOthersComeAfterThem)
{
    test::CircuitBuilder c = valveAndHeater();
    c.device("M1", "motor",
        {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"cos_phi", 0.75},
            {"speed_per_min", 1440.0}});
    const Plant plant = c.plant();
    ASSERT_EQ(plant.motors.size(), 1u);
    ASSERT_EQ(plant.actuators.size(), 3u);
    EXPECT_EQ(plant.deviceOfActuator(0).tag, "M1") << "although it came last";
    EXPECT_TRUE(plant.actuators[0].coils.empty());
    EXPECT_EQ(plant.actuators[0].nodes.size(), 3u);
    EXPECT_EQ(plant.actuators[1].coils.size(), 1u);
    const DeviceId valve = c.circuit().device("Y1")->id, motor = c.circuit().device("M1")->id;
    EXPECT_EQ(plant.actuatorsOf({valve, motor}),
        (std::vector<int>{plant.devices[static_cast<std::size_t>(plant.deviceIndex("Y1"))].actuator, 0}))
        << "in the order asked for";
    EXPECT_TRUE(plant.actuatorsOf({c.circuit().device("S1")->id}).empty()) << "a selector is none";
}

} // namespace
} // namespace ts
