#pragma once
// Scenarios that show what a circuit was seen to do (exploration/behaviour.h): each start, and each hand that stops
// anything with as much running as was seen. What they expect is what a plain run of them shows; whether it should be
// so is for a person to say.

#include "core/exploration/behaviour.h"
#include "core/suggestions/suggestion.h"

namespace ts {

struct SuggestedScenario {
    Scenario scenario; ///< without id and name
    Message name;
};

/// One deed as it was seen.
SuggestedScenario scenarioOf(const Plant& plant, const exploration::Deed& deed);
/// The same with the contrary expected of its end: what a person says who knows that it is wrong. Running it is then a
/// finding, until the circuit is mended.
SuggestedScenario contraryOf(SuggestedScenario shown);

/// What was done by hand, as steps: on the Bench, or anywhere else. Fails with Refused where a step has no word for it.
Expected<std::vector<Step>> stepsFrom(const Plant& plant, std::span<const Stimulus> script);
/// The scenario with what a plain run of its steps shows of everything that moves, heats or holds, and of every lamp:
/// before each step and at its end, where it is not as at the look before. What it should show is for a person to say.
/// Fails as stimuliOf() does, with Refused where the circuit chatters, and with Cancelled.
Expected<Scenario> withWhatIsSeen(const Plant& plant, Scenario scenario, std::stop_token stop = {});

/// `behaviour` must be of the plant's circuit. Pure.
std::vector<SuggestedScenario> suggestedScenarios(const Plant& plant, const exploration::Behaviour& behaviour);

/// How the sentences of whoever asks name them.
struct SuggestionNames {
    std::function<std::string(const Message&)> scenario;
    FunctionNamer function;
};

/// The file with these scenarios; one whose name is there already is left out.
DossierFile withScenarios(DossierFile file, std::vector<SuggestedScenario> suggested, const SuggestionNames& names);
/// The file with everything that was seen, and the functions which that shows. Fails as suggestedFunctions() does.
Expected<DossierFile> withBehaviour(DossierFile file, const Plant& plant, const exploration::Behaviour& behaviour,
    const SuggestionNames& names, std::stop_token stop = {});

} // namespace ts
