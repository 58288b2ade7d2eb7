#include "core/edit/claim_edits.h"

#include <algorithm>

namespace ts::edit {
namespace {

constexpr double kYearS = 366.0 * 24.0 * 3600.0;
constexpr double kMostPerHour = 3600; ///< once a second

} // namespace

Expected<Dossier> withDuty(const Dossier& dossier, Duty duty)
{
    if (!(duty.daysPerYear >= 1.0 && duty.daysPerYear <= 366.0 && duty.hoursPerDay > 0.0 && duty.hoursPerDay <= 24.0))
        return failure(ErrorCode::OutOfRange, message("edit.duty_range"));
    Dossier changed = dossier;
    changed.machine.duty = duty;
    changed.machine.duty.isEntered = true;
    return changed;
}

Expected<Dossier> withSecondsPerCycle(const Dossier& dossier, const PartPlace& place, Seconds cycle)
{
    if (!(cycle.si() > 0.0 && cycle.si() <= kYearS))
        return failure(ErrorCode::OutOfRange, message("edit.cycle_range"));
    Dossier changed = dossier;
    const auto f = std::find_if(changed.functions.begin(), changed.functions.end(),
        [&](const SafetyFunction& s) { return s.id == place.function; });
    if (f == changed.functions.end())
        return failure(ErrorCode::NotFound, message("edit.no_function"));
    if (place.subsystem >= f->claim.size() || place.channel >= f->claim[place.subsystem].channels.size()
        || place.part >= f->claim[place.subsystem].channels[place.channel].parts.size())
        return failure(ErrorCode::NotFound, message("edit.no_part"));
    ClaimedPart& part = f->claim[place.subsystem].channels[place.channel].parts[place.part];
    part.secondsPerCycle = cycle.si();
    part.operationsPerYear.reset();
    return changed;
}

Expected<Dossier> withScenarioTimes(const Dossier& dossier, ScenarioId scenario, double timesPerHour)
{
    if (!(timesPerHour >= 0.0 && timesPerHour <= kMostPerHour))
        return failure(ErrorCode::OutOfRange, message("edit.times_range"));
    if (!dossier.scenario(std::to_string(scenario.value)))
        return failure(ErrorCode::NotFound, message("edit.no_scenario"));
    Dossier changed = dossier;
    if (timesPerHour > 0.0)
        changed.machine.duty.timesPerHour[scenario] = timesPerHour;
    else
        changed.machine.duty.timesPerHour.erase(scenario);
    return changed;
}

Expected<Dossier> withOperations(
    const Dossier& dossier, FunctionId function, const std::function<std::optional<double>(DeviceId)>& perYear)
{
    Dossier changed = dossier;
    const auto f = std::find_if(changed.functions.begin(), changed.functions.end(),
        [function](const SafetyFunction& s) { return s.id == function; });
    if (f == changed.functions.end())
        return failure(ErrorCode::NotFound, message("edit.no_function"));
    const auto take = [&perYear](ClaimedChannel& c) {
        for (ClaimedPart& p : c.parts)
            if (const auto n = perYear(p.device)) {
                p.operationsPerYear = *n;
                p.secondsPerCycle.reset();
            }
    };
    for (ClaimedSubsystem& s : f->claim) {
        std::for_each(s.channels.begin(), s.channels.end(), take);
        if (s.test)
            take(s.test->equipment);
    }
    return changed;
}

} // namespace ts::edit
