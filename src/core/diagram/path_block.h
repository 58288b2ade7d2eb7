#pragma once
// One connected group of control elements between its ends, placed on a grid of columns and cells.
// Used by control_layout; kept apart because this is where the geometry is decided.

#include "core/diagram/series_parallel.h"
#include "core/diagram/wired_graph.h"

#include <functional>
#include <vector>

namespace ts::diagram {

/// What is to be placed: edges of the graph (in drawing order) and the net at each end; -1: hangs free.
struct Group {
    std::vector<int> edges; ///< indices into WiredGraph::edges
    int top = -1, bottom = -1; ///< nets
    std::vector<int> ports; ///< further nets that must not be swallowed: rails and device inputs
    std::vector<int> loose; ///< terminals of the net `top` that no element ends on; then there are no edges
};

/// An element at its place: column and cells, ends included.
struct PlacedEdge {
    int edge = 0;
    bool isTurned = false; ///< its b-end is on top
    double column = 0, from = 0, to = 0; ///< cells
};
/// A straight piece of a net.
struct PlacedWire {
    int net = 0;
    double column0 = 0, cell0 = 0, column1 = 0, cell1 = 0;
};
struct PlacedNode {
    int net = 0;
    double column = 0, cell = 0;
    bool isUpper = false; ///< conductors go down from here
};

struct Block {
    double columns = 0, cells = 0;
    std::vector<PlacedEdge> edges;
    std::vector<PlacedWire> wires;
    std::vector<PlacedNode> junctions;
    std::vector<PlacedNode> ends; ///< where each port net and the two ends are reached
};

/// The smallest rank above 0 of the devices of the loads among some edges; if there is no load, of all; 0: none has a
/// rank.
int rankOf(const WiredGraph& graph, const std::vector<int>& edges);
/// Positions in the order of their ranks. What has rank 0 stays behind the one before it.
std::vector<std::size_t> orderByRank(const std::vector<int>& ranks);

/// Smallest number of cells the group needs.
double cellsNeeded(const WiredGraph& graph, const Group& group);
/// The group over the given number of cells, at least what it needs. Where a part that is not series-parallel cannot
/// be drawn without lines touching what they do not belong to, its pieces stand side by side with named ends. Pure.
Block placed(const WiredGraph& graph, const Group& group, double cells);

} // namespace ts::diagram
