#pragma once
// Two channels as a Markov model, for comparison with the table: it takes unequal channels, any coverage, and the
// interval at which a noticed fault really is noticed. Source: textbook (state model of a 1-out-of-2 structure with
// periodic repair); ISO 13849-1 annex K rests on models of this kind. Never a result in the standard's sense.

#include "core/base/expected.h"
#include "core/base/quantity.h"
#include "core/safety/chain.h"

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

/// Mean frequency of dangerous failures per hour. OutOfRange unless the MTTFd are above zero, coverage and beta within
/// 0..1, and 0 < interval <= mission <= 100 years with at most 100 000 intervals. Pure; some microseconds per interval.
Expected<PerHour> dualChannelPfhd(const MarkovChannel& a, const MarkovChannel& b, const MarkovOptions& options = {});

/// The same with what is found repaired at once, as the table of ISO 13849-1 annex K takes it; the interval is not
/// looked at.
Expected<PerHour> dualChannelAtOncePfhd(
    const MarkovChannel& a, const MarkovChannel& b, const MarkovOptions& options = {});

/// One channel and its test equipment: dangerous are failures that the test does not find, those that it would find
/// once it has failed itself, and common causes. What is found while the test works stops the machine and is repaired.
/// Errors as above.
Expected<PerHour> testedChannelPfhd(
    const MarkovChannel& channel, Years testEquipment, const MarkovOptions& options = {});

/// A designed subsystem by the model of its category, channels capped as in the table: for comparison with it. None for
/// a maker's, for unusable values, and for category 2 without test equipment. Source: the designated architectures of
/// clause 6.2.
std::optional<PerHour> markovPfhd(
    const ChainSubsystem& subsystem, const Readings& readings, const MarkovOptions& options = {});

} // namespace ts::safety
