#include "core/base/date.h"

#include <array>
#include <charconv>
#include <chrono>
#include <cmath>
#include <cstdio>

namespace ts {
namespace {

using std::chrono::sys_days;
using std::chrono::year_month_day;

std::optional<int> numberIn(std::string_view text)
{
    int value = 0;
    const auto read = std::from_chars(text.data(), text.data() + text.size(), value);
    return read.ec == std::errc() && read.ptr == text.data() + text.size() && text.front() != '-' ? std::optional(value)
                                                                                                  : std::nullopt;
}

std::optional<year_month_day> dayIn(std::string_view text)
{
    if (text.size() != 10 || text[4] != '-' || text[7] != '-')
        return std::nullopt;
    const auto y = numberIn(text.substr(0, 4)), m = numberIn(text.substr(5, 2)), d = numberIn(text.substr(8, 2));
    if (!y || !m || !d)
        return std::nullopt;
    const year_month_day day{std::chrono::year(*y), std::chrono::month(unsigned(*m)), std::chrono::day(unsigned(*d))};
    return day.ok() ? std::optional(day) : std::nullopt;
}

} // namespace

bool isDate(std::string_view text)
{
    return dayIn(text).has_value();
}

std::optional<std::string> dayAfter(std::string_view date, double days)
{
    const auto from = dayIn(date);
    if (!from || !(std::abs(days) < 4e6))
        return std::nullopt;
    const year_month_day day(sys_days(*from) + std::chrono::days(static_cast<int>(std::floor(days))));
    if (int(day.year()) < 0 || int(day.year()) > 9999)
        return std::nullopt;
    std::array<char, 40> text{};
    std::snprintf(
        text.data(), text.size(), "%04d-%02u-%02u", int(day.year()), unsigned(day.month()), unsigned(day.day()));
    return std::string(text.data());
}

} // namespace ts
