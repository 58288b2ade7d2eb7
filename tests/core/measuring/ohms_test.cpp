// Resistances by hand calculation, and what electronics hide.

#include "core/measuring/mistakes.h"
#include "core/measuring/ohms.h"
#include "core/simulation/state.h"
#include "tests/support/circuits.h"

namespace ts::measuring {
namespace {

/// Two resistors of 100 and 300 ohm in series between two buttons; a lamp beside the second one if asked for.
Circuit resistors(bool withLamp)
{
    test::CircuitBuilder b;
    b.device("G1", "supply_external_24v", {});
    b.device("S1", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}});
    b.device("Q1", "contactor", {{"coil_voltage_v", 24.0}, {"coil_current", test::word("dc")}});
    b.device("Q2", "contactor", {{"coil_voltage_v", 24.0}, {"coil_current", test::word("dc")}});
    b.wire("G1:+", "S1:13");
    b.wire("S1:14", "Q1:A1");
    b.wire("Q1:A2", "Q2:A1");
    b.wire("Q2:A2", "G1:-");
    if (withLamp) {
        b.device("P1", "lamp", {{"rated_voltage_v", 24.0}});
        b.wire("Q2:A1", "P1:X1");
        b.wire("P1:X2", "Q2:A2");
    }
    return b.circuit();
}

struct Measured3 {
    Plant plant;
    std::vector<std::uint8_t> travel;
    Overlay none;
};
Measured3 atRest(const Circuit& c)
{
    Plant plant = *compile(c);
    auto travel = initialState(plant).travel;
    Overlay none = overlayOf(plant, {});
    return {std::move(plant), std::move(travel), std::move(none)};
}
int nodeOf(const Plant& plant, const char* tag, const char* marking)
{
    return plant.terminals[static_cast<std::size_t>(plant.terminalIndex(tag, marking))].node;
}
double coilOhm(const Plant& plant)
{
    return plant.impedances[static_cast<std::size_t>(plant.coils.front().impedance)].directOhm;
}

TEST(Ohms, SeriesByHandWithTheBandsOfWindings)
{
    const auto m = atRest(resistors(false));
    Ohms ohms(m.plant, m.travel, m.none);
    const Reading both = ohms.between(nodeOf(m.plant, "Q1", "A1"), nodeOf(m.plant, "Q2", "A2"));
    const Band winding = bandOf("winding");
    EXPECT_NEAR(both.low, 2 * winding.low * coilOhm(m.plant), 1e-6);
    EXPECT_NEAR(both.high, 2 * winding.high * coilOhm(m.plant), 1e-6);
    EXPECT_EQ(ohms.between(nodeOf(m.plant, "S1", "14"), nodeOf(m.plant, "Q1", "A1")), figure(0)) << "a piece of wire";
    const Reading button = ohms.between(nodeOf(m.plant, "S1", "13"), nodeOf(m.plant, "S1", "14"));
    EXPECT_EQ(button.low, kEndless) << "open at rest, and the supply behind it is off";
}

TEST(Ohms, ALampBesideACoilMayReadAnythingButCopper)
{
    const auto m = atRest(resistors(true));
    Ohms ohms(m.plant, m.travel, m.none);
    const Reading r = ohms.between(nodeOf(m.plant, "Q2", "A1"), nodeOf(m.plant, "Q2", "A2"));
    const double lowest = 1.0 / (1.0 / (bandOf("winding").low * coilOhm(m.plant)) + 1.0 / bandOf("electronics").low);
    EXPECT_NEAR(r.low, lowest, 1e-6) << "parallel by hand";
    EXPECT_NEAR(r.high, bandOf("winding").high * coilOhm(m.plant), 1e-6) << "or as if it were not there";
}

TEST(Ohms, LowestOfSeveralEndsIsTheLowest)
{
    const auto m = atRest(resistors(false));
    Ohms ohms(m.plant, m.travel, m.none);
    const int a1 = nodeOf(m.plant, "Q1", "A1"), a2 = nodeOf(m.plant, "Q1", "A2"), s = nodeOf(m.plant, "S1", "14");
    const std::array<int, 1> from{s};
    const std::array<int, 2> to{a2, a1};
    EXPECT_EQ(ohms.lowest(from, to), figure(0));
}

