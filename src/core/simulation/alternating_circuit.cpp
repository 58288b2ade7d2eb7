// The network for alternating current: mains, control transformers, what motors and coils draw.

#include "core/simulation/circuits.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/disjoint_sets.h"
#include "core/network/driven.h"

#include <algorithm>
#include <bit>

namespace ts {
namespace {

using network::Network;

/// Also while its input is too low, as long as its output is kept: it takes what it can get. Were its load gone at
/// once, the voltage might be high enough again, and too low with the load.
bool takesInput(ConverterMode mode)
{
    return mode != ConverterMode::Off;
}

/// Power that a 24 V supply takes from its input.
double inputW(const Plant& plant, const State& state, const Overlay& overlay, std::size_t c)
{
    const ConverterElement& data = plant.converters[c].data;
    const bool loaded = !data.isInner && !overlay.converterMissing[c] && takesInput(state.converters[c]);
    return data.standbyW + (loaded ? state.converterPowerW[c] / data.efficiency : 0.0);
}

void addSources(const Plant& plant, const State& state, const Overlay& overlay, Network& n)
{
    for (std::size_t s = 0; s < plant.sources.size(); ++s) {
        const PlantSource& source = plant.sources[s];
        const double factor = sourceFactor(plant, state, overlay, s);
        // A lost phase is an open line, not a line at zero volts.
        n.sources.push_back({source.p, source.q, plant.sources[at(overlay.voltageOf[s])].emf * factor,
            factor == 0.0 ? Complex(kOpenOhm) : source.ohm});
    }
}

void addImpedances(const Plant& plant, const State& state, const Overlay& overlay, Network& n)
{
    for (std::size_t z = 0; z < plant.impedances.size(); ++z) {
        const PlantImpedance& impedance = plant.impedances[z];
        const bool sealed = impedance.mover >= 0 && state.travel[at(impedance.mover)] == 2;
        Complex ohm = sealed ? impedance.sealedOhm : impedance.alternatingOhm;
        if (overlay.impedance[z] != 0)
            ohm = overlay.impedance[z] > 0 ? kShortedOhm : kOpenOhm;
        else if (isBurnt(impedance, state))
            ohm = kOpenOhm;
        n.impedances.push_back({impedance.p, impedance.q, ohm});
    }
}

/// A 24 V supply is a load on its input; at its output its capacitor, for ripple.
void addConverters(const Plant& plant, const State& state, const Overlay& overlay, Network& n)
{
    for (std::size_t c = 0; c < plant.converters.size(); ++c) {
        const PlantConverter& converter = plant.converters[c];
        const ConverterElement& data = converter.data;
        n.impedances.push_back(
            {converter.inputP, converter.inputQ, data.inputV * data.inputV / inputW(plant, state, overlay, c)});
        n.impedances.push_back({converter.plus, converter.minus, data.outputOhm});
    }
}

void addTransformers(const Plant& plant, const Overlay& overlay, Network& n)
{
    for (std::size_t k = 0; k < plant.transformers.size(); ++k) {
        const PlantTransformer& t = plant.transformers[k];
        const bool open = overlay.transformerOpen[k];
        n.transformers.push_back({t.p1, t.p2, t.s1, t.s2, t.data.ratio,
            open ? Complex(kOpenOhm) : t.data.shortCircuitOhm, open ? Complex(kOpenOhm) : t.data.magnetisingOhm});
    }
}

void addMotors(const Plant& plant, Network& n)
{
    for (const PlantMotor& m : plant.motors)
        n.motors.push_back({m.nodes, m.data.sixTerminal, m.data.starWindings, m.data.circuit});
}

/// Poles of soft starters, and what drives take from their lines. A drive's output has a frequency of its own: it is
/// no part of this network, the motor behind it follows the ramp (drives.cpp).
void addSemiconductors(const Plant& plant, const State& state, Network& n)
{
    for (const PlantVariable& v : plant.variables) {
        const ConverterOutput& level = state.levels[at(v.data.level)];
        n.impedances.push_back({v.p, v.q,
            level.isActive ? Complex(kShortedOhm, v.data.fullOhm * (1.0 / std::max(level.share, 0.01) - 1.0))
                           : Complex(kOpenOhm)});
    }
    for (const PlantDrive& d : plant.drives)
        for (int k = 0; k < 3; ++k)
            n.impedances.push_back({d.inputs[at(k)], d.inputs[at((k + 1) % 3)], d.data.inputOhm});
}

Network alternatingNetwork(
    const Plant& plant, const State& state, const Overlay& overlay, const JoinedTerminals& joints)
{
    Network n;
    n.nodeCount = plant.nodeCount;
    n.links = joints.links;
    n.sources.reserve(plant.sources.size() + plant.converters.size());
    n.impedances.reserve(
        plant.impedances.size() + 2 * plant.converters.size() + plant.variables.size() + 3 * plant.drives.size());
    addSources(plant, state, overlay, n);
    addImpedances(plant, state, overlay, n); // the first ones: they keep the plant's slots
    addConverters(plant, state, overlay, n);
    addTransformers(plant, overlay, n);
    addMotors(plant, n);
    addSemiconductors(plant, state, n);
    return n;
}

/// Which drive each motor's three leads hang on, and in which direction its outputs turn it.
std::vector<DriveFeed> driveFeeds(const Plant& plant, const network::Prepared& prepared)
{
    const auto super = [&](int node) { return prepared.superNode(node); };
    network::DisjointSets sets(prepared.superNodeCount());
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire)
            sets.join(super(plant.impedances[z].p), super(plant.impedances[z].q));
    std::vector<DriveFeed> feeds(plant.motors.size());
    for (std::size_t m = 0; m < plant.motors.size(); ++m)
        for (std::size_t d = 0; d < plant.drives.size(); ++d) {
            std::array<int, 3> output{-1, -1, -1};
            for (std::size_t lead = 0; lead < 3; ++lead)
                for (int k = 0; k < 3; ++k)
                    if (sets.find(super(plant.motors[m].nodes[lead]))
                        == sets.find(super(plant.drives[d].outputs[at(k)])))
                        output[lead] = k;
            if (output[0] < 0 || output[1] < 0 || output[2] < 0 || output[0] == output[1] || output[1] == output[2]
                || output[0] == output[2])
                continue;
            feeds[m] = {static_cast<int>(d), (output[1] - output[0] + 3) % 3 == 1 ? 1 : -1};
        }
    return feeds;
}

/// How many terminals of each motor reach a live pole over wires and closed contacts alone.
std::vector<std::uint8_t> fedTerminals(const Plant& plant, const State& state, const Overlay& overlay,
    const Reach& reach, const network::Prepared& prepared)
{
    network::DisjointSets sets(prepared.superNodeCount());
    const auto super = [&](int node) { return prepared.superNode(node); };
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire && overlay.impedance[z] >= 0)
            sets.join(super(plant.impedances[z].p), super(plant.impedances[z].q));
    for (const PlantTransformer& t : plant.transformers)
        if (t.data.nominalSecondaryV <= 0.0)
            sets.join(super(t.p1), super(t.p2)); // a line led through
    for (const PlantVariable& v : plant.variables)
        if (state.levels[at(v.data.level)].isActive)
            sets.join(super(v.p), super(v.q));
    std::vector<bool> live(at(prepared.superNodeCount()), false);
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        if (plant.sources[s].nominalV > 0.0 && reach.isNode[at(plant.sources[s].p)]
            && sourceFactor(plant, state, overlay, s) > 0.0)
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

/// Nodes that tell something also where no source of the network comes: poles of supplies, a drive's outputs, a
/// transformer's ends, the taps of what watches a motor's own voltage; and the motors' terminals where that voltage or
/// a line on earth could come to them through the reference.
std::vector<int> lookedAt(const Plant& plant, const Reach& reach, const JoinedTerminals& joints)
{
    std::vector<int> nodes;
    bool looksAtMotors = false;
    for (const PlantSource& s : plant.sources)
        if (reach.isNode[at(s.p)])
            nodes.push_back(s.p);
    for (const network::Link& l : joints.links)
        looksAtMotors |= l.closed && l.p == network::kReference
            && std::find(nodes.begin(), nodes.end(), l.q) != nodes.end();
    for (const PlantDrive& d : plant.drives)
        nodes.insert(nodes.end(), d.outputs.begin(), d.outputs.end());
    for (const PlantTransformer& t : plant.transformers)
        nodes.insert(nodes.end(), {t.p1, t.p2, t.s1, t.s2});
    for (const PlantLogic& l : plant.logics)
        if (const auto* standstill = std::get_if<StandstillLogic>(&l.data)) {
            looksAtMotors = true;
            for (int tap : standstill->taps)
                nodes.insert(nodes.end(), {plant.impedances[at(tap)].p, plant.impedances[at(tap)].q});
        }
    if (looksAtMotors)
        for (const PlantMotor& m : plant.motors)
            nodes.insert(nodes.end(), m.nodes.begin(), m.nodes.begin() + (m.data.sixTerminal ? 6 : 3));
    return nodes;
}

/// The currents of poles, and of windings, as sums; none where no alternating current comes.
void addCurrentSums(const Plant& plant, const JoinedTerminals& joints, AlternatingCircuit& c)
{
    auto next = joints.rows.begin();
    network::CurrentSums links(c.network, c.prepared);
    const auto take = [&](std::vector<network::CurrentSum>& sums, std::size_t count) {
        for (; count > 0; --count)
            sums.push_back(links.of(*next++));
    };
    for (const PlantProtection& p : plant.protections) {
        take(c.protections, p.data.poles.size());
        if (const int z = p.data.winding; z >= 0)
            c.protections.push_back(network::sumOf(c.network.impedances[at(z)], c.prepared));
    }
    for (const PlantLogic& l : plant.logics) {
        const auto* monitor = std::get_if<PhaseMonitorLogic>(&l.data);
        c.firstOfLogic.push_back(static_cast<int>(c.logics.size()));
        take(c.logics, monitor ? monitor->poles.size() : 0);
    }
    c.firstOfLogic.push_back(static_cast<int>(c.logics.size()));
}

/// Who can see that a motor's speed changes.
void listSeers(const Plant& plant, const Reach& reach, AlternatingCircuit& c)
{
    const auto comesTo = [&](int impedance) {
        return std::binary_search(reach.impedances.begin(), reach.impedances.end(), impedance);
    };
    c.coils = reach.coils;
    for (std::size_t k = 0; k < plant.lamps.size(); ++k)
        if (comesTo(plant.lamps[k].impedance))
            c.lamps.push_back(static_cast<int>(k));
    for (std::size_t k = 0; k < plant.logics.size(); ++k) {
        const auto isOfIt = [&](int z) { return plant.impedances[at(z)].device == plant.logics[k].device; };
        if (c.firstOfLogic[k] != c.firstOfLogic[k + 1]
            || std::any_of(reach.impedances.begin(), reach.impedances.end(), isOfIt))
            c.deviceLogics.push_back(static_cast<int>(k));
    }
}

} // namespace

