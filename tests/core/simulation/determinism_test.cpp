// Same input, same trace: shuffled files, forks, pauses and warm caches change nothing.

#include "tests/support/circuits.h"

#include <algorithm>
#include <random>

namespace ts {
namespace {

ScenarioRun demoRun(const Circuit& circuit, const Scenario& scenario, Workspace& workspace)
{
    const Plant plant = *compile(circuit);
    return *runScenario(plant, scenario, {}, 0.0, workspace);
}

TEST(Determinism, OrderInTheFileDoesNotMatter)
{
    const DossierFile file = test::demoFile();
    Workspace first;
    const ScenarioRun reference = demoRun(file.dossier.circuit, file.dossier.scenarios[0], first);
    for (unsigned seed = 1; seed <= 5; ++seed) {
        std::mt19937 random(seed);
        Circuit shuffled = file.dossier.circuit;
        std::shuffle(shuffled.devices.begin(), shuffled.devices.end(), random);
        std::shuffle(shuffled.wires.begin(), shuffled.wires.end(), random);
        Workspace workspace;
        const ScenarioRun run = demoRun(shuffled, file.dossier.scenarios[0], workspace);
        EXPECT_EQ(run.trace, reference.trace) << "seed " << seed;
        EXPECT_EQ(run.end, reference.end) << "seed " << seed;
    }
}

TEST(Determinism, WarmCacheGivesTheSame)
{
    const DossierFile file = test::demoFile();
    Workspace workspace;
    const ScenarioRun cold = demoRun(file.dossier.circuit, file.dossier.scenarios[0], workspace);
    const ScenarioRun warm = demoRun(file.dossier.circuit, file.dossier.scenarios[0], workspace);
    EXPECT_EQ(cold.trace, warm.trace);
    EXPECT_EQ(cold.end, warm.end);
}

TEST(Determinism, StepsOfSpeedRememberedFromOtherFaultsChangeNothing)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    const Scenario& scenario = file.dossier.scenarios[0];
    const auto run = [&](const char* fault, Workspace& workspace) {
        const std::vector<Fault> faults{faultFrom(plant, fault)->fault};
        return *runScenario(plant, scenario, faults, 0.0, workspace);
    };
    Workspace used;
    for (const char* other : {"Q1/main:welded", "Q1/armature:stuck_in", "G0/L1:lost"})
        run(other, used);
    for (const char* fault : {"Q2/main:welded", "Q2/main:does_not_close", "G0/L2:lost"}) {
        Workspace fresh;
        const ScenarioRun cold = run(fault, fresh), warm = run(fault, used);
        EXPECT_EQ(cold.trace, warm.trace) << fault;
        EXPECT_EQ(cold.end, warm.end) << fault;
    }
}

TEST(Determinism, PausingAtAnyMomentChangesNothing)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    const auto stimuli = *stimuliOf(plant, file.dossier.scenarios[0]);
    Workspace workspace;
    State whole = initialState(plant);
    Trace wholeTrace;
    const TimeNs end = timeNs(seconds(16.0));
    advance(plant, whole, stimuli, {end}, wholeTrace, workspace);

    State pieces = initialState(plant);
    Trace piecesTrace;
    std::mt19937 random(7);
    std::uniform_int_distribution<TimeNs> step(1, 40'000'000);
    while (pieces.now < end) {
        const auto rest = std::find_if(stimuli.begin(), stimuli.end(),
            [&](const Stimulus& s) { return s.at > pieces.now || (!pieces.isSettled && s.at == pieces.now); });
        advance(
            plant, pieces, {rest, stimuli.end()}, {std::min(end, pieces.now + step(random))}, piecesTrace, workspace);
    }
    EXPECT_EQ(piecesTrace, wholeTrace) << "to the byte";
    EXPECT_EQ(pieces.flows, whole.flows);
    EXPECT_EQ(pieces.travel, whole.travel);
}

TEST(Fork, GoesItsOwnWayAndLeavesTheOriginalAlone)
{
    test::Bench b = test::runningDemo();
    const State before = b.state();
    State fork = before;
    Trace trace;
    Workspace workspace;
    auto press = *stimulusFor(b.plant(), "S0", "press", fork.now);
    advance(b.plant(), fork, {&press, 1}, {fork.now + timeNs(seconds(1.0))}, trace, workspace);
    EXPECT_EQ(b.state(), before);
    EXPECT_EQ(fork.actuatorMode[0], MotorMode::Coasting);
    b.act("S0", "press").to(5.0);
    EXPECT_EQ(b.state().travel, fork.travel);
    EXPECT_EQ(b.state().flows, fork.flows);
}

TEST(Scenario, DemoScenariosMeetTheirExpectations)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    for (const Scenario& s : file.dossier.scenarios) {
        Workspace workspace;
        const auto run = runScenario(plant, s, {}, 0.0, workspace);
        ASSERT_TRUE(run) << s.name;
        ASSERT_FALSE(run->expectations.empty());
        for (const ExpectationResult& r : run->expectations)
            EXPECT_TRUE(r.isMet) << s.name << ": " << r.expectation.subject << " " << r.expectation.state << " at "
                                 << r.expectation.atS;
    }
}

TEST(Scenario, RefusesWhatDoesNotExist)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    Workspace workspace;
    const auto codeOf = [&](Step step) {
        Scenario s{{1}, "x", 5.0, {std::move(step)}, {}};
        const auto run = runScenario(plant, s, {}, 0.0, workspace);
        return run ? std::string("ran") : run.error().message.id;
    };
    EXPECT_EQ(codeOf({1.0, "press", "S99", 0}), "scenario.no_device");
    EXPECT_EQ(codeOf({1.0, "fly", "S0", 0}), "scenario.no_action");
    EXPECT_EQ(codeOf({1.0, "set", "G0.L9", 0}), "scenario.no_knob");
    EXPECT_EQ(codeOf({1.0, "set", "G0.L1", 7}), "scenario.knob_value");
    EXPECT_EQ(codeOf({1.0, "fault", "Q1/main:melted", 0}), "fault.unknown");
    EXPECT_EQ(codeOf({9.0, "press", "S0", 0}), "scenario.time");
}

TEST(Scenario, CanBeCancelled)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    Workspace workspace;
    std::stop_source source;
    source.request_stop();
    const auto run = runScenario(plant, file.dossier.scenarios[0], {}, 0.0, workspace, source.get_token());
    ASSERT_FALSE(run);
    EXPECT_EQ(run.error().code, ErrorCode::Cancelled);
}

} // namespace
} // namespace ts
