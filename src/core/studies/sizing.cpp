#include "core/sizing/sizing.h"

#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Expected<Value> sized(
    const Dossier& dossier, const Subject&, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const auto listener = [&progress](std::size_t done, std::size_t total) {
        progress.total = total;
        progress.done = done;
    };
    auto sizes = sizing::sizesOf(dossier, listener, std::move(stop));
    if (!sizes)
        return Unexpected{sizes.error()};
    const std::size_t bytes = sizeof(sizing::Sized) + (sizes->all.size() + sizes->notJudged.size()) * 512;
    return Value::of(std::move(*sizes), bytes);
}

} // namespace

Study sizes()
{
    Study s;
    s.id = kSizing.id;
    s.cost = Cost::Soon;
    s.key = [](const Dossier& d, const Subject&, const Fingerprint& f) {
        std::string key = demandKey(f.circuit, d) + ' ' + std::to_string(d.machine.duty.daysPerYear) + ' '
            + std::to_string(d.machine.duty.hoursPerDay);
        for (const auto& [scenario, times] : d.machine.duty.timesPerHour)
            key += ' ' + std::to_string(scenario.value) + ':' + std::to_string(times);
        return key;
    };
    s.run = sized;
    return s;
}

} // namespace ts::studies
