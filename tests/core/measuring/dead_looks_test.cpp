// Looks at a dead panel: bands, what can be held at once, what nothing but an eye can tell; and what must hold of every
// resistance.

#include "core/measuring/dead_plan.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/simulation/state.h"
#include "tests/support/circuits.h"

#include <set>

namespace ts::measuring {
namespace {

using Texts = std::vector<std::string>;

TEST(Look, ReadingsDifferOnlyIfTheyCannotBeOne)
{
    EXPECT_FALSE(differ({0, 1, {}}, {1, 2, {}})) << "they touch";
    EXPECT_TRUE(differ({0, 1, {}}, {1.1, 2, {}}));
    EXPECT_TRUE(differ({0, 1, {}}, {kEndless, kEndless, {}}));
    EXPECT_FALSE(differ({1e6, kEndless, {}}, {kEndless, kEndless, {}}));
    EXPECT_TRUE(differ({0, 0, "Q1 in"}, {0, 0, "Q1 out"}));
    EXPECT_FALSE(differ({0, 0, "Q1 in"}, {0, 5, "Q1 in"})) << "a word is a word";
    EXPECT_TRUE(differ({0, 0, "Q1 in"}, {0, 5, {}})) << "a figure is no word";
}

TEST(Look, EachInstrumentHasItsWordAndItsUnit)
{
    std::set<std::string_view> words;
    for (int k = 0; k <= static_cast<int>(Instrument::Person); ++k)
        EXPECT_TRUE(words.insert(wordOf(static_cast<Instrument>(k))).second);
    EXPECT_EQ(unitOf(Instrument::LowOhms), "ohm");
    EXPECT_EQ(unitOf(Instrument::Stopwatch), "s");
    EXPECT_EQ(unitOf(Instrument::Eye), "");
}

TEST(Look, BandsStandInTheTableWithTheirBasis)
{
    for (const char* id : {"leads", "leads_of_low_ohm_meter", "copper", "winding_of_motor", "winding", "electronics",
             "open_from", "supply", "run_down", "current", "touch", "read", "see", "operate", "lift"})
        EXPECT_LE(bandOf(id).low, bandOf(id).high) << id;
    EXPECT_EQ(bandOf("electronics").high, kEndless);
}

TEST(Expected, IsWhatAMeterWithItsLeadsCanShow)
{
    EXPECT_EQ(expectedBy(Instrument::Ohms, figure(0)).low, 0);
    EXPECT_DOUBLE_EQ(expectedBy(Instrument::Ohms, figure(0)).high, bandOf("leads").high);
    EXPECT_DOUBLE_EQ(expectedBy(Instrument::LowOhms, figure(0)).high, bandOf("leads_of_low_ohm_meter").high);
    const Reading open = expectedBy(Instrument::Ohms, {kEndless, kEndless, {}});
    EXPECT_DOUBLE_EQ(open.low, bandOf("open_from").low) << "a meter does not show endless";
    EXPECT_EQ(open.high, kEndless);
    const Reading coil = expectedBy(Instrument::Ohms, {50, 60, {}});
    EXPECT_LT(coil.low, 50);
    EXPECT_GT(coil.high, 60);
}

Circuit builtOf(const Texts& said)
{
    return patterns::machine(*patterns::advised(said))->dossier.circuit;
}

TEST(DeadLooks, TwoThatLockOneAnotherAreNeverPushedTogether)
{
    for (const bool isLocked : {true, false}) {
        const Circuit c = builtOf(
            {"base=reversing", isLocked ? "interlock=auxiliary+mechanical" : "interlock=auxiliary"});
        const Plant plant = *compile(c);
        const auto found = deadLooksOf(c, plant);
        const bool both = std::any_of(found.states.begin(), found.states.end(), [](const DeadState& s) {
            return std::count(s.bring.begin(), s.bring.end(), "Q1 push_in")
                + std::count(s.bring.begin(), s.bring.end(), "Q2 push_in")
                == 2;
        });
        if (isLocked)
            EXPECT_FALSE(both) << "a mechanical interlock lets only one in";
        EXPECT_GT(found.looks.size(), 200u);
    }
}

TEST(DeadLooks, EachStateIsWhatItsOperationsSay)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const Plant plant = *compile(c);
    const auto rest = initialState(plant).travel;
    const auto found = deadLooksOf(c, plant);
    std::set<std::pair<Texts, std::vector<int>>> seen;
    for (const DeadState& s : found.states) {
        std::size_t moved = 0;
        for (std::size_t m = 0; m < rest.size(); ++m)
            moved += s.travel[m] != rest[m];
        EXPECT_GE(moved, s.bring.size()) << "something is operated for each word";
        if (s.bring.empty())
            EXPECT_EQ(moved, 0u);
        EXPECT_EQ(s.gone.size(), s.lifted.size());
        std::vector<int> lifted;
        for (const WireId w : s.lifted)
            lifted.push_back(w.value);
        EXPECT_TRUE(seen.insert({s.bring, lifted}).second) << "twice: " << (s.bring.empty() ? "rest" : s.bring.front());
    }
    for (const DeadLook& look : found.looks)
        EXPECT_LT(look.state, found.states.size());
}

TEST(DeadLooks, ProtectiveConductorsAreRequiredAndLow)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const Plant plant = *compile(c);
    std::size_t bonds = 0;
    for (const DeadLook& look : deadLooksOf(c, plant).looks)
        if (look.stage == Stage::Bonding) {
            ++bonds;
            EXPECT_TRUE(look.isLow);
            EXPECT_EQ(look.serves, Texts{"EN 60204-1 clause 18.2"});
        }
    EXPECT_EQ(bonds, 3u) << "terminal strip, motor and enclosure";
}

