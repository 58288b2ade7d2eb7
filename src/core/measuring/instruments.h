#pragma once
// Instruments that are asked by lines of text: profiles from data/reference/instruments.csv. What carries the lines, a
// network or a serial port, is another's.

#include "core/measuring/look.h"

#include <span>

namespace ts::measuring {

struct InstrumentProfile {
    std::string id, name;
    double uncertainty = 0; ///< share of the value
    double overload = 0; ///< what it answers for more than it shows
    /// What asks it, one after the other; the largest answer counts. Empty: it does not measure that.
    std::vector<std::string> commandsFor(Instrument with) const;

    std::vector<std::pair<Instrument, std::vector<std::string>>> commands;
};
std::span<const InstrumentProfile> instrumentProfiles();

/// The largest of its answers, in the unit of the instrument; an overload is as endless as a record takes it. None: one
/// of them is no number.
std::optional<double> readingFrom(const InstrumentProfile& profile, std::span<const std::string> answers);

} // namespace ts::measuring
