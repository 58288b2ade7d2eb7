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

Expected<Distance> safetyDistance(Seconds wholeTime, Safeguard safeguard, double resolutionM, double intrusionM)
{
    const double t = wholeTime.si();
    if (!std::isfinite(t) || t < 0.0 || !std::isfinite(intrusionM) || intrusionM < 0.0)
        return failure(ErrorCode::OutOfRange, message("decision.distance"));
    if (safeguard == Safeguard::FineCurtain && !(resolutionM > 0.0 && resolutionM <= kCoarsestFineM))
        safeguard = Safeguard::BodyCurtain;
    const auto by = [&](double speed, double intrusion, double least, const char* clause) {
        const double c = std::max(intrusion, intrusionM);
        return Distance{std::max(least, speed * t + c), speed, c, safeguard, clause};
    };
    switch (safeguard) {
    case Safeguard::Guard:
        return by(1.6, 0.0, 0.0, "ISO 13855:2010 clause 9");
    case Safeguard::BodyCurtain:
        return by(1.6, 0.85, 0.0, "ISO 13855:2010 clauses 6.2.3 and 6.3");
    case Safeguard::TwoHand:
        return by(1.6, 0.25, 0.1, "ISO 13855:2010 clause 8");
    case Safeguard::Mat:
        return by(1.6, 1.2, 0.0, "ISO 13855:2010 clause 7");
    case Safeguard::FineCurtain:
    case Safeguard::Unsaid:
        break;
    }
    const double reach = safeguard == Safeguard::FineCurtain ? std::max(0.0, 8.0 * (resolutionM - 0.014)) : 0.0;
    const Distance fast = by(2.0, reach, 0.1, "ISO 13855:2010 clause 6.2.3");
    return fast.metres <= 0.5 ? fast : by(1.6, reach, 0.5, "ISO 13855:2010 clause 6.2.3");
}

} // namespace ts::safety
