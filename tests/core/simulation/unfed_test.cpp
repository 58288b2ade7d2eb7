// What no source reaches is no part of a circuit: whatever was worked out for other states before, with two faults in
// any position of contacts, everything that a run reads is what a circuit made for that state alone gives, to the bit.

#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/simulation/circuits.h"
#include "core/simulation/induced.h"
#include "core/simulation/motion.h"
#include "tests/support/watched_motor.h"

#include <random>

namespace ts {
namespace {

/// A plant, states in which something runs, and a memory of all that was asked.
struct Remembering {
    explicit Remembering(Plant of)
        : plant(std::move(of))
    {
    }
    Plant plant;
    Workspace workspace;
};

Plant fileOf(const char* path)
{
    return *compile(io::loadDossier(test::sourcePath(path))->dossier.circuit);
}
Plant patternOf(const std::vector<std::string>& said)
{
    return *compile(patterns::machine(*patterns::advised(said))->dossier.circuit);
}

std::vector<std::optional<double>> inducedAtTaps(
    const Plant& plant, const State& state, const Electrics& electrics, const Overlay& overlay)
{
    std::vector<std::optional<double>> volts;
    for (const PlantLogic& l : plant.logics)
        if (const auto* standstill = std::get_if<StandstillLogic>(&l.data))
            for (int tap : standstill->taps) {
                const PlantImpedance& z = plant.impedances[static_cast<std::size_t>(tap)];
                volts.push_back(inducedV(plant, state, electrics, overlay, z.p, z.q));
            }
    return volts;
}

void expectAlike(Remembering& m, const State& state, const Overlay& overlay, const std::string& what)
{
    const std::vector<double> slips = slipsAt(m.plant, state, state.now);
    Workspace alone;
    const Instant found = solveInstant(m.plant, state, overlay, slips, m.workspace),
                  made = solveInstant(m.plant, state, overlay, slips, alone);
    const AlternatingCircuit &f = *found.electrics.alternating, &a = *made.electrics.alternating;
    for (const PlantImpedance& z : m.plant.impedances) {
        ASSERT_EQ(found.alternatingV(z.p, z.q), made.alternatingV(z.p, z.q)) << what;
        ASSERT_EQ(found.directV(z.p, z.q), made.directV(z.p, z.q)) << what;
    }
    ASSERT_EQ(f.motorFed, a.motorFed) << what;
    for (std::size_t k = 0; k < f.driveFeeds.size(); ++k) {
        ASSERT_EQ(f.driveFeeds[k].drive, a.driveFeeds[k].drive) << what;
        ASSERT_EQ(f.driveFeeds[k].direction, a.driveFeeds[k].direction) << what;
        ASSERT_EQ(f.prepared.isDriven(k), a.prepared.isDriven(k)) << what;
    }
    ASSERT_EQ(found.alternating->protectionsA2, made.alternating->protectionsA2) << what;
    ASSERT_EQ(found.alternating->logicsA, made.alternating->logicsA) << what;
    ASSERT_EQ(found.electrics.direct->protectionsA2, made.electrics.direct->protectionsA2) << what;
    ASSERT_EQ(
        inducedAtTaps(m.plant, state, found.electrics, overlay), inducedAtTaps(m.plant, state, made.electrics, overlay))
        << what;
}

class Drawn {
public:
    explicit Drawn(const Plant& plant)
        : m_plant(plant)
        , m_sites(faultSites(plant))
    {
    }
    State state()
    {
        State s = initialState(m_plant);
        for (std::uint8_t& travel : s.travel)
            travel = static_cast<std::uint8_t>(m_random() % 3);
        for (ConverterMode& mode : s.converters)
            mode = m_random() % 4 == 0 ? ConverterMode::Off : ConverterMode::Voltage;
        for (ConverterOutput& level : s.levels)
            level.isActive = m_random() % 2 == 0;
        for (const PlantMotor& motor : m_plant.motors)
            if (m_random() % 2 == 0)
                s.flows[static_cast<std::size_t>(motor.flow)].value = 0.7 * motor.data.synchronousRadPerS;
        return s;
    }
    /// A half of them shorts, of which many to earth.
    Fault fault()
    {
        const auto node = [this] { return static_cast<int>(m_random() % static_cast<unsigned>(m_plant.nodeCount)); };
        if (m_random() % 2 == 0)
            return m_sites[m_random() % m_sites.size()].fault;
        return {FaultMode::Short, node(), m_random() % 3 == 0 ? network::kReference : node()};
    }

private:
    const Plant& m_plant;
    std::vector<FaultSite> m_sites;
    std::mt19937 m_random{5};
};

void triesStatesOf(Plant plant, int states, const char* what)
{
    Remembering m(std::move(plant));
    Drawn drawn(m.plant);
    for (int k = 0; k < states; ++k) {
        const State state = drawn.state();
        const std::vector<std::vector<Fault>> all{{}, {drawn.fault()}, {drawn.fault(), drawn.fault()}};
        for (const std::vector<Fault>& faults : all)
            expectAlike(m, state, overlayOf(m.plant, faults), std::string(what) + " " + std::to_string(k));
        if (testing::Test::HasFatalFailure())
            return;
    }
}

TEST(Unfed, IsReadTheSameWhoeverMadeTheCircuitOfTheDemos)
{
    triesStatesOf(fileOf("data/demo/larkspur_db2_chip_blower.sentry"), 300, "blower");
    triesStatesOf(fileOf("data/demo/larkspur_db2.sentry"), 150, "debarker");
    triesStatesOf(fileOf("tests/data/pump_230v_ac.sentry"), 300, "pump");
}

TEST(Unfed, IsReadTheSameWhereADriveOrSemiconductorsFeed)
{
    for (const char* base : {"base=drive", "base=soft_starter", "base=solid_state", "base=star_delta"})
        triesStatesOf(patternOf({base}), 200, base);
}

TEST(Unfed, IsReadTheSameWhereAMonitorLooksAtADeadMotor)
{
    triesStatesOf(test::atItsLeads(test::watchedMotor()).plant(), 400, "standstill");
}

/// Nodes that are worth a look though nothing is switched on.
std::vector<int> tellingNodes(const Plant& plant)
{
    std::vector<int> nodes;
    for (const PlantSource& s : plant.sources)
        nodes.insert(nodes.end(), {s.p, s.q});
    for (const PlantTransformer& t : plant.transformers)
        nodes.insert(nodes.end(), {t.p1, t.p2, t.s1, t.s2});
    for (const PlantDrive& d : plant.drives)
        nodes.insert(nodes.end(), d.outputs.begin(), d.outputs.end());
    for (const PlantConverter& c : plant.converters)
        nodes.insert(nodes.end(), {c.inputP, c.inputQ, c.plus, c.minus});
    return nodes;
}

TEST(Unfed, AMotorsLeadThatIsShortedToASupplyIsSeenWithNothingSwitchedOn)
{
    std::vector<Plant> plants;
    plants.push_back(fileOf("data/demo/larkspur_db2_chip_blower.sentry"));
    plants.push_back(fileOf("tests/data/pump_230v_ac.sentry"));
    plants.push_back(test::atItsLeads(test::watchedMotor()).plant());
    plants.push_back(patternOf({"base=drive"}));
    for (Plant& plant : plants) {
        Remembering m(std::move(plant));
        State off = initialState(m.plant);
        std::size_t fed = 0;
        for (const bool isOpened : {false, true}) {
            if (isOpened) // the main switch, and all else that goes back
                std::fill(off.travel.begin(), off.travel.end(), std::uint8_t{0});
            expectAlike(m, off, overlayOf(m.plant, {}), "healthy");
            for (const PlantMotor& motor : m.plant.motors)
                for (int lead = 0; lead < 3; ++lead)
                    for (int node : tellingNodes(m.plant)) {
                        const int at = motor.nodes[static_cast<std::size_t>(lead)];
                        const Overlay overlay = overlayOf(m.plant, {{FaultMode::Short, at, node}});
                        expectAlike(m, off, overlay, m.plant.nameOfNode(at) + " to " + m.plant.nameOfNode(node));
                        fed += m.workspace.electrics(m.plant, off, overlay).alternating->motorFed.front() > 0;
                    }
        }
        EXPECT_GT(fed, 0u) << "or nothing of this was tried";
    }
}

/// Taps behind an open contact tell nothing; joined with each other they read zero.
TEST(Unfed, WhatAMonitorsTapsAreJoinedWithCountsThoughNothingFeedsThem)
{
    test::CircuitBuilder b = test::watchedMotor();
    b.device("S2", "selector", {{"contacts", std::vector<std::string>{"13-14/on", "23-24/on", "33-34/on"}}});
    for (const auto& [lead, in, out, tap] : {std::array{"M1:U1", "S2:13", "S2:14", "B4:L1"},
             std::array{"M1:V1", "S2:23", "S2:24", "B4:L2"}, std::array{"M1:W1", "S2:33", "S2:34", "B4:L3"}})
        b.wire(lead, in).wire(out, tap);
    Remembering m(b.plant());
    const State off = initialState(m.plant);
    expectAlike(m, off, overlayOf(m.plant, {}), "behind an open contact");
    for (const char* text : {"B4:L1+B4:L2:short", "B4:L1+M1:U1:short", "B4:L2:to_earth"})
        expectAlike(m, off, overlayOf(m.plant, {faultFrom(m.plant, text)->fault}), text);
}

/// A line on earth, and a motor's wire whose other end is on earth, too: it is at that line as long as it is whole.
TEST(Unfed, ALeadIsFedThroughAnEarthThatIsALineAsLongAsItsWireIsWhole)
{
    Remembering m(fileOf("data/demo/larkspur_db2.sentry"));
    const State off = initialState(m.plant);
    std::size_t tried = 0;
    for (std::size_t z = 0; z < m.plant.impedances.size(); ++z) {
        const PlantImpedance& wire = m.plant.impedances[z];
        const auto isLead = [&](int node) {
            const auto& leads = m.plant.motors.front().nodes;
            return std::find(leads.begin(), leads.begin() + 3, node) != leads.begin() + 3;
        };
        if (wire.kind != PlantImpedance::Kind::Wire || isLead(wire.p) == isLead(wire.q))
            continue;
        const Fault line{FaultMode::Short, m.plant.sources.front().p, network::kReference},
            earth{FaultMode::Short, isLead(wire.p) ? wire.q : wire.p, network::kReference},
            open{FaultMode::ImpedanceOpen, static_cast<int>(z)};
        const auto fed = [&](const std::vector<Fault>& faults) {
            return m.workspace.electrics(m.plant, off, overlayOf(m.plant, faults)).alternating->motorFed.front();
        };
        EXPECT_EQ(fed({line, earth}), 1);
        EXPECT_EQ(fed({line, earth, open}), 0);
        EXPECT_EQ(fed({earth, open}), 0);
        ++tried;
    }
    EXPECT_GE(tried, 3u);
}

} // namespace
} // namespace ts
