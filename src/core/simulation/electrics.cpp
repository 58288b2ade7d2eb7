#include "core/simulation/electrics.h"

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
constexpr std::size_t kMostTopologies = 4096; ///< then the workspace starts afresh

std::size_t at(int i)
{
    return static_cast<std::size_t>(i);
}

double sourceFactor(const Plant& plant, const State& state, const Overlay& overlay, std::size_t s)
{
    const PlantSource& source = plant.sources[s];
    if (overlay.sourceLost[s])
        return 0.0;
    return source.knob < 0 ? 1.0 : state.knobs[at(source.knob)];
}

std::vector<std::uint64_t> keyOf(const Plant& plant, const State& state, const Overlay& overlay)
{
    std::vector<std::uint64_t> key;
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
    for (const PlantCoil& c : plant.coils)
        put(state.travel[at(c.mover)] == 2);
    for (std::int8_t z : overlay.impedance) {
        put(z > 0);
        put(z < 0);
    }
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        put(overlay.sourceLost[s]);
    for (ConverterMode m : state.converters)
        for (int k = 0; k < 3; ++k)
            put((static_cast<unsigned>(m) >> k) & 1u);
    key.push_back(word);
    for (double p : state.converterPowerW)
        key.push_back(std::bit_cast<std::uint64_t>(p));
    for (double k : state.knobs)
        key.push_back(std::bit_cast<std::uint64_t>(k));
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
        ac.sources.push_back({source.p, source.q, source.emf * factor, lost ? Complex(kOpenOhm) : source.ohm});
        dc.impedances.push_back({source.p, source.q, lost ? kOpenOhm : std::max(source.ohm.real(), kShortedOhm)});
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
        ac.impedances.push_back({impedance.p, impedance.q, alternating});
        dc.impedances.push_back({impedance.p, impedance.q, direct});
    }
}

/// A 24 V supply: a load on its input, a source or a constant current at its output.
void addConverters(const Plant& plant, const State& state, Network& ac, Network& dc)
{
    for (std::size_t c = 0; c < plant.converters.size(); ++c) {
        const PlantConverter& converter = plant.converters[c];
        const ConverterElement& data = converter.data;
        const ConverterMode mode = state.converters[c];
        const bool takesInput = mode == ConverterMode::Voltage || mode == ConverterMode::Limit;
        const double inputW = takesInput ? state.converterPowerW[c] / data.efficiency + data.standbyW : data.standbyW;
        ac.impedances.push_back({converter.inputP, converter.inputQ, data.inputV * data.inputV / inputW});
        dc.impedances.push_back({converter.inputP, converter.inputQ, kOpenOhm}); // its input is a rectifier
        ac.impedances.push_back({converter.plus, converter.minus, data.outputOhm}); // its capacitor, for ripple
        switch (mode) {
        case ConverterMode::Off: break;
        case ConverterMode::Voltage:
        case ConverterMode::HoldUp:
            dc.sources.push_back({converter.plus, converter.minus, data.outputV, data.outputOhm});
            break;
        case ConverterMode::Limit:
        case ConverterMode::HoldUpLimit:
            dc.currentSources.push_back({converter.plus, converter.minus, data.limitA});
            break;
        }
    }
}

void addMachines(const Plant& plant, Network& ac, Network& dc)
{
    for (const PlantTransformer& t : plant.transformers) {
        ac.transformers.push_back({t.p1, t.p2, t.s1, t.s2, t.data.ratio, t.data.shortCircuitOhm, t.data.magnetisingOhm});
        dc.impedances.push_back({t.p1, t.p2, t.data.primaryOhm});
        dc.impedances.push_back({t.s1, t.s2, t.data.secondaryOhm});
    }
    for (const PlantMotor& m : plant.motors) {
        network::Motor motor;
        motor.terminals = m.nodes;
        motor.sixTerminal = m.data.sixTerminal;
        motor.circuit = m.data.circuit;
        ac.motors.push_back(motor);
        // For direct current a star of winding resistances, written as the equivalent triangle.
        const double branch = 3.0 * m.data.circuit.r1;
        for (int k = 0; k < 3; ++k)
            dc.impedances.push_back({m.nodes[at(k)], m.nodes[at((k + 1) % 3)], branch});
    }
}

