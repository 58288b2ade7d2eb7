// The network for direct current: 24 V supplies, what hangs on them, and windings as resistances.

#include "core/simulation/circuits.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/driven.h"

#include <algorithm>
#include <bit>

namespace ts {
namespace {

using network::Network;

bool isReached(const Reach& reach, std::initializer_list<int> nodes)
{
    return std::any_of(nodes.begin(), nodes.end(), [&](int node) { return reach.isNode[at(node)] != 0; });
}

void addSources(const Plant& plant, const State& state, const Overlay& overlay, Network& n)
{
    for (std::size_t s = 0; s < plant.sources.size(); ++s) {
        const PlantSource& source = plant.sources[s];
        const double factor = sourceFactor(plant, state, overlay, s);
        const double ohm = factor == 0.0 ? kOpenOhm : std::max(source.ohm.real(), kShortedOhm);
        if (source.directV > 0.0)
            n.sources.push_back({source.p, source.q, source.directV * factor, ohm});
        else
            n.impedances.push_back({source.p, source.q, ohm});
    }
}

bool hasSealed(const PlantImpedance& z, const State& state)
{
    return z.sealedDirectOhm > 0.0 && state.travel[at(z.mover)] == 2;
}

void addImpedances(const Plant& plant, const State& state, const Overlay& overlay, Network& n)
{
    for (std::size_t z = 0; z < plant.impedances.size(); ++z) {
        const PlantImpedance& impedance = plant.impedances[z];
        double ohm = hasSealed(impedance, state) ? impedance.sealedDirectOhm : impedance.directOhm;
        if (overlay.impedance[z] != 0)
            ohm = overlay.impedance[z] > 0 ? kShortedOhm : kOpenOhm;
        else if (isBurnt(impedance, state))
            ohm = kOpenOhm;
        n.impedances.push_back({impedance.p, impedance.q, ohm});
    }
}

ConverterMode modeOf(const State& state, const Overlay& overlay, std::size_t c)
{
    return overlay.converterMissing[c] ? ConverterMode::Off : state.converters[c];
}

/// A 24 V supply is a source or a constant current at its output.
void addConverters(const Plant& plant, const State& state, const Overlay& overlay, Network& n)
{
    for (std::size_t c = 0; c < plant.converters.size(); ++c) {
        const PlantConverter& converter = plant.converters[c];
        const ConverterElement& data = converter.data;
        n.impedances.push_back({converter.inputP, converter.inputQ,
            data.isInner ? data.inputV * data.inputV / data.standbyW : kOpenOhm}); // else its input is a rectifier
        switch (modeOf(state, overlay, c)) {
        case ConverterMode::Off:
            break;
        case ConverterMode::Voltage:
        case ConverterMode::HoldUp:
            n.sources.push_back(
                {converter.plus, converter.minus, data.outputV * overlay.converterPercent[c] / 100.0, data.outputOhm});
            break;
        case ConverterMode::Limit:
        case ConverterMode::HoldUpLimit:
            n.currentSources.push_back({converter.plus, converter.minus, data.limitA});
            n.impedances.push_back({converter.plus, converter.minus, kOpenOhm}); // its own leak, where nothing else
                                                                                 // takes the current
            break;
        }
    }
}

void addTransformers(const Plant& plant, const Overlay& overlay, Network& n)
{
    for (std::size_t k = 0; k < plant.transformers.size(); ++k) {
        const PlantTransformer& t = plant.transformers[k];
        n.impedances.push_back({t.p1, t.p2, overlay.transformerOpen[k] ? kOpenOhm : t.data.primaryOhm});
        n.impedances.push_back({t.s1, t.s2, t.data.secondaryOhm});
    }
}

void addMotors(const Plant& plant, Network& n)
{
    for (const PlantMotor& m : plant.motors) {
        const double r1 = std::max(m.data.circuit.r1, kShortedOhm); // a plate's figures can leave it next to nothing
        for (int k = 0; k < 3; ++k) {
            if (m.data.sixTerminal) // a delta winding has three times the star equivalent's resistance
                n.impedances.push_back({m.nodes[at(k)], m.nodes[at(k + 3)], m.data.starWindings ? r1 : 3.0 * r1});
            else // a star of winding resistances, written as the equivalent triangle
                n.impedances.push_back({m.nodes[at(k)], m.nodes[at((k + 1) % 3)], 3.0 * r1});
        }
    }
}

void addSemiconductors(const Plant& plant, Network& n)
{
    for (const PlantVariable& v : plant.variables)
        n.impedances.push_back({v.p, v.q, kOpenOhm});
    for (const PlantDrive& d : plant.drives)
        for (int k = 0; k < 3; ++k)
            n.impedances.push_back({d.inputs[at(k)], d.inputs[at((k + 1) % 3)], kOpenOhm});
}

Network directNetwork(const Plant& plant, const State& state, const Overlay& overlay, const JoinedTerminals& joints)
{
    Network n;
    n.nodeCount = plant.nodeCount;
    n.links = joints.links;
    n.sources.reserve(plant.sources.size() + plant.converters.size());
    n.impedances.reserve(plant.impedances.size() + 2 * plant.converters.size() + plant.variables.size()
        + 3 * plant.drives.size() + plant.sources.size() + 2 * plant.transformers.size() + 3 * plant.motors.size());
    addSources(plant, state, overlay, n);
    addImpedances(plant, state, overlay, n);
    addConverters(plant, state, overlay, n);
    addTransformers(plant, overlay, n);
    addMotors(plant, n);
    addSemiconductors(plant, n);
    return n;
}

void addCurrents(const Plant& plant, const JoinedTerminals& joints, DirectCircuit& c)
{
    std::vector<Complex> injections;
    network::nodeInjections(c.network, c.currents, injections);
    auto next = joints.rows.begin();
    for (const PlantProtection& p : plant.protections) {
        for (std::size_t k = 0; k < p.data.poles.size(); ++k) {
            Complex current{};
            for (const auto& [node, share] : *next++)
                current += share * injections[at(node)];
            c.protectionsA2.push_back(std::norm(current));
        }
        if (const int z = p.data.winding; z >= 0)
            c.protectionsA2.push_back(std::norm(c.currents.impedances[c.firstImpedance + at(z)]));
    }
}

} // namespace

std::vector<int> directPoles(const Plant& plant, const Reach& reach)
{
    std::vector<int> poles;
    for (const PlantProtection& p : plant.protections)
        for (int l : p.data.poles)
            poles.push_back(reach.isNode[at(plant.links[at(l)].p)] || reach.isNode[at(plant.links[at(l)].q)] ? l : -1);
    return poles;
}

void directKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key)
{
    KeyWriter writer(key);
    for (int c : reach.coils) {
        writer.put(isBurnt(plant.impedances[at(plant.coils[at(c)].impedance)], state));
        writer.put(hasSealed(plant.impedances[at(plant.coils[at(c)].impedance)], state));
    }
    for (int z : reach.impedances) {
        writer.put(overlay.impedance[at(z)] > 0);
        writer.put(overlay.impedance[at(z)] < 0);
    }
    for (std::size_t k = 0; k < plant.transformers.size(); ++k)
        if (const PlantTransformer& t = plant.transformers[k]; isReached(reach, {t.p1, t.p2, t.s1, t.s2}))
            writer.put(overlay.transformerOpen[k]);
    for (std::size_t c = 0; c < plant.converters.size(); ++c) {
        writer.put(static_cast<unsigned>(modeOf(state, overlay, c)), 3);
        writer.put(overlay.converterPercent[c], 8);
    }
    writer.flush();
    for (std::size_t s = 0; s < plant.sources.size(); ++s)
        if (isReached(reach, {plant.sources[s].p, plant.sources[s].q}))
            key.push_back(std::bit_cast<std::uint64_t>(sourceFactor(plant, state, overlay, s)));
}

MemoryKey directContent(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, const JoinedTerminals& joints)
{
    MemoryKey content{reach.number};
    rowContent(joints, network::decisiveContent(directNetwork(plant, state, overlay, joints), {}, content), content);
    end(content, Content::Direct);
    return content;
}

std::shared_ptr<const DirectCircuit> directCircuit(
    const Plant& plant, const State& state, const Overlay& overlay, const JoinedTerminals& joints)
{
    auto c = std::make_shared<DirectCircuit>();
    c->network = directNetwork(plant, state, overlay, joints);
    c->firstImpedance = at(static_cast<int>(std::count_if(
        plant.sources.begin(), plant.sources.end(), [](const PlantSource& s) { return !(s.directV > 0.0); })));
    auto prepared = network::Prepared::make(c->network);
    TS_CHECK(prepared.has_value());
    c->prepared = std::move(*prepared);
    c->prepared.solve({}, c->solution);
    network::elementCurrents(c->network, c->prepared, c->solution, {}, c->currents);
    addCurrents(plant, joints, *c);
    return c;
}

} // namespace ts
