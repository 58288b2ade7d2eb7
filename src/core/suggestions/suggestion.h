#pragma once
// Safety functions that the circuit's own scenarios show: something that stays operated stops motors that were running.
// A beginning to be looked at by a person: no level and no allowed time are guessed, and the chain (claim_suggestion.h)
// claims nothing yet.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/simulation/plant.h"

#include <functional>
#include <stop_token>

namespace ts {

/// One for each device that a scenario operates and leaves operated, by which motors lose their power within a second;
/// not those that a function of the dossier has for its trigger. Name and id are left to the caller; the operating
/// state with most motors is its scenario, the stop category the one read there, the reset what was found to reset then
/// (reset_search.h). Emergency stop: what latches by itself when pressed. Fails as compile() does, and with Cancelled.
Expected<std::vector<SafetyFunction>> suggestedFunctions(const Dossier& dossier, std::stop_token stop = {});

using FunctionNamer = std::function<std::string(const SafetyFunction&, const Circuit&)>;
/// The file with these functions. With `risk`, each has its required level by that. Fails as suggestedFunctions() does.
Expected<DossierFile> withSuggestedFunctions(DossierFile file, const FunctionNamer& name,
    const std::optional<RiskAnswers>& risk = {}, std::stop_token stop = {});

/// Everything that stays operated when a person has operated it, and is no breaker or switch in the power circuit.
/// Pure.
std::vector<Trigger> possibleTriggers(const Plant& plant);

} // namespace ts
