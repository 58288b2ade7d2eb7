// The reference tables as data: each is read whole, its ids are its own, and its figures stand in the order that the
// physics or the standard asks for. A slip of the pen in a table would be found here.

#include "core/library/table.h"
#include "core/model/level.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>
#include <set>

namespace ts {
namespace {

double numberIn(const Table& t, std::size_t row, std::string_view column)
{
    const auto n = t.number(row, column);
    EXPECT_TRUE(n) << column << " in row " << row;
    return n.value_or(std::nan(""));
}

TEST(Tables, WithIdsHaveEachOnce)
{
    for (const Table* t : {&dcMeasuresTable(), &ccfMeasuresTable(), &typicalReliabilityTable(), &outputPartsTable()}) {
        std::set<std::string_view> ids;
        ASSERT_GT(t->rowCount(), 0u);
        for (std::size_t row = 0; row < t->rowCount(); ++row) {
            EXPECT_FALSE(t->cell(row, "id").empty());
            EXPECT_TRUE(ids.insert(t->cell(row, "id")).second) << t->cell(row, "id");
            EXPECT_EQ(rowOf(*t, t->cell(row, "id")), row);
        }
        EXPECT_EQ(rowOf(*t, "no such row"), std::nullopt);
        EXPECT_EQ(t->cell(0, "no such column"), "");
    }
}

/// A longer MTTFd is never worse, more coverage is never worse, and a category that asks for more gives no more.
TEST(PfhdTable, FallsWithMttfdCoverageAndCategory)
{
    const Table& t = pfhdTable();
    const std::array order{"cat_b", "cat_2_dc_low", "cat_2_dc_medium", "cat_3_dc_low", "cat_3_dc_medium"};
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        if (row > 0)
            EXPECT_GT(numberIn(t, row, "mttfd_y"), numberIn(t, row - 1, "mttfd_y"));
        std::optional<double> before;
        for (const char* column : order) {
            const auto pfhd = t.number(row, column);
            if (!pfhd)
                continue;
            EXPECT_GT(*pfhd, 0.0);
            EXPECT_LT(*pfhd, 1e-4) << "what is above has no level";
            if (before)
                EXPECT_LE(*pfhd, *before) << column << " in row " << row;
            before = pfhd;
        }
    }
    for (const std::string& column : t.columns())
        for (std::size_t row = 1; row < t.rowCount(); ++row)
            if (column != "mttfd_y" && t.number(row, column) && t.number(row - 1, column))
                EXPECT_LE(*t.number(row, column), *t.number(row - 1, column)) << column << " in row " << row;
}

TEST(DcTable, HasRangesBetweenNothingAnd99Percent)
{
    const Table& t = dcMeasuresTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        const double low = numberIn(t, row, "dc_min"), high = numberIn(t, row, "dc_max");
        EXPECT_GE(low, 0.0);
        EXPECT_LE(low, high) << t.cell(row, "id");
        EXPECT_LE(high, 0.99) << t.cell(row, "id");
    }
}

TEST(CcfTable, SumsToAHundredAnd65NeedsMoreThanOneMeasure)
{
    const Table& t = ccfMeasuresTable();
    double sum = 0, largest = 0;
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        sum += numberIn(t, row, "points");
        largest = std::max(largest, numberIn(t, row, "points"));
    }
    EXPECT_EQ(sum, 100.0) << "ISO 13849-1 annex F";
    EXPECT_LT(largest, 65.0);
}

/// The PFHd of each row lies in the band of the PL beside it (ISO 13849-1 table 3).
TEST(OutputPartsTable, IsConsistentInItself)
{
    const Table& t = outputPartsTable();
    constexpr std::array<double, 6> kLimits{1e-4, 1e-5, 3e-6, 1e-6, 1e-7, 1e-8}; // a to e
    double before = 1.0;
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        EXPECT_TRUE(safety::categoryNamed(t.cell(row, "id")));
        const auto level = safety::levelNamed(t.cell(row, "pl"));
        ASSERT_TRUE(level);
        const double pfhd = numberIn(t, row, "pfhd_per_h");
        EXPECT_LT(pfhd, kLimits[static_cast<std::size_t>(*level)]);
        EXPECT_GE(pfhd, kLimits[static_cast<std::size_t>(*level) + 1]);
        EXPECT_LE(pfhd, before);
        before = pfhd;
    }
}

TEST(FuseTable, GatesDoNotCross)
{
    const Table& t = fuseGatesTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        const double rated = numberIn(t, row, "rated_a");
        EXPECT_LT(rated, numberIn(t, row, "holds_10s_a"));
        EXPECT_LT(numberIn(t, row, "holds_10s_a"), numberIn(t, row, "opens_5s_a")) << rated;
        EXPECT_LT(numberIn(t, row, "holds_0.1s_a"), numberIn(t, row, "opens_0.1s_a")) << rated;
        EXPECT_LT(numberIn(t, row, "i2t_least_a2s"), numberIn(t, row, "i2t_most_a2s")) << rated;
        if (row > 0)
            EXPECT_GT(numberIn(t, row, "opens_0.1s_a"), numberIn(t, row - 1, "opens_0.1s_a")) << rated;
    }
}

TEST(Defaults, LieWithinTheirOwnBounds)
{
    const Table& t = deviceDefaultsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        const DefaultRow d = deviceDefault(t.cell(row, "kind"), t.cell(row, "parameter"));
        EXPECT_LE(d.low, d.nominal) << t.cell(row, "kind") << " " << t.cell(row, "parameter");
        EXPECT_LE(d.nominal, d.high) << t.cell(row, "kind") << " " << t.cell(row, "parameter");
        EXPECT_FALSE(d.basis.empty()) << t.cell(row, "parameter");
    }
}

TEST(Numbers, AreReadWholeOrNotAtAll)
{
    EXPECT_EQ(numberFrom("2.5"), 2.5);
    EXPECT_EQ(numberFrom("-1e-9"), -1e-9);
    for (const char* no : {"", " ", "2,5", "2.5 V", "nan", "inf", "1e999", "0x10", "--1"})
        EXPECT_EQ(numberFrom(no), std::nullopt) << no;
    EXPECT_EQ(writtenNumber("2,5"), 2.5);
    EXPECT_EQ(writtenNumber("0,75"), 0.75);
    EXPECT_EQ(writtenNumber("1,000"), std::nullopt) << "one, or a thousand";
    EXPECT_EQ(writtenNumber("2.5"), 2.5);
}

TEST(Numbers, InTheirShortestFormReadBackTheSame)
{
    std::mt19937_64 random(20261129);
    std::uniform_real_distribution<double> exponent(-300.0, 300.0), mantissa(-1.0, 1.0);
    for (int k = 0; k < 2000; ++k) {
        const double n = mantissa(random) * std::pow(10.0, exponent(random));
        EXPECT_EQ(numberFrom(shortestText(n)), n) << shortestText(n);
    }
    for (double n : {0.0, 1.0, 0.1, 1.0 / 3.0, std::numeric_limits<double>::max(), std::numeric_limits<double>::min()})
        EXPECT_EQ(numberFrom(shortestText(n)), n);
    EXPECT_EQ(shortestText(0.1), "0.1");
}

} // namespace
} // namespace ts
