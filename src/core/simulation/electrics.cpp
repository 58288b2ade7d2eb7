#include "core/simulation/electrics.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/motion.h"

#include <bit>
#include <cmath>

namespace ts {
namespace {

using network::Network;

constexpr double kOpenOhm = 1e9; ///< an element that is broken inside: no more than a leak
constexpr double kShortedOhm = 1e-3;

double sourceFactor(const Plant& plant, const State& state, const Overlay& overlay, std::size_t s)
{
    const PlantSource& source = plant.sources[s];
    if (overlay.sourceLost[s])
        return 0.0;
    return source.knob < 0 ? 1.0 : state.knobs[at(source.knob)];
}

bool isBurnt(const PlantImpedance& z, const State& state)
{
    return z.burnt >= 0 && state.travel[at(z.burnt)] == 2;
}

std::vector<std::uint64_t> keyOf(const Plant& plant, const State& state, const Overlay& overlay)
{
    std::vector<std::uint64_t> key;
    key.reserve(plant.links.size() / 64 + 8 + plant.converters.size() + state.knobs.size() + state.levels.size() + overlay.shorts.size());
    std::uint64_t word = 0;
    int bit = 0;
    const auto put = [&](bool b) {
        word |= static_cast<std::uint64_t>(b) << bit;
        if (++bit == 64) {
            key.push_back(word);
            word = 0;
            bit = 0;
        }
    };
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        put(isClosed(plant.links[l], l, state, overlay));
    for (const PlantCoil& c : plant.coils) {
        put(state.travel[at(c.mover)] == 2);
        put(isBurnt(plant.impedances[at(c.impedance)], state));
    }
    for (const Level& l : state.levels)
        put(l.isActive);
    for (std::uint8_t open : overlay.transformerOpen)
        put(open);
    for (std::uint8_t missing : overlay.converterMissing)
        put(missing);
    for (std::uint8_t percent : overlay.converterPercent)
        for (int k = 0; k < 8; ++k)
            put((percent >> k) & 1u);
    for (std::int8_t z : overlay.impedance) {
        put(z > 0);
        put(z < 0);
    }
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        put(overlay.sourceLost[s]);
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        put(overlay.voltageOf[s] != static_cast<int>(s)); // it is the first two phases of a supply, so that a bit tells
    for (ConverterMode m : state.converters)
        for (int k = 0; k < 3; ++k)
            put((static_cast<unsigned>(m) >> k) & 1u);
    key.push_back(word);
    for (double p : state.converterPowerW)
        key.push_back(std::bit_cast<std::uint64_t>(p));
    for (double k : state.knobs)
        key.push_back(std::bit_cast<std::uint64_t>(k));
    for (const Level& l : state.levels)
        key.push_back(std::bit_cast<std::uint64_t>(l.share));
    for (const auto& [a, b] : overlay.shorts)
        key.push_back(static_cast<std::uint64_t>(a) << 32 | static_cast<std::uint32_t>(b));
    return key;
}

void addSources(const Plant& plant, const State& state, const Overlay& overlay, Network& ac, Network& dc)
{
    for (std::size_t s = 0; s < plant.sources.size(); ++s) {
        const PlantSource& source = plant.sources[s];
        const double factor = sourceFactor(plant, state, overlay, s);
        // A lost phase is an open line, not a line at zero volts.
        const bool lost = factor == 0.0;
        ac.sources.push_back({source.p, source.q, plant.sources[at(overlay.voltageOf[s])].emf * factor, lost ? Complex(kOpenOhm) : source.ohm});
        const double directOhm = lost ? kOpenOhm : std::max(source.ohm.real(), kShortedOhm);
        if (source.directV > 0.0)
            dc.sources.push_back({source.p, source.q, source.directV * factor, directOhm});
        else
            dc.impedances.push_back({source.p, source.q, directOhm});
    }
}

void addImpedances(const Plant& plant, const State& state, const Overlay& overlay, Network& ac, Network& dc)
{
    for (std::size_t z = 0; z < plant.impedances.size(); ++z) {
        const PlantImpedance& impedance = plant.impedances[z];
        const bool sealed = impedance.mover >= 0 && state.travel[at(impedance.mover)] == 2;
        Complex alternating = sealed ? impedance.sealedOhm : impedance.alternatingOhm;
        double direct = impedance.directOhm;
        if (overlay.impedance[z] != 0)
            alternating = direct = overlay.impedance[z] > 0 ? kShortedOhm : kOpenOhm;
        else if (isBurnt(impedance, state))
            alternating = direct = kOpenOhm;
        ac.impedances.push_back({impedance.p, impedance.q, alternating});
        dc.impedances.push_back({impedance.p, impedance.q, direct});
    }
}

/// A 24 V supply: a load on its input, a source or a constant current at its output.
void addConverters(const Plant& plant, const State& state, const Overlay& overlay, Network& ac, Network& dc)
{
    for (std::size_t c = 0; c < plant.converters.size(); ++c) {
        const PlantConverter& converter = plant.converters[c];
        const ConverterElement& data = converter.data;
        const ConverterMode mode = overlay.converterMissing[c] ? ConverterMode::Off : state.converters[c];
        const bool takesInput = mode == ConverterMode::Voltage || mode == ConverterMode::Limit;
        const double inputW = takesInput ? state.converterPowerW[c] / data.efficiency + data.standbyW : data.standbyW;
        ac.impedances.push_back({converter.inputP, converter.inputQ, data.inputV * data.inputV / inputW});
        dc.impedances.push_back({converter.inputP, converter.inputQ, kOpenOhm}); // its input is a rectifier
        ac.impedances.push_back({converter.plus, converter.minus, data.outputOhm}); // its capacitor, for ripple
        switch (mode) {
        case ConverterMode::Off: break;
        case ConverterMode::Voltage:
        case ConverterMode::HoldUp:
            dc.sources.push_back({converter.plus, converter.minus, data.outputV * overlay.converterPercent[c] / 100.0, data.outputOhm});
            break;
        case ConverterMode::Limit:
        case ConverterMode::HoldUpLimit:
            dc.currentSources.push_back({converter.plus, converter.minus, data.limitA});
            dc.impedances.push_back({converter.plus, converter.minus, kOpenOhm}); // its own leak, where nothing else takes the current
            break;
        }
    }
}

void addTransformers(const Plant& plant, const Overlay& overlay, Network& ac, Network& dc)
{
    for (std::size_t k = 0; k < plant.transformers.size(); ++k) {
        const PlantTransformer& t = plant.transformers[k];
        const bool open = overlay.transformerOpen[k];
        ac.transformers.push_back({t.p1, t.p2, t.s1, t.s2, t.data.ratio, open ? Complex(kOpenOhm) : t.data.shortCircuitOhm,
            open ? Complex(kOpenOhm) : t.data.magnetisingOhm});
        dc.impedances.push_back({t.p1, t.p2, open ? kOpenOhm : t.data.primaryOhm});
        dc.impedances.push_back({t.s1, t.s2, t.data.secondaryOhm});
    }
}

void addMotors(const Plant& plant, Network& ac, Network& dc)
{
    for (const PlantMotor& m : plant.motors) {
        network::Motor motor;
        motor.terminals = m.nodes;
        motor.sixTerminal = m.data.sixTerminal;
        motor.starWindings = m.data.starWindings;
        motor.circuit = m.data.circuit;
        ac.motors.push_back(motor);
        const double r1 = m.data.circuit.r1;
        for (int k = 0; k < 3; ++k) {
            if (m.data.sixTerminal) // a delta winding has three times the star equivalent's resistance
                dc.impedances.push_back({m.nodes[at(k)], m.nodes[at(k + 3)], m.data.starWindings ? r1 : 3.0 * r1});
            else // a star of winding resistances, written as the equivalent triangle
                dc.impedances.push_back({m.nodes[at(k)], m.nodes[at((k + 1) % 3)], 3.0 * r1});
        }
    }
}

/// Poles of soft starters, and what drives take from their lines. A drive's output has a frequency of its own: it is
/// no part of this network, the motor behind it follows the ramp (drives.cpp).
void addSemiconductors(const Plant& plant, const State& state, Network& ac, Network& dc)
{
    for (const PlantVariable& v : plant.variables) {
        const Level& level = state.levels[at(v.data.level)];
        Complex ohm = kOpenOhm;
        if (level.isActive)
            ohm = Complex(kShortedOhm, v.data.fullOhm * (1.0 / std::max(level.share, 0.01) - 1.0));
        ac.impedances.push_back({v.p, v.q, ohm});
        dc.impedances.push_back({v.p, v.q, kOpenOhm});
    }
    for (const PlantDrive& d : plant.drives)
        for (int k = 0; k < 3; ++k) {
            ac.impedances.push_back({d.inputs[at(k)], d.inputs[at((k + 1) % 3)], d.data.inputOhm});
            dc.impedances.push_back({d.inputs[at(k)], d.inputs[at((k + 1) % 3)], kOpenOhm});
        }
}

/// Which drive each motor's three leads hang on, and in which direction its outputs turn it.
std::vector<DriveFeed> driveFeeds(const Plant& plant, const Electrics& e)
{
    const auto super = [&](int node) { return e.alternatingPrepared.superNode(node); };
    network::DisjointSets sets(e.alternatingPrepared.superNodeCount());
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire)
            sets.join(super(plant.impedances[z].p), super(plant.impedances[z].q));
    std::vector<DriveFeed> feeds(plant.motors.size());
    for (std::size_t m = 0; m < plant.motors.size(); ++m)
        for (std::size_t d = 0; d < plant.drives.size(); ++d) {
            std::array<int, 3> output{-1, -1, -1};
            for (std::size_t lead = 0; lead < 3; ++lead)
                for (int k = 0; k < 3; ++k)
                    if (sets.find(super(plant.motors[m].nodes[lead])) == sets.find(super(plant.drives[d].outputs[at(k)])))
                        output[lead] = k;
            if (output[0] < 0 || output[1] < 0 || output[2] < 0 || output[0] == output[1] || output[1] == output[2] || output[0] == output[2])
                continue;
            feeds[m] = {static_cast<int>(d), (output[1] - output[0] + 3) % 3 == 1 ? 1 : -1};
        }
    return feeds;
}

/// How many terminals of each motor reach a live pole over wires and closed contacts alone.
std::vector<std::uint8_t> fedTerminals(const Plant& plant, const State& state, const Overlay& overlay, const Electrics& e)
{
    network::DisjointSets sets(e.alternatingPrepared.superNodeCount());
    const auto super = [&](int node) { return e.alternatingPrepared.superNode(node); };
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire && overlay.impedance[z] >= 0)
            sets.join(super(plant.impedances[z].p), super(plant.impedances[z].q));
    for (const PlantTransformer& t : plant.transformers)
        if (t.data.nominalSecondaryV <= 0.0)
            sets.join(super(t.p1), super(t.p2)); // a line led through
    for (const PlantVariable& v : plant.variables)
        if (state.levels[at(v.data.level)].isActive)
            sets.join(super(v.p), super(v.q));
    std::vector<bool> live(at(e.alternatingPrepared.superNodeCount()), false);
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        if (plant.sources[s].nominalV > 0.0 && sourceFactor(plant, state, overlay, s) > 0.0)
            live[at(sets.find(super(plant.sources[s].p)))] = true;
    for (const PlantDrive& d : plant.drives)
        if (state.levels[at(d.data.level)].isActive)
            for (int node : d.outputs)
                live[at(sets.find(super(node)))] = true;
    for (const PlantTransformer& t : plant.transformers)
        for (int node : {t.s1, t.s2})
            if (super(node) != 0 && t.data.nominalSecondaryV > 0.0)
                live[at(sets.find(super(node)))] = true;
    std::vector<std::uint8_t> fed;
    for (const PlantMotor& m : plant.motors) {
        std::uint8_t count = 0;
        for (int k = 0; k < (m.data.sixTerminal ? 6 : 3); ++k)
            count = static_cast<std::uint8_t>(count + live[at(sets.find(super(m.nodes[at(k)])))]);
        fed.push_back(count);
    }
    return fed;
}

