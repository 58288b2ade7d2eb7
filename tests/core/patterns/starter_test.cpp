// Patterns: what is chosen well runs as expected; what is chosen badly is built all the same and shows its consequence.

#include "core/analysis/scenario_outcomes.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/io/dossier_text.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <random>

namespace ts::patterns {
namespace {

using Texts = std::vector<std::string>;

DossierFile built(const Texts& with)
{
    const auto plan = MachinePlan::from(with);
    EXPECT_TRUE(plan) << plan.error().message.id;
    auto file = machine(*plan);
    EXPECT_TRUE(file) << file.error().message.id;
    return *file;
}

std::string refusal(const Texts& with)
{
    const auto plan = MachinePlan::from(with);
    if (!plan)
        return plan.error().message.id;
    const auto file = machine(*plan);
    return file ? std::string() : file.error().message.id;
}

/// Names of the scenarios in which something did not come about as expected.
std::string surprises(const DossierFile& file)
{
    std::string names;
    const auto outcomes = scenarioOutcomes(file.dossier);
    for (const ScenarioOutcome& o : outcomes->scenarios) {
        EXPECT_FALSE(o.trouble) << o.name;
        if (!o.isInOrder())
            names += (names.empty() ? "" : ", ") + o.name;
    }
    return names;
}

class WellChosen : public ::testing::TestWithParam<Texts> { };

TEST_P(WellChosen, RunsAsExpected)
{
    EXPECT_EQ(surprises(built(GetParam())), "");
}

INSTANTIATE_TEST_SUITE_P(Starters, WellChosen,
    ::testing::Values(Texts{}, Texts{"base=reversing"}, Texts{"base=star_delta", "motor=30kW", "load=none"},
        Texts{"base=soft_starter"}, Texts{"base=drive"}, Texts{"base=drive", "stop=delayed_relay"},
        Texts{"stop=contactor_relay", "control=phase_neutral"},
        Texts{"base=reversing", "stop=ordinary_relay", "control=transformer_bonded"},
        Texts{"stop=one_channel_relay", "stops=2"},
        Texts{"base=reversing", "stop=two_channel_relay", "stops=3", "guard=yes"},
        Texts{"stop=delayed_relay", "brake=yes"},
        Texts{"base=star_delta", "stop=controller", "stops=2", "guard=yes", "motor=30kW", "load=none"},
        Texts{"operation=inching"}, Texts{"base=reversing", "operation=run_inch_selector"},
        Texts{"base=reversing", "operation=run_inch_relay"},
        Texts{"base=reversing", "interlock=auxiliary+mechanical+push_button"}, Texts{"load=hanging", "brake=yes"},
        Texts{"monitor=current_in_line", "tap=motor_side"},
        Texts{"monitor=three_transformers", "stop=two_channel_relay"},
        Texts{"control=transformer_unbonded", "stop=controller"},
        Texts{"overload=return_side", "control=phase_neutral", "lamps=field_b"},
        Texts{"motor=7.5hp,10.8A,0.83,1455", "site=Larkspur Sawmill"}));

struct Consequence {
    Texts with;
    const char* shows; ///< the scenario that goes wrong
};
class BadlyChosen : public ::testing::TestWithParam<Consequence> { };

TEST_P(BadlyChosen, IsBuiltAndItsScenariosShowIt)
{
    EXPECT_NE(surprises(built(GetParam().with)).find(GetParam().shows), std::string::npos)
        << surprises(built(GetParam().with));
}

INSTANTIATE_TEST_SUITE_P(Starters, BadlyChosen,
    ::testing::Values(Consequence{{"base=reversing", "interlock=none"}, "Both directions at once"},
        Consequence{{"base=reversing", "interlock=none"}, "The other armature pushed in by hand"},
        Consequence{
            {"base=reversing", "interlock=auxiliary", "hold=behind_interlock"}, "The other armature pushed in by hand"},
        Consequence{{"hold=ahead_of_stop"}, "Start and stop"},
        Consequence{{"monitor=voltage", "tap=motor_side"}, "Start and stop"},
        Consequence{{"monitor=voltage"}, "One pole fails behind the fuses"},
        Consequence{{"monitor=two_transformers", "monitor_contact=signal_only"}, "Line L2 lost while running"},
        Consequence{{"monitor=two_transformers"}, "Line L3 lost while running"}, // no transformer looks at it
        Consequence{{"monitor=voltage", "tap=motor_side", "monitor_contact=hold"},
            "Start held while a line is missing"}, // the button bridges what lies in the hold
        Consequence{{"operation=run_inch_button"}, "Inching"}, // let go, the button's opening contact is back before
                                                               // the contactor has dropped
        Consequence{{"operation=hand_off_auto"}, "Supply lost and back"}, // the selector still stands at hand
        Consequence{{"load=hanging", "brake=no"}, "Start and stop"},
        Consequence{{"control_cable_m=3000"}, "Start and stop"}));

TEST(Plan, RefusesWhatCannotBeAndSaysWhy)
{
    EXPECT_EQ(refusal({"base"}), "pattern.no_equals");
    EXPECT_EQ(refusal({"bass=direct"}), "pattern.unknown_choice");
    EXPECT_EQ(refusal({"base=teapot"}), "pattern.unknown_word");
    EXPECT_EQ(refusal({"interlock=auxiliary+teapot"}), "pattern.unknown_word");
    EXPECT_EQ(refusal({"base=drive", "control=phase_neutral"}), "pattern.drive_needs_24v");
    EXPECT_EQ(refusal({"operation=inching", "monitor=voltage", "monitor_contact=hold"}), "pattern.no_hold");
    EXPECT_EQ(refusal({"motor=much"}), "pattern.motor");
    EXPECT_EQ(refusal({"motor=6.1kW"}), "pattern.no_motor");
    EXPECT_EQ(refusal({"motor=5.5kW,1A,0.83,1455"}), "motor.plate_impossible");
    EXPECT_EQ(refusal({"motor=-5.5kW"}), "pattern.motor");
    EXPECT_EQ(refusal({"control_cable_m=-1"}), "pattern.cable");
    EXPECT_EQ(refusal({"control_cable_m=nan"}), "pattern.cable");
}

/// With every choice that is said not to matter changed, the same circuit comes out.
TEST(Plan, WhatDoesNotMatterChangesNothing)
{
    for (const Texts& with : {Texts{}, Texts{"base=drive"}, Texts{"operation=inching"}, Texts{"stop=one_channel_relay"},
             Texts{"base=star_delta", "monitor=voltage"}, Texts{"operation=hand_off_auto"}}) {
        const MachinePlan plan = *MachinePlan::from(with);
        const Circuit circuit = machine(plan)->dossier.circuit;
        for (const PlanChoice& c : choices()) {
            if (matters(plan.shared(), c.name))
                continue;
            for (std::string_view word : wordsOf(c)) {
                Texts changed = with;
                changed.push_back(std::string(c.name) + "=" + std::string(word));
                const auto other = machine(*MachinePlan::from(changed));
                if (other)
                    EXPECT_EQ(other->dossier.circuit, circuit) << changed.back();
            }
        }
    }
}

TEST(Plan, HorsepowerIsConverted)
{
    const DossierFile file = built({"motor=7.5hp,10.8A,0.83,1455"});
    EXPECT_NEAR(std::get<double>(file.dossier.circuit.parts[0].parameters.at("rated_power_w")), 5592.75, 0.01);
}

TEST(Patterns, AnyChoiceIsBuiltReadBackAndDrawn)
{
    std::mt19937 random(20261125);
    int builtCount = 0;
    for (int k = 0; k < 1500 && builtCount < 90; ++k) { // many words do not go together
        Texts with;
        std::string said;
        for (const PlanChoice& c : choices())
            if (const auto words = wordsOf(c); !words.empty()) {
                with.push_back(std::string(c.name) + "=" + std::string(words[random() % words.size()]));
                said += with.back() + " ";
            }
        with.push_back(said.find("base=single_phase") != said.npos ? "motor=0.37kW"
                : said.find("base=dc_motor") != said.npos          ? "motor=0.1kW"
                : said.find("frequency=60") != said.npos           ? "motor=5.5kW,11A,0.83,1750"
                                                                   : "motor=5.5kW,11A,0.83,1455");
        const auto plan = MachinePlan::from(with);
        ASSERT_TRUE(plan) << said;
        const auto file = machine(*plan);
        if (!file) {
            EXPECT_TRUE(file.error().message.id.starts_with("pattern.")) << said << file.error().message.id;
            continue;
        }
        ++builtCount;
        const std::string text = io::printDossier(*file);
        const auto again = io::parseDossier(text);
        ASSERT_TRUE(again) << said << again.error().message.id;
        EXPECT_EQ(io::printDossier(*again), text) << said;
        const auto plant = compile(file->dossier.circuit);
        ASSERT_TRUE(plant) << said;
        for (const Scenario& s : file->dossier.scenarios)
            EXPECT_TRUE(stimuliOf(*plant, s)) << said << s.name;
        const auto graph = diagram::wiredGraph(file->dossier.circuit);
        ASSERT_TRUE(graph) << said;
        EXPECT_GT(diagram::controlDrawing(*graph).scene.symbols.size(), 5u) << said;
        EXPECT_GT(diagram::powerDrawing(*graph).symbols.size(), 5u) << said;
    }
    EXPECT_EQ(builtCount, 90);
}

} // namespace
} // namespace ts::patterns
