#pragma once
// Every scenario of a dossier run once, and what did not come about. What a starter from patterns is judged by.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <optional>
#include <stop_token>
#include <vector>

namespace ts {

struct ScenarioOutcome {
    ScenarioId scenario;
    std::string name;
    bool chatters = false;
    std::vector<Expectation> unmet;
    std::optional<Error> trouble{}; ///< it could not be run: it names something that is not there
    bool isInOrder() const { return !chatters && unmet.empty() && !trouble; }
};

struct ScenarioOutcomes {
    std::vector<ScenarioOutcome> scenarios; ///< in the dossier's order
};

/// Fails as compiling does, and with Cancelled. Pure.
Expected<ScenarioOutcomes> scenarioOutcomes(const Dossier& dossier, std::stop_token stop = {});

} // namespace ts
