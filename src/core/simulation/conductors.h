#pragma once
// What hangs together without a winding between: over wires and over contacts as they are at one instant. No voltage is
// asked: simulation/reach.h says where current can come at all, feeding.h what feeds a load.

#include "core/simulation/frame.h"

#include <optional>
#include <vector>

namespace ts {

/// What counts as joined besides wires and closed contacts.
struct Joins {
    bool semiconductors = false; ///< main paths that a logic switches, whether they conduct or not
    bool variables = false; ///< poles of soft starters
    bool linesLedThrough = false; ///< current transformers
    bool overEarth = true; ///< false: not on past protective earth
};

/// A main path that a logic switches, without an armature.
bool isSemiconductor(const Plant& plant, const PlantLink& link);

/// By node: 1 where it hangs together with one of `from`, these among them.
std::vector<std::uint8_t> joinedNodes(
    const Plant& plant, const Frame& frame, const std::vector<int>& from, const Joins& joins = {});

/// Contacts and wires passed, as plant slots, from the first to the last.
struct Conductors {
    std::vector<int> links, wires;
};
/// The way of fewest steps over wires and closed contacts from a node to one of the others; none if they do not hang
/// together.
std::optional<Conductors> wayBetween(const Plant& plant, const Frame& frame, int from, const std::vector<int>& to);

} // namespace ts
