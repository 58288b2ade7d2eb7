#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"
#include "core/ways/function_path.h"

namespace ts::studies {
namespace {

/// What the claim names; how often it works and what is claimed for it changes no path.
std::string namedBy(const SafetyFunction& function)
{
    std::string names;
    const auto take = [&names](const ClaimedChannel& channel) {
        for (const ClaimedPart& p : channel.parts)
            names += std::to_string(p.device.value) + ':' + p.element + ' ';
        names += '/';
    };
    for (const ClaimedSubsystem& s : function.claim) {
        names += std::to_string(s.encapsulated.value) + '[';
        for (const ClaimedChannel& c : s.channels)
            take(c);
        if (s.test)
            take(s.test->equipment);
        names += ']';
    }
    return names;
}

Expected<Value> pathRun(
    const Dossier& dossier, const Subject& subject, const Results&, WorkProgress&, std::stop_token stop)
{
    const SafetyFunction* function = dossier.function(subject.function());
    if (!function)
        return failure(ErrorCode::NotFound, message("sweep.none"));
    auto path = functionPath(dossier, *function, std::move(stop));
    if (!path)
        return Unexpected{path.error()};
    const std::size_t bytes = sizeof(FunctionPath) + path->knots.size() * 256 + path->ways.size() * sizeof(PathWay)
        + path->watches.size() * 64;
    return Value::of(std::move(*path), bytes);
}

} // namespace

Study path()
{
    Study s;
    s.id = kPath.id;
    s.about = Subject::Kind::Function;
    s.cost = Cost::Soon;
    s.key = [](const Dossier& d, const Subject& subject, const Fingerprint& f) {
        const SafetyFunction* function = d.function(subject.function());
        return function ? demandKey(f.circuit, d, *function) + namedBy(*function) : std::string();
    };
    s.run = pathRun;
    return s;
}

} // namespace ts::studies
