#include "core/simulation/reach.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/network/network.h"

namespace ts {
namespace {

/// What can be joined, the reference left out.
class Joined {
public:
    explicit Joined(int count)
        : m_sets(count)
    {
    }
    void join(int a, int b)
    {
        if (a != network::kReference && b != network::kReference)
            m_sets.join(a, b);
    }
    int find(int node) { return m_sets.find(node); }

private:
    network::DisjointSets m_sets;
};

void joinElements(const Plant& plant, Joined& joined)
{
    for (const PlantLink& l : plant.links)
        joined.join(l.p, l.q);
    for (const PlantImpedance& z : plant.impedances)
        joined.join(z.p, z.q);
    for (const PlantSource& s : plant.sources)
        joined.join(s.p, s.q);
    for (const PlantConverter& c : plant.converters) {
        joined.join(c.inputP, c.inputQ);
        joined.join(c.plus, c.minus);
    }
    for (const PlantTransformer& t : plant.transformers)
        for (int node : {t.p2, t.s1, t.s2}) {
            joined.join(t.p1, node);
            if (t.p1 == network::kReference)
                joined.join(t.p2, node);
        }
    for (const PlantVariable& v : plant.variables)
        joined.join(v.p, v.q);
    for (const PlantMotor& m : plant.motors)
        for (int k = 1; k < (m.data.sixTerminal ? 6 : 3); ++k)
            joined.join(m.nodes[0], m.nodes[at(k)]);
    for (const PlantDrive& d : plant.drives)
        for (int k = 1; k < 3; ++k)
            joined.join(d.inputs[0], d.inputs[at(k)]);
}

void listSlots(const Plant& plant, const std::vector<int>& ends, Reach& reach)
{
    for (int node = 1; node < plant.nodeCount; ++node)
        if (reach.isNode[at(node)] && ends[at(node)] > 0)
            reach.terminals.push_back(node);
    const auto touches = [&](const auto& x) { return reach.isNode[at(x.p)] || reach.isNode[at(x.q)]; };
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (touches(plant.links[l]))
            reach.links.push_back(static_cast<int>(l));
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (touches(plant.impedances[z]))
            reach.impedances.push_back(static_cast<int>(z));
    for (std::size_t c = 0; c < plant.coils.size(); ++c)
        if (touches(plant.impedances[at(plant.coils[c].impedance)]))
            reach.coils.push_back(static_cast<int>(c));
}

} // namespace

Reaches reachesOf(const Plant& plant, const std::vector<std::pair<int, int>>& shorts)
{
    Joined joined(plant.nodeCount);
    joinElements(plant, joined);
    for (const auto& [a, b] : shorts)
        joined.join(a, b);

    std::vector<std::uint8_t> isAlternating(at(plant.nodeCount), 0), isDirect(at(plant.nodeCount), 0); // by
                                                                                                       // representative
    for (const PlantSource& s : plant.sources)
        for (int node : {s.p, s.q})
            (s.directV > 0.0 ? isDirect : isAlternating)[at(joined.find(node))] = 1;
    for (const PlantConverter& c : plant.converters)
        for (int node : {c.plus, c.minus})
            isDirect[at(joined.find(node))] = 1;
    for (const PlantMotor& m : plant.motors)
        for (int k = 0; k < (m.data.sixTerminal ? 6 : 3); ++k)
            isAlternating[at(joined.find(m.nodes[at(k)]))] = 1;
    for (const PlantDrive& d : plant.drives)
        for (int node : d.outputs)
            isAlternating[at(joined.find(node))] = 1;

    Reaches reaches;
    reaches.alternating.isNode.assign(at(plant.nodeCount), 0);
    reaches.direct.isNode.assign(at(plant.nodeCount), 0);
    for (int node = 1; node < plant.nodeCount; ++node) {
        const std::size_t root = at(joined.find(node));
        reaches.alternating.isNode[at(node)] = isAlternating[root];
        reaches.direct.isNode[at(node)] = isDirect[root] || !isAlternating[root];
    }
    const std::vector<int> ends = endsByNode(plant);
    listSlots(plant, ends, reaches.alternating);
    listSlots(plant, ends, reaches.direct);
    return reaches;
}

std::vector<int> endsByNode(const Plant& plant)
{
    std::vector<int> ends(at(plant.nodeCount), 0);
    const auto has = [&](std::initializer_list<int> nodes) {
        for (int node : nodes)
            ++ends[at(node)];
    };
    for (const PlantImpedance& z : plant.impedances)
        has({z.p, z.q});
    for (const PlantSource& s : plant.sources)
        has({s.p, s.q});
    for (const PlantConverter& c : plant.converters)
        has({c.inputP, c.inputQ, c.plus, c.minus});
    for (const PlantTransformer& t : plant.transformers)
        has({t.p1, t.p2, t.s1, t.s2});
    for (const PlantVariable& v : plant.variables)
        has({v.p, v.q});
    for (const PlantMotor& m : plant.motors)
        for (int k = 0; k < (m.data.sixTerminal ? 6 : 3); ++k)
            has({m.nodes[at(k)]});
    for (const PlantDrive& d : plant.drives)
        for (std::size_t k = 0; k < 3; ++k)
            has({d.inputs[k], d.outputs[k]});
    return ends;
}

} // namespace ts
