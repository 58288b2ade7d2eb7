#pragma once
// The registry of design checks. A check reads the dossier and its results and yields findings; no finding without
// evidence. To add one: a function in its group's file, a line in registry.cpp, wording, a test with and without.

#include "core/model/dossier.h"
#include "core/model/finding.h"
#include "core/safety/level.h"
#include "core/safety/stop_reading.h"

#include <optional>
#include <span>

namespace ts {

/// Results of one function, as far as they could be had.
struct FunctionEvidence {
    const SafetyFunction* function = nullptr;
    const safety::FunctionLevel* level = nullptr;
    std::vector<safety::ActuatorStop> stops; ///< worst timing first; empty if it could not be read
    std::vector<safety::SeenRestart> restarts; ///< as the demand's run shows them
    Message stopTrouble; ///< why it could not be read
};

/// What a device does in the scenarios (analysis/switching_duty.h).
struct SwitchingDuty {
    DeviceId device;
    int operations = 0; ///< times it pulls in or is operated, all scenarios together
    double operationsPerHour = 0; ///< by the duty's times per hour of each scenario; 0 where none is given
    bool breaksRunUp = false; ///< it takes the power from a motor that has not run up: AC-4
    std::string motor; ///< that one
    bool operator==(const SwitchingDuty&) const = default;
};

/// A year's operations of a device by the machine's duty, the busiest of its movers; nothing where no scenario that
/// operates it has its times per hour. Source: ISO 13849-1 annex C.4.2.
std::optional<double> countedPerYear(const Duty& duty, std::span<const SwitchingDuty> counted, DeviceId device);

struct CheckInput {
    const Dossier& dossier;
    std::span<const FunctionEvidence> functions;
    std::span<const SwitchingDuty> duties{};
};

struct Check {
    std::string_view id; ///< wording key "check.<id>"
    std::string_view clause; ///< of the standard it rests on
    void (*run)(const CheckInput&, std::vector<Finding>&);
};

std::span<const Check> allChecks();

/// Findings of all checks, in the order of the registry. Pure.
std::vector<Finding> findingsOf(const CheckInput& input);

} // namespace ts
