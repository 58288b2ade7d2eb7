#include "core/exploration/directed.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Expected<Value> directedRun(
    const Dossier& dossier, const Subject&, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const auto listener = [&progress](std::size_t done, std::size_t total) {
        progress.total = total;
        progress.done = done;
    };
    auto seen = exploration::directedRuns(dossier, listener, std::move(stop));
    if (!seen)
        return Unexpected{seen.error()};
    const std::size_t bytes = sizeof(exploration::Directed) + seen->starts.size() * 4096;
    return Value::of(std::move(*seen), bytes);
}

} // namespace

Study directed()
{
    Study s;
    s.id = kDirected.id;
    s.cost = Cost::Soon;
    s.key = [](const Dossier& d, const Subject&, const Fingerprint& f) {
        std::string key = demandKey(f.circuit, d);
        for (const SafetyFunction& function : d.functions)
            key += " " + std::to_string(function.resetBy.value);
        return key;
    };
    s.run = directedRun;
    return s;
}

} // namespace ts::studies
