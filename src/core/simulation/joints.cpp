#include "core/simulation/joints.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/circuits.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace ts {
namespace {

bool isReached(const Reach& reach, const std::pair<int, int>& nodes)
{
    return reach.isNode[at(nodes.first)] || reach.isNode[at(nodes.second)];
}

/// Equal shares are to be equal, however a solution was rounded.
double rounded(double share)
{
    constexpr double kParts = 1ll << 32;
    return std::round(share * kParts) / kParts;
}

/// A row over the terminals in its super-node, the first of them at zero: a constant for all changes nothing, because what elements bring to
/// joined nodes they take away again. The reference, where it is one of them, takes the balance and stays the zero.
network::LinkCurrentRow onTerminals(const network::LinkCurrentRow& row, const std::vector<int>& terminals, bool isReference, std::vector<double>& shares)
{
    network::LinkCurrentRow result;
    if (row.empty() || terminals.empty())
        return result;
    for (const auto& [node, share] : row)
        shares[at(node)] = share;
    const double zero = isReference ? 0.0 : shares[at(terminals.front())];
    for (int t : terminals)
        if (const double share = rounded(shares[at(t)] - zero); share != 0.0)
            result.emplace_back(t, share);
    for (const auto& [node, share] : row)
        shares[at(node)] = 0.0;
    return result;
}

} // namespace

Joints wholeJoints(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, std::span<const int> poles)
{
    Joints joints;
    joints.rows.resize(poles.size());
    joints.links.reserve(plant.links.size() + overlay.shorts.size());
    for (const PlantLink& l : plant.links)
        joints.links.push_back({l.p, l.q, false});
    for (int l : reach.links)
        joints.links[at(l)].closed = isClosed(plant.links[at(l)], at(l), state, overlay);
    for (const auto& nodes : overlay.shorts)
        if (isReached(reach, nodes))
            joints.links.push_back({nodes.first, nodes.second, true});
    return joints;
}

void jointsKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key)
{
    KeyWriter writer(key);
    for (int l : reach.links)
        writer.put(isClosed(plant.links[at(l)], at(l), state, overlay));
    writer.flush();
    key.push_back(reach.number);
    for (const auto& nodes : overlay.shorts)
        if (isReached(reach, nodes))
            key.push_back(static_cast<std::uint64_t>(nodes.first) << 32 | static_cast<std::uint32_t>(nodes.second));
}

Joints jointsOf(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, std::span<const int> poles, network::RowMemory& memory)
{
    const Joints whole = wholeJoints(plant, state, overlay, reach, {});
    network::DisjointSets sets(plant.nodeCount);
    for (const network::Link& l : whole.links)
        if (l.closed)
            sets.join(l.p, l.q);
    std::vector<int> superOf(at(plant.nodeCount));
    for (int node = 0; node < plant.nodeCount; ++node)
        superOf[at(node)] = sets.find(node);
    std::vector<std::vector<int>> terminals(superOf.size()); // by super-node
    std::vector<bool> isPlaced(superOf.size(), false);
    Joints joints;
    for (int t : reach.terminals) {
        std::vector<int>& here = terminals[at(superOf[at(t)])];
        here.push_back(t);
        if (superOf[at(t)] != network::kReference) {
            isPlaced[at(t)] = true;
            if (here.front() != t)
                joints.links.push_back({here.front(), t, true});
        }
    }
    for (int node = 1; node < plant.nodeCount; ++node)
        if (!isPlaced[at(node)])
            joints.links.push_back({network::kReference, node, true});
    std::vector<double> shares(superOf.size(), 0.0);
    const auto rows = network::linkCurrentRows(whole.links, superOf, poles, memory);
    for (std::size_t k = 0; k < poles.size(); ++k) {
        const int super = poles[k] < 0 ? network::kReference : superOf[at(plant.links[at(poles[k])].p)];
        joints.rows.push_back(onTerminals(rows[k], terminals[at(super)], super == network::kReference, shares));
    }
    return joints;
}

MemoryKey contentOf(const Joints& joints, const Reach& reach)
{
    MemoryKey content{reach.number};
    for (const network::Link& l : joints.links)
        if (std::binary_search(reach.terminals.begin(), reach.terminals.end(), l.q)) // the other nodes are always at the reference
            content.push_back(static_cast<std::uint64_t>(l.p) << 32 | static_cast<std::uint32_t>(l.q));
    content.push_back(joints.rows.size());
    for (const network::LinkCurrentRow& row : joints.rows) {
        content.push_back(row.size());
        for (const auto& [node, share] : row) {
            content.push_back(static_cast<std::uint64_t>(node));
            content.push_back(std::bit_cast<std::uint64_t>(share));
        }
    }
    return content;
}

} // namespace ts
