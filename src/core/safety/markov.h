#pragma once
// Two channels as a Markov model, for comparison with the table: it takes unequal channels, any coverage, and the interval at
// which a noticed fault really is noticed. Source: textbook (state model of a 1-out-of-2 structure with periodic repair);
// ISO 13849-1 annex K rests on models of this kind. Never a result in the standard's sense.

#include "core/base/expected.h"
#include "core/base/quantity.h"

namespace ts::safety {

struct MarkovChannel {
    Years mttfd;
    double coverage = 0; ///< share of dangerous failures that the next check finds, 0..1
};

struct MarkovOptions {
    double commonCause = 0.02; ///< beta: share of dangerous failures that hit both channels
    Years checkInterval = years(1.0); ///< between two checks; what they find is repaired at once
    Years mission = years(20.0); ///< averaged over; a dangerous failure is repaired at once
};

/// Mean frequency of dangerous failures per hour. OutOfRange unless the MTTFd are above zero, coverage and beta within 0..1,
/// and 0 < interval <= mission <= 100 years with at most 100 000 intervals. Pure; some microseconds per interval.
Expected<PerHour> dualChannelPfhd(const MarkovChannel& a, const MarkovChannel& b, const MarkovOptions& options = {});

} // namespace ts::safety
