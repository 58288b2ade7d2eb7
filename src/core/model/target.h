#pragma once
// What somebody wants to be shown: where a finding can be looked at, what a search found. Which place of the window
// shows it is the places' own answer; core knows none of them.

#include "core/base/ids.h"

#include <string>

namespace ts {

/// Only what is known of it is set.
struct Target {
    /// Under which light.
    enum class Aspect : std::uint8_t {
        Circuit, ///< a device, an element, a wire as it is wired
        Demand, ///< what demands a function, what must rest and when
        Claim, ///< what is claimed for it, and its level
        Fault, ///< what single and second faults come to
        Order, ///< every order of operation of a motor
        WorstStop ///< the stop in its worst case
    };
    Aspect aspect = Aspect::Circuit;
    DeviceId device{};
    std::string element{}; ///< of the device, "13-14"
    WireId wire{};
    FunctionId function{};
    std::string subsystem{}; ///< of the function's claim, by its name
    std::string fault{}; ///< "Q1/main:welded"
    ScenarioId scenario{}; ///< that shows it
    double atS = 0.0; ///< when in the scenario
    int seen = -1; ///< place in the list of what its study saw; none: it is not one of a list
    bool operator==(const Target&) const = default;
};

} // namespace ts
