// A session replays byte for byte, and stepping back is a copy and a replay.

#include "core/simulation/bench_run.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

std::shared_ptr<const Plant> demoPlant()
{
    return std::make_shared<const Plant>(*compile(test::demoFile().dossier.circuit));
}

void press(BenchRun& run, std::string_view tag, double heldS)
{
    run.act(*stimulusFor(run.plant(), tag, "press", run.now()));
    run.advanceTo(run.now() + timeNs(seconds(heldS)));
    run.act(*stimulusFor(run.plant(), tag, "release", run.now()));
}

BenchRun stoppedRun()
{
    BenchRun run(demoPlant());
    run.advanceTo(timeNs(seconds(0.5)));
    press(run, "S3", 0.3);
    run.advanceTo(timeNs(seconds(1.5)));
    press(run, "S2", 0.3);
    run.advanceTo(timeNs(seconds(4.0)));
    run.act(*stimulusFor(run.plant(), "S0", "press", run.now()));
    run.advanceTo(timeNs(seconds(4.5)));
    return run;
}

TEST(BenchRun, GivesTheSameAsTheScenario)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    Workspace workspace;
    const auto scenario = runScenario(plant, file.dossier.scenarios[0], {}, 4.5, workspace);
    const BenchRun run = stoppedRun();
    ASSERT_EQ(run.trace().events.size(), scenario->trace.events.size());
    for (std::size_t i = 0; i < run.trace().events.size(); ++i) {
        EXPECT_EQ(run.trace().events[i].at, scenario->trace.events[i].at) << i;
        EXPECT_EQ(run.trace().events[i].why, scenario->trace.events[i].why) << i;
    }
}

TEST(BenchRun, StepsBackToBeforeEachEventDownToTheBeginning)
{
    BenchRun run = stoppedRun();
    TimeNs last = run.now();
    int steps = 0;
    while (run.stepBack()) {
        EXPECT_LT(run.now(), last);
        last = run.now();
        ASSERT_LT(++steps, 200);
    }
    EXPECT_GT(steps, 15);
    EXPECT_LT(run.now(), timeNs(seconds(0.5)) + 1);
    EXPECT_EQ(run.script().size(), 5u) << "what was done is still ahead";
}

TEST(BenchRun, SomethingElseDoneAfterSteppingBackReplacesWhatLayAhead)
{
    BenchRun run = stoppedRun();
    while (run.now() > timeNs(seconds(3.0)))
        ASSERT_TRUE(run.stepBack());
    press(run, "S1", 0.2);
    run.advanceTo(timeNs(seconds(4.5)));
    EXPECT_EQ(run.script().size(), 6u) << "reset and start, then stop instead of the emergency stop";
    EXPECT_EQ(run.frame().relays[0].outputs, true);
}

TEST(BenchRun, GoesOnAfterSteppingBackAsItWentBefore)
{
    BenchRun run = stoppedRun();
    const Trace before = run.trace();
    for (int i = 0; i < 8; ++i)
        ASSERT_TRUE(run.stepBack());
    const TimeNs back = run.now();
    EXPECT_LT(back, timeNs(seconds(4.05)));
    run.advanceTo(timeNs(seconds(4.5)));
    ASSERT_EQ(run.trace().events.size(), before.events.size());
    for (std::size_t i = 0; i < before.events.size(); ++i)
        EXPECT_EQ(run.trace().events[i].at, before.events[i].at);
}

TEST(BenchRun, StepsForwardToTheNextEvent)
{
    BenchRun run(demoPlant());
    EXPECT_FALSE(run.stepForward(timeNs(seconds(1.0)))) << "nothing happens by itself";
    run.act(*stimulusFor(run.plant(), "S3", "press", run.now()));
    const std::size_t events = run.trace().events.size();
    EXPECT_TRUE(run.stepForward(timeNs(seconds(1.0))));
    EXPECT_GT(run.trace().events.size(), events);
}

TEST(BenchRun, ADayOfIdlingCostsNothing)
{
    BenchRun run = stoppedRun();
    run.advanceTo(timeNs(seconds(60.0))); // at rest
    const std::size_t samples = run.speeds().size();
    run.advanceTo(timeNs(seconds(600.0)));
    EXPECT_LE(run.speeds().size(), samples + 2);
    EXPECT_TRUE(run.stepBack());
    EXPECT_LT(run.now(), timeNs(seconds(60.0)));
    EXPECT_LE(run.speeds().back().at, run.now()) << "no speed from the future";
}

TEST(BenchRun, RestartForgetsEverything)
{
    BenchRun run = stoppedRun();
    run.restart();
    EXPECT_EQ(run.now(), 0);
    EXPECT_TRUE(run.script().empty());
    EXPECT_EQ(run.trace(), BenchRun(demoPlant()).trace());
}

} // namespace
} // namespace ts
