#include "core/analysis/response.h"

#include "core/library/registry.h"

#include <algorithm>

namespace ts {

double ResponseBudget::wholeS() const
{
    return sensorS + std::max({circuitS + runDownS, withFaultS.value_or(0.0), measuredS.value_or(0.0)});
}

Safeguard safeguardOf(const Circuit& circuit, const SafetyFunction& function)
{
    if (function.approach.safeguard != Safeguard::Unsaid)
        return function.approach.safeguard;
    const Device* device = circuit.device(function.trigger.device);
    return device ? deviceKind(device->kind)->traits.safeguard : Safeguard::Unsaid;
}

const faults::Sweep* widerOf(const faults::Sweep* single, const faults::Sweep* second)
{
    return second && second->limitRunCount > 0 ? second : single;
}

std::optional<ResponseBudget> responseOf(const Circuit& circuit, const SafetyFunction& function,
    const std::vector<safety::ActuatorStop>& worst, const faults::Sweep* single)
{
    if (worst.empty()
        || std::any_of(worst.begin(), worst.end(), [](const safety::ActuatorStop& a) { return !a.restAfter; }))
        return std::nullopt;
    const auto last = std::max_element(
        worst.begin(), worst.end(), [](const auto& a, const auto& b) { return a.restAfter->si() < b.restAfter->si(); });
    ResponseBudget r;
    r.motor = last->tag;
    r.sensorS = function.approach.sensorS;
    // A drive that ramps down stands before its power goes: the circuit's share ends with the rest.
    r.circuitS = std::min(last->removedAfter ? last->removedAfter->si() : last->restAfter->si(), last->restAfter->si());
    r.runDownS = last->restAfter->si() - r.circuitS;
    const std::vector<double>& stops = function.approach.measuredStopsS;
    if (const auto measured = safety::stoppingTimeFrom(stops))
        r.measuredS = measured->si();
    else if (!stops.empty())
        r.measuredS = *std::max_element(stops.begin(), stops.end());
    if (single)
        r.withFaultS = single->worstRestS;
    r.areLimitsTried = single && single->limitRunCount > 0 && single->limitTrouble.empty();
    if (!function.emergencyStop)
        if (const auto distance = safety::safetyDistance(seconds(r.wholeS()), safeguardOf(circuit, function),
                function.approach.resolutionM, function.approach.intrusionM))
            r.needed = *distance;
    return r;
}

std::vector<safety::ActuatorStop> worstStops(const FunctionResult& r)
{
    if (!r.nominal || !r.slow)
        return {};
    std::vector<safety::ActuatorStop> stops = r.slow->actuators;
    for (std::size_t i = 0; i < stops.size(); ++i)
        if (!r.nominal->actuators[i].category || !r.nominal->actuators[i].runShowsIt)
            stops[i] = r.nominal->actuators[i];
    for (std::size_t i = 0; r.lowestLoad && i < stops.size(); ++i) {
        const safety::ActuatorStop& least = r.lowestLoad->actuators[i];
        if (!r.isLeastLoadAssumed[i] && stops[i].stops
            && (!least.stops || least.restAfter->si() > stops[i].restAfter->si()))
            stops[i] = least;
    }
    return stops;
}

} // namespace ts