/// How many terminals of each motor reach a live pole over wires and closed contacts alone.
std::vector<std::uint8_t> fedTerminals(const Plant& plant, const State& state, const Overlay& overlay, const Electrics& e)
{
    network::DisjointSets sets(e.alternatingPrepared.superNodeCount());
    const auto super = [&](int node) { return e.alternatingPrepared.superNode(node); };
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire && overlay.impedance[z] >= 0)
            sets.join(super(plant.impedances[z].p), super(plant.impedances[z].q));
    std::vector<bool> live(at(e.alternatingPrepared.superNodeCount()), false);
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        if (plant.sources[s].nominalV > 0.0 && sourceFactor(plant, state, overlay, s) > 0.0)
            live[at(sets.find(super(plant.sources[s].p)))] = true;
    for (const PlantTransformer& t : plant.transformers)
        for (int node : {t.s1, t.s2})
            if (super(node) != 0)
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

} // namespace

bool isClosed(const PlantLink& link, std::size_t index, const State& state, const Overlay& overlay)
{
    if (overlay.link[index] != 0)
        return overlay.link[index] > 0;
    return link.contact.mover < 0 || ((link.contact.closedAt >> state.travel[at(link.contact.mover)]) & 1u);
}

std::size_t Workspace::KeyHash::operator()(const std::vector<std::uint64_t>& key) const
{
    std::uint64_t h = 0x9E3779B97F4A7C15ull;
    for (std::uint64_t k : key) {
        h ^= k;
        h *= 0xBF58476D1CE4E5B9ull;
        h ^= h >> 29;
    }
    return static_cast<std::size_t>(h);
}

std::shared_ptr<const Electrics> Workspace::electrics(const Plant& plant, const State& state, const Overlay& overlay)
{
    std::vector<std::uint64_t> key = keyOf(plant, state, overlay);
    if (const auto known = m_known.find(key); known != m_known.end())
        return known->second;
    if (m_known.size() >= kMostTopologies)
        m_known.clear();

    auto e = std::make_shared<Electrics>();
    Network& ac = e->alternating;
    Network& dc = e->direct;
    ac.nodeCount = dc.nodeCount = plant.nodeCount;
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        ac.links.push_back({plant.links[l].p, plant.links[l].q, isClosed(plant.links[l], l, state, overlay)});
    for (const auto& [a, b] : overlay.shorts)
        ac.links.push_back({a, b, true});
    dc.links = ac.links;
    addSources(plant, state, overlay, ac, dc);
    addImpedances(plant, state, overlay, ac, dc);
    addConverters(plant, state, ac, dc);
    addMachines(plant, ac, dc);
    // The last impedances are the machines'; the first plant.impedances.size() keep the plant's slots in `ac`,
    // and follow the sources in `dc`.
    auto acPrepared = network::Prepared::make(ac);
    auto dcPrepared = network::Prepared::make(dc);
    TS_CHECK(acPrepared.has_value() && dcPrepared.has_value());
    e->alternatingPrepared = std::move(*acPrepared);
    e->directPrepared = std::move(*dcPrepared);
    e->directPrepared.solve({}, e->directSolution);
    e->directCurrents = network::elementCurrents(dc, e->directPrepared, e->directSolution, {});
    e->motorFed = fedTerminals(plant, state, overlay, *e);
    for (const PlantProtection& p : plant.protections) {
        const auto rows = network::linkCurrentRows(ac, e->alternatingPrepared, p.data.poles);
        std::vector<Electrics::PoleRow> list;
        for (const auto& row : rows)
            list.push_back({row});
        e->poleRows.push_back(std::move(list));
    }
    m_known.emplace(std::move(key), e);
    return e;
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

std::vector<std::vector<double>> allPoleCurrentsA(const Plant& plant, const Instant& instant, std::span<const double> slips)
{
    const Electrics& e = *instant.electrics;
    const auto currents = network::elementCurrents(e.alternating, e.alternatingPrepared, instant.alternating, slips);
    const auto ac = network::nodeInjections(e.alternating, currents);
    const auto dc = network::nodeInjections(e.direct, e.directCurrents);
    std::vector<std::vector<double>> result;
    for (std::size_t p = 0; p < plant.protections.size(); ++p) {
        std::vector<double> poles;
        for (const Electrics::PoleRow& row : e.poleRows[p]) {
            Complex alternating{}, direct{};
            for (const auto& [node, share] : row.terms) {
                alternating += share * ac[at(node)];
                direct += share * dc[at(node)];
            }
            poles.push_back(std::sqrt(std::norm(alternating) + std::norm(direct)));
        }
        result.push_back(std::move(poles));
    }
    return result;
}

} // namespace ts
