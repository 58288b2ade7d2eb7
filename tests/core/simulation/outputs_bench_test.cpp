// A valve and a heater on the bench: what they do when they are fed, broken, half fed, and let go.

#include "tests/support/circuits.h"

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
    EXPECT_EQ(plant.actuators[0].coil, -1);
    EXPECT_EQ(plant.actuators[0].nodes.size(), 3u);
    EXPECT_GE(plant.actuators[1].coil, 0);
    const DeviceId valve = c.circuit().device("Y1")->id, motor = c.circuit().device("M1")->id;
    EXPECT_EQ(plant.actuatorsOf({valve, motor}),
        (std::vector<int>{plant.devices[static_cast<std::size_t>(plant.deviceIndex("Y1"))].actuator, 0}))
        << "in the order asked for";
    EXPECT_TRUE(plant.actuatorsOf({c.circuit().device("S1")->id}).empty()) << "a selector is none";
}

} // namespace
} // namespace ts
