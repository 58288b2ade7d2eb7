#pragma once
// Which control elements hang together and are drawn as one block, and in which order the blocks stand. Used by
// control_layout; geometry is there and in path_block.h.

#include "core/diagram/path_block.h"
#include "core/diagram/wired_graph.h"

#include <string>
#include <vector>

namespace ts::diagram {

struct ControlGroups {
    std::vector<Group> groups; ///< in the order of drawing
    std::vector<std::string> unwired; ///< "Q1 43-44"
};

/// Elements that hang together without going through a rail or a device's input; then inputs that nothing else ends on.
/// Sorted by what they do (coils, devices, inputs, lamps, the rest), and by rank where their devices have one. Pure.
ControlGroups controlGroups(const WiredGraph& graph);

/// The unused half of a change-over contact hangs on the common terminal only: it counts as not wired.
bool isWired(const WiredGraph& graph, const GraphEdge& edge);
/// An input of some device is on the net.
bool hasPort(const WiredGraph& graph, int net);

} // namespace ts::diagram
