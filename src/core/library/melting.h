#pragma once
// How a gG fuse-link melts. Source: IEC 60269-1 (gates, conventional currents, I2t at 10 ms; from 16 A), IEC 60269-2
// (below), read from fuse_gg_gates.csv and device_defaults.csv.

#include "core/library/timing.h"

#include <array>
#include <optional>
#include <utility>

namespace ts {

/// Currents (A, rising) at which the element melts after a time (s, falling): at the conventional time, at 10, 5 and
/// 0.1 s, and at 10 ms by its I2t. Log-log between.
struct MeltingCurve {
    std::array<std::pair<double, double>, 5> points{};
    double totalOverMelting = 1; ///< I2t with the arc, over that of melting alone
    bool operator==(const MeltingCurve&) const = default;
};

/// Fast: the currents it must hold; slow: those at which it must have opened; nominal: the geometric mean of both.
/// A rating without a row is scaled from the nearest one (assumed).
MeltingCurve ggCurve(double ratedA, Timing timing);

/// Seconds until a constant current (RMS) is interrupted, from cold: melting, and the arc after it. Nothing if it never
/// melts. A current that melts it within half a period has first to rise; the arc ends within
/// half a period.
std::optional<double> clearingTimeS(const MeltingCurve& curve, double currentA);

} // namespace ts
