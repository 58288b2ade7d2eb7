#pragma once
// What is decided before anything is calculated: the required level from the risk questions, the stopping time from
// measurements, and the distance that a person needs. Sources: ISO 13849-1 annex A, ISO 13850 clause 4.1.5.1, ISO
// 13855:2010 clauses 5 and 6.2.

#include "core/base/expected.h"
#include "core/base/quantity.h"
#include "core/model/function.h"
#include "core/safety/arithmetic.h"

#include <span>
#include <string>

namespace ts::safety {

struct RequiredLevel {
    Level level = Level::E;
    std::string path; ///< "S2 F1 P2"
    bool isLowered = false; ///< by one step, because the hazardous event is unlikely
    bool isRaised = false; ///< an emergency stop: at least c
};
/// An unlikely event lowers the result only with a reason, and never below a.
RequiredLevel requiredLevelOf(const RiskAnswers& answers, bool emergencyStop);

/// The greater of the longest one and mean + 3 sigma (of the sample). OutOfRange for fewer than ten, or a time not
/// above zero.
Expected<Seconds> stoppingTimeFrom(std::span<const double> measuredS);
constexpr std::size_t kFewestStops = 10;

struct Distance {
    double metres = 0;
    double speedMetresPerS = 0; ///< K: 2.0, or 1.6 where that still gives more than half a metre
    double intrusionMetres = 0; ///< C
};
/// S = K T + C with T the whole time from the demand to rest: 2 m/s, at least 0.1 m; 1.6 m/s if that gives more than
/// 0.5 m, then at least 0.5 m. OutOfRange for a negative time or intrusion. Not for emergency stops.
Expected<Distance> safetyDistance(Seconds wholeTime, double intrusionMetres);

} // namespace ts::safety
