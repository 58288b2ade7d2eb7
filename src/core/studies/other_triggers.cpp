#include "core/analysis/other_triggers.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Value valueOf(OtherTriggers tried)
{
    std::size_t bytes = sizeof(OtherTriggers);
    for (const TriedTrigger& t : tried.tried)
        bytes += sizeof(TriedTrigger) + (t.analysis ? t.analysis->sweep.outcomes.size() * 2048 : 0)
            + (t.analysis ? t.analysis->sweep.pairs.size() * sizeof(faults::FaultPair) : 0);
    return Value::of(std::move(tried), bytes);
}

Expected<Value> otherTriggersRun(
    const Dossier& dossier, const Subject& subject, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const SafetyFunction* function = dossier.function(subject.function());
    if (!function)
        return failure(ErrorCode::NotFound, message("sweep.none"));
    faults::SweepOptions options;
    options.withExcluded = false;
    options.withPairs = options.withLimits = function->reliedOnByPerson; // elsewhere no level rests on them
    const auto listener = [&progress](const faults::SweepProgress& p) {
        progress.stage = static_cast<int>(p.stage);
        progress.total = p.total;
        progress.done = p.done;
    };
    auto tried = otherTriggers(dossier, *function, options, listener, std::move(stop));
    if (!tried)
        return Unexpected{tried.error()};
    return valueOf(std::move(*tried));
}

std::optional<Value> kept(std::string_view text, const Dossier& dossier, const Subject& subject)
{
    const SafetyFunction* function = dossier.function(subject.function());
    auto tried = function ? otherTriggersFrom(text, dossier, *function) : std::nullopt;
    return tried ? std::optional(valueOf(std::move(*tried))) : std::nullopt;
}

} // namespace

Study otherTriggers()
{
    Study s;
    s.id = kOtherTriggers.id;
    s.about = Subject::Kind::Function;
    s.cost = Cost::Long;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.whole; };
    s.run = otherTriggersRun;
    s.textOf = [](const Value& v) { return keptText(*v.as<OtherTriggers>()); };
    s.fromText = kept;
    return s;
}

} // namespace ts::studies