/// The heaters of an overload relay cannot be opened: only an eye sees whether a wire sits on them.
TEST(DeadLooks, PolesThatNothingOpensAreLookedAt)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const Plant plant = *compile(c);
    std::set<std::string> looked;
    for (const DeadLook& look : deadLooksOf(c, plant).looks)
        if (look.isForWires())
            looked.insert(look.a);
    EXPECT_EQ(looked, (std::set<std::string>{"F2:1", "F2:2", "F2:3", "F2:4", "F2:5", "F2:6"}));
    const int node = plant.terminals[static_cast<std::size_t>(plant.terminalIndex("F2", "1"))].node;
    EXPECT_EQ(wiresAt(plant, node, {}), 1);
    for (std::size_t w = 0; w < plant.wires.size(); ++w)
        if (plant.wires[w].p == node || plant.wires[w].q == node) {
            const MovedWire gone{static_cast<int>(w), {}};
            EXPECT_EQ(wiresSeen(plant, {"F2:1"}, {node}, {&gone, 1}).word, "F2:1 empty");
        }
    EXPECT_EQ(wiresSeen(plant, {"F2:1"}, {node}, {}).word, "F2:1 1 wire");
}

/// Rayleigh: a wire less never lowers a resistance, a short never raises one.
TEST(Resistance, GrowsWithAWireLessAndFallsWithAShort)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const Plant plant = *compile(c);
    const auto travel = initialState(plant).travel;
    const Overlay none = overlayOf(plant, {});
    Ohms right(plant, travel, none);
    for (std::size_t gone = 0; gone < plant.wires.size(); gone += 5) {
        const MovedWire missing{static_cast<int>(gone), {}};
        Ohms less(plant, travel, none, {&missing, 1});
        Overlay shorted = none;
        shorted.shorts.emplace_back(
            plant.wires[gone].p, plant.impedances[static_cast<std::size_t>(plant.coils.front().impedance)].p);
        Ohms more(plant, travel, shorted);
        for (std::size_t w = 0; w < plant.wires.size(); w += 3)
            for (const int other : {plant.wires[(w + 11) % plant.wires.size()].p, 0}) {
                const Reading r = right.between(plant.wires[w].p, other), l = less.between(plant.wires[w].p, other),
                              m = more.between(plant.wires[w].p, other);
                EXPECT_LE(r.low, r.high);
                EXPECT_GE(l.low, r.low * (1 - 1e-6));
                EXPECT_GE(l.high, r.high * (1 - 1e-6));
                EXPECT_LE(m.low, r.low * (1 + 1e-6));
                EXPECT_LE(m.high, r.high * (1 + 1e-6));
            }
    }
}

/// Between the same two points it is the same from either side, and nothing to itself.
TEST(Resistance, IsSymmetric)
{
    const Circuit c = builtOf({});
    const Plant plant = *compile(c);
    Ohms ohms(plant, initialState(plant).travel, overlayOf(plant, {}));
    for (const PlantTerminal& t : plant.terminals) {
        EXPECT_EQ(ohms.between(t.node, t.node), figure(0));
        const Reading a = ohms.between(t.node, 0), b = ohms.between(0, t.node);
        EXPECT_EQ(a.low == kEndless, b.low == kEndless);
        if (a.low < kEndless)
            EXPECT_NEAR(a.low, b.low, 1e-9 * (1 + a.low));
    }
}

TEST(DeadPlan, WhatLiftsComesBeforeWhatProvesItAgain)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const auto plan = testPlanOf(c);
    ASSERT_TRUE(plan);
    bool isPlain = false;
    for (const TestStep& s : plan->steps) {
        if (s.stage != Stage::Continuity)
            continue;
        isPlain |= s.in.lifted.empty();
        EXPECT_TRUE(s.in.lifted.empty() || !isPlain) << "a lifted end is a new chance of a mistake";
    }
}

TEST(DeadPlan, IsTheSameAgain)
{
    const Circuit c = builtOf({});
    EXPECT_EQ(*testPlanOf(c), *testPlanOf(c));
}

TEST(DeadPlan, CanBeCancelled)
{
    std::stop_source stop;
    stop.request_stop();
    EXPECT_EQ(testPlanOf(test::demoFile().dossier.circuit, {}, stop.get_token()).error().code, ErrorCode::Cancelled);
}

} // namespace
} // namespace ts::measuring
