// The stop as read from real runs of the demo, healthy and wired wrongly.

#include "core/analysis/analysis.h"
#include "core/patterns/machine.h"
#include "core/simulation/motion.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

struct RunCase {
    Dossier dossier = test::demoFile().dossier;
    SafetyFunction& function() { return dossier.functions[0]; }
    Expected<StopRun> read(Timing timing = Timing::Nominal) { return stopRun(dossier, function(), timing); }
    std::string refusal()
    {
        const auto r = read();
        return r ? "read" : r.error().message.id;
    }
};

TEST(StopRun, DemoIsCategoryZeroByHand)
{
    // 3 ms button + 20 ms relay + 15 ms * 1.2 contactor with varistor + 10 ms arc = 51 ms.
    RunCase c;
    const auto run = c.read();
    ASSERT_TRUE(run);
    ASSERT_EQ(run->actuators.size(), 1u);
    EXPECT_EQ(run->actuators[0].category, 0);
    EXPECT_NEAR(run->actuators[0].removedAfter->si(), 0.051, 1e-9);
    EXPECT_FALSE(run->actuators[0].terminalsLive);
}

TEST(StopRun, SlowLimitIsSlowerAndFastFaster)
{
    RunCase c;
    const double nominal = c.read()->actuators[0].removedAfter->si();
    // Slow: 8 ms + 20 ms (the sheet's) + 30 ms * 1.4 + 10 ms arc = 80 ms.
    EXPECT_NEAR(c.read(Timing::Slow)->actuators[0].removedAfter->si(), 0.080, 1e-9);
    EXPECT_LT(c.read(Timing::Fast)->actuators[0].removedAfter->si(), nominal);
}

TEST(StopRun, RestFollowsFromTheRunDownOfTheFan)
{
    RunCase c;
    const auto run = c.read();
    const Plant plant = *compile(c.dossier.circuit);
    // From the speed at removal down to 1 % of synchronous speed by the closed form.
    const MotorElement& m = plant.motors[0].data;
    double speed = 0;
    for (const Event& e : run->run.trace.events)
        if (e.why == Why::PowerOff)
            speed = e.si;
    EXPECT_NEAR(run->actuators[0].restAfter->si(),
        0.041 + coastingTimeS(m, m.frictionNm, speed, m.standstillRadPerS) + safety::arcTime().si(), 2e-3);
}

/// With 0.3 of 0.75 of rated torque the fan brakes with 0.4 of the torque that was entered.
TEST(StopRun, WithTheLeastLoadItRestsAsTheClosedFormSays)
{
    RunCase c;
    const auto run = lowestLoadRun(c.dossier, c.dossier.functions[0]);
    ASSERT_TRUE(run);
    Plant plant = *compile(c.dossier.circuit);
    const MotorElement entered = plant.motors[0].data;
    setLowestLoad(plant, LeastLoads::Any);
    const MotorElement& m = plant.motors[0].data;
    EXPECT_NEAR(m.fanNms2, 0.4 * entered.fanNms2, 1e-12);
    EXPECT_DOUBLE_EQ(m.frictionNm, entered.ownFrictionNm);
    double speed = 0;
    for (const Event& e : run->run.trace.events)
        if (e.why == Why::PowerOff)
            speed = e.si;
    EXPECT_NEAR(run->actuators[0].restAfter->si(),
        run->actuators[0].removedAfter->si() + coastingTimeS(m, m.frictionNm, speed, m.standstillRadPerS), 2e-3);
}

TEST(StopRun, AChatterBeforeTheDemandIsSaidAsThat)
{
    RunCase c;
    test::addSelfInterruptingContactor(c.dossier.circuit);
    const auto run = c.read();
    ASSERT_FALSE(run);
    EXPECT_EQ(run.error().message.id, "stop.chatter_before");
}

/// The emergency stop of a starter from patterns, read from its second scenario.
Expected<StopRun> stopOfStarter(const std::vector<std::string>& with)
{
    DossierFile file = *patterns::machine(*patterns::MachinePlan::from(with));
    const Circuit& c = file.dossier.circuit;
    SafetyFunction f;
    f.trigger = {c.device("S0")->id, "press"};
    f.mustRest = {c.device("M1")->id};
    f.demandScenario = file.dossier.scenarios[1].id;
    return stopRun(file.dossier, f, Timing::Nominal);
}

