// Monte Carlo against closed forms, its determinism, and what drives a result.

#include "core/safety/uncertainty.h"

#include <gtest/gtest.h>

#include <cmath>

namespace ts::safety {
namespace {

ChainPart contactor(int device, double b10d, double perYear, double dc = 0.99, Basis basis = Basis::Part)
{
    ChainPart p;
    p.device = {device};
    p.b10dCycles = b10d;
    p.operationsPerYear = perYear;
    p.coverage = dc;
    p.isTested = true;
    p.basis = basis;
    return p;
}

Chain twoContactors(double perYear, Basis basis = Basis::Part)
{
    ChainSubsystem s;
    s.category = Category::Four;
    s.channels = {{contactor(1, 1.3e6, perYear, 0.99, basis)}, {contactor(2, 1.3e6, perYear, 0.99, basis)}};
    s.facts.commonCausePoints = 65;
    Chain c{{s}, {}};
    c.readings.method = PfhdMethod::Interpolated;
    return c;
}

constexpr Spread kExact{1, 1, 1};

TEST(Uncertainty, WithoutRangesIsTheResultItself)
{
    const Chain c = twoContactors(2e5);
    const auto u = uncertaintyOf(c, kExact, Level::E, 100, 1);
    ASSERT_TRUE(u);
    for (double p : u->pfhdPerHour)
        EXPECT_DOUBLE_EQ(p, figuresOf(c).pfhd.si());
    EXPECT_EQ(u->reachedShare, 1.0);
    EXPECT_TRUE(u->drives.empty()) << "nothing varies";
}

TEST(Uncertainty, OfOneInputIsThatInputsRange)
{
    // One channel of category 1, MTTFd = B10d / (0.1 n) = 50 y, B10d within a factor of 1.5, evenly on a logarithmic
    // scale: its median is the value itself, its 5 % value 50 / 1.5^0.9 = 34.71 y, its 95 % value 50 * 1.5^0.9 = 72.02
    // y. More years, fewer failures.
    ChainSubsystem s;
    s.category = Category::One;
    s.channels = {{contactor(1, 1e6, 2e5, 0)}};
    s.facts.wellTried = true;
    Chain c{{s}, {}};
    c.readings.method = PfhdMethod::Interpolated;
    const auto u = uncertaintyOf(c, {1, 1.5, 1}, std::nullopt, 200'000, 5);
    ASSERT_TRUE(u);
    const auto at = [](double mttfd) {
        return tablePfhd(Category::One, CoverageClass::None, years(mttfd), PfhdMethod::Interpolated)->si();
    };
    EXPECT_NEAR(u->pfhdPerHour[0], at(72.02), 0.01 * at(72.02));
    EXPECT_NEAR(u->pfhdPerHour[2], at(50.0), 0.01 * at(50.0));
    EXPECT_NEAR(u->pfhdPerHour[4], at(34.71), 0.01 * at(34.71));
    ASSERT_EQ(u->drives.size(), 2u);
    EXPECT_EQ(u->drives[0].input, (ChainInput{{1}, InputKind::Reliability}));
    EXPECT_NEAR(u->drives[0].share, 1.0, 1e-9);
}

TEST(Uncertainty, WhatVariesMoreDrivesMore)
{
    const auto u = uncertaintyOf(twoContactors(2e5), {3, 1.2, 4}, Level::E, 50'000, 7);
    ASSERT_TRUE(u);
    ASSERT_EQ(u->drives.size(), 4u);
    EXPECT_EQ(u->drives[0].input.kind, InputKind::Cycles);
    EXPECT_EQ(u->drives[1].input.kind, InputKind::Cycles);
    double sum = 0;
    for (const auto& d : u->drives)
        sum += d.share;
    EXPECT_NEAR(sum, 1.0, 1e-9);
    const auto typical = uncertaintyOf(twoContactors(2e5, Basis::Typical), {4, 1.2, 1.2}, Level::E, 50'000, 7);
    EXPECT_EQ(typical->drives[0].input.kind, InputKind::Reliability) << "typical values are less sure than sheets";
}

TEST(Uncertainty, SharesAreOfAllDraws)
{
    // 40 y nominal and category 4 needs 30 y: with cycles within a factor of 2 some draws have no level at all.
    const auto u = uncertaintyOf(twoContactors(3.25e5), {1, 1, 2}, Level::E, 20'000, 3);
    ASSERT_TRUE(u);
    double levels = 0;
    for (double share : u->levelShares)
        levels += share;
    EXPECT_NEAR(levels, static_cast<double>(u->withLevel) / 20'000.0, 1e-12);
    EXPECT_LT(u->withLevel, u->draws);
    EXPECT_GT(u->withLevel, u->draws / 2);
    EXPECT_LE(u->reachedShare, levels);
}

TEST(Uncertainty, IsTheSameForTheSameSeedAndRefusesNonsense)
{
    const Chain c = twoContactors(2e5);
    EXPECT_EQ(
        uncertaintyOf(c, {}, Level::D, 1000, 9)->pfhdPerHour, uncertaintyOf(c, {}, Level::D, 1000, 9)->pfhdPerHour);
    EXPECT_NE(
        uncertaintyOf(c, {}, Level::D, 1000, 9)->pfhdPerHour, uncertaintyOf(c, {}, Level::D, 1000, 10)->pfhdPerHour);
    EXPECT_FALSE(uncertaintyOf(c, {}, Level::D, 0, 9));
    EXPECT_FALSE(uncertaintyOf(c, {0.5, 1, 1}, Level::D, 100, 9));
    EXPECT_FALSE(uncertaintyOf(c, {std::nan(""), 1, 1}, Level::D, 100, 9));
    std::stop_source stopped;
    stopped.request_stop();
    const auto cancelled = uncertaintyOf(c, {}, Level::D, 1000, 9, stopped.get_token());
    ASSERT_FALSE(cancelled);
    EXPECT_EQ(cancelled.error().code, ErrorCode::Cancelled);
}

TEST(Sensitivities, AreTheInputsOneByOne)
{
    // Equal channels: both contactors weigh the same, and cycles as much as reliability (MTTFd is their quotient).
    const auto list = sensitivitiesOf(twoContactors(2e5));
    ASSERT_EQ(list.size(), 4u);
    for (const Sensitivity& s : list) {
        EXPECT_GT(s.ratio, 1.0);
        EXPECT_NEAR(s.ratio, list[0].ratio, 1e-9);
    }
    Chain none = twoContactors(2e5);
    none.subsystems[0].facts.commonCausePoints = 0;
    EXPECT_TRUE(sensitivitiesOf(none).empty()) << "no level, nothing to compare";
}

} // namespace
} // namespace ts::safety
