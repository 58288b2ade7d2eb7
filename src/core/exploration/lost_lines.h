#pragma once
// A line of the supply is lost while motors run, or before a start that is held: which motors run on without it, where
// some device is there to see it. Source: EN 60204-1 clause 7.3.

#include "core/exploration/operation.h"

namespace ts::exploration {

/// A motor that is still fed without one line after every monitor had its time and the contactors theirs.
struct RunsWithoutLine {
    DeviceId motor;
    std::string line; ///< "G0.L2"
    bool isStartHeld = false; ///< by a start button that is held; else it went on running
    std::string start; ///< "S2 press", if held
    Seconds watched; ///< for so long after the loss or the start
    bool operator==(const RunsWithoutLine&) const = default;
};

struct LostLines {
    std::vector<RunsWithoutLine> seen; ///< one for each motor, line, and whether a start is held
    std::size_t runs = 0;
    std::size_t undecided = 0; ///< runs in which the circuit chatters: nothing is known of them
};

/// Of the states given: some in which motors run, some at rest. Empty without a phase or current monitor: nothing
/// claims to see it. In part only where it is stopped.
LostLines lostLines(const Plant& plant, const Operations& operations, const std::vector<State>& states,
    const std::vector<Stimulus>& starts, Limits::Ties ties, Workspace& workspace, const std::stop_token& stop);

} // namespace ts::exploration
