#pragma once
// Current paths of the control circuit, laid out from the wiring alone: live rail on top, return at the bottom,
// contacts in between, loads on one line. A pure function of the circuit; power_layout.h draws the other half.

#include "core/diagram/scene.h"
#include "core/diagram/wired_graph.h"

namespace ts::diagram {

/// Every control element appears once; what is not series-parallel is laid out by levels, with extra rails and
/// inputs of devices as named ports. Elements without any wire are left out and listed in `unwired`.
struct ControlDrawing {
    Scene scene;
    std::vector<std::string> unwired; ///< "Q1 43-44"
};
ControlDrawing controlDrawing(const WiredGraph& graph);

} // namespace ts::diagram
