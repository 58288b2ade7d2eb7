#include "core/base/date.h"

#include <gtest/gtest.h>

#include <cmath>

namespace ts {
namespace {

TEST(Date, IsADayOfTheCalendar)
{
    for (const char* day : {"2026-05-31", "2024-02-29", "2000-02-29", "0001-01-01", "9999-12-31"})
        EXPECT_TRUE(isDate(day)) << day;
    for (const char* no : {"", "2026-5-31", "2026-02-29", "1900-02-29", "2026-13-01", "2026-00-10", "2026-04-31",
             "31.05.2026", "2026-05-31T", "2026-05--1", "tomorrow!!"})
        EXPECT_FALSE(isDate(no)) << no;
}

TEST(DayAfter, CountsDays)
{
    EXPECT_EQ(dayAfter("2026-11-29", 0), "2026-11-29");
    EXPECT_EQ(dayAfter("2026-11-29", 31), "2026-12-30");
    EXPECT_EQ(dayAfter("2024-02-28", 2), "2024-03-01") << "a leap year";
    EXPECT_EQ(dayAfter("2026-01-01", 365 * 20), "2045-12-27") << "five leap days";
    EXPECT_EQ(dayAfter("2026-01-01", 1.9), "2026-01-02") << "a part of a day is due earlier";
    EXPECT_EQ(dayAfter("2026-01-01", -1), "2025-12-31");
}

TEST(DayAfter, RefusesWhatIsNoDay)
{
    EXPECT_EQ(dayAfter("soon", 1), std::nullopt);
    EXPECT_EQ(dayAfter("9999-12-31", 1), std::nullopt);
    EXPECT_EQ(dayAfter("2026-01-01", 1e12), std::nullopt);
    EXPECT_EQ(dayAfter("2026-01-01", std::nan("")), std::nullopt);
}

} // namespace
} // namespace ts
