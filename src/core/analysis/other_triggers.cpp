#include "core/analysis/other_triggers.h"

#include <algorithm>

namespace ts {
namespace {

/// The scenario up to its demand, which is now another one.
void redirect(Scenario& scenario, const Dossier& dossier, const Trigger& from, const Trigger& to)
{
    const Device *old = dossier.circuit.device(from.device), *other = dossier.circuit.device(to.device);
    if (!old || !other)
        return;
    const auto demand = std::find_if(scenario.steps.begin(), scenario.steps.end(), [&](const Step& s) {
        return s.target == old->tag && (s.action == from.action || (s.action == "operate" && from.action == "press"));
    });
    if (demand == scenario.steps.end())
        return;
    const double when = demand->atS;
    demand->target = other->tag;
    demand->action = to.action;
    demand->value = 0.0;
    std::erase_if(scenario.steps, [when](const Step& s) { return s.atS > when; });
    std::erase_if(scenario.expectations, [when](const Expectation& e) { return e.atS > when; });
}

} // namespace

Dossier demandedBy(const Dossier& dossier, const SafetyFunction& function, std::size_t k)
{
    Dossier d = dossier;
    const Trigger from = function.trigger, to = function.alsoBy[k];
    for (SafetyFunction& f : d.functions) {
        if (f.id != function.id)
            continue;
        f.trigger = to;
        f.alsoBy[k] = from;
        for (ClaimedSubsystem& s : f.claim)
            for (ClaimedChannel& c : s.channels)
                for (ClaimedPart& p : c.parts)
                    if (p.device == from.device)
                        p.device = to.device;
    }
    for (Scenario& s : d.scenarios)
        if (s.id == function.demandScenario)
            redirect(s, dossier, from, to);
    return d;
}

Expected<OtherTriggers> otherTriggers(const Dossier& dossier, const SafetyFunction& function,
    const faults::SweepOptions& options, const faults::SweepListener& listener, std::stop_token stop)
{
    OtherTriggers result{function.id, {}};
    for (std::size_t k = 0; k < function.alsoBy.size(); ++k) {
        const Device* device = dossier.circuit.device(function.alsoBy[k].device);
        TriedTrigger t{function.alsoBy[k], device ? device->tag : "?", {}};
        const Dossier asked = demandedBy(dossier, function, k);
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