/// The overlay against the edited circuit, compiled: each wiring mistake of the demo reads the same both ways.
TEST(Ohms, AnOverlayReadsAsTheEditedCircuitDoes)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const auto right = atRest(c);
    const auto mistakes = mistakesOf(c);
    ASSERT_TRUE(mistakes);
    std::size_t compared = 0;
    for (std::size_t k = 0; k < mistakes->size(); k += 7) {
        const Mistake& m = (*mistakes)[k];
        if (m.wires.empty())
            continue;
        const auto built = builtWith(c, m);
        ASSERT_TRUE(built) << m.id;
        const auto other = atRest(*built);
        Ohms overlay(right.plant, right.travel, right.none, movedIn(right.plant, m));
        Ohms edited(other.plant, other.travel, other.none);
        for (std::size_t w = 0; w < right.plant.wires.size(); w += 3) {
            const PlantWire& wire = right.plant.wires[w];
            const Reading a = overlay.between(wire.p, wire.q), b = edited.between(wire.p, wire.q);
            ++compared;
            if (a.low == kEndless || b.low == kEndless) {
                ASSERT_EQ(a.low, b.low) << m.id;
                continue;
            }
            ASSERT_NEAR(a.low, b.low, 1e-6 * (1 + b.low)) << m.id << " at " << wire.number;
        }
    }
    EXPECT_GT(compared, 1000u);
}

TEST(Mistakes, AreEachADifferentPanelOrHarmless)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const auto mistakes = mistakesOf(c);
    ASSERT_TRUE(mistakes);
    std::set<std::string> ids;
    for (const Mistake& m : *mistakes)
        EXPECT_TRUE(ids.insert(m.id).second) << m.id;
    const auto named = [&](const std::string& id) {
        const auto it = std::find_if(
            mistakes->begin(), mistakes->end(), [&id](const Mistake& m) { return m.id == id; });
        return it == mistakes->end() ? nullptr : &*it;
    };
    ASSERT_NE(named("exchanged/63/to/64/from"), nullptr) << "both ends of S1 11-12";
    EXPECT_TRUE(named("exchanged/63/to/64/from")->isHarmless) << "the contact is only turned round";
    ASSERT_NE(named("beside/63/to/S1:12"), nullptr);
    EXPECT_FALSE(named("beside/63/to/S1:12")->isHarmless) << "the contact is bridged";
    EXPECT_EQ(named("beside/75/to/P1:X2"), nullptr) << "it is there already";
    const Mistake* inverted = named("inverted/S1/11-12");
    ASSERT_NE(inverted, nullptr);
    EXPECT_EQ(builtWith(c, *inverted).error().code, ErrorCode::Refused);
    const auto plant = plantWith(c, *inverted);
    ASSERT_TRUE(plant);
    auto travel = initialState(*plant).travel;
    Ohms ohms(*plant, travel, overlayOf(*plant, {}));
    EXPECT_EQ(ohms.between(nodeOf(*plant, "S1", "11"), nodeOf(*plant, "S1", "12")).low, kEndless);
}

TEST(Mistakes, WhatJoinsTheSameIsNone)
{
    test::CircuitBuilder b; // three terminals in a chain: the other order is the same net
    b.device("G1", "supply_external_24v", {});
    for (const char* tag : {"P1", "P2"})
        b.device(tag, "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "P1:X1");
    b.wire("P1:X1", "P2:X1");
    b.wire("G1:-", "P1:X2");
    b.wire("P1:X2", "P2:X2");
    const auto mistakes = mistakesOf(b.circuit());
    ASSERT_TRUE(mistakes);
    for (const Mistake& m : *mistakes)
        if (m.kind == MistakeKind::OtherDevice)
            EXPECT_NE(m.wires.front().ends, std::nullopt);
    const Plant plant = *compile(b.circuit());
    for (const Mistake& m : *mistakes)
        EXPECT_NE(netsOf(plant, movedIn(plant, m)), netsOf(plant)) << m.id;
}

} // namespace
} // namespace ts::measuring