Complex sumOf(const Electrics::PoleRow& row, const std::vector<Complex>& injections)
{
    Complex total{};
    for (const auto& [node, share] : row.terms)
        total += share * injections[at(node)];
    return total;
}

} // namespace

bool isClosed(const PlantLink& link, std::size_t index, const State& state, const Overlay& overlay)
{
    if (overlay.link[index] != 0)
        return overlay.link[index] > 0;
    return link.contact.mover < 0 || ((link.contact.closedAt >> state.travel[at(link.contact.mover)]) & 1u);
}

std::shared_ptr<const Electrics> Workspace::electrics(const Plant& plant, const State& state, const Overlay& overlay)
{
    const MemoryKey key = keyOf(plant, state, overlay);
    if (const auto* known = m_topologies.find(key, m_shared->topologies))
        return *known;

    auto e = std::make_shared<Electrics>();
    Network& ac = e->alternating;
    Network& dc = e->direct;
    ac.nodeCount = dc.nodeCount = plant.nodeCount;
    ac.links.reserve(plant.links.size() + overlay.shorts.size());
    for (Network* n : {&ac, &dc}) {
        n->sources.reserve(plant.sources.size() + plant.converters.size());
        n->impedances.reserve(plant.sources.size() + plant.impedances.size() + 3 * plant.converters.size() + 2 * plant.transformers.size()
            + 3 * (plant.motors.size() + plant.drives.size()) + plant.variables.size());
    }
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        ac.links.push_back({plant.links[l].p, plant.links[l].q, isClosed(plant.links[l], l, state, overlay)});
    for (const auto& [a, b] : overlay.shorts)
        ac.links.push_back({a, b, true});
    dc.links = ac.links;
    addSources(plant, state, overlay, ac, dc);
    e->directFirst = dc.impedances.size();
    addImpedances(plant, state, overlay, ac, dc);
    addConverters(plant, state, overlay, ac, dc);
    addTransformers(plant, overlay, ac, dc);
    addMotors(plant, ac, dc);
    addSemiconductors(plant, state, ac, dc);
    // The first plant.impedances.size() impedances keep the plant's slots in `ac`; in `dc` they begin at directFirst.
    auto acPrepared = network::Prepared::make(ac);
    auto dcPrepared = network::Prepared::make(dc);
    TS_CHECK(acPrepared.has_value() && dcPrepared.has_value());
    e->alternatingPrepared = std::move(*acPrepared);
    e->directPrepared = std::move(*dcPrepared);
    e->directPrepared.solve({}, e->directSolution);
    network::elementCurrents(dc, e->directPrepared, e->directSolution, {}, e->directCurrents);
    e->motorFed = fedTerminals(plant, state, overlay, *e);
    e->driveFeeds = driveFeeds(plant, *e);
    std::vector<int> poles;
    for (const PlantProtection& p : plant.protections)
        poles.insert(poles.end(), p.data.poles.begin(), p.data.poles.end());
    for (const PlantLogic& l : plant.logics)
        if (const auto* monitor = std::get_if<PhaseMonitorLogic>(&l.data))
            poles.insert(poles.end(), monitor->poles.begin(), monitor->poles.end());
    auto rows = network::linkCurrentRows(ac, e->alternatingPrepared, poles, m_rows);
    auto next = rows.begin();
    const auto taken = [&next](std::size_t count) {
        std::vector<Electrics::PoleRow> list;
        for (; count > 0; --count)
            list.push_back({std::move(*next++)});
        return list;
    };
    for (const PlantProtection& p : plant.protections)
        e->poleRows.push_back(taken(p.data.poles.size()));
    std::vector<Complex> direct;
    network::nodeInjections(dc, e->directCurrents, direct);
    for (const auto& list : e->poleRows) {
        e->polesDirectA2.emplace_back();
        for (const Electrics::PoleRow& row : list)
            e->polesDirectA2.back().push_back(std::norm(sumOf(row, direct)));
    }
    for (const PlantLogic& l : plant.logics) {
        const auto* monitor = std::get_if<PhaseMonitorLogic>(&l.data);
        e->logicRows.push_back(taken(monitor ? monitor->poles.size() : 0));
    }
    return m_topologies.keep(key, e, m_shared->topologies);
}

