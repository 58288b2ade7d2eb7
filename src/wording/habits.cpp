#include "wording/habits.h"

#include "core/library/fields.h"

#include <fmt/format.h>

#include <cmath>

namespace ts::wording {
namespace {

constexpr double kWattsPerHorsepower = 745.6999;

/// 1/0 is counted as 0, 4/0 as -3.
int nearestGauge(double areaMm2)
{
    int best = 24;
    const auto away = [&](int n) { return std::abs(std::log(gaugeAreaMm2(n) / areaMm2)); };
    for (int n = 24; n >= -3; n -= n > 2 ? 2 : n == 2 ? 2 : 1)
        if (away(n) < away(best))
            best = n;
    return best;
}

} // namespace

std::string wireSizeText(double areaMm2, const Habits& habits)
{
    if (habits.wireSize == Habits::WireSize::SquareMillimetres || !(areaMm2 > 0.0))
        return fmt::format("{:.6g} mm²", areaMm2);
    const int n = nearestGauge(areaMm2);
    return n > 0 ? fmt::format("{} AWG", n) : fmt::format("{}/0 AWG", 1 - n);
}

std::string powerText(double watts, const Habits& habits)
{
    return habits.power == Habits::Power::Kilowatts ? fmt::format("{:.3g} kW", watts / 1000.0)
                                                    : fmt::format("{:.3g} hp", watts / kWattsPerHorsepower);
}

std::string phaseName(std::string_view marking, const Habits& habits)
{
    if (marking.size() != 2 || marking[0] != 'L' || marking[1] < '1' || marking[1] > '3'
        || habits.phases == Habits::Phases::L1L2L3)
        return std::string(marking);
    return std::string(1, (habits.phases == Habits::Phases::RYB ? "RYB" : "UVW")[marking[1] - '1']);
}

} // namespace ts::wording
