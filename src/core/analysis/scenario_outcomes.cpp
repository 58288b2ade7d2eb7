#include "core/analysis/scenario_outcomes.h"

#include "core/simulation/scenario_run.h"

namespace ts {

namespace {

Expected<ScenarioOutcome> outcomeOf(
    const Plant& plant, const Scenario& scenario, Workspace& workspace, std::stop_token stop)
{
    ScenarioOutcome outcome{scenario.id, scenario.name, false, {}};
    const auto run = runScenario(plant, scenario, {}, 0.0, workspace, std::move(stop));
    if (!run && run.error().code == ErrorCode::Cancelled)
        return Unexpected{run.error()};
    if (!run) {
        outcome.trouble = run.error();
        return outcome;
    }
    outcome.chatters = run->pause == Pause::Chatter;
    for (const ExpectationResult& e : run->expectations)
        if (!e.isMet)
            outcome.unmet.push_back(e.expectation);
    return outcome;
}

} // namespace

Expected<ScenarioOutcomes> scenarioOutcomes(const Dossier& dossier, std::stop_token stop)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    Workspace workspace;
    ScenarioOutcomes all;
    for (const Scenario& scenario : dossier.scenarios) {
        auto outcome = outcomeOf(*plant, scenario, workspace, stop);
        if (!outcome)
            return Unexpected{outcome.error()};
        all.scenarios.push_back(std::move(*outcome));
    }
    return all;
}

} // namespace ts
