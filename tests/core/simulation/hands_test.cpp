// What a person can do in a scenario, and what takes it back.

#include "core/simulation/hands.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

Plant debarker()
{
    return *compile(io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit);
}

using Words = std::vector<std::string>;

TEST(Hands, ReachWhatMovesAndWhatCanBeLost)
{
    const Plant plant = debarker();
    const Words targets = handTargets(plant);
    const auto has = [&targets](
                         const char* tag) { return std::find(targets.begin(), targets.end(), tag) != targets.end(); };
    EXPECT_TRUE(has("S0") && has("Q1") && has("G0") && has("G0.L2"));
    EXPECT_FALSE(has("P1")) << "a lamp is only looked at";
    EXPECT_EQ(handActions(plant, "S2"), (Words{"press", "release", "operate"}));
    const Words button = handActions(plant, "S0");
    EXPECT_NE(std::find(button.begin(), button.end(), "unlatch"), button.end());
    const Words mains = handActions(plant, "G0");
    EXPECT_NE(std::find(mains.begin(), mains.end(), "lose_l2"), mains.end());
    EXPECT_EQ(handActions(plant, "G0.L2"), Words{"set"});
    EXPECT_EQ(handActions(plant, "S0/11-12:shorted"), (Words{"fault", "clear_fault"}));
    EXPECT_EQ(handActions(plant, ""), (Words{"fault", "clear_fault"}));
}

/// Each word that is offered is one that a scenario takes; and what is called letting go is what leaves an untouched
/// circuit as it is.
TEST(Hands, LettingGoLeavesAnUntouchedCircuitAsItIs)
{
    const Plant plant = debarker();
    Workspace workspace;
    State untouched = initialState(plant);
    Trace first;
    advance(plant, untouched, {}, {0, {}, {}, false}, first, workspace);
    int back = 0, away = 0;
    for (const std::string& target : handTargets(plant))
        for (const std::string& action : handActions(plant, target)) {
            if (action == "operate" || action == "set")
                continue;
            const auto stimuli = stimuliFor(plant, target, action, 0);
            ASSERT_TRUE(stimuli) << target << ' ' << action;
            State state = initialState(plant);
            Trace trace;
            advance(plant, state, *stimuli, {0, {}, {}, false}, trace, workspace);
            const bool isAsBefore = state.wish == untouched.wish && state.pushed == untouched.pushed
                && state.knobs == untouched.knobs && state.faults == untouched.faults;
            EXPECT_EQ(isLetGo(plant, {0, action, target, 0}), isAsBefore) << target << ' ' << action;
            ++(isAsBefore ? back : away);
        }
    EXPECT_GT(back, 10);
    EXPECT_GT(away, 10);
}

TEST(Hands, AVoltageAFaultAndALineComeBack)
{
    const Plant plant = debarker();
    EXPECT_TRUE(isLetGo(plant, {0, "set", "G0.L2", 1.0}));
    EXPECT_FALSE(isLetGo(plant, {0, "set", "G0.L2", 0.9}));
    EXPECT_TRUE(isLetGo(plant, {0, "clear_fault", "S0/11-12:shorted", 0}));
    EXPECT_FALSE(isLetGo(plant, {0, "fault", "S0/11-12:shorted", 0}));
    EXPECT_TRUE(isLetGo(plant, {0, "return_l2", "G0", 0}));
    EXPECT_TRUE(isLetGo(plant, {0, "exchange_back", "G0", 0}));
    EXPECT_FALSE(isLetGo(plant, {0, "exchange", "G0", 0}));
    EXPECT_FALSE(isLetGo(plant, {0, "press", "X99", 0})) << "nobody knows it";
}

} // namespace
} // namespace ts
