// Where each kind of current can come, and that a contact which only one of them can reach leaves the other's circuit
// as it is.

#include "core/simulation/circuits.h"
#include "core/simulation/motion.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

/// The whole debarker: 400 V for three motors, 24 V for all its control.
Plant debarker()
{
    return *compile(io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit);
}

std::size_t node(const Plant& plant, const char* tag, const char* marking)
{
    return static_cast<std::size_t>(plant.terminals[static_cast<std::size_t>(plant.terminalIndex(tag, marking))].node);
}

struct Solved {
    Plant plant = debarker();
    Workspace workspace;
    Electrics with(const State& state, const char* fault = nullptr)
    {
        std::vector<Fault> faults;
        if (fault)
            faults.push_back(faultFrom(plant, fault).value().fault);
        return workspace.electrics(plant, state, overlayOf(plant, faults));
    }
    int moverOf(const char* tag) const
    {
        return plant.devices[static_cast<std::size_t>(plant.deviceIndex(tag))].movers.front();
    }
    /// Everything runs.
    State running()
    {
        State state = initialState(plant);
        Trace trace;
        const auto stimuli = *stimuliOf(
            plant, io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.scenarios.front());
        const auto later = std::find_if(
            stimuli.begin(), stimuli.end(), [](const Stimulus& x) { return x.at > timeNs(seconds(8.0)); });
        advance(plant, state, {stimuli.begin(), later}, {timeNs(seconds(8.0))}, trace, workspace);
        return state;
    }
};

TEST(Reach, IsThatOfTheSupplies)
{
    const Plant plant = debarker();
    const Reaches r = reachesOf(plant, {});
    for (const char* marking : {"1", "2"}) {
        EXPECT_TRUE(r.alternating.isNode[node(plant, "Q1", marking)]);
        EXPECT_FALSE(r.direct.isNode[node(plant, "Q1", marking)]);
    }
    for (const char* marking : {"A1", "13"}) {
        EXPECT_FALSE(r.alternating.isNode[node(plant, "Q1", marking)]);
        EXPECT_TRUE(r.direct.isNode[node(plant, "Q1", marking)]);
    }
    for (std::size_t n = 1; n < r.direct.isNode.size(); ++n)
        EXPECT_TRUE(r.alternating.isNode[n] || r.direct.isNode[n]) << n;
    for (std::size_t l = 0; l < plant.links.size(); ++l) {
        const int slot = static_cast<int>(l);
        const bool isListed = std::binary_search(r.alternating.links.begin(), r.alternating.links.end(), slot)
            || std::binary_search(r.direct.links.begin(), r.direct.links.end(), slot);
        EXPECT_TRUE(isListed || (plant.links[l].p == 0 && plant.links[l].q == 0)) << l;
    }
}

TEST(Reach, OfBothWhereAShortJoinsThem)
{
    const Plant plant = debarker();
    const int live = static_cast<int>(node(plant, "Q1", "1")), coil = static_cast<int>(node(plant, "Q1", "A1"));
    const Reaches r = reachesOf(plant, {{live, coil}});
    for (int n : {live, coil}) {
        EXPECT_TRUE(r.alternating.isNode[static_cast<std::size_t>(n)]);
        EXPECT_TRUE(r.direct.isNode[static_cast<std::size_t>(n)]);
    }
    const Reaches earth = reachesOf(plant, {{0, coil}});
    EXPECT_FALSE(earth.alternating.isNode[static_cast<std::size_t>(coil)])
        << "earth has a voltage of its own: it joins nothing";
}

TEST(Reach, AControlContactLeavesThePowerCircuit)
{
    Solved s;
    const State running = s.running();
    const Electrics before = s.with(running);
    State pressed = running;
    pressed.travel[static_cast<std::size_t>(s.moverOf("S1"))] = 2;
    const Electrics button = s.with(pressed);
    EXPECT_EQ(button.alternating, before.alternating);
    EXPECT_NE(button.direct, before.direct);
    State open = running;
    ASSERT_EQ(open.travel[static_cast<std::size_t>(s.moverOf("Q1"))], 2);
    open.travel[static_cast<std::size_t>(s.moverOf("Q1"))] = 0;
    const Electrics contactor = s.with(open);
    EXPECT_NE(contactor.alternating, before.alternating);
    EXPECT_NE(contactor.direct, before.direct) << "its auxiliary contacts are in the control circuit";
    EXPECT_EQ(s.with(running).alternating, before.alternating) << "found again";
}

TEST(Reach, WhatNothingFeedsIsNoPartOfTheCircuit)
{
    Solved s;
    const State running = s.running();
    State open = running;
    open.travel[static_cast<std::size_t>(s.moverOf("Q1"))] = 0;
    const auto number = [&s](const State& state, const char* fault = nullptr) {
        return s.with(state, fault).alternating->number;
    };
    EXPECT_EQ(number(open, "Q1:2+Q1:4:short"), number(open)) << "what it joins is dead behind an open contactor";
    EXPECT_NE(number(open, "Q1:1+Q1:3:short"), number(open)) << "two lines before it";
    EXPECT_NE(number(running, "Q1:2+Q1:4:short"), number(running)) << "once it is closed";
}

TEST(Reach, AFaultChangesTheCircuitItIsIn)
{
    Solved s;
    const State running = s.running();
    const Electrics healthy = s.with(running);
    const Electrics control = s.with(running, "S1/11-12:does_not_close");
    EXPECT_EQ(control.alternating, healthy.alternating);
    EXPECT_NE(control.direct, healthy.direct);
    const Electrics power = s.with(running, "Q1/main:does_not_close");
    EXPECT_NE(power.alternating, healthy.alternating);
    const Electrics both = s.with(running, "Q1:1+Q1:A1:short");
    EXPECT_NE(both.alternating, healthy.alternating);
    EXPECT_NE(both.direct, healthy.direct);
}

TEST(Reach, MainsOnTheControlCircuitComeThrough)
{
    // A phase touches the coil's 24 V lead: the coil's terminal is at mains voltage against earth, and the pilot's is
    // not without the short.
    Solved s;
    State state = initialState(s.plant);
    const std::vector<double> slips(s.plant.motors.size(), 1.0);
    const int live = static_cast<int>(node(s.plant, "G0", "L1")), coil = static_cast<int>(node(s.plant, "Q1", "A1"));
    const Overlay shorted = overlayOf(s.plant, {{FaultMode::Short, live, coil}});
    EXPECT_GT(std::abs(solveInstant(s.plant, state, shorted, slips, s.workspace).alternatingV(coil, 0)), 100.0);
    EXPECT_LT(
        std::abs(solveInstant(s.plant, state, overlayOf(s.plant, {}), slips, s.workspace).alternatingV(coil, 0)), 1e-6);
}

} // namespace
} // namespace ts
