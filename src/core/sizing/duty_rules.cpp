// What is worn and heated by how often the machine is started: contacts, AC-4 work, overload relays. Rates are those of
// the scenarios, each by its times per hour. Source: IEC 60947-4-1 table 1 and annex B, EN 60204-1 clause 7.3.

#include "core/analysis/switching_duty.h"
#include "core/base/at.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kMissionYears = 20.0; ///< ISO 13849-1 clause 4.5.4
constexpr double kMostOperations = 1e7; ///< mechanical life, assumed
constexpr double kHourS = 3600.0;

const SwitchingDuty* dutyOf(const std::vector<SwitchingDuty>& duties, DeviceId device)
{
    const SwitchingDuty* busiest = nullptr;
    for (const SwitchingDuty& d : duties)
        if (d.device == device && (!busiest || d.operationsPerHour > busiest->operationsPerHour))
            busiest = &d;
    return busiest;
}

/// Until the contacts are worn: N = Nref (Ie / I)^exponent, all of it at the current of a stalled motor where it breaks
/// that at all.
void life(
    Judge& j, const Dossier& dossier, const RunningLoad& r, const Device& d, const SwitchingDuty& duty, double ratedA)
{
    const auto p = j.parameters(d.id), motor = j.parameters(r.motor);
    Headroom h{"contactor.life", d.id, {}, true, kMissionYears, 0, "y"};
    const double times = j.number(*p, "rated_current_ac3_a", h) / ratedA
        / (duty.breaksRunUp && motor ? lockedRotorRatio(*motor) : 1.0);
    const double operations = std::min(kMostOperations,
        j.number(*p, "life_ac3_operations", h) * std::pow(times, Judge::fallback("contactor", "life_exponent")));
    const Duty& use = dossier.machine.duty;
    h.allowed = operations / (duty.operationsPerHour * use.hoursPerDay * use.daysPerYear);
    if (!use.isEntered)
        h.assumed.push_back("hours and days of use");
    h.severity = h.allowed < 1.0 ? Severity::Fix : Severity::Note;
    j.share(std::move(h));
}

/// Breaking a motor that has not run up: now and then is AC-3, often is AC-4.
void inching(Judge& j, const Device& d, const SwitchingDuty& duty, double ratedA)
{
    if (!duty.breaksRunUp)
        return;
    const auto p = j.parameters(d.id);
    Headroom h{"contactor.duty", d.id, {}, true, ratedA, 0, "A"};
    if (p->isWritten("rated_current_ac4_a")) {
        h.allowed = p->number("rated_current_ac4_a");
    } else {
        h.allowed = Judge::fallback("contactor", "rated_current_ac4") * j.number(*p, "rated_current_ac3_a", h);
        h.assumed.push_back(d.tag + " rated_current_ac4_a");
    }
    const double often = Judge::fallback("contactor", "inches_in_ten_minutes") * 6;
    h.severity = duty.operationsPerHour > often ? Severity::Fix : Severity::Note;
    j.share(std::move(h));
}

/// So many starts an hour heat it as 1.05 times its setting does, with the plate's load for the rest of the hour.
void heated(Judge& j, const RunningLoad& r, double startsPerHour)
{
    for (const PlantProtection& protection : j.plant.protections) {
        const auto& poles = protection.data.poles;
        if (protection.data.law != Protection::Law::Thermal || poles.empty()
            || !hasParameter(j.deviceOf(protection.device), "setting_a"))
            continue;
        const auto start = r.starts.find(poles.front());
        const double rated = r.ratedThrough(poles.front());
        if (rated <= 0 || start == r.starts.end())
            continue;
        const Device& d = j.deviceOf(protection.device);
        const double trips = Judge::fallback("overload relay", "setting_tolerance")
            * j.parameters(d.id)->number("setting_a");
        const double each = start->second.heatA2s - rated * rated * start->second.forS;
        const double left = std::max(0.0, trips * trips - rated * rated) * kHourS;
        if (each > 0 && left > 0)
            j.share({"overload.duty", d.id, {}, true, startsPerHour, left / each, "1/h"});
    }
}

} // namespace

void judgeDuty(Judge& j, const Dossier& dossier, const std::vector<SwitchingDuty>& duties)
{
    for (const char* rule : {"contactor.life", "contactor.duty", "overload.duty"})
        j.here(rule);
    for (const RunningLoad& r : j.loads.running) {
        double startsPerHour = 0;
        for (std::size_t l = 0; l < j.plant.links.size() && !r.isFedByDrive; ++l) {
            const PlantLink& link = j.plant.links[l];
            const double rated = r.ratedThrough(static_cast<int>(l));
            if (link.contact.kind != ContactKind::Main || link.device < 0 || rated <= 0
                || !hasParameter(j.deviceOf(link.device), "rated_current_ac3_a"))
                continue;
            const Device& d = j.deviceOf(link.device);
            const SwitchingDuty* duty = dutyOf(duties, d.id);
            if (!duty || duty->operationsPerHour <= 0) {
                j.notJudged("contactor.life", {}, {}, message("sizing.enter.rates"));
                continue;
            }
            startsPerHour = std::max(startsPerHour, duty->operationsPerHour);
            life(j, dossier, r, d, *duty, rated);
            inching(j, d, *duty, rated);
        }
        const auto motor = j.parameters(r.motor);
        if (startsPerHour > 0 && motor && motor->isWritten("starts_per_hour_max"))
            j.share({"overload.duty", r.motor, {}, true, startsPerHour, motor->number("starts_per_hour_max"), "1/h"});
        if (startsPerHour > 0)
            heated(j, r, startsPerHour);
    }
}

} // namespace ts::sizing
