// What a circuit does, found out by trying: known answers are what the demos and the patterns were built to do.

#include "core/exploration/behaviour.h"
#include "core/io/dossier_text.h"
#include "core/patterns/machine.h"
#include "core/suggestions/scenario_suggestion.h"
#include "core/suggestions/suggestion.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

using exploration::Behaviour;
using exploration::Deed;
using exploration::LampSeen;
using Effect = Deed::Effect;

Circuit patternCircuit(std::vector<std::string> choices)
{
    return patterns::machine(*patterns::MachinePlan::from(choices))->dossier.circuit;
}

Behaviour found(const Circuit& circuit)
{
    const auto behaviour = exploration::behaviourOf(circuit);
    EXPECT_TRUE(behaviour);
    return behaviour.value_or(Behaviour{});
}

const Deed* deedOf(const Circuit& c, const Behaviour& b, std::string_view hand, std::string_view motor, Effect effect,
    int direction = 0)
{
    const auto it = std::find_if(b.deeds.begin(), b.deeds.end(), [&](const Deed& d) {
        return d.hand == c.device(hand)->id && d.actuator == c.device(motor)->id && d.effect == effect
            && (direction == 0 || d.direction == direction);
    });
    return it == b.deeds.end() ? nullptr : &*it;
}

TEST(Behaviour, AReversingStarterIsUnderstoodWithoutAWordAboutIt)
{
    const Circuit c = patternCircuit({"base=reversing"});
    const Behaviour b = found(c);
    EXPECT_NE(deedOf(c, b, "S2", "M1", Effect::Starts, 1), nullptr);
    EXPECT_NE(deedOf(c, b, "S3", "M1", Effect::Starts, -1), nullptr) << "backwards";
    EXPECT_EQ(deedOf(c, b, "S3", "M1", Effect::Starts, 1), nullptr);
    EXPECT_NE(deedOf(c, b, "S1", "M1", Effect::Stops), nullptr);
    EXPECT_NE(deedOf(c, b, "S0", "M1", Effect::Stops), nullptr);
    EXPECT_EQ(deedOf(c, b, "S0", "M1", Effect::Starts), nullptr) << "letting it out again starts nothing";
    EXPECT_TRUE(b.neverRan.empty());
    EXPECT_EQ(b.leftOut, 0u) << "all of it was looked at";
}

TEST(Behaviour, TheDebarkersDeckRunsInchedOrHeldByItsSelector)
{
    const Circuit c = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit;
    const Behaviour b = found(c);
    for (int direction : {1, -1}) {
        const char* button = direction > 0 ? "S2" : "S3";
        const Deed* runs = deedOf(c, b, button, "M1", Effect::Starts, direction);
        const Deed* inches = deedOf(c, b, button, "M1", Effect::RunsWhileHeld, direction);
        ASSERT_TRUE(runs && inches) << button;
        EXPECT_NE(runs->said.find("S7"), runs->said.npos) << runs->said;
        EXPECT_EQ(inches->said.find("S7"), inches->said.npos) << inches->said;
    }
    for (const char* stop : {"S0", "S10", "S20", "B2"})
        for (const char* motor : {"M1", "M2", "M3"})
            EXPECT_NE(deedOf(c, b, stop, motor, Effect::Stops), nullptr) << stop << " " << motor;
    const DeviceId reset = c.device("S4")->id;
    EXPECT_TRUE(std::any_of(b.preparing.begin(), b.preparing.end(), [reset](const auto& p) {
        return p.hand == reset && p.before.size() == 4;
    })) << "nothing starts before it, and it starts nothing";
    EXPECT_TRUE(b.idle.empty());
    for (const LampSeen& l : b.lamps)
        if (l.lamp == c.device("P2")->id) {
            EXPECT_EQ(l.rule, LampSeen::Rule::WhileDriven);
            EXPECT_EQ(l.actuator, c.device("M2")->id);
        }
}

