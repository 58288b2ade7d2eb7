#include "core/analysis/scenario_outcomes.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {

Study scenarios()
{
    Study s;
    s.id = kScenarios.id;
    s.cost = Cost::Soon;
    s.key = [](const Dossier& d, const Subject&, const Fingerprint& f) { return demandKey(f.circuit, d); };
    s.run = [](const Dossier& dossier, const Subject&, const Results&, WorkProgress&,
                std::stop_token stop) -> Expected<Value> {
        auto outcomes = scenarioOutcomes(dossier, std::move(stop));
        if (!outcomes)
            return Unexpected{outcomes.error()};
        const std::size_t bytes = sizeof(ScenarioOutcomes) + outcomes->scenarios.size() * 512;
        return Value::of(std::move(*outcomes), bytes);
    };
    return s;
}

} // namespace ts::studies
