#pragma once
// Current paths of the control circuit, laid out from the wiring alone: live rail on top, return at the bottom,
// contacts in between, loads on one line; or the same as rungs of a ladder, from left to right. A pure function of the
// circuit; power_layout.h draws the other half.

#include "core/diagram/path_frame.h"
#include "core/diagram/wired_graph.h"

namespace ts::diagram {

/// A current path as it is numbered: what a person drags to another place.
struct DrawnPath {
    int number = 0;
    DeviceId lead; ///< its load's device, else the first one in it: the rank of this device orders the path
    bool isFirstOfGroup = false; ///< what hangs together moves together
    Point top, bottom; ///< where its line meets the rails
};

/// Groups and parallel branches stand in the order of the ranks of their loads' devices; those without a rank keep
/// their place behind what they follow. Every control element appears once; what is not series-parallel is laid out by
/// levels, with extra rails and inputs of devices as named ports. Elements without any wire are left out and listed in
/// `unwired`.
struct ControlDrawing {
    Scene scene;
    std::vector<DrawnPath> paths; ///< in the order of their numbers; empty columns left out
    std::vector<std::string> unwired; ///< "Q1 43-44"
    School school = School::CurrentPaths;
    std::vector<double> rowEnds; ///< along the paths, where each row of them ends
};
ControlDrawing controlDrawing(const WiredGraph& graph, School school = School::CurrentPaths);

/// The leads of all paths in the order of drawing, with one path before another one (one more than the last: at the
/// end). Within what hangs together the branch moves; out of it, all of it does. Each lead once.
std::vector<DeviceId> orderWithPathMoved(const std::vector<DrawnPath>& paths, int number, int before);

} // namespace ts::diagram
