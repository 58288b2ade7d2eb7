#pragma once
// Every scenario of a dossier run once, and what did not come about. What a starter from patterns is judged by.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <stop_token>
#include <vector>

namespace ts {

struct ScenarioOutcome {
    std::string name;
    bool chatters = false;
    std::vector<Expectation> unmet;
    bool isInOrder() const { return !chatters && unmet.empty(); }
};

/// In the dossier's order. Fails as compiling and running do, and with Cancelled. Pure.
Expected<std::vector<ScenarioOutcome>> scenarioOutcomes(const Dossier& dossier, std::stop_token stop = {});

} // namespace ts
