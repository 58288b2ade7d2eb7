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

TEST(SafetyDistance, WithTheTwoSpeeds)
{
    // 0.2 s: 2 * 0.2 + 0 = 0.4 m.
    EXPECT_DOUBLE_EQ(safetyDistance(seconds(0.2), 0.0)->metres, 0.4);
    // 0.25 s is the border: 2 * 0.25 = 0.5 m still by 2 m/s.
    EXPECT_DOUBLE_EQ(safetyDistance(seconds(0.25), 0.0)->speedMetresPerS, 2.0);
    // 0.26 s: 0.52 m by 2 m/s; by 1.6 m/s 0.416, but at least 0.5 m.
    EXPECT_DOUBLE_EQ(safetyDistance(seconds(0.26), 0.0)->metres, 0.5);
    // 1 s with 0.85 m of reaching in: 1.6 + 0.85.
    EXPECT_DOUBLE_EQ(safetyDistance(seconds(1.0), 0.85)->metres, 2.45);
    EXPECT_DOUBLE_EQ(safetyDistance(seconds(0.0), 0.0)->metres, 0.1);
    EXPECT_FALSE(safetyDistance(seconds(-1.0), 0.0));
    EXPECT_FALSE(safetyDistance(seconds(1.0), -0.1));
}

} // namespace
} // namespace ts::safety
