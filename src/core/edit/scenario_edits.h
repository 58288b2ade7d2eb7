#pragma once
// Changes to a scenario: what is done when, and what is expected of it. Each one a pure function from an old dossier to
// a new one. Whether a device can do it is found out by running (simulation/scenario_run.h); here it must only be
// there.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <optional>

namespace ts::edit {

/// OutOfRange for a name that is blank, too long or another scenario's; NotFound for no such scenario.
Expected<Dossier> withScenarioNamed(const Dossier& dossier, ScenarioId id, const std::string& name);
/// OutOfRange unless it lies above 0 and at most kLongestScenarioS, and everything in it still lies before its end.
Expected<Dossier> withScenarioLength(const Dossier& dossier, ScenarioId id, double lengthS);

/// Another step at that place of its list, or one more at its end. NotFound for a place, a device or a scenario that is
/// not there, OutOfRange for a time that is not within the scenario.
Expected<Dossier> withStep(const Dossier& dossier, ScenarioId id, std::optional<std::size_t> place, Step step);
Expected<Dossier> withoutStep(const Dossier& dossier, ScenarioId id, std::size_t place);
/// The same of what is expected.
Expected<Dossier> withExpectation(
    const Dossier& dossier, ScenarioId id, std::optional<std::size_t> place, Expectation expectation);
Expected<Dossier> withoutExpectation(const Dossier& dossier, ScenarioId id, std::size_t place);

/// Refused while a function is shown by it, which is named; how often it happens goes with it.
Expected<Dossier> withoutScenario(const Dossier& dossier, ScenarioId id);

} // namespace ts::edit
