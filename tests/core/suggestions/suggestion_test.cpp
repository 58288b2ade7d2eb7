// Functions that the scenarios show by themselves.

#include "core/analysis/analysis.h"
#include "core/edit/function_edits.h"
#include "core/patterns/machine.h"
#include "core/suggestions/suggestion.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

TEST(Suggestion, AStarterFromPatternsGetsItsEmergencyStop)
{
    const std::vector<std::string> with{"base=direct", "stop=two_channel_relay"};
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(with));
    ASSERT_TRUE(file.dossier.functions.empty());
    const auto found = suggestedFunctions(file.dossier);
    ASSERT_TRUE(found);
    ASSERT_EQ(found->size(), 1u);
    const SafetyFunction& f = found->front();
    EXPECT_EQ(file.dossier.circuit.device(f.trigger.device)->kind, "emergency_stop");
    EXPECT_TRUE(f.emergencyStop);
    EXPECT_EQ(f.mustRest, (std::vector<DeviceId>{file.dossier.circuit.device("M1")->id}));
    EXPECT_EQ(f.stopCategory, 0);
    ASSERT_TRUE(f.resetBy);
    EXPECT_EQ(file.dossier.circuit.device(f.resetBy)->label, "reset") << file.dossier.circuit.device(f.resetBy)->tag;
    EXPECT_FALSE(f.requiredLevel) << "that is for people to decide";
    // Taken in, it can be worked on at once: analysed and swept.
    SafetyFunction named = f;
    named.name = "Emergency stop S0";
    const DossierFile changed = *edit::withFunctions(file, {named});
    EXPECT_TRUE(analyse(changed.dossier));
    const faults::Sweep s = test::swept(changed.dossier, false);
    EXPECT_GT(s.faults.size(), 20u);
    EXPECT_TRUE(suggestedFunctions(changed.dossier)->empty()) << "it has one now";
    EXPECT_EQ(edit::withoutFunction(changed.dossier, changed.dossier.functions.front().id)->functions.size(), 0u);
}

TEST(Suggestion, OfTheDemoIsWhatItsScenariosOperate)
{
    Dossier d = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier;
    d.functions.clear();
    const auto found = suggestedFunctions(d);
    ASSERT_TRUE(found);
    std::vector<std::string> triggers;
    for (const SafetyFunction& f : *found)
        triggers.push_back(d.circuit.device(f.trigger.device)->tag);
    EXPECT_NE(std::find(triggers.begin(), triggers.end(), "S0"), triggers.end());
    EXPECT_NE(std::find(triggers.begin(), triggers.end(), "B2"), triggers.end()) << "the guard door";
    for (const SafetyFunction& f : *found)
        if (d.circuit.device(f.trigger.device)->tag == "S0") {
            EXPECT_EQ(f.mustRest.size(), 3u);
            EXPECT_EQ(f.resetBy, d.circuit.device("S4")->id);
        }
}

TEST(Suggestion, WhereNothingWaitsForAResetNoneIsNamed)
{
    // The emergency stop straight in the coil circuit: the start button starts, it resets nothing.
    const std::vector<std::string> with{"base=direct", "stop=straight"};
    const auto plan = patterns::MachinePlan::from(with);
    ASSERT_TRUE(plan);
    const DossierFile file = *patterns::machine(*plan);
    const auto found = suggestedFunctions(file.dossier);
    ASSERT_TRUE(found && !found->empty());
    for (const SafetyFunction& f : *found)
        EXPECT_FALSE(f.resetBy) << file.dossier.circuit.device(f.resetBy)->tag;
}

TEST(Suggestion, WhatIsThereIsNotSuggestedAgain)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    EXPECT_TRUE(suggestedFunctions(d)->empty());
}

TEST(Functions, NeedANameAndKeepTheirIds)
{
    DossierFile file;
    file.nextId = 7;
    EXPECT_EQ(edit::withFunctions(file, {SafetyFunction{}}).error().message.id, "function.no_name");
    SafetyFunction f;
    f.name = "Stop";
    const auto two = edit::withFunctions(file, {f, f});
    ASSERT_TRUE(two);
    EXPECT_EQ(two->dossier.functions[0].id, FunctionId{7});
    EXPECT_EQ(two->dossier.functions[1].id, FunctionId{8});
    EXPECT_EQ(two->nextId, 9);
    const Dossier d = test::stopping(test::twoChannels().circuit());
    SafetyFunction changed = d.functions.front();
    changed.allowedTimeS = 5;
    EXPECT_EQ(edit::withFunctionChanged(d, changed)->functions.front(), changed);
    for (const auto& [spoil, id] : std::vector<std::pair<std::function<void(SafetyFunction&)>, const char*>>{
             {[](SafetyFunction& x) { x.name.clear(); }, "function.no_name"},
             {[](SafetyFunction& x) { x.mustRest.clear(); }, "stop.no_motor"},
             {[](SafetyFunction& x) { x.trigger.device = {}; }, "stop.no_demand"},
             {[](SafetyFunction& x) { x.allowedTimeS = -1; }, "function.out_of_range"},
             {[](SafetyFunction& x) { x.stopCategory = 3; }, "function.out_of_range"},
             {[](SafetyFunction& x) { x.id = {1}; }, "function.unknown"}}) {
        SafetyFunction wrong = changed;
        spoil(wrong);
        EXPECT_EQ(edit::withFunctionChanged(d, wrong).error().message.id, id);
    }
    EXPECT_EQ(edit::withoutFunction(file.dossier, {3}).error().code, ErrorCode::NotFound);
}

} // namespace
} // namespace ts
