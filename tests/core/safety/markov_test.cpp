// The Markov model of two channels against closed forms.

#include "core/safety/markov.h"

#include "core/library/table.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>

namespace ts::safety {
namespace {

double pfhd(double mttfdYears, double coverage, double intervalYears)
{
    MarkovOptions o;
    o.checkInterval = years(intervalYears);
    return dualChannelPfhd({years(mttfdYears), coverage}, {years(mttfdYears), coverage}, o)->si();
}

TEST(Markov, TwoChannelsOfThirtyYearsCheckedMonthlyAndYearly)
{
    // Rate l = 1 / (30 * 8760 h) = 3.805e-6 /h. To the first order b l + ((1-b) l)^2 T: 8.6e-8 a month, 2.0e-7 a year,
    // as is known. What is left out there is of the order of l T: that bounds the difference.
    const double l = 1.0 / (30 * 8760.0);
    for (const auto& [t, known] : {std::pair{1.0 / 12.0, 8.6e-8}, {1.0, 2.0e-7}})
        EXPECT_NEAR(pfhd(30, 1.0, t), known, known * std::max(l * t * 8760.0, 0.006)) << "two figures are known";
    // Exactly, for one year: Pw' = -2 (1-b) l Pw + l (1 - Pw), mean of Pw over T = 0.96839, frequency = l (b Pw + 1 -
    // Pw) = 1.940e-7.
    EXPECT_NEAR(pfhd(30, 1.0, 1.0), 1.940e-7, 0.0005e-7);
}

TEST(Markov, LongerIntervalsAndLessCoverageAreNeverBetter)
{
    double last = 0;
    for (double t : {0.01, 0.1, 1.0, 5.0, 20.0}) {
        EXPECT_GT(pfhd(40, 0.9, t), last);
        last = pfhd(40, 0.9, t);
    }
    EXPECT_GT(pfhd(40, 0.0, 0.1), pfhd(40, 0.6, 0.1));
    EXPECT_GT(pfhd(40, 0.6, 0.1), pfhd(40, 0.99, 0.1));
}

TEST(Markov, WithAllFailuresOfCommonCauseIsTheRateItself)
{
    MarkovOptions o;
    o.commonCause = 1.0;
    const double rate = 1.0 / (50.0 * 8760.0);
    EXPECT_NEAR(dualChannelPfhd({years(50), 0.5}, {years(50), 0.5}, o)->si(), rate, rate * 1e-9);
}

TEST(Markov, DoesNotMindTheOrderOfTheChannels)
{
    const MarkovChannel a{years(20), 0.9}, b{years(70), 0.3};
    EXPECT_NEAR(dualChannelPfhd(a, b)->si(), dualChannelPfhd(b, a)->si(), 1e-20);
}

/// Largest deviation from a column of the table over all its rows.
double deviation(const char* column, const std::function<double(double)>& model)
{
    const Table& table = pfhdTable();
    double worst = 0;
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (const auto pfhd = table.number(row, column)) {
            const double d = model(*table.number(row, "mttfd_y")) / *pfhd - 1.0;
            if (std::abs(d) > std::abs(worst))
                worst = d;
        }
    return worst;
}

TEST(Markov, StaysWithinTheKnownDeviationFromTheTable)
{
    // Annex K against models of the designated architectures, beta 2 %, 20 years, what is found repaired at once. The
    // bounds are those of an independent implementation, known to two figures: 0.5 % (B, 1), 3 % (2), 4.5 % (3,
    // medium), 1.5 % (4), 26 % (3, low).
    const auto dual = [](double dc) {
        return [dc](double y) { return dualChannelAtOncePfhd({years(y), dc}, {years(y), dc})->si(); };
    };
    const auto tested = [](double dc) {
        return [dc](double y) { return testedChannelPfhd({years(y), dc}, years(y))->si(); };
    };
    const auto single = [](double y) { return 1.0 / (y * 8760.0); };
    EXPECT_LE(std::abs(deviation("cat_b", single)), 0.005);
    EXPECT_LE(std::abs(deviation("cat_1", single)), 0.005);
    EXPECT_LE(std::abs(deviation("cat_2_dc_low", tested(0.60))), 0.03) << deviation("cat_2_dc_low", tested(0.60));
    EXPECT_LE(std::abs(deviation("cat_2_dc_medium", tested(0.90))), 0.03) << deviation("cat_2_dc_medium", tested(0.90));
    EXPECT_LE(std::abs(deviation("cat_3_dc_medium", dual(0.90))), 0.045) << deviation("cat_3_dc_medium", dual(0.90));
    EXPECT_LE(std::abs(deviation("cat_4_dc_high", dual(0.99))), 0.0155) << deviation("cat_4_dc_high", dual(0.99));
    EXPECT_LE(std::abs(deviation("cat_3_dc_low", dual(0.60))), 0.265) << deviation("cat_3_dc_low", dual(0.60));
}

TEST(Markov, AgreesWithASimpleSimulationOfManyMachines)
{
    // Two channels of 8 and 20 y, DC 60 % and 90 %, drawn machine by machine: times to failure exponential, what is
    // found is repaired at once, a common cause at beta * sqrt(la lb). 200 000 machines over 20 years; the standard
    // error of the count is given with it.
    const double la = 1.0 / (8 * 8760.0), lb = 1.0 / (20 * 8760.0), beta = 0.02, hours = 20 * 8760.0;
    std::mt19937_64 random(4);
    std::exponential_distribution<double> next(1.0);
    std::uniform_real_distribution<double> share(0.0, 1.0);
    long failures = 0;
    constexpr int kMachines = 200'000;
    for (int k = 0; k < kMachines; ++k) {
        double t = 0;
        int left = 0; // 0: both, 1: only b, 2: only a
        while (true) {
            const double ra = left == 1 ? 0
                : left == 2             ? la
                                        : (1 - beta) * la,
                         rb = left == 2 ? 0
                : left == 1             ? lb
                                        : (1 - beta) * lb;
            const double both = left == 0 ? beta * std::sqrt(la * lb) : 0;
            t += next(random) / (ra + rb + both);
            if (t > hours)
                break;
            const double which = share(random) * (ra + rb + both);
            if (left != 0 || which >= ra + rb) {
                ++failures;
                left = 0;
            } else if (which < ra) {
                left = share(random) < 0.6 ? 0 : 1;
            } else {
                left = share(random) < 0.9 ? 0 : 2;
            }
        }
    }
    const double simulated = static_cast<double>(failures) / (kMachines * hours),
                 error = simulated / std::sqrt(static_cast<double>(failures));
    const double model = dualChannelAtOncePfhd({years(8), 0.6}, {years(20), 0.9})->si();
    EXPECT_NEAR(model, simulated, 4 * error) << "four standard errors: " << error;
}

TEST(Markov, RefusesWhatCannotBe)
{
    EXPECT_FALSE(dualChannelPfhd({years(0), 0.5}, {years(30), 0.5}));
    EXPECT_FALSE(dualChannelPfhd({years(30), 1.5}, {years(30), 0.5}));
    MarkovOptions o;
    o.checkInterval = years(30.0);
    EXPECT_FALSE(dualChannelPfhd({years(30), 0.5}, {years(30), 0.5}, o));
}

} // namespace
} // namespace ts::safety
