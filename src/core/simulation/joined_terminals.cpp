#include "core/simulation/joined_terminals.h"

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

/// A row over the terminals in its super-node, the first of them at zero: a constant for all changes nothing, because
/// what elements bring to joined nodes they take away again. The reference, where it is one of them, takes the balance
/// and stays the zero.
network::LinkCurrentRow onTerminals(
    const network::LinkCurrentRow& row, const Reach& reach, const std::vector<int>& superOf, int super, int first)
{
    const auto known = std::lower_bound(row.begin(), row.end(), std::pair(first, -HUGE_VAL));
    const bool isZero = super == network::kReference || known == row.end() || known->first != first;
    network::LinkCurrentRow result;
    const auto put = [&result](int terminal, double share) {
        if (share != 0.0)
            result.emplace_back(terminal, share);
    };
    if (isZero) { // what the row does not name is at zero, too
        for (const auto& [node, share] : row)
            if (std::binary_search(reach.terminals.begin(), reach.terminals.end(), node))
                put(node, rounded(share));
        return result;
    }
    auto next = row.begin();
    for (int t : reach.terminals) {
        if (superOf[at(t)] != super)
            continue;
        next = std::lower_bound(next, row.end(), std::pair(t, -HUGE_VAL));
        put(t, rounded((next != row.end() && next->first == t ? next->second : 0.0) - known->second));
    }
    return result;
}

/// The super-node of every node: its first member.
std::vector<int> superNodes(const std::vector<network::Link>& links, int nodeCount)
{
    network::DisjointSets sets(nodeCount);
    for (const network::Link& l : links)
        if (l.closed)
            sets.join(l.p, l.q);
    std::vector<int> superOf(at(nodeCount));
    for (int node = 0; node < nodeCount; ++node)
        superOf[at(node)] = sets.find(node);
    return superOf;
}

} // namespace

JoinedTerminals wholeJoints(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, std::span<const int> poles)
{
    JoinedTerminals joints;
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

JoinedTerminals seenJoints(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach,
    std::span<const int> poles, network::RowMemory& memory)
{
    const JoinedTerminals whole = wholeJoints(plant, state, overlay, reach, {});
    const std::vector<int> superOf = superNodes(whole.links, plant.nodeCount);
    JoinedTerminals joints;
    joints.links.reserve(superOf.size());
    std::vector<int> first(superOf.size(), -1); // terminal, by super-node
    first[network::kReference] = network::kReference;
    auto terminal = reach.terminals.begin();
    for (int node = 1; node < plant.nodeCount; ++node) {
        if (terminal == reach.terminals.end() || *terminal != node) {
            joints.links.push_back({network::kReference, node, true});
            continue;
        }
        ++terminal;
        int& with = first[at(superOf[at(node)])];
        if (with < 0) {
            with = node;
            continue;
        }
        joints.links.push_back({with, node, true});
    }
    const auto rows = network::linkCurrentRows(whole.links, superOf, poles, memory);
    joints.rows.resize(poles.size());
    for (std::size_t k = 0; k < poles.size(); ++k)
        if (!rows[k].empty()) {
            const int super = superOf[at(plant.links[at(poles[k])].p)];
            joints.rows[k] = onTerminals(rows[k], reach, superOf, super, first[at(super)]);
        }
    return joints;
}

void rowContent(const JoinedTerminals& joints, const std::vector<bool>& counts, MemoryKey& content)
{
    for (const network::LinkCurrentRow& row : joints.rows) {
        const bool isSeen = std::any_of(
            row.begin(), row.end(), [&counts](const auto& term) { return counts[at(term.first)]; });
        content.push_back(isSeen ? row.size() : 0);
        for (const auto& [node, share] : row)
            if (isSeen) {
                content.push_back(static_cast<std::uint64_t>(node));
                content.push_back(std::bit_cast<std::uint64_t>(share));
            }
    }
}

} // namespace ts
