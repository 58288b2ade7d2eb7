#pragma once
// What of a network its sources can reach. All else is at zero, however it is joined: networks that differ only there
// are one and the same to who reads voltages and currents.

#include "core/network/disjoint_sets.h"
#include "core/network/network.h"

#include <cstdint>
#include <span>
#include <vector>

namespace ts::network {

/// Nodes that closed links join.
struct SuperNodes {
    std::vector<int> of; ///< by node; numbered by their first nodes, the reference's is 0
    std::vector<int> first; ///< by super-node: its first node
    int count() const { return static_cast<int>(first.size()); }
};
SuperNodes superNodesOf(const Network& network);

/// Super-nodes that elements join, the reference left out: no current flows from one island to another.
struct Islands {
    DisjointSets sets; ///< of super-nodes
    std::vector<bool> isDriven; ///< by representative: a source or a current source is among its elements
};
Islands islandsByElements(const Network& network, std::span<const int> superOf, int superCount);

/// Appends all numbers that decide about the driven islands and those of the nodes `seen`: who is joined there, and
/// the elements there. Two networks with the same nodes, motors and transformers' ends and equal numbers have equal
/// voltages and currents at each of those nodes, to the bit; at all others they are zero. Returns by node whether it is
/// of those islands, or at the reference. Pure.
std::vector<bool> decisiveContent(
    const Network& network, std::span<const int> seen, std::vector<std::uint64_t>& content);

} // namespace ts::network
