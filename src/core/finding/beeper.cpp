#include "core/finding/beeper.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>

namespace ts::finding {

using namespace measuring;

namespace {

/// Joins what beeps, and what reads any ohms at all.
class Joining {
public:
    explicit Joining(int nodes)
        : m_near(nodes)
        , m_far(nodes)
    {
    }
    void join(const Bond& b)
    {
        if (b.high <= mostThatBeeps())
            m_near.join(b.p, b.q);
        if (b.high < kEndless)
            m_far.join(b.p, b.q);
    }
    int near(int node) { return m_near.find(node); }
    int far(int node) { return m_far.find(node); }

private:
    network::DisjointSets m_near, m_far;
};

bool isOfElectronics(const std::optional<Bond>& b)
{
    return b && !(b->high < kEndless);
}

} // namespace

std::vector<std::size_t> slotsOf(const Plant& plant, const Overlay& overlay, std::span<const MovedWire> moved)
{
    const Overlay none = overlayOf(plant, {});
    const auto isMoved = [&](int wire) {
        return wire >= 0
            && std::any_of(moved.begin(), moved.end(), [wire](const MovedWire& m) { return m.wire == wire; });
    };
    const auto isBound = [&](int mover) {
        return mover >= 0
            && (overlay.lowest[at(mover)] != none.lowest[at(mover)]
                || overlay.highest[at(mover)] != none.highest[at(mover)]);
    };
    std::vector<std::size_t> slots;
    std::size_t slot = 0;
    for (std::size_t l = 0; l < plant.links.size(); ++l, ++slot)
        if (const PlantLink& link = plant.links[l];
            overlay.link[l] != 0 || isBound(link.contact.mover) || isMoved(link.wire))
            slots.push_back(slot);
    for (std::size_t z = 0; z < plant.impedances.size(); ++z, ++slot)
        if (overlay.impedance[z] != 0 || isMoved(plant.impedances[z].wire))
            slots.push_back(slot);
    for (std::size_t k = 0; k < plant.transformers.size(); ++k, ++slot)
        if (overlay.transformerOpen[k])
            slots.push_back(slot);
    return slots;
}

Beeper::Beeper(const Plant& plant, const DeadState& state, const std::vector<DeadLook>& looks,
    const std::vector<std::size_t>& inThisState)
    : m_plant(plant)
    , m_state(state)
    , m_none(overlayOf(plant, {}))
    , m_parts(at(plant.nodeCount))
{
    const BuiltSo right{plant, state.travel, m_none, state.gone};
    const std::size_t faulty = plant.links.size() + plant.impedances.size() + plant.transformers.size();
    for (std::size_t slot = 0; slot < faulty; ++slot)
        m_bonds.push_back(bondIn(right, slot));
    for (std::size_t k = 0; k < plant.transformers.size(); ++k)
        m_bonds.push_back(secondaryIn(plant, k));
    for (const Bond& b : machinesIn(plant))
        m_bonds.push_back(b);
    Joining joined(plant.nodeCount);
    for (const auto& b : m_bonds)
        if (b)
            joined.join(*b);
    for (int n = 0; n < plant.nodeCount; ++n) {
        m_near.push_back(joined.near(n));
        m_far.push_back(joined.far(n));
        m_parts[at(m_far.back())].nodes.push_back(n);
    }
    for (std::size_t k = 0; k < m_bonds.size(); ++k)
        if (m_bonds[k] && !isOfElectronics(m_bonds[k]))
            m_parts[at(m_far[at(m_bonds[k]->p)])].bonds.push_back(static_cast<int>(k));
    for (const std::size_t l : inThisState) {
        const DeadLook& look = looks[l];
        if (look.isForWires() || look.nodesA.size() != 1 || look.nodesB.size() != 1)
            continue;
        const Ends ends{l, look.nodesA.front(), look.nodesB.front()};
        const int place = static_cast<int>(m_looks.size());
        m_looks.push_back(ends);
        m_right.push_back({l, pathOf(ends, m_near, m_far)});
        m_parts[at(m_far[at(ends.a)])].looks.push_back(place);
        if (m_far[at(ends.a)] != m_far[at(ends.b)])
            m_parts[at(m_far[at(ends.b)])].looks.push_back(place);
    }
}

std::optional<Bond> Beeper::bondIn(const BuiltSo& built, std::size_t slot) const
{
    if (slot < m_plant.links.size())
        return linkIn(built, slot);
    slot -= m_plant.links.size();
    if (slot < m_plant.impedances.size())
        return impedanceIn(built, slot);
    return primaryIn(built, slot - m_plant.impedances.size());
}

Path Beeper::pathOf(const Ends& look, const std::vector<int>& near, const std::vector<int>& far) const
{
    if (near[at(look.a)] == near[at(look.b)])
        return Path::Direct;
    return far[at(look.a)] == far[at(look.b)] ? Path::Finite : Path::None;
}

Beeper::Change Beeper::changeIn(const BuiltSo& built, const std::vector<std::size_t>& slots) const
{
    Change change;
    const auto touch = [&](const Bond& b) {
        change.parts.push_back(m_far[at(b.p)]);
        change.parts.push_back(m_far[at(b.q)]);
    };
    for (const std::size_t slot : slots) {
        const auto now = bondIn(built, slot);
        if (now == m_bonds[slot])
            continue;
        if (m_bonds[slot]) {
            change.gone.push_back(slot);
            touch(*m_bonds[slot]);
        }
        if (now)
            change.come.push_back(*now);
    }
    for (const auto& [a, b] : built.overlay.shorts)
        change.come.push_back({a, b, 0, 0});
    for (const Bond& b : change.come)
        touch(b);
    std::sort(change.parts.begin(), change.parts.end());
    change.parts.erase(std::unique(change.parts.begin(), change.parts.end()), change.parts.end());
    return change;
}

std::vector<Beep> Beeper::others(
    const std::vector<std::size_t>& slots, const Overlay& overlay, std::span<const MovedWire> moved) const
{
    const Change change = changeIn({m_plant, m_state.travel, overlay, moved}, slots);
    if (change.parts.empty())
        return {};
    const auto isIn = [](const auto& all, auto what) { return std::find(all.begin(), all.end(), what) != all.end(); };
    Joining joined(m_plant.nodeCount);
    for (const int part : change.parts)
        for (const int b : m_parts[at(part)].bonds)
            if (!isIn(change.gone, at(b)))
                joined.join(*m_bonds[at(b)]);
    for (const Bond& b : change.come)
        joined.join(b);
    std::vector<int> near = m_near, far = m_far;
    for (const int part : change.parts)
        for (const int n : m_parts[at(part)].nodes) {
            near[at(n)] = joined.near(n);
            far[at(n)] = joined.far(n);
        }
    std::vector<Beep> others;
    for (const int part : change.parts)
        for (const int k : m_parts[at(part)].looks) {
            const Ends& look = m_looks[at(k)];
            const int home = m_far[at(look.a)]; // a look between two parts is in both
            if (home != part && isIn(change.parts, home))
                continue;
            if (const Path path = pathOf(look, near, far); path != m_right[at(k)].path)
                others.push_back({look.look, path});
        }
    return others;
}

} // namespace ts::finding