std::vector<int> alternatingPoles(const Plant& plant, const Reach& reach)
{
    std::vector<int> poles = directPoles(plant, reach);
    for (const PlantLogic& l : plant.logics)
        if (const auto* monitor = std::get_if<PhaseMonitorLogic>(&l.data))
            poles.insert(poles.end(), monitor->poles.begin(), monitor->poles.end());
    return poles;
}

void alternatingKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key)
{
    KeyWriter writer(key);
    for (int c : reach.coils) {
        writer.put(state.travel[at(plant.coils[at(c)].mover)] == 2);
        writer.put(isBurnt(plant.impedances[at(plant.coils[at(c)].impedance)], state));
    }
    for (int z : reach.impedances) {
        writer.put(overlay.impedance[at(z)] > 0);
        writer.put(overlay.impedance[at(z)] < 0);
    }
    for (const ConverterOutput& l : state.levels)
        writer.put(l.isActive);
    for (std::uint8_t open : overlay.transformerOpen)
        writer.put(open);
    for (std::size_t s = 0; s < plant.sources.size(); ++s) {
        writer.put(overlay.sourceLost[s]);
        writer.put(overlay.voltageOf[s] != static_cast<int>(s)); // it is the first two phases of a supply, so that a
                                                                 // bit tells
    }
    writer.flush();
    for (std::size_t c = 0; c < plant.converters.size(); ++c)
        key.push_back(std::bit_cast<std::uint64_t>(inputW(plant, state, overlay, c)));
    for (double k : state.knobs)
        key.push_back(std::bit_cast<std::uint64_t>(k));
    for (const ConverterOutput& l : state.levels)
        key.push_back(std::bit_cast<std::uint64_t>(l.share));
}

