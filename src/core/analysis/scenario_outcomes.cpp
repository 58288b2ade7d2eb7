#include "core/analysis/scenario_outcomes.h"

#include "core/simulation/scenario_run.h"

namespace ts {

Expected<std::vector<ScenarioOutcome>> scenarioOutcomes(const Dossier& dossier, std::stop_token stop)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    Workspace workspace;
    std::vector<ScenarioOutcome> outcomes;
    for (const Scenario& scenario : dossier.scenarios) {
        const auto run = runScenario(*plant, scenario, {}, 0.0, workspace, stop);
        if (!run)
            return Unexpected{run.error()};
        ScenarioOutcome outcome{scenario.name, run->pause == Pause::Chatter, {}};
        for (const ExpectationResult& e : run->expectations)
            if (!e.isMet)
                outcome.unmet.push_back(e.expectation);
        outcomes.push_back(std::move(outcome));
    }
    return outcomes;
}

} // namespace ts
