#include "core/exploration/trials.h"

#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Expected<Value> tried(
    const Dossier& dossier, const Subject&, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const auto listener = [&progress](std::size_t done, std::size_t total) {
        progress.total = total;
        progress.done = done;
    };
    auto seen = exploration::trialsOf(dossier.circuit, listener, std::move(stop));
    if (!seen)
        return Unexpected{seen.error()};
    const std::size_t bytes = sizeof(exploration::Trials) + seen->seen.size() * 2048;
    return Value::of(std::move(*seen), bytes);
}

} // namespace

Study trials()
{
    Study s;
    s.id = kTrials.id;
    s.cost = Cost::Soon;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.circuit; };
    s.run = tried;
    return s;
}

} // namespace ts::studies
