// Each word of each choice, alone changed from what is offered: it can be built and run, is written and read back the
// same, and what it does is said in its scenarios, or it says why it cannot be.

#include "core/analysis/scenario_outcomes.h"
#include "core/io/dossier_text.h"
#include "core/patterns/machine.h"
#include "core/simulation/plant.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <set>

namespace ts::patterns {
namespace {

using Names = std::vector<std::string>;

struct Word {
    std::string choice, word;
    std::string assignment() const { return choice + "=" + word; }
};
void PrintTo(const Word& w, std::ostream* out)
{
    *out << w.assignment();
}

std::vector<Word> everyWord()
{
    std::vector<Word> all;
    for (const PlanChoice& c : choices())
        for (std::string_view word : wordsOf(c))
            all.push_back({std::string(c.name), std::string(word)});
    return all;
}

class EveryWord : public ::testing::TestWithParam<Word> {
protected:
    /// What the word needs beside it to matter at all.
    static Names with(const Word& w)
    {
        Names texts{w.assignment()};
        if (w.choice == "tap" || w.choice == "monitor_contact")
            texts.push_back("monitor=voltage");
        if (w.choice == "interlock" || w.choice == "hold")
            texts.push_back("base=reversing");
        if (w.word == "single_phase")
            texts.push_back("motor=0.37kW");
        if (w.word == "dc_motor")
            texts.push_back("motor=0.1kW");
        return texts;
    }
};

TEST_P(EveryWord, IsBuiltRunAndReadBackOrSaysWhyNot)
{
    const auto plan = MachinePlan::from(with(GetParam()));
    ASSERT_TRUE(plan) << plan.error().message.id;
    const auto file = machine(*plan);
    if (!file) {
        EXPECT_EQ(file.error().code, ErrorCode::Refused);
        EXPECT_TRUE(file.error().message.id.starts_with("pattern.")) << file.error().message.id;
        return;
    }
    const auto again = io::parseDossier(io::printDossier(*file));
    ASSERT_TRUE(again) << again.error().message.id;
    EXPECT_EQ(again->dossier, file->dossier);
    const auto outcomes = scenarioOutcomes(file->dossier);
    ASSERT_TRUE(outcomes) << outcomes.error().message.id;
    EXPECT_GE(outcomes->scenarios.size(), 3u) << "start, emergency stop, supply";
    for (const ScenarioOutcome& o : outcomes->scenarios) {
        EXPECT_FALSE(o.trouble) << o.name;
        EXPECT_FALSE(o.chatters) << o.name;
    }
}

TEST_P(EveryWord, GivesTagsWiresAndScenariosOfTheirOwn)
{
    const auto file = machine(*MachinePlan::from(with(GetParam())));
    if (!file)
        return;
    const Dossier& d = file->dossier;
    std::set<std::string> tags, names;
    std::set<int> ids;
    for (const Device& device : d.circuit.devices) {
        EXPECT_TRUE(tags.insert(device.tag).second) << device.tag;
        EXPECT_TRUE(ids.insert(device.id.value).second) << device.tag;
    }
    for (const Wire& w : d.circuit.wires) {
        EXPECT_TRUE(ids.insert(w.id.value).second) << w.number;
        EXPECT_TRUE(d.circuit.route(w.route)) << "a starter that we lay knows where its wires run";
        EXPECT_GT(w.lengthM, 0.0);
    }
    for (const Scenario& s : d.scenarios) {
        EXPECT_TRUE(names.insert(s.name).second) << s.name;
        EXPECT_FALSE(s.expectations.empty()) << s.name << " shows nothing";
        for (const Expectation& e : s.expectations)
            EXPECT_LE(e.atS, s.lengthS) << s.name;
    }
}

INSTANTIATE_TEST_SUITE_P(Patterns, EveryWord, ::testing::ValuesIn(everyWord()));

/// A monitor brings a scenario for each line and one with a held start; without one nothing is said of lines.
TEST(Monitors, BringTheirQuestions)
{
    const auto namesOf = [](const char* monitor) {
        std::string names;
        const auto file = machine(*MachinePlan::from(Names{monitor}));
        for (const Scenario& s : file->dossier.scenarios)
            names += s.name + "; ";
        return names;
    };
    for (const char* monitor : {"monitor=voltage", "monitor=current_in_line", "monitor=three_relays"})
        for (const char* name : {"Line L1 lost while running", "Line L2 lost while running",
                 "Line L3 lost while running", "Start held while a line is missing"})
            EXPECT_NE(namesOf(monitor).find(name), std::string::npos) << monitor << ": " << name;
    EXPECT_EQ(namesOf("monitor=none").find("Line L"), std::string::npos);
}

/// One that reads current sees nothing while the motor is off: unlatched it would let a held start pump.
TEST(Monitors, ByCurrentLatch)
{
    for (const char* monitor : {"monitor=current_in_line", "monitor=three_transformers"}) {
        const auto file = machine(*MachinePlan::from(Names{monitor}));
        ASSERT_TRUE(file);
        EXPECT_TRUE(std::get<bool>(file->dossier.circuit.device("B1")->parameters.at("latches"))) << monitor;
    }
}

} // namespace
} // namespace ts::patterns
