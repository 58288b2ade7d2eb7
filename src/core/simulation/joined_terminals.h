#pragma once
// What the closed contacts and wires of a plant come to for its elements: which of their terminals are joined, and how
// much of each one's current goes through the poles that are watched. Contacts and wires that change neither are one
// and the same circuit. Internal to simulation/.

#include "core/network/solver.h"
#include "core/simulation/electrics.h"

namespace ts {

struct JoinedTerminals {
    std::uint64_t number = 0; ///< no two of one memory have the same
    std::vector<network::Link> links;
    std::vector<network::LinkCurrentRow> rows; ///< of each pole asked for, over terminals of elements
};

/// All links where this kind of current comes, as they are: every node of the plant can be read in such a circuit. The
/// rows of all poles are left empty.
JoinedTerminals wholeJoints(
    const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, std::span<const int> poles);

/// All that decides about them, as a key.
void jointsKey(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach, MemoryKey& key);

/// The same as the elements see it: each terminal joined with the first one that it is joined with; nodes that are
/// none, and those where this kind of current does not come, at the reference. `poles` are links, -1: not asked for.
/// The number is 0.
JoinedTerminals seenJoints(const Plant& plant, const State& state, const Overlay& overlay, const Reach& reach,
    std::span<const int> poles, network::RowMemory& memory);

} // namespace ts
