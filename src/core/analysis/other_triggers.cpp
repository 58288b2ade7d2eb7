#include "core/analysis/other_triggers.h"

#include "core/analysis/stop_run.h"

#include <algorithm>
#include <utility>

namespace ts {
namespace {

/// The scenario up to its demand, which is now another one.
void redirect(Scenario& scenario, const Dossier& dossier, const Trigger& from, const Trigger& to)
{
    const Device *old = dossier.circuit.device(from.device), *other = dossier.circuit.device(to.device);
    const auto plant = compile(dossier.circuit);
    if (!old || !other || !plant)
        return;
    const auto operate = stimuliFor(*plant, old->tag, from.action, 0);
    const auto upTo = operate ? upToDemand(*plant, scenario, *operate) : std::vector<Stimulus>{};
    if (upTo.empty())
        return;
    const double when = secondsOf(upTo.back().at).si();
    std::erase_if(scenario.steps, [when](const Step& s) { return s.atS >= when; });
    std::erase_if(scenario.expectations, [when](const Expectation& e) { return e.atS >= when; });
    scenario.steps.push_back({when, to.action, other->tag, 0.0});
}

} // namespace

bool isOfSupply(const Trigger& trigger)
{
    return trigger.action.starts_with("lose") || trigger.action == "exchange";
}

std::string nameOf(const Circuit& circuit, const Trigger& trigger)
{
    const Device* device = circuit.device(trigger.device);
    return (device ? device->tag : "?") + (isOfSupply(trigger) ? " " + trigger.action : "");
}

SafetyFunction demandedBy(const SafetyFunction& function, std::size_t k)
{
    SafetyFunction f = function;
    std::swap(f.trigger, f.alsoBy[k]);
    for (ClaimedSubsystem& s : f.claim)
        for (ClaimedChannel& c : s.channels)
            for (ClaimedPart& p : c.parts)
                if (p.device == function.trigger.device)
                    p.device = f.trigger.device;
    return f;
}

Dossier dossierDemandedBy(const Dossier& dossier, const SafetyFunction& function, std::size_t k)
{
    Dossier d = dossier;
    for (SafetyFunction& f : d.functions)
        if (f.id == function.id)
            f = demandedBy(function, k);
    for (Scenario& s : d.scenarios)
        if (s.id == function.demandScenario)
            redirect(s, dossier, function.trigger, function.alsoBy[k]);
    return d;
}

Expected<OtherTriggers> otherTriggers(const Dossier& dossier, const SafetyFunction& function,
    const faults::SweepOptions& options, const faults::SweepListener& listener, std::stop_token stop)
{
    OtherTriggers result{function.id, {}};
    for (std::size_t k = 0; k < function.alsoBy.size(); ++k) {
        TriedTrigger t{function.alsoBy[k], nameOf(dossier.circuit, function.alsoBy[k]), {}};
        const Dossier asked = dossierDemandedBy(dossier, function, k);
        auto analysis = faultAnalysis(asked, *asked.function(function.id), options, listener, stop);
        if (analysis)
            t.analysis = std::move(*analysis);
        else if (analysis.error().code == ErrorCode::Cancelled)
            return Unexpected{analysis.error()};
        else
            t.trouble = analysis.error().message;
        result.tried.push_back(std::move(t));
    }
    return result;
}

} // namespace ts
