// Known answers: the standard's table, class limits from both sides, and sums done by hand.

#include "core/safety/arithmetic.h"

#include "core/library/table.h"

#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <limits>

namespace ts::safety {
namespace {

TEST(OperationsPerYear, AreDutyOverCycleTime)
{
    // 220 d * 16 h * 3600 s / 28800 s = 440 operations a year
    EXPECT_DOUBLE_EQ(operationsPerYear(220, 16, seconds(28800))->si(), 440.0);
    // 365 * 24 * 3600 / 60 = 525600: once a minute, all year
    EXPECT_DOUBLE_EQ(operationsPerYear(365, 24, seconds(60))->si(), 525600.0);
}

TEST(OperationsPerYear, RefuseTheImpossible)
{
    const double nan = std::numeric_limits<double>::quiet_NaN();
    EXPECT_FALSE(operationsPerYear(0, 16, seconds(60)));
    EXPECT_FALSE(operationsPerYear(220, 25, seconds(60)));
    EXPECT_FALSE(operationsPerYear(367, 16, seconds(60)));
    EXPECT_FALSE(operationsPerYear(220, 16, seconds(0)));
    EXPECT_FALSE(operationsPerYear(220, 16, seconds(-1)));
    EXPECT_FALSE(operationsPerYear(nan, 16, seconds(60)));
    EXPECT_FALSE(operationsPerYear(220, 16, seconds(1e-320)));
}

TEST(Mttfd, FollowsFromB10d)
{
    // 1 300 000 / (0.1 * 660) = 19696.97 y; T10d = 1 300 000 / 660 = 1969.697 y
    EXPECT_NEAR(mttfdFromB10d(cycles(1.3e6), perYear(660))->si(), 19696.97, 0.005);
    EXPECT_NEAR(replacementTime(cycles(1.3e6), perYear(660))->si(), 1969.697, 0.0005);
    // annex C example: B10d 60e6, nop 2.53e6 -> 237 y, 23.7 y
    EXPECT_NEAR(mttfdFromB10d(cycles(60e6), perYear(2.53e6))->si(), 237.15, 0.01);
    EXPECT_FALSE(mttfdFromB10d(cycles(1e6), perYear(0)));
    EXPECT_FALSE(mttfdFromB10d(cycles(0), perYear(10)));
}

TEST(ChannelMttfd, AddsRates)
{
    const std::array parts{years(50), years(100), years(200)}; // 1/50 + 1/100 + 1/200 = 0.035 -> 28.571 y
    EXPECT_NEAR(channelMttfd(parts)->si(), 28.5714, 1e-4);
    EXPECT_FALSE(channelMttfd({}));
    const std::array bad{years(50), years(0)};
    EXPECT_FALSE(channelMttfd(bad));
}

TEST(ChannelMttfd, OrderDoesNotMatterAndABetterPartNeverLowersIt)
{
    const std::array forward{years(30), years(70), years(400)}, backward{years(400), years(70), years(30)};
    EXPECT_NEAR(channelMttfd(forward)->si(), channelMttfd(backward)->si(), 1e-12);
    double last = 0.0;
    for (double better = 10; better < 3000; better *= 1.3) {
        const std::array parts{years(30), years(better)};
        const double now = channelMttfd(parts)->si();
        EXPECT_GT(now, last);
        last = now;
    }
}

TEST(SymmetrisedMttfd, IsTheStandardsExample)
{
    // annex D.2: 3 y and 100 y -> 2/3 (103 - 1/(1/3 + 1/100)) = 66.725 y
    EXPECT_NEAR(symmetrisedMttfd(years(3), years(100)).si(), 66.725, 0.001);
    EXPECT_NEAR(symmetrisedMttfd(years(40), years(40)).si(), 40.0, 1e-12); // 2/3 (80 - 20)
}

TEST(AverageCoverage, WeighsByRate)
{
    // one part at 99 %, an equal one untested: 49.5 %
    const std::array half{PartCoverage{years(100), 0.99}, PartCoverage{years(100), 0.0}};
    EXPECT_NEAR(*averageCoverage(half), 0.495, 1e-12);
    // (0.99/30 + 0.6/60) / (1/30 + 1/60) = 0.043 / 0.05 = 0.86
    const std::array mixed{PartCoverage{years(30), 0.99}, PartCoverage{years(60), 0.6}};
    EXPECT_NEAR(*averageCoverage(mixed), 0.86, 1e-12);
    EXPECT_FALSE(averageCoverage({}));
    const std::array above{PartCoverage{years(30), 1.2}};
    EXPECT_FALSE(averageCoverage(above));
}

TEST(Classes, ChangeExactlyAtTheirLimits)
{
    EXPECT_EQ(mttfdClass(years(2.999)), MttfdClass::NotAcceptable);
    EXPECT_EQ(mttfdClass(years(3)), MttfdClass::Low);
    EXPECT_EQ(mttfdClass(years(9.999)), MttfdClass::Low);
    EXPECT_EQ(mttfdClass(years(10)), MttfdClass::Medium);
    EXPECT_EQ(mttfdClass(years(29.999)), MttfdClass::Medium);
    EXPECT_EQ(mttfdClass(years(30)), MttfdClass::High);
    EXPECT_EQ(coverageClass(0.5999), CoverageClass::None);
    EXPECT_EQ(coverageClass(0.60), CoverageClass::Low);
    EXPECT_EQ(coverageClass(0.8999), CoverageClass::Low);
    EXPECT_EQ(coverageClass(0.90), CoverageClass::Medium);
    EXPECT_EQ(coverageClass(0.9899), CoverageClass::Medium);
    EXPECT_EQ(coverageClass(0.99), CoverageClass::High);
}

TEST(Levels, ChangeExactlyAtTheirLimits)
{
    EXPECT_EQ(levelOf(perHour(9.99e-8)), Level::E);
    EXPECT_EQ(levelOf(perHour(1e-7)), Level::D);
    EXPECT_EQ(levelOf(perHour(9.99e-7)), Level::D);
    EXPECT_EQ(levelOf(perHour(1e-6)), Level::C);
    EXPECT_EQ(levelOf(perHour(2.99e-6)), Level::C);
    EXPECT_EQ(levelOf(perHour(3e-6)), Level::B);
    EXPECT_EQ(levelOf(perHour(9.99e-6)), Level::B);
    EXPECT_EQ(levelOf(perHour(1e-5)), Level::A);
    EXPECT_EQ(levelOf(perHour(9.99e-5)), Level::A);
    EXPECT_EQ(levelOf(perHour(1e-4)), std::nullopt);
    EXPECT_EQ(levelOf(perHour(std::numeric_limits<double>::quiet_NaN())), std::nullopt);
}

TEST(RequiredLevel, FollowsTheThreeQuestions)
{
    const std::array expected{Level::A, Level::B, Level::B, Level::C, Level::C, Level::D, Level::D, Level::E};
    for (int i = 0; i < 8; ++i)
        EXPECT_EQ(requiredLevel(i & 4, i & 2, i & 1), expected[static_cast<std::size_t>(i)]) << i;
}

struct Column {
    const char* name;
    Category category;
    CoverageClass coverage;
};
constexpr std::array kColumns{Column{"cat_b", Category::B, CoverageClass::None},
    Column{"cat_1", Category::One, CoverageClass::None}, Column{"cat_2_dc_low", Category::Two, CoverageClass::Low},
    Column{"cat_2_dc_medium", Category::Two, CoverageClass::Medium},
    Column{"cat_3_dc_low", Category::Three, CoverageClass::Low},
    Column{"cat_3_dc_medium", Category::Three, CoverageClass::Medium},
    Column{"cat_4_dc_high", Category::Four, CoverageClass::High}};

TEST(Table, EveryCellIsReadByBothMethods)
{
    const Table& table = pfhdTable();
    int cells = 0;
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        for (const Column& c : kColumns)
            if (const auto expected = table.number(row, c.name)) {
                const Years y = years(*table.number(row, "mttfd_y"));
                EXPECT_EQ(tablePfhd(c.category, c.coverage, y, PfhdMethod::Row)->si(), *expected)
                    << c.name << " " << y.si();
                EXPECT_NEAR(
                    tablePfhd(c.category, c.coverage, y, PfhdMethod::Interpolated)->si() / *expected, 1.0, 1e-9);
                ++cells;
            }
    EXPECT_GT(cells, 200);
}

TEST(Table, KnownCellsOfTheStandard)
{
    EXPECT_EQ(tablePfhd(Category::B, CoverageClass::None, years(3), PfhdMethod::Row)->si(), 3.80e-5);
    EXPECT_EQ(tablePfhd(Category::One, CoverageClass::None, years(100), PfhdMethod::Row)->si(), 1.14e-6);
    EXPECT_EQ(tablePfhd(Category::Three, CoverageClass::Medium, years(30), PfhdMethod::Row)->si(), 2.65e-7);
    EXPECT_EQ(tablePfhd(Category::Four, CoverageClass::High, years(30), PfhdMethod::Row)->si(), 9.54e-8);
    EXPECT_EQ(tablePfhd(Category::Four, CoverageClass::High, years(2500), PfhdMethod::Row)->si(), 9.06e-10);
}

TEST(Table, RowTakesTheNextLowerOneAndInterpolationLiesBetween)
{
    const double low = tablePfhd(Category::Three, CoverageClass::Medium, years(34.9), PfhdMethod::Row)->si();
    EXPECT_EQ(low, 2.30e-7); // row of 33 y
    const double between = tablePfhd(Category::Three, CoverageClass::Medium, years(34.5), PfhdMethod::Interpolated)
                               ->si();
    EXPECT_LT(between, 2.30e-7);
    EXPECT_GT(between, 2.01e-7); // row of 36 y
}

TEST(Table, HasNoValueOutsideItsFields)
{
    EXPECT_FALSE(tablePfhd(Category::Three, CoverageClass::None, years(50), PfhdMethod::Row));
    EXPECT_FALSE(tablePfhd(Category::Four, CoverageClass::Medium, years(50), PfhdMethod::Row));
    EXPECT_FALSE(tablePfhd(Category::Four, CoverageClass::High, years(29), PfhdMethod::Row));
    EXPECT_FALSE(tablePfhd(Category::One, CoverageClass::None, years(29), PfhdMethod::Row));
    EXPECT_FALSE(tablePfhd(Category::B, CoverageClass::None, years(2.9), PfhdMethod::Row));
}

TEST(Table, CategoryBAboveThirtyYearsReadsTheCategoryOneColumn)
{
    EXPECT_EQ(tablePfhd(Category::B, CoverageClass::None, years(62), PfhdMethod::Row)->si(), 1.84e-6);
}

} // namespace
} // namespace ts::safety
