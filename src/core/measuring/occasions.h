#pragma once
// Parts of the plan that are taken again and again: the emergency stops of the month, what a replaced device calls for,
// what work on the feeder calls for.

#include "core/measuring/test_plan.h"

namespace ts::measuring {

enum class Occasion : std::uint8_t {
    EmergencyStops, ///< each emergency stop and guard, with what must not start after it
    Replaced, ///< a device: what the plan shows of it and of the wires at it
    Feeder ///< voltages, sequence, direction of each motor
};
std::string_view wordOf(Occasion); ///< "emergency_stops", "replaced", "feeder"

/// Places of steps in the plan, in its order, with those that make it safe before. `tag`: of the device that was
/// replaced. Fails with NotFound for one that is not there, with Refused if the plan has no step for it.
Expected<std::vector<std::size_t>> stepsFor(
    Occasion occasion, const TestPlan& plan, const Circuit& circuit, const std::string& tag = {});

} // namespace ts::measuring
