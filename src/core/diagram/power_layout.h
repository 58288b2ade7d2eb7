#pragma once
// The power circuit: supply, protective devices, main contacts, transformer, supplies and motors, in rows in the
// order in which the supply reaches them. A pure function of the circuit.

#include "core/diagram/scene.h"
#include "core/diagram/wired_graph.h"

namespace ts::diagram {

Scene powerDrawing(const WiredGraph& graph);

} // namespace ts::diagram
