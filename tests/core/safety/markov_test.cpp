// The Markov model of two channels against closed forms.

#include "core/safety/markov.h"

#include <gtest/gtest.h>

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
    // Rate l = 1 / (30 * 8760 h) = 3.805e-6 /h. To the first order b l + ((1-b) l)^2 T: 8.6e-8 a month, 2.0e-7 a year, as is known.
    // What is left out there is of the order of l T: that bounds the difference.
    const double l = 1.0 / (30 * 8760.0);
    for (const auto& [t, known] : {std::pair{1.0 / 12.0, 8.6e-8}, {1.0, 2.0e-7}})
        EXPECT_NEAR(pfhd(30, 1.0, t), known, known * std::max(l * t * 8760.0, 0.006)) << "two figures are known";
    // Exactly, for one year: Pw' = -2 (1-b) l Pw + l (1 - Pw), mean of Pw over T = 0.96839, frequency = l (b Pw + 1 - Pw) = 1.940e-7.
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