std::uint64_t Workspace::numberOf(const network::MotorView& view)
{
    const MemoryKey content = view.content();
    const std::uint64_t* known = m_views.find(content, m_shared->views);
    return known ? *known : m_views.keep(content, ++m_shared->lastView, m_shared->views);
}

Complex Instant::alternatingV(int p, int q) const
{
    const auto& prepared = electrics->alternatingPrepared;
    return alternating.voltage[at(prepared.superNode(p))] - alternating.voltage[at(prepared.superNode(q))];
}

double Instant::directV(int p, int q) const
{
    const auto& prepared = electrics->directPrepared;
    const auto& v = electrics->directSolution.voltage;
    return (v[at(prepared.superNode(p))] - v[at(prepared.superNode(q))]).real();
}

Instant solveInstant(const Plant& plant, const State& state, const Overlay& overlay, std::span<const double> slips, Workspace& workspace)
{
    Instant instant;
    instant.electrics = workspace.electrics(plant, state, overlay);
    instant.electrics->alternatingPrepared.solve(slips, instant.alternating);
    return instant;
}

void fillPoleCurrents(const Plant& plant, const Instant& instant, std::span<const double> slips, PoleCurrents& result)
{
    const Electrics& e = *instant.electrics;
    network::elementCurrents(e.alternating, e.alternatingPrepared, instant.alternating, slips, result.elements);
    network::nodeInjections(e.alternating, result.elements, result.injections);
    result.protections.resize(plant.protections.size());
    for (std::size_t p = 0; p < plant.protections.size(); ++p) {
        std::vector<double>& poles = result.protections[p];
        poles.clear();
        for (std::size_t k = 0; k < e.poleRows[p].size(); ++k)
            poles.push_back(std::sqrt(std::norm(sumOf(e.poleRows[p][k], result.injections)) + e.polesDirectA2[p][k]));
        if (const int z = plant.protections[p].data.winding; z >= 0)
            poles.push_back(std::sqrt(std::norm(result.elements.impedances[at(z)]) + std::norm(e.directCurrents.impedances[e.directFirst + at(z)])));
    }
    result.logics.resize(e.logicRows.size());
    for (std::size_t l = 0; l < e.logicRows.size(); ++l) {
        result.logics[l].clear();
        for (const Electrics::PoleRow& row : e.logicRows[l])
            result.logics[l].push_back(sumOf(row, result.injections));
    }
}

} // namespace ts