TEST(Behaviour, AStopThatStopsNothingIsSeenToStopNothing)
{
    const Circuit c = patternCircuit({"hold=ahead_of_stop"});
    const Behaviour b = found(c);
    EXPECT_EQ(deedOf(c, b, "S0", "M1", Effect::Stops), nullptr);
    EXPECT_NE(deedOf(c, b, "S2", "M1", Effect::Starts), nullptr);
    EXPECT_TRUE(std::find(b.idle.begin(), b.idle.end(), c.device("S0")->id) != b.idle.end());
}

TEST(Behaviour, WhatNothingBringsToRunIsNamed)
{
    Circuit c = patternCircuit({});
    std::erase_if(c.wires, [&](const Wire& w) { return w.to.marking == "U1" || w.from.marking == "U1"; });
    std::erase_if(c.wires, [&](const Wire& w) { return w.to.marking == "V1" || w.from.marking == "V1"; });
    const Behaviour b = found(c);
    EXPECT_EQ(b.neverRan, std::vector<DeviceId>{c.device("M1")->id});
}

TEST(Behaviour, IsTheSameWhateverTheOrderOfTheFile)
{
    Circuit c = patternCircuit({"base=reversing", "stop=two_channel_relay"});
    const Behaviour once = found(c);
    std::reverse(c.devices.begin(), c.devices.end());
    std::reverse(c.wires.begin(), c.wires.end());
    EXPECT_EQ(found(c), once);
}

/// What is suggested runs as it says, loads again, and brings forth the functions that the panel has.
TEST(ScenarioSuggestion, EachRunsAsItExpectsAndTheFunctionsFollow)
{
    for (const std::vector<std::string>& choices : std::vector<std::vector<std::string>>{
             {}, {"base=reversing"}, {"base=star_delta", "stop=two_channel_relay", "guard=yes"}, {"base=drive"}}) {
        DossierFile file = *patterns::machine(*patterns::MachinePlan::from(choices));
        file.dossier.scenarios.clear();
        file.dossier.functions.clear();
        const Plant plant = *compile(file.dossier.circuit);
        auto suggested = suggestedScenarios(plant, found(file.dossier.circuit));
        ASSERT_FALSE(suggested.empty());
        for (SuggestedScenario& s : suggested) {
            EXPECT_FALSE(s.scenario.expectations.empty()) << s.scenario.steps.size();
            Workspace workspace;
            const auto run = runScenario(plant, s.scenario, {}, 0.0, workspace);
            ASSERT_TRUE(run);
            for (const auto& e : run->expectations)
                EXPECT_TRUE(e.isMet) << e.expectation.subject << " " << e.expectation.state;
            s.scenario.id = {file.nextId++};
            s.scenario.name = std::to_string(s.scenario.id.value);
            file.dossier.scenarios.push_back(s.scenario);
        }
        EXPECT_TRUE(io::parseDossier(io::printDossier(file)));
        const auto functions = suggestedFunctions(file.dossier);
        ASSERT_TRUE(functions);
        const DeviceId stop = file.dossier.circuit.device("S0")->id, motor = file.dossier.circuit.device("M1")->id;
        EXPECT_TRUE(std::any_of(functions->begin(), functions->end(), [&](const SafetyFunction& f) {
            return f.trigger.device == stop && f.emergencyStop && f.mustRest == std::vector<DeviceId>{motor};
        })) << (choices.empty() ? "direct" : choices.front());
    }
}

/// Who says that it is wrong gets a scenario that does not come about, until the circuit is another.
TEST(ScenarioSuggestion, TheContraryOfWhatIsSeenDoesNotComeAbout)
{
    const Circuit c = patternCircuit({"base=reversing"});
    const Plant plant = *compile(c);
    for (const Deed& d : found(c).deeds) {
        Workspace workspace;
        const auto run = runScenario(plant, contraryOf(scenarioOf(plant, d)).scenario, {}, 0.0, workspace);
        ASSERT_TRUE(run);
        ASSERT_FALSE(run->expectations.empty()) << d.said;
        EXPECT_FALSE(run->expectations.back().isMet) << d.said;
    }
}

} // namespace
} // namespace ts
