#include "core/ways/power_ways.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <deque>

namespace ts {

namespace {

/// Nodes of the power circuit that are one with these devices open: main poles, soft starters, drives.
network::DisjointSets joinedNodes(const Plant& plant, const std::set<int>& open)
{
    network::DisjointSets sets(plant.nodeCount);
    for (const PlantLink& l : plant.links) {
        const bool isPower = l.contact.mover < 0 || l.contact.kind == ContactKind::Main
            || l.contact.kind == ContactKind::Pole;
        if (isPower && !(l.device >= 0 && l.contact.kind == ContactKind::Main && open.contains(l.device)))
            sets.join(l.p, l.q);
    }
    for (const PlantImpedance& z : plant.impedances)
        if (z.kind == PlantImpedance::Kind::Wire)
            sets.join(z.p, z.q);
    for (const PlantVariable& v : plant.variables)
        if (!open.contains(v.device))
            sets.join(v.p, v.q);
    for (const PlantTransformer& t : plant.transformers)
        if (t.data.nominalSecondaryV <= 0.0) // a line led through
            sets.join(t.p1, t.p2);
    for (const PlantDrive& d : plant.drives)
        for (std::size_t k = 0; k < 3; ++k)
            if (!open.contains(d.device))
                sets.join(d.inputs[k], d.outputs[k]);
    return sets;
}

} // namespace

std::vector<bool> liveNodes(const Plant& plant, const std::set<int>& open)
{
    network::DisjointSets sets = joinedNodes(plant, open);
    std::set<int> live;
    for (const PlantSource& s : plant.sources)
        if (s.nominalV > 0.0)
            live.insert(sets.find(s.p));
    std::vector<bool> result(at(plant.nodeCount));
    for (int node = 0; node < plant.nodeCount; ++node)
        result[at(node)] = live.contains(sets.find(node));
    return result;
}

bool hasMainPoles(const Plant& plant, const PlantDevice& device)
{
    return std::any_of(device.links.begin(), device.links.end(), [&](int l) {
        const ContactElement& c = plant.links[at(l)].contact;
        return c.kind == ContactKind::Main && c.mover >= 0
            && plant.movers[at(c.mover)].spec.driver == MoverSpec::Driver::Coil;
    });
}

PowerIslands::PowerIslands(const Plant& plant, const std::set<int>& gates)
    : m_islandOfNode(at(plant.nodeCount))
    , m_poles(plant.devices.size())
    , m_depth(at(plant.nodeCount), -1)
{
    std::set<int> open = gates;
    for (std::size_t k = 0; k < plant.devices.size(); ++k)
        if (hasMainPoles(plant, plant.devices[k]))
            open.insert(static_cast<int>(k));
    network::DisjointSets sets = joinedNodes(plant, open);
    for (int node = 0; node < plant.nodeCount; ++node)
        m_islandOfNode[at(node)] = sets.find(node);
    const auto pole = [&](int device, int p, int q) {
        if (open.contains(device))
            m_poles[at(device)].push_back({m_islandOfNode[at(p)], m_islandOfNode[at(q)]});
    };
    for (const PlantLink& l : plant.links)
        if (l.contact.kind == ContactKind::Main && l.contact.mover >= 0 && l.device >= 0)
            pole(l.device, l.p, l.q);
    for (const PlantVariable& v : plant.variables)
        pole(v.device, v.p, v.q);
    for (const PlantDrive& d : plant.drives)
        for (std::size_t k = 0; k < 3; ++k)
            pole(d.device, d.inputs[k], d.outputs[k]);

    std::deque<int> reached;
    const auto reach = [&](int island, int depth) {
        if (m_depth[at(island)] >= 0)
            return;
        m_depth[at(island)] = depth;
        reached.push_back(island);
    };
    for (const PlantSource& s : plant.sources)
        if (s.nominalV > 0.0)
            reach(m_islandOfNode[at(s.p)], 0);
    for (; !reached.empty(); reached.pop_front())
        for (const auto& poles : m_poles)
            for (const Pole& p : poles)
                if (p.p == reached.front() || p.q == reached.front())
                    reach(p.p == reached.front() ? p.q : p.p, m_depth[at(reached.front())] + 1);
}

std::set<int> PowerIslands::sides(int gate, bool isLoad) const
{
    std::set<int> islands;
    for (const Pole& p : m_poles[at(gate)]) {
        const int depthP = m_depth[at(p.p)], depthQ = m_depth[at(p.q)];
        if (depthP < 0 || depthQ < 0 || depthP == depthQ) // joins ends of windings, leads nowhere
            continue;
        islands.insert((depthP > depthQ) == isLoad ? p.p : p.q);
    }
    return islands;
}

bool PowerIslands::feeds(int gate, const std::vector<int>& nodes) const
{
    const std::set<int> load = sides(gate, true);
    return std::any_of(nodes.begin(), nodes.end(), [&](int node) { return load.contains(m_islandOfNode[at(node)]); });
}

bool PowerIslands::isAhead(int gate, int next) const
{
    const std::set<int> load = sides(gate, true), line = sides(next, false);
    return std::any_of(load.begin(), load.end(), [&line](int island) { return line.contains(island); });
}

} // namespace ts
