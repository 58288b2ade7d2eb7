#include "core/analysis/scenario_outcomes.h"
#include "core/checks/groups.h"

#include <algorithm>

namespace ts::checks {
namespace {

Finding findingOf(const Dossier& dossier, const ScenarioOutcome& o)
{
    Finding f{{}, Severity::Fix, {}, message("finding.scenario.chatters", {o.name}),
        message("consequence.scenario.chatters"), message("mend.scenario.chatters"), {},
        message("evidence.scenario", {o.name}), {.scenario = o.scenario}};
    if (const Scenario* scenario = dossier.scenario(o.scenario))
        f.target.atS = scenario->lengthS;
    if (o.trouble) {
        f.what = message("finding.scenario.not_run", {o.name});
        f.consequence = message("consequence.scenario.not_run");
        f.mend = message("mend.scenario.not_run");
        f.evidence = o.trouble->message;
    } else if (!o.chatters) {
        const Expectation& first = o.unmet.front();
        f.devices = {first.subject};
        f.what = message(
            "finding.scenario.unmet", {o.name, first.subject, "@state." + first.state, Measured{first.atS, "s"}});
        f.consequence = message("consequence.scenario.unmet");
        f.mend = message("mend.scenario.unmet");
        f.evidence = message("evidence.scenario.unmet", {static_cast<long long>(o.unmet.size())});
        if (const Device* subject = dossier.circuit.device(first.subject))
            f.target.device = subject->id;
        f.target.atS = first.atS;
    }
    return f;
}

} // namespace

bool hasScenarios(const Dossier& dossier, const Subject&)
{
    return std::any_of(
        dossier.scenarios.begin(), dossier.scenarios.end(), [](const Scenario& s) { return !s.expectations.empty(); });
}

void scenariosEndAsExpected(const CheckInput& input, std::vector<Finding>& out)
{
    const auto outcomes = input.results.find(kScenarios);
    if (!outcomes)
        return;
    for (const ScenarioOutcome& o : outcomes->scenarios)
        if (!o.isInOrder())
            out.push_back(findingOf(input.dossier, o));
}

} // namespace ts::checks
