// The circuit as its elements see it is the circuit: every voltage and current that a run reads is that of the network
// with all its links.

#include "core/simulation/circuits.h"
#include "core/simulation/frame.h"
#include "core/simulation/motion.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <random>

namespace ts {
namespace {

struct Machine {
    explicit Machine(const char* file = "data/demo/larkspur_db2.sentry")
        : dossier(io::loadDossier(test::sourcePath(file))->dossier)
        , plant(*compile(dossier.circuit))
    {
    }
    State at(double s)
    {
        State state = initialState(plant);
        Trace trace;
        const auto stimuli = *stimuliOf(plant, dossier.scenarios.front());
        const auto later = std::find_if(
            stimuli.begin(), stimuli.end(), [s](const Stimulus& x) { return x.at > timeNs(seconds(s)); });
        advance(plant, state, {stimuli.begin(), later}, {timeNs(seconds(s))}, trace, workspace);
        return state;
    }
    Electrics with(const State& state, const char* fault)
    {
        return workspace.electrics(plant, state, overlayOf(plant, {faultFrom(plant, fault).value().fault}));
    }
    Dossier dossier;
    Plant plant;
    Workspace workspace;
};

void compare(Machine& m, const State& state, const Overlay& overlay, const std::string& what)
{
    const std::vector<double> slips = slipsAt(m.plant, state, state.now);
    const Instant seen = solveInstant(m.plant, state, overlay, slips, m.workspace);
    Instant whole{wholeElectrics(m.plant, state, overlay), nullptr};
    whole.alternating = solveAlternating(*whole.electrics.alternating, slips);
    const auto near = [&](int p, int q) {
        const Complex alternating = whole.alternatingV(p, q);
        const double direct = whole.directV(p, q);
        EXPECT_LT(std::abs(seen.alternatingV(p, q) - alternating), 1e-7 * (1.0 + std::abs(alternating)))
            << what << " nodes " << p << " " << q;
        EXPECT_LT(std::abs(seen.directV(p, q) - direct), 1e-7 * (1.0 + std::abs(direct)))
            << what << " nodes " << p << " " << q;
    };
    for (const PlantImpedance& z : m.plant.impedances)
        near(z.p, z.q);
    for (const PlantConverter& c : m.plant.converters) {
        near(c.inputP, c.inputQ);
        near(c.plus, c.minus);
    }
    for (const PlantMotor& motor : m.plant.motors)
        for (int k = 0; k < 3; ++k)
            near(motor.nodes[static_cast<std::size_t>(k)], motor.nodes[static_cast<std::size_t>((k + 1) % 3)]);
    EXPECT_EQ(seen.electrics.alternating->motorFed, whole.electrics.alternating->motorFed) << what;

    // Currents of poles: from all links of the whole network by Kirchhoff's law.
    network::ElementCurrents elements;
    const auto& ac = *whole.electrics.alternating;
    const auto& dc = *whole.electrics.direct;
    network::elementCurrents(ac.network, ac.prepared, whole.alternating->solution, slips, elements);
    const auto acLinks = network::linkCurrents(ac.network, ac.prepared, whole.alternating->solution, elements);
    const auto dcLinks = network::linkCurrents(dc.network, dc.prepared, dc.solution, dc.currents);
    std::size_t next = 0;
    for (const PlantProtection& p : m.plant.protections) {
        for (int pole : p.data.poles) {
            const auto l = static_cast<std::size_t>(pole);
            EXPECT_NEAR(std::sqrt(seen.alternating->protectionsA2[next]), std::abs(acLinks[l]),
                1e-6 + 1e-6 * std::abs(acLinks[l]))
                << what << " pole " << pole;
            EXPECT_NEAR(std::sqrt(seen.electrics.direct->protectionsA2[next]), std::abs(dcLinks[l]),
                1e-6 + 1e-6 * std::abs(dcLinks[l]))
                << what << " pole " << pole;
            ++next;
        }
        next += p.data.winding >= 0;
    }
}

TEST(JoinedTerminals, GiveWhatTheWholeNetworkGivesInAnyPositionOfContacts)
{
    for (const char* file : {"data/demo/larkspur_db2.sentry", "data/demo/larkspur_db2_chip_blower.sentry"}) {
        Machine m(file);
        std::mt19937 random(7);
        const std::vector<State> bases{m.at(0.4), m.at(2.3), m.at(8.0)};
        for (int k = 0; k < 60; ++k) {
            State state = bases[static_cast<std::size_t>(k) % bases.size()];
            for (std::size_t mover = 0; mover < state.travel.size(); ++mover)
                if (random() % 8 == 0)
                    state.travel[mover] = static_cast<std::uint8_t>(random() % 3);
            compare(m, state, overlayOf(m.plant, {}), std::string(file) + " mixture " + std::to_string(k));
        }
    }
}

TEST(JoinedTerminals, GiveWhatTheWholeNetworkGivesWithEveryFault)
{
    Machine m;
    const State running = m.at(8.0);
    for (const FaultSite& site : faultSites(m.plant))
        compare(m, running, overlayOf(m.plant, {site.fault}), site.text());
    for (const char* text : {"Q1:1+Q1:A1:short", "Q5:2+Q5:4:short", "S20:12+S20:22:short"})
        compare(m, running, overlayOf(m.plant, {faultFrom(m.plant, text)->fault}), text);
}

TEST(JoinedTerminals, LeaveNothingOutForWhoReadsEveryNode)
{
    // Between two contacts in line no element ends: a run never looks there, a meter does.
    Machine m;
    const State running = m.at(8.0);
    const Frame frame = observe(m.plant, running);
    const auto voltage = [&](const char* tag, const char* marking) {
        const auto node = [&](const char* t, const char* k) {
            return static_cast<std::size_t>(
                m.plant.terminals[static_cast<std::size_t>(m.plant.terminalIndex(t, k))].node);
        };
        return frame.nodes[node(tag, marking)].directV - frame.nodes[node("G1", "-")].directV;
    };
    for (const auto& [tag, marking] : {std::pair{"F2", "96"}, {"S1", "12"}, {"Q1", "14"}, {"F7", "96"}, {"S11", "12"}})
        EXPECT_NEAR(voltage(tag, marking), 24.0, 0.3) << tag << ":" << marking;
    EXPECT_NEAR(voltage("Q5", "A1"), 24.0, 0.3);
    EXPECT_NEAR(voltage("Q4", "A1"), 0.0, 0.3) << "the delta contactor is in";
    const auto link = std::find_if(m.plant.links.begin(), m.plant.links.end(),
        [&](const PlantLink& l) { return l.device == m.plant.deviceIndex("S1") && l.role == "11-12"; });
    ASSERT_NE(link, m.plant.links.end());
    EXPECT_GT(frame.links[static_cast<std::size_t>(link - m.plant.links.begin())].rmsA(), 0.05)
        << "the coil's current goes through it";
}

TEST(JoinedTerminals, AreTheSameForContactsThatMakeNoDifference)
{
    Machine m;
    const State running = m.at(8.0);
    const auto healthy = m.workspace.electrics(m.plant, running, overlayOf(m.plant, {})).direct;
    EXPECT_EQ(m.with(running, "S2/13-14:welded").direct, healthy) << "the holding contact beside it is closed";
    EXPECT_EQ(m.with(running, "S1/11-12:welded").direct, healthy) << "it is closed";
    EXPECT_NE(m.with(running, "S1/11-12:does_not_close").direct, healthy);
    const State off = m.at(0.4);
    const auto dead = m.workspace.electrics(m.plant, off, overlayOf(m.plant, {})).direct;
    EXPECT_EQ(m.with(off, "Q1/13-14:welded").direct, dead) << "nothing is behind it that could take a current";
}

} // namespace
} // namespace ts
