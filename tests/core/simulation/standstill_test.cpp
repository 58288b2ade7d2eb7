// A standstill monitor sees what a motor induces, a key switch wants its key, a relay's lights tell their codes: each
// against what can be worked out by hand.

#include "tests/support/watched_motor.h"

#include "core/simulation/induced.h"
#include "core/simulation/motion.h"
#include "core/simulation/safety_relay.h"

#include <cmath>
#include <numbers>

namespace ts {
namespace {

using test::atItsLeads;
using test::Bench;
using test::CircuitBuilder;
using test::kDelayS;
using test::kSynchronousRadPerS;
using test::kThresholdV;
using test::watchedMotor;
using test::word;
using Words = std::vector<std::string>;

double speedAt(const Bench& b, TimeNs when)
{
    Trace trace;
    Workspace workspace;
    State s = initialState(b.plant());
    std::vector<Stimulus> script;
    for (const Event& e : b.trace().events)
        if (e.why == Why::Operated) {
            Stimulus x;
            x.at = e.at;
            x.slot = e.slot;
            x.target = static_cast<std::uint8_t>(e.to);
            script.push_back(x);
        }
    advance(b.plant(), s, script, {when}, trace, workspace);
    return observe(b.plant(), s).motors[0].speedRadPerS;
}

TimeNs whenMode(const Bench& b, int mode)
{
    TimeNs when = -1;
    for (const Event& e : b.trace().events)
        if (e.why == Why::LogicMode && e.to == mode)
            when = e.at;
    return when;
}

TEST(Standstill, IsToldWhereRemanenceComesToTheThreshold)
{
    Bench b(atItsLeads(watchedMotor()).plant());
    b.to(3.0);
    EXPECT_TRUE(b.is("B4", "sees_standstill")) << "it stood all the time";
    EXPECT_TRUE(b.is("B4", "in"));
    b.act("S1", "turn_to_on").to(6.0);
    EXPECT_TRUE(b.is("B4", "sees_turning"));
    EXPECT_TRUE(b.is("B4", "out"));
    b.act("S1", "turn_to_off").to(7.0);
    EXPECT_TRUE(b.is("B4", "out")) << "it runs down";
    b.to(120.0);
    EXPECT_TRUE(b.is("B4", "in"));
    // By hand: 0.5 % of 400 V at synchronous speed is 2 V, so 0.5 V at a quarter of it; then the delay.
    const TimeNs still = whenMode(b, 2), told = whenMode(b, 3);
    EXPECT_NEAR(speedAt(b, still), kSynchronousRadPerS / 4, 0.01);
    EXPECT_NEAR(secondsOf(told - still).si(), kDelayS, 1e-6);
    EXPECT_NEAR(stillBelowRadPerS(b.plant().motors[0].data, kThresholdV), kSynchronousRadPerS / 4, 1e-6);
}

TEST(Standstill, IsNotToldWithALeadOffOrWithoutSupply)
{
    Bench off(watchedMotor().wire("M1:U1", "B4:L1").wire("M1:V1", "B4:L2").plant());
    off.to(10.0);
    EXPECT_TRUE(off.is("B4", "lead_open"));
    EXPECT_TRUE(off.is("B4", "out"));
    Bench broken(atItsLeads(watchedMotor()).plant());
    broken.to(3.0);
    EXPECT_TRUE(broken.is("B4", "in"));
    broken.fault("B4/tap L1:open").to(4.0);
    EXPECT_TRUE(broken.is("B4", "lead_open"));
    EXPECT_TRUE(broken.is("B4", "out"));
    Bench dark(atItsLeads(watchedMotor()).plant());
    const Circuit circuit = atItsLeads(watchedMotor()).circuit();
    const auto feeder = std::find_if(circuit.wires.begin(), circuit.wires.end(),
        [&circuit](const Wire& w) { return circuit.nameOf(w.to) == "B4:A1"; });
    ASSERT_NE(feeder, circuit.wires.end());
    dark.to(3.0).fault("wire/" + std::to_string(feeder->id.value) + ":open").to(4.0);
    EXPECT_TRUE(dark.is("B4", "unpowered"));
    EXPECT_TRUE(dark.is("B4", "out"));
}

TEST(Standstill, TwoLeadsTogetherReadAsStanding)
{
    // A short between its leads is nothing that this monitor notices: with two taps that see the same lead it tells
    // standstill as soon as the third one, too, sees no voltage.
    Bench b(atItsLeads(watchedMotor({{"load_inertia_x", 50.0}})).plant());
    b.to(1.0).act("S1", "turn_to_on").to(20.0).act("S1", "turn_to_off").to(21.0);
    EXPECT_TRUE(b.is("B4", "sees_turning"));
    b.fault("B4:L1+B4:L2:short").fault("B4:L2+B4:L3:short").to(23.0);
    EXPECT_TRUE(b.is("B4", "sees_standstill")) << "while it turns";
    EXPECT_GT(b.frame().motors[0].speedRadPerS, 10.0);
}

TEST(Standstill, OfSixEndsOneWindingIsWatched)
{
    CircuitBuilder b = watchedMotor({{"connection", word("delta")}});
    b.wire("M1:U2", "M1:V1").wire("M1:V2", "M1:W1").wire("M1:W2", "M1:U1");
    EXPECT_TRUE(Bench(atItsLeads(b).plant()).to(3.0).is("B4", "sees_standstill")) << "joined in delta";
    // In star-delta the ends lie apart while nothing is in: only both ends of one winding lead anywhere.
    EXPECT_TRUE(Bench(atItsLeads(watchedMotor({{"connection", word("delta")}})).plant()).to(3.0).is("B4", "lead_open"));
    CircuitBuilder one;
    const Circuit apart = watchedMotor({{"connection", word("delta")}}).circuit();
    for (const Device& d : apart.devices) {
        ParameterMap p = d.parameters;
        if (d.tag == "B4")
            p["leads"] = word("two");
        one.device(d.tag, d.kind, p);
    }
    one.wire("G1:+", "B4:A1").wire("B4:A2", "G1:-").wire("M1:U1", "B4:L1").wire("M1:U2", "B4:L2");
    EXPECT_TRUE(Bench(one.plant()).to(3.0).is("B4", "sees_standstill"));
}

TEST(Standstill, RemanenceIsWeakestAtItsLimit)
{
    const Circuit circuit = atItsLeads(watchedMotor()).circuit();
    const auto shareAt = [&](Timing timing) { return compile(circuit, timing)->motors[0].data.remanentShare; };
    EXPECT_DOUBLE_EQ(shareAt(Timing::Nominal), 0.005);
    EXPECT_DOUBLE_EQ(shareAt(Timing::Fast), 0.001) << "the monitor tells it at five times the speed";
}

TEST(ResidualVoltage, FallsByTheRotorsOpenTimeConstant)
{
    const Plant plant = watchedMotor().plant();
    const MotorElement& m = plant.motors[0].data;
    const network::MotorCircuit& c = m.circuit;
    const double openS = (c.xm + c.xa) / (2 * std::numbers::pi * 50 * c.ra);
    EXPECT_GT(openS, 0.1);
    EXPECT_LT(openS, 3.0);
    EXPECT_NEAR(residualV(m, 50, kSynchronousRadPerS, 0), 400, 1e-9) << "right after it was switched off";
    EXPECT_NEAR(residualV(m, 50, kSynchronousRadPerS / 2, openS), 200 / std::numbers::e, 1e-6);
    EXPECT_NEAR(residualV(m, 50, kSynchronousRadPerS, 100 * openS), 2, 1e-9) << "what the iron keeps";
    EXPECT_EQ(residualV(m, 50, 0, openS), 0);
}

TEST(KeySwitch, TurnsWithItsKeyAndKeepsItMeanwhile)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "key_switch", {{"contacts", Words{"13-14/on"}}})
        .device("P1", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "S1:13").wire("S1:14", "P1:X1").wire("P1:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "turn_to_on").to(0.3);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("S1", "take_key").to(0.5);
    EXPECT_TRUE(bench.is("P1", "lit")) << "it does not come out here";
    bench.act("S1", "insert_key").to(0.6).act("S1", "turn_to_off").to(0.8).act("S1", "take_key").to(1.0);
    bench.act("S1", "turn_to_on").to(1.2);
    EXPECT_TRUE(bench.is("P1", "dark")) << "nobody turns it without the key";
}

TEST(ExposedPart, IsJoinedToEarthByItsConductorAlone)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}}).device("U1", "exposed_part");
    EXPECT_EQ(b.circuit().devices.size(), 2u);
    Bench bench(b.wire("U1:PE", "G0:PE").plant());
    bench.to(0.1);
    EXPECT_NEAR(std::abs(bench.voltage("U1:PE", "G0:PE")), 0, 1e-9);
}

