#pragma once
// Where power can come from, by the wiring alone.

#include "core/simulation/plant.h"

#include <set>
#include <vector>

namespace ts {

/// By node: whether it reaches a line of a supply with every contact of the power circuit closed, except the main poles
/// of these devices (places in the plant). Leads through wires, lines of transformers that are led through, soft
/// starters and drives. Pure.
std::vector<bool> liveNodes(const Plant& plant, const std::set<int>& open);

/// Whether the device has main poles that a coil moves.
bool hasMainPoles(const Plant& plant, const PlantDevice& device);

/// A power circuit cut at its gates: contactors, and those soft starters and drives that are named.
class PowerIslands {
public:
    PowerIslands(const Plant& plant, const std::set<int>& gates);
    /// The gate feeds one of the nodes, with nothing else that could open between.
    bool feeds(int gate, const std::vector<int>& nodes) const;
    /// The first one's load side is the second one's line side.
    bool isAhead(int gate, int next) const;

private:
    std::set<int> sides(int gate, bool isLoad) const; ///< islands
    struct Pole {
        int p = 0, q = 0; ///< islands
    };
    std::vector<int> m_islandOfNode;
    std::vector<std::vector<Pole>> m_poles; ///< by device
    std::vector<int> m_depth; ///< by island: gates between it and a supply; -1: none leads there
};

} // namespace ts
