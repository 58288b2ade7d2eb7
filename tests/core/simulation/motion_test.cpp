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

/// Gates of IEC 60269-1 and -2: what must hold, holds; what must open, has opened.
TEST(GgFuse, EveryRatingStaysWithinItsGates)
{
    const Table& gates = fuseGatesTable();
    ASSERT_GT(gates.rowCount(), 15u);
    for (std::size_t row = 0; row < gates.rowCount(); ++row) {
        const double rated = *gates.number(row, "rated_a");
        for (const Timing timing : {Timing::Fast, Timing::Nominal, Timing::Slow}) {
            const MeltingCurve curve = ggCurve(rated, timing);
            const auto time = [&](const char* column) {
                return clearingTimeS(curve, *gates.number(row, column)).value_or(HUGE_VAL);
            };
            EXPECT_GE(time("holds_10s_a"), 10.0 * (1 - 1e-9)) << rated;
            EXPECT_GE(time("holds_0.1s_a"), 0.1 * (1 - 1e-9)) << rated;
            EXPECT_LE(time("opens_5s_a"), 5.0 + 0.01 + 1e-6) << rated; // the arc comes after
            EXPECT_LE(time("opens_0.1s_a"), 0.1 + 0.01 + 1e-9) << rated;
        }
    }
}

/// 16 A is the first rating with 1.25 and 1.6 (IEC 60269-1 table 2); 12 A has 1.5 and 1.9, 4 A 1.5 and 2.1.
TEST(GgFuse, ConventionalCurrentsAreThoseOfItsRating)
{
    for (const auto& [rated, holds, opens] :
        {std::tuple{4.0, 1.5, 2.1}, {12.0, 1.5, 1.9}, {16.0, 1.25, 1.6}, {63.0, 1.25, 1.6}}) {
        EXPECT_FALSE(clearingTimeS(ggCurve(rated, Timing::Fast), 0.999 * holds * rated));
        const auto slow = clearingTimeS(ggCurve(rated, Timing::Slow), 1.0001 * opens * rated);
        ASSERT_TRUE(slow) << rated;
        EXPECT_LE(*slow, 3600.0 + 0.02);
        EXPECT_GT(*slow, 3000.0);
    }
    EXPECT_NEAR(*clearingTimeS(ggCurve(100.0, Timing::Slow), 160.0), 7200.0, 0.02);
}

TEST(GgFuse, ACurrentHasToRiseBeforeItMeltsAndArcsAfterwards)
{
    // 16 A, usual: I2t = sqrt(300 * 1000) = 548 A2s. Closed at zero the current is nearly w t sqrt2 I: I2t = 2/3 I2 w2
    // t3, so t = (1.5 * 548 / (5500 * 314.16)^2)^(1/3) = 0.65 ms, and 1.5 times that for the arc.
    const double t = std::cbrt(1.5 * std::sqrt(300.0 * 1000.0) / std::pow(5500.0 * 100.0 * M_PI, 2));
    EXPECT_NEAR(*clearingTimeS(ggCurve(16.0, Timing::Nominal), 5500.0), 2.5 * t, 0.02 * t);
    double before = HUGE_VAL;
    for (double a = 26.0; a < 20'000.0; a *= 1.05) {
        const double now = *clearingTimeS(ggCurve(16.0, Timing::Nominal), a);
        EXPECT_LT(now, before) << a;
        before = now;
    }
}

Plant overloadRelay(ParameterMap parameters, Timing timing = Timing::Nominal)
{
    Circuit c;
    Device d;
    d.id = {1};
    d.tag = "F1";
    d.kind = "overload_relay";
    d.parameters = std::move(parameters);
    c.devices.push_back(d);
    return *compile(c, timing);
}

/// IEC 60947-4-1 table 4: a relay that feels a lost phase trips with 1.15 in two poles and none in the third, and not
/// with 1.0, 1.0 and 0.9; one that does not trips with 1.32, 1.32 and 0. Neither trips at 1.05, each does at 1.2.
TEST(OverloadRelay, KeepsTheLimitsWithAllPolesAndWithTwo)
{
    for (const bool feels : {true, false}) {
        const Plant plant = overloadRelay({{"setting_a", 2.0}, {"phase_loss_sensitive", feels}});
        const Protection p = plant.protections[0].data;
        const auto trips = [&p](double a, double b, double third) {
            const std::array<double, 3> poles{2.0 * a, 2.0 * b, 2.0 * third};
            return heatingDrive(p, poles) > p.limit;
        };
        EXPECT_FALSE(trips(1.05, 1.05, 1.05));
        EXPECT_TRUE(trips(1.2, 1.2, 1.2));
        EXPECT_EQ(trips(1.15, 1.15, 0.0), feels);
        EXPECT_FALSE(trips(1.0, 1.0, 0.9));
        EXPECT_TRUE(trips(1.32, 1.32, 0.0));
    }
}

/// Warm at its setting: (1 - 1 / 1.19^2) of the time from cold, whatever the current (25 to 35 % is usual).
TEST(OverloadRelay, WarmTripsInLessThanAThirdOfTheTime)
{
    const Plant plant = overloadRelay({{"setting_a", 1.0}});
    const auto tripS = [&plant](double heat, double x) {
        State state = initialState(plant);
        state.isSettled = true;
        state.flows[static_cast<std::size_t>(plant.protections[0].flow)] = {heat, x * x, 0.0, 0, Flow::Law::Heating};
        return secondsOf(*nextCrossing(plant, state)).si();
    };
    for (const double x : {1.5, 3.0, 7.2}) {
        EXPECT_NEAR(tripS(1.0, x) / tripS(0.0, x), 1.0 - 1.0 / (1.19 * 1.19), 1e-3) << x;
        EXPECT_NEAR(tripS(0.0, x) / tripS(0.0, 7.2),
            std::log(x * x / (x * x - 1.19 * 1.19)) / std::log(7.2 * 7.2 / (7.2 * 7.2 - 1.19 * 1.19)), 1e-3);
    }
}

TEST(TripClass, ColdRelayTripsInItsClassAtSevenPointTwoTimesItsSetting)
{
    for (const auto& [timing, low, high] :
        {std::tuple{Timing::Fast, 2.0, 2.1}, {Timing::Nominal, 2.0, 10.0}, {Timing::Slow, 9.9, 10.0}}) {
        const Plant plant = overloadRelay({{"setting_a", 1.0}}, timing);
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
