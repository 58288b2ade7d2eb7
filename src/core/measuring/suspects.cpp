#include "core/measuring/suspects.h"

#include "core/faults/parallel.h"
#include "core/measuring/dead_looks.h"
#include "core/measuring/deviations.h"
#include "core/measuring/panel.h"

#include <algorithm>

namespace ts::measuring {
namespace {

bool explains(StandIn& panel, const TestPlan& plan, const std::vector<StepRead>& readings)
{
    return std::all_of(readings.begin(), readings.end(), [&](const StepRead& r) {
        const TestStep& step = plan.steps[r.step];
        if (!panel.bring(step.in))
            return false;
        const auto reading = panel.look(step.look);
        return reading && !differ(expectedBy(step.look.with, *reading), r.reading);
    });
}

} // namespace

Expected<std::vector<Suspect>> suspectsOf(
    const Circuit& circuit, const TestPlan& plan, const std::vector<StepRead>& readings, std::stop_token stop)
{
    auto compiled = compile(circuit);
    if (!compiled)
        return Unexpected{compiled.error()};
    const auto plant = std::make_shared<const Plant>(*std::move(compiled));
    const auto deviations = deviationsOf(circuit, *plant);
    if (!deviations)
        return Unexpected{deviations.error()};
    std::vector<std::uint8_t> isSuspect(deviations->all.size());
    const auto job = [&](std::size_t d, Workspace&) {
        const Deviation& x = deviations->all[d];
        if (x.isHarmless || deviations->sameAs[d] != d)
            return;
        std::shared_ptr<const Plant> other = x.fault ? plant : x.other;
        if (!other) {
            auto built = plantWith(circuit, x.mistake);
            if (!built)
                return;
            other = std::make_shared<const Plant>(*std::move(built));
        }
        StandIn panel(other, x.fault ? std::vector{*x.fault} : std::vector<Fault>{}, nullptr, stop);
        isSuspect[d] = explains(panel, plan, readings);
    };
    if (!faults::forEachIndex(deviations->all.size(), 0, job, stop))
        return cancelled();
    std::vector<Suspect> suspects;
    for (std::size_t d = 0; d < deviations->all.size(); ++d) {
        const Deviation& x = deviations->all[d];
        if (isSuspect[deviations->sameAs[d]] && !x.isHarmless)
            suspects.push_back({x.id, x.isMistake ? std::optional(x.mistake) : std::nullopt});
    }
    return suspects;
}

} // namespace ts::measuring
