#pragma once
// From the demand to rest, cut into what is entered and what the simulation shows, and the distance that follows from
// it. Source: ISO 13855 clause 5; EN 60204-1 clause 9.2.

#include "core/analysis/analysis.h"
#include "core/faults/sweep.h"
#include "core/safety/decision.h"

namespace ts {

struct ResponseBudget {
    std::string motor; ///< the one that rests last
    double sensorS = 0; ///< entered
    double circuitS = 0; ///< from the demand until power is gone, devices at their slow limit, arc included
    double runDownS = 0; ///< from then to rest
    std::optional<double> withFaultS; ///< latest rest with one fault that does not lose the stop; none: not tried
    bool areLimitsTried = false; ///< with a fault: at every limit of times and voltage, and of a least load if one is
                                 ///< entered
    std::optional<double> measuredS; ///< of the real machine, from the demand to rest; of fewer than ten the longest
    double wholeS() const; ///< with the longest of simulated, with a fault, and measured
    std::optional<safety::Distance> needed; ///< none for an emergency stop
};

/// What keeps a person away: as it is said, else by the kind of what triggers.
Safeguard safeguardOf(const Circuit& circuit, const SafetyFunction& function);

/// Of two sweeps of one function the one that tells more of a single fault: second faults come with the limits. Null if
/// neither is there.
const faults::Sweep* widerOf(const faults::Sweep* single, const faults::Sweep* second);

/// None if the run shows no stop of some motor. `single`: the function's single faults, null if not tried.
std::optional<ResponseBudget> responseOf(const Circuit& circuit, const SafetyFunction& function,
    const std::vector<safety::ActuatorStop>& worst, const faults::Sweep* single);

/// The worse of nominal, slow, and slow with the least load (where it was entered) for each actuator: no category
/// before a category, then the later one. Empty without the first two.
std::vector<safety::ActuatorStop> worstStops(const FunctionResult& result);

} // namespace ts
