#include "core/library/melting.h"

#include "core/base/check.h"
#include "core/library/table.h"

#include <algorithm>
#include <cmath>
#include <string>

namespace ts {
namespace {

constexpr double kHalfPeriodS = 0.01; ///< of 50 Hz, and the time for which the table gives the I2t

/// Of a rating, with the table's currents scaled to it.
struct Gates {
    double holdsA[4]{}, opensA[4]{}; ///< at the conventional time, 10 s (5 s), 0.1 s, 10 ms
    double conventionalS = 0;
};

std::size_t nearestRow(const Table& table, double ratedA)
{
    std::size_t best = 0;
    double bestRatio = HUGE_VAL;
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (const double ratio = std::abs(std::log(ratedA / *table.number(row, "rated_a"))); ratio < bestRatio) {
            bestRatio = ratio;
            best = row;
        }
    return best;
}

std::string sizeOf(double ratedA)
{
    return ratedA <= 4 ? "fuse gG to 4 A" : ratedA < 16 ? "fuse gG above 4 below 16 A" : "fuse gG from 16 A";
}

double conventionalTimeS(double ratedA)
{
    const char* parameter = ratedA <= 63 ? "conventional_time_to_63_a"
        : ratedA <= 160                  ? "conventional_time_to_160_a"
        : ratedA <= 400                  ? "conventional_time_to_400_a"
                                         : "conventional_time_above_400_a";
    return deviceDefault("fuse gG", parameter).nominal;
}

Gates gatesOf(double ratedA)
{
    const Table& table = fuseGatesTable();
    const std::size_t row = nearestRow(table, ratedA);
    const double scale = ratedA / *table.number(row, "rated_a");
    const auto current = [&](const char* column) { return scale * *table.number(row, column); };
    const auto atHalfPeriod = [&](const char* column) {
        return scale * std::sqrt(*table.number(row, column) / kHalfPeriodS);
    };
    const std::string size = sizeOf(ratedA);
    return {{ratedA * deviceDefault(size, "non_fusing_current").nominal, current("holds_10s_a"),
                current("holds_0.1s_a"), atHalfPeriod("i2t_least_a2s")},
        {ratedA * deviceDefault(size, "fusing_current").nominal, current("opens_5s_a"), current("opens_0.1s_a"),
            atHalfPeriod("i2t_most_a2s")},
        conventionalTimeS(ratedA)};
}

double between(double x, double x0, double y0, double x1, double y1)
{
    return y0 * std::pow(y1 / y0, std::log(x / x0) / std::log(x1 / x0));
}

/// Melting of a current that rises from zero: I2 (t - sin(2 w t) / 2 w) = I2t.
double risingMeltS(double i2t, double currentA)
{
    const double w = M_PI / kHalfPeriodS;
    double low = 0.0, high = kHalfPeriodS;
    for (int k = 0; k < 60; ++k) {
        const double t = (low + high) / 2.0;
        (currentA * currentA * (t - std::sin(2.0 * w * t) / (2.0 * w)) < i2t ? low : high) = t;
    }
    return high;
}

/// A current that rises and then falls in a line: its times are as its I2t.
double withArc(const MeltingCurve& curve, double meltS)
{
    return meltS + std::min((curve.totalOverMelting - 1.0) * meltS, kHalfPeriodS);
}

} // namespace

MeltingCurve ggCurve(double ratedA, Timing timing)
{
    TS_CHECK(ratedA > 0.0);
    const Gates g = gatesOf(ratedA);
    const double t = g.conventionalS;
    const std::array holds{
        g.holdsA[0], g.holdsA[1], between(5.0, 10.0, g.holdsA[1], 0.1, g.holdsA[2]), g.holdsA[2], g.holdsA[3]};
    const std::array opens{
        g.opensA[0], between(10.0, t, g.opensA[0], 5.0, g.opensA[1]), g.opensA[1], g.opensA[2], g.opensA[3]};
    constexpr std::array kTimes{0.0, 10.0, 5.0, 0.1, kHalfPeriodS};
    MeltingCurve curve;
    curve.totalOverMelting = deviceDefault("fuse gG", "total_over_prearcing").nominal;
    for (std::size_t k = 0; k < curve.points.size(); ++k) {
        const double current = timing == Timing::Fast ? holds[k]
            : timing == Timing::Slow                  ? opens[k]
                                                      : std::sqrt(holds[k] * opens[k]);
        curve.points[k] = {current, k == 0 ? t : kTimes[k]};
    }
    return curve;
}

std::optional<double> clearingTimeS(const MeltingCurve& curve, double currentA)
{
    if (currentA < curve.points.front().first)
        return std::nullopt;
    const auto& [lastA, lastS] = curve.points.back();
    if (currentA >= lastA)
        return withArc(curve, risingMeltS(lastA * lastA * lastS, currentA));
    const auto above = std::find_if(
        curve.points.begin(), curve.points.end(), [&](const auto& point) { return point.first > currentA; });
    const auto below = above - 1;
    return withArc(curve, between(currentA, below->first, below->second, above->first, above->second));
}

} // namespace ts
