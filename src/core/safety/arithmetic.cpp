#include "core/safety/arithmetic.h"

#include "core/library/table.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

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

/// One combination of category and coverage class, in order of MTTFd.
struct Column {
    std::vector<double> years, pfhd;
};

Column columnNamed(std::string_view name)
{
    Column column;
    const Table& table = pfhdTable();
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (const auto pfhd = table.number(row, name)) {
            column.years.push_back(*table.number(row, "mttfd_y"));
            column.pfhd.push_back(*pfhd);
        }
    return column;
}

/// Read once: a level is computed a million times where inputs are varied. Null: the combination does not exist.
const Column* columnOf(Category category, CoverageClass coverage, bool readsOne)
{
    static const Column b = columnNamed("cat_b"), one = columnNamed("cat_1"), twoLow = columnNamed("cat_2_dc_low"),
                        twoMedium = columnNamed("cat_2_dc_medium"), threeLow = columnNamed("cat_3_dc_low"),
                        threeMedium = columnNamed("cat_3_dc_medium"), four = columnNamed("cat_4_dc_high");
    const auto tested = [coverage](const Column& low, const Column& medium) {
        return coverage == CoverageClass::Low ? &low : coverage >= CoverageClass::Medium ? &medium : nullptr;
    };
    switch (category) {
    case Category::B:
        return readsOne ? &one : &b;
    case Category::One:
        return &one;
    case Category::Two:
        return tested(twoLow, twoMedium);
    case Category::Three:
        return tested(threeLow, threeMedium);
    case Category::Four:
        return coverage == CoverageClass::High ? &four : nullptr;
    }
    return nullptr;
}

/// A whole number such as a class limit must not fall to the lower class by a rounding of the last bit.
double settled(double years)
{
    return years * (1.0 + 1e-12);
}

} // namespace

Expected<PerYear> operationsPerYear(double daysPerYear, double hoursPerDay, Seconds cycle)
{
    if (!isUsable(daysPerYear) || daysPerYear > 366.0 || !isUsable(hoursPerDay) || hoursPerDay > 24.0
        || !isUsable(cycle.si()))
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

Expected<Cycles> b10dFromB10(Cycles b10, double dangerousShare)
{
    if (!isUsable(b10.si()) || !isUsable(dangerousShare) || dangerousShare > 1.0)
        return unusable("b10d");
    return cycles(b10.si() / dangerousShare);
}

Expected<Years> mttfdFromMttf(Years mttf, double dangerousShare)
{
    if (!isUsable(mttf.si()) || !isUsable(dangerousShare) || dangerousShare > 1.0)
        return unusable("mttfd");
    return years(mttf.si() / dangerousShare);
}

Expected<Years> mttfdFromFit(double fitDangerous)
{
    const double y = 1e9 / (8760.0 * fitDangerous);
    if (!isUsable(fitDangerous) || !isUsable(y))
        return unusable("mttfd");
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

MttfdClass mttfdClass(Years value, double tolerance)
{
    const double y = settled(value.si()) / (1.0 - tolerance);
    return y < 3.0 ? MttfdClass::NotAcceptable
        : y < 10.0 ? MttfdClass::Low
        : y < 30.0 ? MttfdClass::Medium
                   : MttfdClass::High;
}

CoverageClass coverageClass(double coverage, double tolerance)
{
    const double c = (coverage + 1e-12) / (1.0 - tolerance);
    return c < 0.60 ? CoverageClass::None
        : c < 0.90  ? CoverageClass::Low
        : c < 0.99  ? CoverageClass::Medium
                    : CoverageClass::High;
}

std::optional<PerHour> tablePfhd(
    Category category, CoverageClass coverage, Years channel, PfhdMethod method, bool categoryBReadsOne)
{
    const double y = settled(channel.si());
    const Column* column = columnOf(category, coverage, categoryBReadsOne && y > 30.0);
    if (!column || !std::isfinite(y))
        return std::nullopt;
    const auto above = static_cast<std::size_t>(
        std::upper_bound(column->years.begin(), column->years.end(), y) - column->years.begin());
    if (above == 0)
        return std::nullopt;
    const double p0 = column->pfhd[above - 1];
    if (method == PfhdMethod::Row || above == column->years.size())
        return perHour(p0);
    const double y0 = column->years[above - 1], y1 = column->years[above], p1 = column->pfhd[above];
    const double share = std::log(std::max(channel.si(), y0) / y0) / std::log(y1 / y0);
    return perHour(p0 * std::pow(p1 / p0, share));
}

std::optional<Level> levelByCount(std::span<const Level> subsystems)
{
    if (subsystems.empty())
        return std::nullopt;
    const Level lowest = *std::min_element(subsystems.begin(), subsystems.end());
    const auto count = std::count(subsystems.begin(), subsystems.end(), lowest);
    const bool isMany = count > (lowest == Level::B || lowest == Level::C ? 2 : 3);
    if (!isMany)
        return lowest;
    return lowest == Level::A ? std::nullopt : std::optional(static_cast<Level>(static_cast<int>(lowest) - 1));
}

std::optional<Level> levelOf(PerHour pfhd)
{
    constexpr double kRounding = 1e-9; // a sum that is rounded to just below a limit belongs to the worse side
    const double p = pfhd.si() * (1.0 + kRounding);
    if (!(p >= 0.0) || p >= 1e-4)
        return std::nullopt;
    return p < 1e-7 ? Level::E : p < 1e-6 ? Level::D : p < 3e-6 ? Level::C : p < 1e-5 ? Level::B : Level::A;
}

std::optional<Level> combinedLevel(std::span<const Level> subsystems, std::optional<PerHour> sum)
{
    if (!sum)
        return levelByCount(subsystems);
    const auto level = levelOf(*sum);
    return level && !subsystems.empty()
        ? std::optional(lower(*level, *std::min_element(subsystems.begin(), subsystems.end())))
        : std::nullopt;
}

Level requiredLevel(bool serious, bool frequent, bool scarcelyAvoidable)
{
    // S1F1P1 a, S1F1P2 b, S1F2P1 b, S1F2P2 c, S2F1P1 c, S2F1P2 d, S2F2P1 d, S2F2P2 e
    static constexpr std::array kLevels{Level::A, Level::B, Level::B, Level::C, Level::C, Level::D, Level::D, Level::E};
    return kLevels[static_cast<std::size_t>(serious * 4 + frequent * 2 + scarcelyAvoidable)];
}

} // namespace ts::safety