TEST(StopRun, ADriveThatRampsAndThenLosesItsTorqueIsCategoryOne)
{
    const auto controlled = stopOfStarter({"base=drive", "stop=delayed_relay"});
    ASSERT_TRUE(controlled);
    EXPECT_EQ(controlled->actuators[0].category, 1) << controlled->actuators[0].why.id;
    EXPECT_NEAR(controlled->actuators[0].restAfter->si(), 3.0, 0.2); // the ramp's 3 s to 1 % of speed, and the relays
                                                                     // before it
    const auto immediate = stopOfStarter({"base=drive"});
    ASSERT_TRUE(immediate);
    EXPECT_EQ(immediate->actuators[0].category, 0) << immediate->actuators[0].why.id;
}

TEST(StopRun, AContactorThatMerelyOpensLateIsNoStopCategory)
{
    const auto late = stopOfStarter({"stop=delayed_relay", "second_contactor=yes", "base=direct", "load=none"});
    ASSERT_TRUE(late);
    EXPECT_EQ(late->actuators[0].category, 0) << "the instantaneous output takes the power away";
}

TEST(StopRun, OfTheWholeDemoStopsAllThreeMotors)
{
    const DossierFile file = *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    for (const SafetyFunction& f : file.dossier.functions)
        for (Timing timing : {Timing::Nominal, Timing::Slow}) {
            const auto run = stopRun(file.dossier, f, timing);
            ASSERT_TRUE(run) << f.name;
            ASSERT_EQ(run->actuators.size(), 3u);
            for (const auto& a : run->actuators) {
                EXPECT_EQ(a.category, 0) << f.name << " " << a.tag << " " << a.why.id;
                EXPECT_LT(a.restAfter->si(), f.allowedTimeS) << a.tag;
            }
            // Rotor: 1.05 kg m2, 157 rad/s, 140 N m: about 1.2 s; the deck 0.6 of its torque as friction.
            EXPECT_LT(run->actuators[1].restAfter->si(), 2.0);
        }
}

TEST(StopRun, RefusesWhatShowsNothing)
{
    {
        RunCase c;
        c.function().demandScenario = {};
        EXPECT_EQ(c.refusal(), "stop.no_scenario");
    }
    {
        RunCase c;
        c.function().trigger.device = {9999};
        EXPECT_EQ(c.refusal(), "stop.no_demand");
    }
    {
        RunCase c;
        c.function().demandScenario = {92}; // stop and start again: the emergency stop is never pressed
        EXPECT_EQ(c.refusal(), "stop.no_demand");
    }
    {
        RunCase c;
        c.function().mustRest = {};
        EXPECT_EQ(c.refusal(), "stop.no_motor");
    }
}

TEST(StopRun, CanBeCancelled)
{
    RunCase c;
    std::stop_source source;
    source.request_stop();
    const auto run = stopRun(c.dossier, c.function(), Timing::Nominal, source.get_token());
    ASSERT_FALSE(run);
    EXPECT_EQ(run.error().code, ErrorCode::Cancelled);
}

TEST(StopRun, AMotorThatRunsOnIsNeverAStop)
{
    RunCase c;
    c.dossier.scenarios[0].steps.insert(c.dossier.scenarios[0].steps.begin(), {0.0, "fault", "S0/block:fallen_off", 0});
    const auto run = c.read();
    ASSERT_TRUE(run);
    EXPECT_FALSE(run->actuators[0].category);
    EXPECT_EQ(run->actuators[0].why.id, "stop.never_removed");
}

TEST(StopRun, StopsWithOneContactorWelded)
{
    RunCase c;
    c.dossier.scenarios[0].steps.push_back({3.5, "fault", "Q1/main:welded", 0});
    const auto run = c.read();
    ASSERT_TRUE(run);
    EXPECT_EQ(run->actuators[0].category, 0);
}

TEST(Analysis, HoldsEveryFunction)
{
    Dossier d = test::demoFile().dossier;
    SafetyFunction second = d.functions[0];
    second.id = {500};
    second.name = "Second";
    second.claim.clear();
    d.functions.push_back(second);
    const auto a = analyse(d);
    ASSERT_TRUE(a);
    ASSERT_EQ(a->functions.size(), 2u);
    EXPECT_EQ(a->functions[1].function, FunctionId{500});
    EXPECT_FALSE(a->functions[1].level.level) << "nothing is claimed for it";
}

} // namespace
} // namespace ts
