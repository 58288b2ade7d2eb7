#include "core/safety/arithmetic.h"

#include "core/library/table.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::safety {
namespace {

Unexpected unusable(const char* what)
{
    return failure(ErrorCode::OutOfRange, message("arithmetic.unusable", {std::string(what)}));
}

bool isUsable(double value)
{
    return std::isfinite(value) && value > 0.0;
}

std::string_view columnOf(Category category, CoverageClass coverage, bool aboveTableOfB)
{
    switch (category) {
    case Category::B: return aboveTableOfB ? "cat_1" : "cat_b";
    case Category::One: return "cat_1";
    case Category::Two: return coverage == CoverageClass::Low ? "cat_2_dc_low" : coverage >= CoverageClass::Medium ? "cat_2_dc_medium" : "";
    case Category::Three: return coverage == CoverageClass::Low ? "cat_3_dc_low" : coverage >= CoverageClass::Medium ? "cat_3_dc_medium" : "";
    case Category::Four: return coverage == CoverageClass::High ? "cat_4_dc_high" : "";
    }
    return "";
}

/// A whole number such as a class limit must not fall to the lower class by a rounding of the last bit.
double settled(double years)
{
    return years * (1.0 + 1e-12);
}

} // namespace

Expected<PerYear> operationsPerYear(double daysPerYear, double hoursPerDay, Seconds cycle)
{
    if (!isUsable(daysPerYear) || daysPerYear > 366.0 || !isUsable(hoursPerDay) || hoursPerDay > 24.0 || !isUsable(cycle.si()))
        return unusable("nop");
    const double n = daysPerYear * hoursPerDay * 3600.0 / cycle.si();
    return isUsable(n) ? Expected<PerYear>(perYear(n)) : Expected<PerYear>(unusable("nop"));
}

Expected<Years> mttfdFromB10d(Cycles b10d, PerYear operations)
{
    const double y = b10d.si() / (0.1 * operations.si());
    if (!isUsable(b10d.si()) || !isUsable(operations.si()) || !isUsable(y))
        return unusable("mttfd");
    return years(y);
}

Expected<Years> replacementTime(Cycles b10d, PerYear operations)
{
    const double y = b10d.si() / operations.si();
    if (!isUsable(b10d.si()) || !isUsable(operations.si()) || !isUsable(y))
        return unusable("t10d");
    return years(y);
}

Expected<Years> channelMttfd(std::span<const Years> parts)
{
    double rate = 0.0;
    for (Years part : parts) {
        if (!isUsable(part.si()))
            return unusable("mttfd");
        rate += 1.0 / part.si();
    }
    if (!isUsable(rate))
        return unusable("channel");
    return years(1.0 / rate);
}

Years mttfdCap(Category category)
{
    return years(category == Category::Four ? 2500.0 : 100.0);
}

Years symmetrisedMttfd(Years a, Years b)
{
    return years(2.0 / 3.0 * (a.si() + b.si() - 1.0 / (1.0 / a.si() + 1.0 / b.si())));
}

Expected<double> averageCoverage(std::span<const PartCoverage> parts)
{
    double covered = 0.0, all = 0.0;
    for (const PartCoverage& p : parts) {
        if (!isUsable(p.mttfd.si()) || !(p.coverage >= 0.0 && p.coverage <= 1.0))
            return unusable("dc");
        covered += p.coverage / p.mttfd.si();
        all += 1.0 / p.mttfd.si();
    }
    if (!isUsable(all))
        return unusable("dc");
    return covered / all;
}

MttfdClass mttfdClass(Years value)
{
    const double y = settled(value.si());
    return y < 3.0 ? MttfdClass::NotAcceptable : y < 10.0 ? MttfdClass::Low : y < 30.0 ? MttfdClass::Medium : MttfdClass::High;
}

CoverageClass coverageClass(double coverage)
{
    const double c = coverage + 1e-12;
    return c < 0.60 ? CoverageClass::None : c < 0.90 ? CoverageClass::Low : c < 0.99 ? CoverageClass::Medium : CoverageClass::High;
}

std::optional<PerHour> tablePfhd(Category category, CoverageClass coverage, Years channel, Method method)
{
    const double y = settled(channel.si());
    const std::string_view column = columnOf(category, coverage, y > 30.0);
    if (column.empty() || !std::isfinite(y))
        return std::nullopt;
    const Table& table = pfhdTable();
    std::optional<std::size_t> below, above;
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        if (!table.number(row, column))
            continue;
        if (*table.number(row, "mttfd_y") <= y)
            below = row;
        else if (!above)
            above = row;
    }
    if (!below)
        return std::nullopt;
    const double p0 = *table.number(*below, column);
    if (method == Method::Row || !above)
        return perHour(p0);
    const double y0 = *table.number(*below, "mttfd_y"), y1 = *table.number(*above, "mttfd_y"), p1 = *table.number(*above, column);
    const double share = std::log(std::max(channel.si(), y0) / y0) / std::log(y1 / y0);
    return perHour(p0 * std::pow(p1 / p0, share));
}

std::optional<Level> levelOf(PerHour pfhd)
{
    const double p = pfhd.si();
    if (!(p >= 0.0) || p >= 1e-4)
        return std::nullopt;
    return p < 1e-7 ? Level::E : p < 1e-6 ? Level::D : p < 3e-6 ? Level::C : p < 1e-5 ? Level::B : Level::A;
}

std::string_view nameOf(Level level)
{
    return std::string_view("abcde").substr(static_cast<std::size_t>(level), 1);
}

std::string_view nameOf(Category category)
{
    return std::string_view("B1234").substr(static_cast<std::size_t>(category), 1);
}

std::optional<Level> levelNamed(std::string_view name)
{
    for (Level l : {Level::A, Level::B, Level::C, Level::D, Level::E})
        if (nameOf(l) == name)
            return l;
    return std::nullopt;
}

std::optional<Category> categoryNamed(std::string_view name)
{
    for (Category c : {Category::B, Category::One, Category::Two, Category::Three, Category::Four})
        if (nameOf(c) == name)
            return c;
    return std::nullopt;
}

Level requiredLevel(bool serious, bool frequent, bool scarcelyAvoidable)
{
    // S1F1P1 a, S1F1P2 b, S1F2P1 b, S1F2P2 c, S2F1P1 c, S2F1P2 d, S2F2P1 d, S2F2P2 e
    static constexpr std::array kLevels{Level::A, Level::B, Level::B, Level::C, Level::C, Level::D, Level::D, Level::E};
    return kLevels[static_cast<std::size_t>(serious * 4 + frequent * 2 + scarcelyAvoidable)];
}

} // namespace ts::safety
