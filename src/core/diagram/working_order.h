#pragma once
// The wires in the order in which they are put in: power circuit first, then control circuit, then indication; within
// each as the drawing is read, path by path from the supply down.

#include "core/diagram/wired_graph.h"

#include <vector>

namespace ts::diagram {

enum class WorkSection { Power, Control, Indication };

struct WorkStep {
    WireId wire;
    WorkSection section = WorkSection::Power;
    bool operator==(const WorkStep&) const = default;
};

/// Every wire of the circuit once. The graph must be that circuit's. Pure.
std::vector<WorkStep> workingOrder(const Circuit& circuit, const WiredGraph& graph);

} // namespace ts::diagram
