#pragma once
// The stop category of one actuator, read from what a run really did. Source: EN 60204-1 clause 9.2.2.
// Gets plain histories (analysis/ takes them from a trace), so that it can be tested without a circuit.

#include "core/base/ids.h"
#include "core/base/message.h"
#include "core/base/quantity.h"

#include <optional>
#include <string>
#include <vector>

namespace ts::safety {

struct PathChange {
    TimeNs at = 0;
    int fedTerminals = 0; ///< terminals with a path to a source from then on
    double speedRadPerS = 0; ///< of the shaft at that instant
};
struct MotionChange {
    TimeNs at = 0;
    bool turns = false; ///< speed above the standstill limit from then on
};

/// What one motor did around a demand. Changes are in order of time and may begin before the demand.
struct ActuatorHistory {
    std::string tag;
    TimeNs demand = 0;
    std::vector<PathChange> paths;
    std::vector<MotionChange> motions;
    bool rampedToRest = false; ///< a drive was bringing it down under power when it came to rest
    Seconds releaseTimes; ///< own release times of the devices between demand and removal, added up
};

struct ActuatorStop {
    std::string tag;
    std::optional<int> category; ///< none: no stop, a stop of no category, or the run shows nothing about it
    bool stops = false; ///< it comes to rest without power and stays there, with a category or without
    bool runShowsIt = true; ///< false: the motor did not run at the demand
    std::optional<Seconds> removedAfter; ///< tp - t0, arc time included
    std::optional<Seconds> restAfter; ///< ts - t0; arc time included where power went while it moved
    double removalSpeedRadPerS = 0; ///< of the shaft at tp: near zero for a controlled stop
    bool terminalsLive = false;
    Message why;
};

/// A motor that ran at the demand and turned again later in the same run, with the device that was operated last before
/// that.
struct SeenRestart {
    std::string motor;
    DeviceId by; ///< none: nothing was operated
    bool operator==(const SeenRestart&) const = default;
};

/// Longest arc of a contactor breaking alternating current. Source: half a period, device_defaults.csv.
Seconds arcTime();

/// Pure. tp is the last instant at which two or more terminals have a path to a source, arc time added; ts the last
/// instant above the standstill limit, watched to the end of the run. Category 1 is read only where a drive brought the
/// motor to rest and power went then; power that merely goes late is a
/// stop of no category.
ActuatorStop readStop(const ActuatorHistory& history);

} // namespace ts::safety
