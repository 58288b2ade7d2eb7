#include "core/measuring/stop_times.h"

#include <algorithm>

namespace ts::measuring {
namespace {

constexpr std::size_t kDateLength = 10; ///< of ISO 8601

/// The times of the slowest of what it brings to rest; none while something has fewer than ten runs.
std::optional<StopTimes> slowestOf(
    const SafetyFunction& function, const TestPlan& plan, const std::vector<StepState>& states, const DossierFile& file)
{
    std::optional<StopTimes> slowest;
    for (std::size_t k = 0; k < plan.steps.size(); ++k) {
        const auto timed = functionsTimedBy(plan.steps[k], file.dossier);
        if (std::none_of(timed.begin(), timed.end(), [&](const SafetyFunction* f) { return f->id == function.id; }))
            continue;
        auto times = stopTimesAt(k, plan, states, file.record);
        if (!times || times->seconds.size() < kStopRuns)
            return std::nullopt;
        const auto longest = [](const StopTimes& t) { return *std::max_element(t.seconds.begin(), t.seconds.end()); };
        if (!slowest || longest(*times) > longest(*slowest))
            slowest = std::move(times);
    }
    return slowest;
}

} // namespace

std::optional<StopTimes> stopTimesAt(
    std::size_t step, const TestPlan& plan, const std::vector<StepState>& states, std::span<const RecordEntry> record)
{
    if (plan.steps[step].look.with != Instrument::Stopwatch || states[step].open)
        return std::nullopt;
    StopTimes times{step, {}, {}};
    for (const std::size_t e : states[step].readings)
        if (const RecordEntry& entry = record[e]; entry.reading->value) {
            times.seconds.push_back(*entry.reading->value);
            times.lastOn = entry.date.substr(0, kDateLength);
        }
    return times;
}

std::vector<const SafetyFunction*> functionsTimedBy(const TestStep& step, const Dossier& dossier)
{
    std::vector<const SafetyFunction*> functions;
    if (step.look.with != Instrument::Stopwatch || step.in.bring.empty())
        return functions;
    const std::string& last = step.in.bring.back();
    const Device* hand = dossier.circuit.device(std::string_view(last).substr(0, last.find(' ')));
    const Device* moved = dossier.circuit.device(step.look.at.front());
    for (const SafetyFunction& f : dossier.functions)
        if (hand && moved && f.isTriggeredBy(hand->id)
            && std::find(f.mustRest.begin(), f.mustRest.end(), moved->id) != f.mustRest.end())
            functions.push_back(&f);
    return functions;
}

Expected<DossierFile> withStopTimes(const TestPlan& plan, DossierFile file)
{
    const auto states = standingOf(plan, file);
    bool isAny = false;
    for (SafetyFunction& f : file.dossier.functions)
        if (const auto times = slowestOf(f, plan, states, file)) {
            f.approach.measuredStopsS = times->seconds;
            f.approach.measuredOn = times->lastOn;
            if (f.approach.measureAgainOn <= times->lastOn)
                f.approach.measureAgainOn.clear();
            isAny = true;
        }
    if (!isAny)
        return failure(ErrorCode::Refused, message("results.no_stop_times", {static_cast<long long>(kStopRuns)}));
    return file;
}

} // namespace ts::measuring
