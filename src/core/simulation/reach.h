#pragma once
// Where alternating and where direct current can come in a plant, whatever its contacts do. A contact that only direct
// current can reach changes nothing for alternating current and the other way round, so each kind is worked out by what
// can matter to it.

#include "core/simulation/plant.h"

#include <cstdint>
#include <utility>
#include <vector>

namespace ts {

struct Reach {
    std::uint64_t number = 0; ///< given by who remembers it: no two of one memory have the same
    std::vector<std::uint8_t> isNode; ///< by node, the reference excepted
    std::vector<int> terminals; ///< nodes there at which an element has an end, in order
    std::vector<int> links, impedances, coils; ///< slots with an end there, in order
};
/// Every node is in one of them at least.
struct Reaches {
    Reach alternating; ///< with all motors and what leads to them
    Reach direct;
};

/// `shorts` are pairs of nodes joined besides. All that can join nodes is taken as closed, except through the
/// reference, whose voltage is given, and through a 24 V supply, whose two sides see each other as a load and as a
/// source.
Reaches reachesOf(const Plant& plant, const std::vector<std::pair<int, int>>& shorts);

/// How many ends of elements are at each node: all that anything but a link is connected to.
std::vector<int> endsByNode(const Plant& plant);

} // namespace ts
