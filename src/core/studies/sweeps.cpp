#include "core/faults/sweep.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

#include <array>

namespace ts::studies {
namespace {

using faults::Sweep;
using faults::SweepOptions;

constexpr std::array kSingles{kSingleFaults.id};

SweepOptions singleOptions()
{
    SweepOptions options;
    options.withPairs = options.withLimits = options.withExcluded = false;
    return options;
}

std::size_t bytesOf(const Sweep& s)
{
    return sizeof(Sweep) + s.outcomes.size() * (sizeof(faults::FaultOutcome) + sizeof(faults::SweptFault) + 256)
        + s.pairs.size() * sizeof(faults::FaultPair);
}

Value valueOf(Sweep s)
{
    const std::size_t bytes = bytesOf(s);
    return Value::of(std::move(s), bytes);
}

Expected<Value> swept(
    const Dossier& dossier, const Subject& subject, SweepOptions options, WorkProgress& progress, std::stop_token stop)
{
    const SafetyFunction* function = dossier.function(subject.function());
    if (!function)
        return failure(ErrorCode::NotFound, message("sweep.none"));
    if (progress.onSoFar)
        options.onSoFar = [&progress](const Sweep& sweep) { progress.onSoFar(valueOf(sweep)); };
    const auto listener = [&progress](const faults::SweepProgress& p) {
        progress.stage = static_cast<int>(p.stage);
        progress.total = p.total;
        progress.done = p.done;
    };
    auto sweep = faults::sweep(dossier, *function, options, listener, std::move(stop));
    if (!sweep)
        return Unexpected{sweep.error()};
    return valueOf(std::move(*sweep));
}

std::string keyOf(
    const Dossier& dossier, const Subject& subject, const Fingerprint& fingerprint, const SweepOptions& options)
{
    const SafetyFunction* function = dossier.function(subject.function());
    return function ? sweepKey(fingerprint.circuit, dossier, *function, options) : std::string();
}

std::string textOf(const Value& value)
{
    return keptText(*value.as<Sweep>());
}

std::optional<Value> sweepFrom(std::string_view text, const Dossier& dossier, const Subject& subject)
{
    const SafetyFunction* function = dossier.function(subject.function());
    auto sweep = function ? sweepFrom(text, dossier, *function) : std::nullopt;
    return sweep ? std::optional(valueOf(std::move(*sweep))) : std::nullopt;
}

Study common(std::string_view id, Cost cost)
{
    Study s;
    s.id = id;
    s.about = Subject::Kind::Function;
    s.cost = cost;
    s.textOf = textOf;
    s.fromText = sweepFrom;
    return s;
}

} // namespace

Study singleFaults()
{
    Study s = common(kSingleFaults.id, Cost::Soon);
    s.key = [](const Dossier& d, const Subject& subject, const Fingerprint& f) {
        return keyOf(d, subject, f, singleOptions());
    };
    s.run = [](const Dossier& d, const Subject& subject, const Results&, WorkProgress& progress, std::stop_token stop) {
        return swept(d, subject, singleOptions(), progress, std::move(stop));
    };
    return s;
}

/// Single faults that are known are not run again: the result is the same to the byte.
Study secondFaults()
{
    Study s = common(kSecondFaults.id, Cost::Long);
    s.after = kSingles;
    s.key = [](const Dossier& d, const Subject& subject, const Fingerprint& f) { return keyOf(d, subject, f, {}); };
    s.run = [](const Dossier& d, const Subject& subject, const Results& earlier, WorkProgress& progress,
                std::stop_token stop) {
        const auto known = earlier.find(kSingleFaults, subject);
        SweepOptions options;
        options.known = known.get();
        return swept(d, subject, options, progress, std::move(stop));
    };
    return s;
}

} // namespace ts::studies
