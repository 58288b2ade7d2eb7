// Risk questions, measured stops and distances against sums by hand.

#include "core/safety/decision.h"

#include <gtest/gtest.h>

namespace ts::safety {
namespace {

TEST(RequiredLevelOf, EveryPathOfTheGraph)
{
    // ISO 13849-1 figure A.1.
    constexpr std::array kLevels{Level::A, Level::B, Level::B, Level::C, Level::C, Level::D, Level::D, Level::E};
    for (int k = 0; k < 8; ++k) {
        const RiskAnswers a{(k & 4) != 0, (k & 2) != 0, (k & 1) != 0, false, {}};
        EXPECT_EQ(requiredLevelOf(a, false).level, kLevels[static_cast<std::size_t>(k)])
            << requiredLevelOf(a, false).path;
    }
    EXPECT_EQ(requiredLevelOf({true, false, true, false, {}}, false).path, "S2 F1 P2");
}

TEST(RequiredLevelOf, AnUnlikelyEventLowersOnlyWithAReason)
{
    EXPECT_EQ(requiredLevelOf({true, true, true, true, {}}, false).level, Level::E);
    const RequiredLevel lowered = requiredLevelOf({true, true, true, true, "ten years without one"}, false);
    EXPECT_EQ(lowered.level, Level::D);
    EXPECT_TRUE(lowered.isLowered);
    EXPECT_EQ(requiredLevelOf({false, false, false, true, "reason"}, false).level, Level::A) << "nothing is below a";
}

TEST(RequiredLevelOf, AnEmergencyStopIsAtLeastC)
{
    const RequiredLevel r = requiredLevelOf({false, false, true, false, {}}, true);
    EXPECT_EQ(r.level, Level::C);
    EXPECT_TRUE(r.isRaised);
    EXPECT_EQ(requiredLevelOf({true, false, true, false, {}}, true).level, Level::D);
}

TEST(StoppingTimeFrom, IsTheGreaterOfLongestAndMeanPlusThreeSigma)
{
    // Nine times 2.0 s and once 2.1 s: mean 2.01, sigma sqrt((9 * 0.01^2 + 0.09^2) / 9) = sqrt(0.001) = 0.0316228; 2.01
    // + 0.0948683.
    std::vector<double> stops(9, 2.0);
    stops.push_back(2.1);
    EXPECT_NEAR(stoppingTimeFrom(stops)->si(), 2.1048683, 1e-6);
    // All the same: nothing to add.
    EXPECT_DOUBLE_EQ(stoppingTimeFrom(std::vector<double>(10, 3.0))->si(), 3.0);
    EXPECT_FALSE(stoppingTimeFrom(std::vector<double>(9, 3.0))) << "nine are too few";
    stops[0] = 0.0;
    EXPECT_FALSE(stoppingTimeFrom(stops));
    stops[0] = std::numeric_limits<double>::quiet_NaN();
    EXPECT_FALSE(stoppingTimeFrom(stops));
}

Distance distance(double wholeS, Safeguard safeguard = Safeguard::Unsaid, double resolutionM = 0, double intrusionM = 0)
{
    return *safetyDistance(seconds(wholeS), safeguard, resolutionM, intrusionM);
}

TEST(SafetyDistance, WithTheTwoSpeeds)
{
    // 0.2 s: 2 * 0.2 + 0 = 0.4 m.
    EXPECT_DOUBLE_EQ(distance(0.2).metres, 0.4);
    // 0.25 s is the border: 2 * 0.25 = 0.5 m still by 2 m/s.
    EXPECT_DOUBLE_EQ(distance(0.25).speedMetresPerS, 2.0);
    // 0.26 s: 0.52 m by 2 m/s; by 1.6 m/s 0.416, but at least 0.5 m.
    EXPECT_DOUBLE_EQ(distance(0.26).metres, 0.5);
    // 1 s with 0.85 m of reaching in: 1.6 + 0.85.
    EXPECT_DOUBLE_EQ(distance(1.0, Safeguard::Unsaid, 0, 0.85).metres, 2.45);
    EXPECT_DOUBLE_EQ(distance(0.0).metres, 0.1);
    EXPECT_FALSE(safetyDistance(seconds(-1.0), Safeguard::Guard, 0.0, 0.0));
    EXPECT_FALSE(safetyDistance(seconds(1.0), Safeguard::Guard, 0.0, -0.1));
}

/// ISO 13855:2010 by hand, for a stop within 0.1 s and one within 1 s.
TEST(SafetyDistance, ByTheKindOfSafeguard)
{
    // Guard: 1600 T, and what a hand reaches through before the guard counts as open.
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::Guard).metres, 0.16);
    EXPECT_DOUBLE_EQ(distance(1.0, Safeguard::Guard, 0, 0.12).metres, 1.72);
    // Curtain, d = 14 mm: C = 0. d = 30 mm: C = 8 * 16 = 128 mm.
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::FineCurtain, 0.014).metres, 0.2);
    EXPECT_NEAR(distance(0.1, Safeguard::FineCurtain, 0.030).metres, 0.328, 1e-12);
    EXPECT_NEAR(distance(1.0, Safeguard::FineCurtain, 0.030).metres, 1.728, 1e-12);
    // 0.19 s with 30 mm: 508 mm at 2 m/s, so 1.6 m/s: 432, but never below 500.
    EXPECT_DOUBLE_EQ(distance(0.19, Safeguard::FineCurtain, 0.030).metres, 0.5);
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::FineCurtain, 0.010).metres, 0.2) << "C is never below nothing";
    // d above 40 mm, or not entered: for a body, 850 mm.
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::FineCurtain, 0.050).metres, 1.01);
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::FineCurtain).metres, 1.01);
    EXPECT_EQ(distance(0.1, Safeguard::FineCurtain).by, Safeguard::BodyCurtain);
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::BodyCurtain).metres, 1.01);
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::TwoHand).metres, 0.41);
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::Mat).metres, 1.36);
    EXPECT_DOUBLE_EQ(distance(0.1, Safeguard::Mat, 0, 1.5).metres, 1.66) << "the greater way counts";
}

/// No safeguard gets nearer when the stop takes longer, or when a hand reaches further in.
TEST(SafetyDistance, GrowsWithTimeAndReach)
{
    for (int k = 0; k < 6; ++k)
        for (double t = 0; t < 3; t += 0.01) {
            const auto s = static_cast<Safeguard>(k);
            EXPECT_LE(distance(t, s, 0.03).metres, distance(t + 0.01, s, 0.03).metres);
            EXPECT_LE(distance(t, s, 0.03, 0.1).metres, distance(t, s, 0.03, 0.2).metres);
            EXPECT_LE(distance(t, s, 0.02).metres, distance(t, s, 0.03).metres);
        }
}

} // namespace
} // namespace ts::safety
