#include "core/measuring/rehearsal.h"

#include "core/record/record.h"

namespace ts::measuring {

Expected<Rehearsal> rehearsalOf(
    const Circuit& right, const TestPlan& plan, const Circuit& built, Until until, std::stop_token stop)
{
    auto rightPlant = compile(right);
    auto builtPlant = compile(built);
    if (!rightPlant || !builtPlant)
        return Unexpected{rightPlant ? builtPlant.error() : rightPlant.error()};
    StandIn model(std::make_shared<const Plant>(*std::move(rightPlant)), {}, nullptr, stop);
    StandIn panel(std::make_shared<const Plant>(*std::move(builtPlant)), {}, nullptr, stop);
    Rehearsal r;
    bool hasAgreed = true;
    for (const TestStep& step : plan.steps) {
        if (stop.stop_requested())
            return cancelled();
        RehearsedStep taken{step.id, {}, false};
        if (panel.bring(step.in)) {
            const bool isLive = step.in.power != Power::LockedOff && model.bring(step.in);
            if (const auto danger = isLive ? dangerIn(panel, model.plant(), model.trail(), plan.stops) : std::nullopt)
                r.dangers.push_back({step.id, *danger, hasAgreed});
            if (const auto reading = panel.look(step.look)) {
                taken.reading = *reading;
                taken.agrees = !differ(step.expect, *reading);
            }
        }
        hasAgreed &= taken.agrees;
        r.steps.push_back(std::move(taken));
        if (!hasAgreed && until == Until::FirstDisagreement)
            break;
    }
    return r;
}

std::string circuitHash(const Circuit& circuit)
{
    Dossier bare;
    bare.circuit = circuit;
    for (Device& d : bare.circuit.devices) {
        d.label.clear();
        d.place.clear();
        d.rank = 0;
        d.reliability.reset();
    }
    for (Wire& w : bare.circuit.wires) {
        w.number.clear();
        w.colour.clear();
    }
    return record::hashOf(bare);
}

} // namespace ts::measuring