SafetyRelayLogic twoChannels()
{
    SafetyRelayLogic sheet;
    sheet.channel2 = 1;
    return sheet;
}

TEST(RelayLights, BlinkWhereAPersonIsToDoSomething)
{
    RelayWord w;
    EXPECT_EQ(lightsOf(twoChannels(), w).supply, Light::Off);
    w.powered = w.channel1 = true;
    RelayLights l = lightsOf(twoChannels(), w);
    EXPECT_EQ(l.supply, Light::Steady);
    EXPECT_EQ(l.channel1, Light::Steady);
    EXPECT_EQ(l.channel2, Light::Blinking) << "this one is missing";
    EXPECT_EQ(l.fault, Light::Blinking);
    w.lockedOut = true;
    EXPECT_EQ(lightsOf(twoChannels(), w).fault, Light::Steady);
    w = {};
    w.powered = w.channel1 = w.channel2 = w.ready = true;
    l = lightsOf(twoChannels(), w);
    EXPECT_EQ(l.fault, Light::Off);
    EXPECT_EQ(l.reset, Light::Blinking);
    w.ready = false;
    w.delayed = true;
    EXPECT_EQ(lightsOf(twoChannels(), w).outputs, Light::Blinking) << "only the delayed ones are on";
}

TEST(SafetyController, SaysThatItHasNoConfigurationAndHowManyModulesItsBusTakes)
{
    const auto with = [](ParameterMap p) {
        CircuitBuilder b;
        b.device("G1", "supply_external_24v").device("K1", "safety_controller", std::move(p));
        for (const auto& [from, to] : {std::pair{"G1:+", "K1:A1"}, {"K1:A2", "G1:-"}, {"K1:1.S11", "K1:1.S12"},
                 {"K1:1.S21", "K1:1.S22"}, {"K1:S33", "K1:S34"}})
            b.wire(from, to);
        return b;
    };
    EXPECT_TRUE(Bench(with({{"reset", word("automatic")}}).plant()).to(2.0).is("K1", "outputs_on"));
    Bench unset(with({{"reset", word("automatic")}, {"configured", false}}).plant());
    unset.to(2.0);
    EXPECT_TRUE(unset.is("K1", "outputs_off"));
    EXPECT_TRUE(unset.is("K1", "fault_blinks"));
    EXPECT_TRUE(unset.is("K1", "supply_blinks"));
    const auto full = compile(with({{"input_modules", 3.0}, {"bus_limit", 3.0}}).circuit());
    ASSERT_FALSE(full);
    EXPECT_EQ(full.error().message.id, "kind.bus_full");
}

} // namespace
} // namespace ts
