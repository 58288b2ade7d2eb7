#include "core/safety/decision.h"

#include <algorithm>
#include <cmath>

namespace ts::safety {

RequiredLevel requiredLevelOf(const RiskAnswers& a, bool emergencyStop)
{
    RequiredLevel r;
    r.level = requiredLevel(a.seriousInjury, a.frequentExposure, a.scarcelyAvoidable);
    r.path = std::string("S") + (a.seriousInjury ? "2" : "1") + " F" + (a.frequentExposure ? "2" : "1") + " P"
        + (a.scarcelyAvoidable ? "2" : "1");
    if (a.lowProbability && !a.lowProbabilityReason.empty() && r.level > Level::A) {
        r.level = static_cast<Level>(static_cast<int>(r.level) - 1);
        r.isLowered = true;
    }
    if (emergencyStop && r.level < Level::C) {
        r.level = Level::C;
        r.isRaised = true;
    }
    return r;
}

Expected<Seconds> stoppingTimeFrom(std::span<const double> measured)
{
    const auto isUsable = [](double s) { return std::isfinite(s) && s > 0.0; };
    if (measured.size() < kFewestStops || !std::all_of(measured.begin(), measured.end(), isUsable))
        return failure(
            ErrorCode::OutOfRange, message("decision.measured_stops", {static_cast<long long>(kFewestStops)}));
    const double n = static_cast<double>(measured.size());
    double mean = 0.0, squares = 0.0;
    for (double s : measured)
        mean += s / n;
    for (double s : measured)
        squares += (s - mean) * (s - mean);
    return seconds(
        std::max(*std::max_element(measured.begin(), measured.end()), mean + 3.0 * std::sqrt(squares / (n - 1.0))));
}

Expected<Distance> safetyDistance(Seconds wholeTime, double intrusion)
{
    const double t = wholeTime.si();
    if (!std::isfinite(t) || t < 0.0 || !std::isfinite(intrusion) || intrusion < 0.0)
        return failure(ErrorCode::OutOfRange, message("decision.distance"));
    const double fast = std::max(0.1, 2.0 * t + intrusion);
    if (fast <= 0.5)
        return Distance{fast, 2.0, intrusion};
    return Distance{std::max(0.5, 1.6 * t + intrusion), 1.6, intrusion};
}

} // namespace ts::safety
