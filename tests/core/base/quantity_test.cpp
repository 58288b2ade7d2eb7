#include "core/base/quantity.h"

#include <gtest/gtest.h>

namespace ts {
namespace {

template <class A, class B>
concept Addable = requires(A a, B b)
{
    a + b;
};

static_assert(Addable<Volts, Volts>);
static_assert(!Addable<Volts, Seconds>, "volts plus seconds must not compile");
static_assert(!Addable<Volts, double>, "a bare number is no voltage");

TEST(TimeNs, IsRoundedToTheTenMicrosecondGrid)
{
    EXPECT_EQ(timeNs(seconds(0.015)), 15'000'000);
    EXPECT_EQ(timeNs(seconds(0.000'012'4)), 10'000);
    EXPECT_EQ(timeNs(seconds(0.000'015'1)), 20'000);
}

TEST(TimeNs, GoesBackToSeconds)
{
    EXPECT_DOUBLE_EQ(secondsOf(2'500'000'000).si(), 2.5);
}

} // namespace
} // namespace ts
