#pragma once
// What a contact bears by its sheet: "3@230 1.5@400", amperes at volts; and what a contactor's poles break of direct
// current, "60 110 220", volts by the number of poles in series. Written as lists of words.

#include "core/library/parameters.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ts {

struct RatedAt {
    double currentA = 0, voltageV = 0;
};
/// Fails with OutOfRange for what is not "A@V" with 0.01 to 1000 A at 1 to 1000 V.
Expected<std::vector<RatedAt>> contactRatings(const std::vector<std::string>& words, std::string_view tag);
/// At the next higher voltage that the sheet has; none above them all.
std::optional<double> ratedAt(const std::vector<RatedAt>& ratings, double voltageV);
/// One to four voltages of 1 to 1500 V that do not fall. Fails with OutOfRange.
Expected<std::vector<double>> voltsByPoles(const std::vector<std::string>& words, std::string_view tag);

/// Of the lists above those that a kind has. Fails as they do.
Expected<void> checkRatings(std::span<const ParameterSpec> specs, const Parameters& parameters);

} // namespace ts
