#include "core/safety/stop_reading.h"

#include <gtest/gtest.h>

namespace ts::safety {
namespace {

TimeNs ms(double t)
{
    return timeNs(seconds(t / 1000.0));
}

/// Runs on three lines, demanded at 1 s, removed and at rest as given.
ActuatorHistory history(double removedMs, double restMs)
{
    ActuatorHistory h;
    h.tag = "M1";
    h.demand = ms(1000);
    h.paths = {{ms(100), 3}, {ms(removedMs), 0}};
    h.motions = {{ms(110), true}, {ms(restMs), false}};
    h.releaseTimes = seconds(0.041);
    return h;
}

TEST(StopReading, RemovalWithinOwnReleaseTimesIsCategoryZero)
{
    const ActuatorStop s = readStop(history(1041, 9000));
    EXPECT_EQ(s.category, 0);
    EXPECT_NEAR(s.removedAfter->si(), 0.051, 1e-12); // 41 ms and an arc of 10 ms
    EXPECT_NEAR(s.restAfter->si(), 8.01, 1e-12) << "it may be fed for as long as the arc burns";
    EXPECT_TRUE(s.stops);
    EXPECT_FALSE(s.terminalsLive);
}

TEST(StopReading, LaterRemovalIsNoCategory)
{
    const ActuatorStop s = readStop(history(2500, 9000));
    EXPECT_FALSE(s.category);
    EXPECT_TRUE(s.stops) << "it does stop: only by no category";
    EXPECT_EQ(s.why.id, "stop.late");
}

TEST(StopReading, NeverRemovedIsNeverCategoryTwo)
{
    ActuatorHistory h = history(1041, 9000);
    h.paths = {{ms(100), 3}};
    EXPECT_EQ(readStop(h).why.id, "stop.never_removed"); // at rest, fed, and nothing watches it
    h.motions = {{ms(110), true}};
    const ActuatorStop runsOn = readStop(h);
    EXPECT_FALSE(runsOn.category);
    EXPECT_FALSE(runsOn.restAfter);
}

TEST(StopReading, MovingAgainIsNoStop)
{
    ActuatorHistory h = history(1041, 3000);
    h.motions.push_back({ms(5000), true});
    h.motions.push_back({ms(6000), false});
    const ActuatorStop s = readStop(h);
    EXPECT_FALSE(s.category);
    EXPECT_FALSE(s.stops);
    EXPECT_EQ(s.why.id, "stop.moves_again");
}

TEST(StopReading, StillMovingAtTheEndIsNoStop)
{
    ActuatorHistory h = history(1041, 3000);
    h.motions.pop_back();
    EXPECT_EQ(readStop(h).why.id, "stop.still_moving");
}

TEST(StopReading, OneLineStillLiveIsSaid)
{
    ActuatorHistory h = history(1041, 3000);
    h.paths.back().fedTerminals = 1;
    const ActuatorStop s = readStop(h);
    EXPECT_EQ(s.category, 0);
    EXPECT_TRUE(s.terminalsLive);
}

TEST(StopReading, AMotorAtRestShowsNothing)
{
    ActuatorHistory h = history(1041, 3000);
    h.motions.clear();
    EXPECT_FALSE(readStop(h).runShowsIt);
}

TEST(StopReading, PowerThatComesBackCountsUntilItsLastRemoval)
{
    ActuatorHistory h = history(1041, 9000);
    h.paths.push_back({ms(1200), 3});
    h.paths.push_back({ms(1300), 0});
    EXPECT_NEAR(readStop(h).removedAfter->si(), 0.310, 1e-12);
    EXPECT_FALSE(readStop(h).category);
}

} // namespace
} // namespace ts::safety
