#include "core/io/dossier_file.h"
#include "core/io/dossier_text.h"
#include "core/patterns/machine.h"
#include "core/suggestions/claim_suggestion.h"
#include "core/suggestions/suggestion.h"

#include <gtest/gtest.h>

namespace ts {
namespace {

/// "S0: contact 11-12 | contact 21-22", one line a subsystem; encapsulated ones by their tag in brackets.
std::vector<std::string> said(const Dossier& d, const std::vector<ClaimedSubsystem>& claim)
{
    std::vector<std::string> lines;
    for (const ClaimedSubsystem& s : claim) {
        if (s.encapsulated) {
            lines.push_back("[" + d.circuit.device(s.encapsulated)->tag + "]");
            continue;
        }
        std::string line = std::string(safety::wordOf(s.category)) + ":";
        for (const ClaimedChannel& c : s.channels) {
            line += &c == &s.channels.front() ? " " : " | ";
            for (const ClaimedPart& p : c.parts)
                line += (&p == &c.parts.front() ? "" : "+") + d.circuit.device(p.device)->tag + " "
                    + elementWords(p.element);
        }
        lines.push_back(line);
    }
    return lines;
}

Dossier demo()
{
    return io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry")->dossier;
}

std::vector<std::string> ofPattern(std::vector<std::string> choices)
{
    Dossier d = patterns::machine(*patterns::MachinePlan::from(choices))->dossier;
    const auto functions = suggestedFunctions(d);
    const auto stop = std::find_if(
        functions->begin(), functions->end(), [](const SafetyFunction& f) { return f.emergencyStop; });
    EXPECT_NE(stop, functions->end());
    return stop == functions->end() ? std::vector<std::string>{} : said(d, stop->claim);
}

using Lines = std::vector<std::string>;

TEST(SuggestedClaim, IsTheChainThatAPersonClaimedForTheDebarker)
{
    // Contactors of the deck turn it either way: only together do they take its power; Q9 does so alone for all three
    // motors. The delta contactor Q5 feeds the far ends of the rotor's windings past Q3: a person may leave it out, the
    // wiring does not.
    const Dossier d = demo();
    const auto claim = suggestedClaim(d, d.functions.front());
    ASSERT_TRUE(claim);
    EXPECT_EQ(said(d, *claim),
        (Lines{"3: S0 contact 11-12 | S0 contact 21-22", "[K0]", "3: Q1 main poles+Q2 main poles | Q9 main poles",
            "3: Q3 main poles+Q5 main poles | Q9 main poles", "3: Q6 main poles | Q9 main poles"}));
}

TEST(SuggestedClaim, GuessesNoMeasureNoAnswerAndNoCycle)
{
    const Dossier d = demo();
    const auto claim = suggestedClaim(d, d.functions.front());
    ASSERT_TRUE(claim);
    for (const ClaimedSubsystem& s : *claim) {
        EXPECT_TRUE(s.ccfAnswers.empty());
        for (const ClaimedChannel& c : s.channels)
            for (const ClaimedPart& p : c.parts)
                EXPECT_TRUE(p.measure.empty() && p.dc == 0.0 && !p.secondsPerCycle && !p.operationsPerYear)
                    << p.element;
    }
}

TEST(SuggestedClaim, OfTheStopsOfPatterns)
{
    // Straight in the coil circuit: the button and one contactor, a channel each.
    EXPECT_EQ(ofPattern({"stop=straight"}), (Lines{"B: S0 contact 11-12", "B: Q1 main poles"}));
    // A contactor relay between them decides, and is a part like the others.
    EXPECT_EQ(
        ofPattern({"stop=contactor_relay"}), (Lines{"B: S0 contact 11-12", "B: K0 armature", "B: Q1 main poles"}));
    EXPECT_EQ(ofPattern({"stop=two_channel_relay"}),
        (Lines{"3: S0 contact 11-12 | S0 contact 21-22", "[K0]", "3: Q9 main poles | Q1 main poles"}));
    EXPECT_EQ(ofPattern({"stop=two_channel_relay", "second_contactor=no"}),
        (Lines{"3: S0 contact 11-12 | S0 contact 21-22", "[K0]", "B: Q1 main poles"}));
    EXPECT_EQ(ofPattern({"base=reversing", "stop=two_channel_relay"}),
        (Lines{"3: S0 contact 11-12 | S0 contact 21-22", "[K0]", "3: Q1 main poles+Q2 main poles | Q9 main poles"}));
}

// The stop of a drive cut three lines of its inputs: the suggestion had three channels, and the file that a new starter
// was written to could not be read again.
TEST(SuggestedClaim, OfThreeContactsCanBeReadAgain)
{
    const auto file = patterns::machine(
        *patterns::MachinePlan::from(std::vector<std::string>{"base=drive", "stop=straight"}));
    ASSERT_TRUE(file);
    Dossier d = file->dossier;
    const auto functions = suggestedFunctions(d);
    ASSERT_TRUE(functions);
    d.functions = *functions;
    for (std::size_t k = 0; k < d.functions.size(); ++k) {
        d.functions[k].id = {file->nextId + static_cast<int>(k)};
        d.functions[k].name = "stop"; // who takes a suggestion says what it is called
    }
    const auto stop = std::find_if(
        d.functions.begin(), d.functions.end(), [](const SafetyFunction& f) { return f.emergencyStop; });
    ASSERT_NE(stop, d.functions.end());
    ASSERT_FALSE(stop->claim.empty());
    EXPECT_EQ(stop->claim.front().channels.size(), 1u) << "each of the three is needed";
    EXPECT_EQ(stop->claim.front().channels.front().parts.size(), 3u);
    const auto back = io::parseDossier(io::printDossier({file->nextId + 1000, d, {}}));
    EXPECT_TRUE(back) << back.error().message.id;
}

TEST(SuggestedClaim, IsRefusedWhereTheStopIsNeverDemanded)
{
    Dossier d = demo();
    d.functions.front().demandScenario = {};
    EXPECT_EQ(suggestedClaim(d, d.functions.front()).error().message.id, "stop.no_scenario");
}

TEST(ClaimableParts, HaveMainPolesContactsInUseAndNothingEncapsulated)
{
    const Dossier d = demo();
    const auto plant = compile(d.circuit);
    std::vector<std::string> names;
    for (const ClaimedPart& p : claimableParts(d.circuit, *plant))
        names.push_back(d.circuit.device(p.device)->tag + " " + elementWords(p.element));
    const auto has = [&names](const char* name) { return std::count(names.begin(), names.end(), name); };
    EXPECT_EQ(has("Q1 main poles"), 1);
    EXPECT_EQ(has("S0 contact 11-12"), 1);
    for (const std::string& n : names)
        EXPECT_FALSE(n.starts_with("K0 ")) << n;
}

} // namespace
} // namespace ts
