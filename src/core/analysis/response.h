#pragma once
// From the demand to rest, cut into what is entered and what the simulation shows, and the distance that follows from
// it. Source: ISO 13855 clause 5; EN 60204-1 clause 9.2.

#include "core/analysis/analysis.h"
#include "core/safety/decision.h"

namespace ts {

struct ResponseBudget {
    std::string motor; ///< the one that rests last
    double sensorS = 0; ///< entered
    double circuitS = 0; ///< from the demand until power is gone, devices at their slow limit, arc included
    double runDownS = 0; ///< from then to rest
    std::optional<double> measuredS; ///< of the real machine, from the demand to rest; none: not measured, or too few
    double wholeS() const; ///< with the longer of simulated and measured
    std::optional<safety::Distance> needed; ///< none for an emergency stop
};

/// None if the run shows no stop of some motor.
std::optional<ResponseBudget> responseOf(
    const SafetyFunction& function, const std::vector<safety::ActuatorStop>& worst);

/// The worse of nominal and slow for each actuator: no category before a category, then the later one. Empty without
/// both runs.
std::vector<safety::ActuatorStop> worstStops(const FunctionResult& result);

} // namespace ts
