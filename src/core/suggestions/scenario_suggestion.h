#pragma once
// Scenarios that show what a circuit was seen to do (exploration/behaviour.h): each start, and each hand that stops
// anything with as much running as was seen. What they expect is what a plain run of them shows; whether it should be
// so is for a person to say.

#include "core/exploration/behaviour.h"
#include "core/model/scenario.h"

namespace ts {

struct SuggestedScenario {
    Scenario scenario; ///< without id and name
    Message name;
    DeviceId hand;
};

/// One deed as it was seen.
SuggestedScenario scenarioOf(const Plant& plant, const exploration::Deed& deed);
/// The same with the contrary expected of its end: what a person says who knows that it is wrong. Running it is then a
/// finding, until the circuit is mended.
SuggestedScenario contraryOf(const Plant& plant, const exploration::Deed& deed);

/// `behaviour` must be of the plant's circuit. Pure.
std::vector<SuggestedScenario> suggestedScenarios(const Plant& plant, const exploration::Behaviour& behaviour);

} // namespace ts