MemoryKey alternatingContent(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const JoinedTerminals& joints)
{
    MemoryKey content{reach.number};
    const std::vector<bool> counts = network::decisiveContent(
        alternatingNetwork(plant, state, overlay, joints), lookedAt(plant, reach, joints), content);
    rowContent(joints, counts, content);
    KeyWriter writer(content);
    for (const ConverterOutput& l : state.levels)
        writer.put(l.isActive);
    writer.flush();
    end(content, Content::Alternating);
    return content;
}

std::shared_ptr<AlternatingCircuit> alternatingCircuit(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const JoinedTerminals& joints)
{
    auto c = std::make_shared<AlternatingCircuit>();
    c->network = alternatingNetwork(plant, state, overlay, joints);
    auto prepared = network::Prepared::make(c->network);
    TS_CHECK(prepared.has_value());
    c->prepared = std::move(*prepared);
    c->motorFed = fedTerminals(plant, state, overlay, reach, c->prepared);
    c->driveFeeds = driveFeeds(plant, c->prepared);
    addCurrentSums(plant, joints, *c);
    listSeers(plant, reach, *c);
    return c;
}

std::shared_ptr<const AlternatingState> solveAlternating(
    const AlternatingCircuit& circuit, std::span<const double> slips)
{
    auto s = std::make_shared<AlternatingState>();
    circuit.prepared.solve(slips, s->solution);
    const auto motors = network::motorCurrents(circuit.network, circuit.prepared, s->solution, slips);
    for (const network::CurrentSum& sum : circuit.protections)
        s->protectionsA2.push_back(std::norm(network::valueOf(sum, s->solution, motors)));
    for (const network::CurrentSum& sum : circuit.logics)
        s->logicsA.push_back(network::valueOf(sum, s->solution, motors));
    return s;
}

} // namespace ts
