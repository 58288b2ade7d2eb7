// A run by hand as a scenario: the steps come back as the same stimuli, and what was seen holds when it runs again.

#include "core/analysis/scenario_outcomes.h"
#include "core/patterns/machine.h"
#include "core/simulation/fault.h"
#include "core/suggestions/scenario_suggestion.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

using Texts = std::vector<std::string>;

class KeptRun : public ::testing::TestWithParam<Texts> { };

/// Every scenario that a pattern brings, as if it had been done by hand.
TEST_P(KeptRun, ComesBackAsTheSameStimuliAndHolds)
{
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(GetParam()));
    const auto plant = compile(file.dossier.circuit);
    ASSERT_TRUE(plant);
    for (const Scenario& scenario : file.dossier.scenarios) {
        const auto stimuli = stimuliOf(*plant, scenario);
        ASSERT_TRUE(stimuli) << scenario.name;
        const auto steps = stepsFrom(*plant, *stimuli);
        ASSERT_TRUE(steps) << scenario.name << " " << steps.error().message.id;
        Scenario again;
        again.name = "again";
        again.lengthS = scenario.lengthS;
        again.steps = *steps;
        const auto same = stimuliOf(*plant, again);
        ASSERT_TRUE(same) << scenario.name;
        ASSERT_EQ(same->size(), stimuli->size()) << scenario.name;
        for (std::size_t k = 0; k < same->size(); ++k) {
            EXPECT_EQ((*same)[k].at, (*stimuli)[k].at) << scenario.name;
            EXPECT_TRUE(doesTheSame((*same)[k], (*stimuli)[k])) << scenario.name << " step " << k;
        }
        const auto seen = withWhatIsSeen(*plant, again);
        ASSERT_TRUE(seen) << scenario.name;
        EXPECT_FALSE(seen->expectations.empty()) << scenario.name;
        Dossier alone = file.dossier;
        alone.scenarios = {*seen};
        alone.scenarios.front().id = {9000};
        EXPECT_TRUE(scenarioOutcomes(alone)->scenarios.front().isInOrder()) << scenario.name;
    }
}

INSTANTIATE_TEST_SUITE_P(Patterns, KeptRun,
    ::testing::Values(Texts{}, Texts{"base=reversing", "stop=two_channel_relay", "guard=yes"},
        Texts{"monitor=three_transformers"}, Texts{"operation=hand_off_auto"}, Texts{"base=star_delta", "load=none"}));

TEST(KeptRun, KeepsFaultsAndShortsByTheirNames)
{
    const Dossier d = test::demoFile().dossier;
    const auto plant = compile(d.circuit);
    for (const char* text : {"Q1/main:welded", "S2/13-14:welded"}) {
        Stimulus s;
        s.kind = Stimulus::Kind::PutFault;
        s.fault = faultFrom(*plant, text)->fault;
        const auto steps = stepsFrom(*plant, {&s, 1});
        ASSERT_TRUE(steps) << text;
        EXPECT_EQ(steps->front().action, "fault");
        EXPECT_EQ(faultFrom(*plant, steps->front().target)->fault, s.fault) << steps->front().target;
    }
}

TEST(KeptRun, IsRefusedWhereTheCircuitChatters)
{
    DossierFile file = test::demoFile();
    test::addSelfInterruptingContactor(file.dossier.circuit);
    Scenario run;
    run.lengthS = 5;
    const auto seen = withWhatIsSeen(*compile(file.dossier.circuit), run);
    ASSERT_FALSE(seen);
    EXPECT_EQ(seen.error().message.id, "scenario.chatters");
}

/// Looks twice at the same only where it has changed.
TEST(KeptRun, SaysAThingOnce)
{
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(Texts{}));
    const auto plant = compile(file.dossier.circuit);
    Scenario run;
    run.lengthS = 40;
    run.steps = {{2.0, "press", "S2", 0}, {2.5, "release", "S2", 0}, {10.0, "press", "S2", 0},
        {10.5, "release", "S2", 0}, {12.0, "press", "S1", 0}};
    const auto seen = withWhatIsSeen(*plant, run);
    ASSERT_TRUE(seen);
    int driven = 0;
    for (const Expectation& e : seen->expectations)
        driven += e.subject == "M1" && e.state == "driven";
    EXPECT_EQ(driven, 1);
    EXPECT_EQ(seen->expectations.front().state, "at_rest");
}

} // namespace
} // namespace ts
