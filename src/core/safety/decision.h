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
    double speedMetresPerS = 0; ///< K
    double intrusionMetres = 0; ///< C
    Safeguard by = Safeguard::Unsaid;
    std::string clause; ///< "ISO 13855:2010 clause 6.2.3"
};
/// S = K T + C with T the whole time from the demand to rest. Not for emergency stops. ISO 13855:2010:
/// guard (clause 9): 1.6 m/s, C as entered; fine curtain (6.2.3): C = 8 (d - 14 mm), 2 m/s and at least 0.1 m, or
/// 1.6 m/s and at least 0.5 m where the first gives more than 0.5 m; body curtain (6.2.3, 6.3): 1.6 m/s, C = 0.85 m;
/// two hands (8): 1.6 m/s, C = 0.25 m; mat (7): 1.6 m/s, C = 1.2 m. Unsaid: as a fine curtain with C as entered. A C
/// that is entered and greater counts. A fine curtain without its d, or with one above 40 mm, is one for a body.
/// OutOfRange for a negative time or intrusion.
Expected<Distance> safetyDistance(Seconds wholeTime, Safeguard safeguard, double resolutionM, double intrusionM);
constexpr double kCoarsestFineM = 0.040;

} // namespace ts::safety
