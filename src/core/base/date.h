#pragma once
// Days of the Gregorian calendar as ISO 8601 text ("2026-05-31"). No clock: today is always an argument.

#include <optional>
#include <string>
#include <string_view>

namespace ts {

bool isDate(std::string_view text);
/// The day so many days later (a part of a day is left out: due earlier). None for what is no date, and beyond the year
/// 9999.
std::optional<std::string> dayAfter(std::string_view date, double days);

} // namespace ts
