// Closed forms of what changes by itself, against sums done by hand and against small steps.

#include "core/library/table.h"
#include "core/simulation/motion.h"

#include <gtest/gtest.h>

#include <cmath>

namespace ts {
namespace {

MotorElement load(double inertia, double friction, double fan)
{
    MotorElement m;
    m.inertiaKgm2 = inertia;
    m.frictionNm = friction;
    m.fanNms2 = fan;
    m.synchronousRadPerS = 157.08;
    return m;
}

TEST(CoastingTime, IsMassTimesSpeedOverTorqueForConstantFriction)
{
    // 0.4 kg m2 * 150 rad/s / 6 N m = 10 s; half the speed after 5 s
    const MotorElement m = load(0.4, 6.0, 0.0);
    EXPECT_DOUBLE_EQ(coastingTimeS(m, m.frictionNm, 150.0, 0.0), 10.0);
    EXPECT_DOUBLE_EQ(coastingSpeed(m, m.frictionNm, 150.0, 5.0), 75.0);
    EXPECT_DOUBLE_EQ(coastingSpeed(m, m.frictionNm, 150.0, 11.0), 0.0);
    EXPECT_DOUBLE_EQ(coastingSpeed(m, m.frictionNm, -150.0, 5.0), -75.0) << "left-handed the same";
    EXPECT_DOUBLE_EQ(coastingTimeS(m, m.frictionNm, 10.0, 20.0), 0.0) << "it is below already";
}

TEST(CoastingTime, OfAFanAgreesWithSmallSteps)
{
    const MotorElement m = load(0.02, 0.05, 2e-4);
    const auto opposing = [&m](double speed) { return m.frictionNm + m.fanNms2 * speed * speed; };
    double w = 150.0, t = 0.0;
    const double h = 1e-5;
    while (w > 10.0) { // midpoint rule, an independent integration
        const double k = -opposing(w) / m.inertiaKgm2;
        w += h * -opposing(w + h / 2 * k) / m.inertiaKgm2;
        t += h;
    }
    EXPECT_NEAR(coastingTimeS(m, m.frictionNm, 150.0, 10.0), t, 1e-4);
    EXPECT_NEAR(coastingSpeed(m, m.frictionNm, 150.0, t), 10.0, 1e-2);
}

TEST(CoastingSpeed, AndTimeAreInverseToEachOther)
{
    const MotorElement m = load(0.05, 0.3, 1e-4);
    for (double target : {140.0, 100.0, 50.0, 5.0, 1.0})
        EXPECT_NEAR(coastingSpeed(m, m.frictionNm, 150.0, coastingTimeS(m, m.frictionNm, 150.0, target)), target, 1e-9);
}

TEST(Acceleration, FrictionHoldsAMotorThatDoesNotOvercomeIt)
{
    const ShaftTorque shaft{5.0, 0.0, 0.0};
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, shaft, 0.0, 4.9), 0.0);
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, shaft, 0.0, -4.9), 0.0);
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, shaft, 0.0, 6.0), 10.0); // (6 - 5) / 0.1
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, shaft, 0.0, -6.0), -10.0);
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, shaft, 1.0, 0.0), -50.0);
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, shaft, -1.0, 0.0), 50.0) << "friction opposes motion either way";
}

TEST(Acceleration, AHangingLoadFallsUnlessItIsHeld)
{
    const ShaftTorque hanging{2.0, 0.0, 10.0}, braked{15.0, 0.0, 10.0};
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, hanging, 0.0, 0.0), -80.0); // (10 - 2) / 0.1, downwards
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, braked, 0.0, 0.0), 0.0);
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, hanging, 5.0, 0.0), -120.0) << "upwards, weight and friction brake";
    EXPECT_DOUBLE_EQ(accelerationRadPerS2(0.1, braked, -5.0, 0.0), 50.0) << "downwards, the brake takes the weight";
}

TEST(MeltingTime, FollowsTheCurveAndNeverMeltsBelowTheNonFusingCurrent)
{
    EXPECT_FALSE(meltingTimeS(1.5, 1.5));
    EXPECT_FALSE(meltingTimeS(1.0, 1.25));
    const Table& curve = fuseCurveTable();
    for (std::size_t row = 0; row < curve.rowCount(); ++row)
        EXPECT_NEAR(*meltingTimeS(*curve.number(row, "current_x"), 1.25), *curve.number(row, "time_s"),
            1e-6 * *curve.number(row, "time_s"));
    // Beyond the last row I2t is constant: twice the current, a quarter of the time.
    const double last = *curve.number(curve.rowCount() - 1, "current_x"),
                 time = *curve.number(curve.rowCount() - 1, "time_s");
    EXPECT_NEAR(*meltingTimeS(2 * last, 1.25), time / 4.0, 1e-12);
    double before = 1e9;
    for (double x = 1.7; x < 100; x *= 1.1) {
        EXPECT_LT(*meltingTimeS(x, 1.25), before) << x;
        before = *meltingTimeS(x, 1.25);
    }
}

TEST(HeatingDrive, HottestPoleCountsIfTheRelayFeelsALostPhase)
{
    Protection p;
    p.ratedA = 2.0;
    const std::array<double, 3> single{0.0, 3.0, 3.0};
    p.phaseLossSensitive = true;
    EXPECT_DOUBLE_EQ(heatingDrive(p, single), 2.25); // (3 / 2)^2
    p.phaseLossSensitive = false;
    EXPECT_DOUBLE_EQ(heatingDrive(p, single), 1.5); // two thirds of it
}

TEST(TripClass, ColdRelayTripsInItsClassAtSevenPointTwoTimesItsSetting)
{
    for (const auto& [timing, low, high] :
        {std::tuple{Timing::Fast, 2.0, 2.1}, {Timing::Nominal, 2.0, 10.0}, {Timing::Slow, 9.9, 10.0}}) {
        Circuit c;
        Device d;
        d.id = {1};
        d.tag = "F1";
        d.kind = "overload_relay";
        d.parameters = {{"setting_a", 1.0}};
        c.devices.push_back(d);
        const Plant plant = *compile(c, timing);
        State state = initialState(plant);
        state.isSettled = true;
        state.flows[static_cast<std::size_t>(plant.protections[0].flow)] = {0.0, 7.2 * 7.2, 0.0, 0, Flow::Law::Heating};
        const auto trip = nextCrossing(plant, state);
        ASSERT_TRUE(trip);
        EXPECT_GE(secondsOf(*trip).si(), low - 1e-4); // class 10A: 2 to 10 s
        EXPECT_LE(secondsOf(*trip).si(), high + 1e-4);
    }
}

} // namespace
} // namespace ts
