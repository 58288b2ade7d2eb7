#include "core/analysis/stop_study.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/entries.h"

namespace ts::studies {
namespace {

Expected<Value> worstStopRun(
    const Dossier& dossier, const Subject& subject, const Results&, WorkProgress& progress, std::stop_token stop)
{
    const SafetyFunction* function = dossier.function(subject.function());
    if (!function)
        return failure(ErrorCode::NotFound, message("sweep.none"));
    const auto listener = [&progress](std::size_t done, std::size_t total) {
        progress.done = done;
        progress.total = total;
    };
    auto study = stopStudy(dossier, *function, {}, listener, std::move(stop));
    if (!study)
        return Unexpected{study.error()};
    std::size_t cases = 0;
    for (const ActuatorStudy& a : study->actuators)
        cases += a.cases.size();
    return Value::of(std::move(*study), sizeof(StopStudy) + cases * (sizeof(StopCase) + 64));
}

} // namespace

Study worstStop()
{
    Study s;
    s.id = kWorstStop.id;
    s.about = Subject::Kind::Function;
    s.cost = Cost::Long;
    s.key = [](const Dossier& d, const Subject& subject, const Fingerprint& f) {
        const SafetyFunction* function = d.function(subject.function());
        return function ? demandKey(f.circuit, d, *function) : std::string();
    };
    s.run = worstStopRun;
    return s;
}

} // namespace ts::studies
