// Reading and writing: equal in, equal out; and every refusal names the place and the reason.

#include "core/io/dossier_text.h"
#include "core/io/json_tree.h"
#include "tests/support/circuits.h"

#include <chrono>

#include <nlohmann/json.hpp>

#include <algorithm>

namespace ts {
namespace {

std::string demoText()
{
    return *io::systemFiles().read(test::demoPath());
}

std::string replaced(std::string text, std::string_view from, std::string_view to)
{
    const std::size_t at = text.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    return text.replace(at, from.size(), to);
}

Error refusal(std::string_view text)
{
    const auto result = io::parseDossier(text);
    EXPECT_FALSE(result) << "should have been refused";
    return result ? Error{} : result.error();
}

TEST(DossierText, DemoIsCanonical)
{
    const std::string text = demoText();
    EXPECT_EQ(io::printDossier(*io::parseDossier(text)), text)
        << "the demo file is what the program itself would write";
}

TEST(DossierText, TheWholeDebarkerIsCanonicalToo)
{
    const std::string text = *io::systemFiles().read(test::sourcePath("data/demo/larkspur_db2.sentry"));
    EXPECT_EQ(io::printDossier(*io::parseDossier(text)), text);
}

TEST(DossierText, WhatNobodyEnteredIsNotWritten)
{
    DossierFile file = test::demoFile();
    EXPECT_TRUE(file.dossier.machine.duty.isEntered);
    file.dossier.machine.duty = {};
    const std::string text = io::printDossier(file);
    EXPECT_EQ(text.find("days_per_year"), std::string::npos);
    EXPECT_FALSE(io::parseDossier(text)->dossier.machine.duty.isEntered);
}

TEST(DossierText, TriggersTestsAndDaysComeBack)
{
    DossierFile file = test::demoFile();
    SafetyFunction& f = file.dossier.functions.front();
    f.alsoBy = {{f.mustRest.front(), "press"}, {f.trigger.device, "release"}};
    f.manualTest = {31.0, "2026-05-31"};
    file.dossier.machine.inUseSince = "2026-01-01";
    EXPECT_EQ(*io::parseDossier(io::printDossier(file)), file);
    const Error wrong = refusal(replaced(io::printDossier(file), "2026-05-31", "2026-05-32"));
    EXPECT_EQ(wrong.message.id, "file.not_a_date");
    EXPECT_NE(wrong.place.pointer.find("last_on"), std::string::npos);
}

TEST(DossierText, APlanComesBackAndOneThatSaysAThingTwiceDoesNot)
{
    DossierFile file = test::demoFile();
    file.dossier.machine.plan = {{{"stop", "straight"}, {"site", "Larkspur Sawmill"}},
        {{1, {{"base", "direct"}}}, {7, {{"base", "reversing"}, {"moves", "roller deck"}}}},
        {{"7.base", "as in the old panel"}}};
    const std::string text = io::printDossier(file);
    const auto again = io::parseDossier(text);
    ASSERT_TRUE(again) << again.error().message.id;
    EXPECT_EQ(again->dossier.machine.plan, file.dossier.machine.plan);
    EXPECT_EQ(refusal(replaced(text, "\"choice\": \"site\"", "\"choice\": \"stop\"")).message.id, "file.chosen_twice");
    EXPECT_EQ(refusal(replaced(text, "\"number\": 7", "\"number\": 1")).message.id, "file.starter_order");
    EXPECT_EQ(refusal(replaced(text, "\"number\": 7", "\"number\": 21")).place.pointer,
        "/dossier/machine/plan/starters/1/number");
}

TEST(DossierText, APlWithoutAPfhdIsReadAndNothingAtAllIsNot)
{
    const std::string text = demoText();
    const std::size_t at = text.find("\"pfhd_per_hour\"");
    ASSERT_NE(at, std::string::npos);
    const std::string line = text.substr(at, text.find('\n', at) + 1 - at);
    EXPECT_TRUE(io::parseDossier(replaced(text, line, "")));
    EXPECT_EQ(refusal(replaced(replaced(text, line, ""), "\"performance_level\": \"e\",", "")).message.id,
        "file.one_reliability");
}

TEST(DossierText, PrintingAndReadingGiveTheSame)
{
    DossierFile file = test::demoFile();
    file.record.push_back({"2026-01-02", "tester", "quote \" backslash \\ newline \n tab \t euro \u20ac"});
    file.dossier.functions[0].claim[2].channels[0].parts[0].operationsPerYear = 1.0 / 3.0;
    EXPECT_EQ(*io::parseDossier(io::printDossier(file)), file);
}

/// Names of faults, reports and drawings follow the ids, not the order in which a file lists things.
TEST(DossierText, OrderInTheFileMeansNothing)
{
    const DossierFile file = test::demoFile();
    auto json = nlohmann::json::parse(io::printDossier(file));
    auto& circuit = json["dossier"]["circuit"];
    for (const char* list : {"devices", "wires", "routes"})
        std::reverse(circuit[list].begin(), circuit[list].end());
    for (const char* list : {"scenarios", "functions"})
        std::reverse(json["dossier"][list].begin(), json["dossier"][list].end());
    EXPECT_EQ(*io::parseDossier(json.dump()), file);
}

TEST(DossierText, WhatIsDecidedForAFunctionComesBack)
{
    DossierFile file = test::demoFile();
    SafetyFunction& f = file.dossier.functions[0];
    f.risk = RiskAnswers{true, false, true, true, "seldom opened"};
    f.restart = RestartRule::Release;
    f.resetBy = f.trigger.device;
    f.approach = {0.0125, 0.85, 0.2, Safeguard::FineCurtain, 0.03, {2.1, 2.05}, "2026-11-26", "2027-11-26"};
    f.conditions.software = true;
    f.conditions.softwareVersion = "3";
    f.conditions.evidence["environment"] = "sheet 7";
    f.claim[2].ccfEvidence["separation"] = "two cables";
    f.claim[2].test = ClaimedTest{{"watchdog", {f.claim[2].channels[0].parts[0]}}, 120.0, true};
    f.claim[2].channels[0].parts[0].excludedBecause = "over-dimensioned";
    for (const ReadingField& reading : kReadings)
        reading.set(file.dossier.arithmetic, 1);
    file.dossier.arithmetic.toleranceOnLimits = true;
    file.dossier.arithmetic.missionYears = 15.0;
    file.dossier.arithmetic.commonCauseShare = 0.05;
    file.dossier.arithmetic.typicalFactor = 4.0;
    file.dossier.arithmetic.makerFactor = 2.0;
    file.dossier.arithmetic.cyclesFactor = 3.0;
    for (Part& p : file.dossier.circuit.parts)
        if (p.reliability && p.reliability->b10dCycles)
            p.reliability = Reliability{.b10Cycles = 5e5, .dangerousShare = 0.3, .source = "sheet"};
    const auto back = io::parseDossier(io::printDossier(file));
    ASSERT_TRUE(back) << back.error().message.id << " " << back.error().place.pointer;
    EXPECT_EQ(*back, file);
}

TEST(DossierText, SecondCircuitLoads)
{
    const auto file = io::loadDossier(test::sourcePath("tests/data/pump_230v_ac.sentry"));
    ASSERT_TRUE(file) << file.error().message.id;
    EXPECT_EQ(file->dossier.circuit.devices.size(), 11u);
}

struct Case {
    const char* name;
    const char* from;
    const char* to;
    const char* message;
};
class Refused : public ::testing::TestWithParam<Case> { };

TEST_P(Refused, NamesReasonAndLine)
{
    const Error e = refusal(replaced(demoText(), GetParam().from, GetParam().to));
    EXPECT_EQ(e.message.id, GetParam().message);
    EXPECT_GT(e.place.line, 0);
    EXPECT_GT(e.place.column, 0);
}

INSTANTIATE_TEST_SUITE_P(All, Refused,
    ::testing::Values(Case{"key", "\"tag\": \"Q0\"", "\"tga\": \"Q0\"", "file.missing"},
        Case{"unknownKey", "\"site\":", "\"sight\":", "file.unknown_key"},
        Case{"duplicateKey", "\"tag\": \"Q0\"", "\"tag\": \"Q0\", \"tag\": \"Q9\"", "json.duplicate_key"},
        Case{"kind", "\"kind\": \"breaker\"", "\"kind\": \"flux_capacitor\"", "kind.unknown"},
        Case{"terminal", "\"from\": \"G0:L1\"", "\"from\": \"G0:L9\"", "wire.no_terminal"},
        Case{"tagTwice", "\"tag\": \"Q2\"", "\"tag\": \"Q1\"", "file.duplicate_tag"},
        Case{"idTwice", "\"id\": 2,", "\"id\": 1,", "file.duplicate_id"},
        Case{"range", "\"poles\": 3,", "\"poles\": 300,", "parameter.outside"},
        Case{"negative", "\"length_m\": 1.5", "\"length_m\": -1", "file.outside"},
        Case{"type", "\"length_m\": 1.5", "\"length_m\": \"long\"", "file.not_a_number"},
        Case{"word", "\"characteristic\": \"C\"", "\"characteristic\": \"Z\"", "parameter.unknown_word"},
        Case{"parameter", "\"characteristic\": \"C\"", "\"character\": \"C\"", "parameter.unknown"},
        Case{"numbering", "\"21-22\",", "\"21-23\",", "kind.contact_numbering"},
        Case{"plate", "\"cos_phi\": 0.75", "\"cos_phi\": 0.35", "motor.plate_impossible"},
        Case{"huge", "\"rated_power_w\": 750", "\"rated_power_w\": 1e999", "json.number_out_of_range"},
        Case{"nan", "\"rated_power_w\": 750", "\"rated_power_w\": NaN", "json.broken"},
        Case{"newer", "\"draft-2\"", "\"draft-3\"", "file.newer"},
        Case{"newerRelease", "\"draft-2\"", "\"1\"", "file.newer"},
        Case{"otherFormat", "\"draft-2\"", "\"shopping list\"", "file.unknown_format"},
        Case{"category", "\"category\": \"4\"", "\"category\": \"5\"", "file.unknown_word"},
        Case{"dc", "\"dc\": 0.99", "\"dc\": 1.5", "file.outside"},
        Case{"route", "\"route\": 22", "\"route\": 4711", "wire.no_route"},
        Case{"noName", "\"name\": \"Emergency stop\"", "\"name\": \"\"", "function.no_name"},
        Case{"blankName", "\"name\": \"Emergency stop\"", "\"name\": \"  \"", "function.no_name"},
        Case{"part", "\"part\": \"LK-SR2\"", "\"part\": \"LK-XX\"", "part.unknown"}),
    [](const auto& info) { return info.param.name; });

TEST(HostileText, IsRefusedQuickly)
{
    const auto begin = std::chrono::steady_clock::now();
    EXPECT_EQ(refusal("").message.id, "json.broken");
    EXPECT_EQ(refusal("null").message.id, "file.not_an_object");
    EXPECT_EQ(refusal("[]").message.id, "file.not_an_object");
    EXPECT_EQ(refusal(std::string(200000, '[')).message.id, "json.too_deep");
    std::string objects;
    for (int i = 0; i < 100000; ++i)
        objects += "{\"a\":";
    EXPECT_EQ(refusal(objects).message.id, "json.too_deep");
    EXPECT_EQ(refusal(std::string(io::kLargestFileBytes + 1, ' ')).message.id, "json.too_large");
    EXPECT_EQ(refusal(std::string("\x7f"
                                  "ELF\0\1\2\3\xff\xfe",
                          10))
                  .message.id,
        "json.broken");
    std::string many = "{\"format\":\"draft-2\",\"dossier\":{\"machine\":{\"name\":\"m\"},\"circuit\":{\"devices\":[";
    for (int i = 1; i <= 20000; ++i)
        many += (i > 1 ? "," : "") + std::string("{}");
    EXPECT_EQ(refusal(many + "]}}}").message.id, "file.too_many");
    EXPECT_LT(std::chrono::steady_clock::now() - begin, std::chrono::seconds(10)) << "a hang, not a speed test";
}

TEST(HostileText, EveryCutIsRefusedAndNoneCrashes)
{
    const std::string text = demoText();
    for (std::size_t cut = 0; cut + 2 < text.size(); cut += 97)
        EXPECT_FALSE(io::parseDossier(std::string_view(text).substr(0, cut))) << cut;
}

TEST(HostileText, FlippedBytesNeverCrash)
{
    const std::string text = demoText();
    unsigned seed = 12345;
    for (int i = 0; i < 400; ++i) {
        std::string flipped = text;
        for (int k = 0; k < 3; ++k) {
            seed = seed * 1664525u + 1013904223u;
            flipped[seed % flipped.size()] = static_cast<char>(seed >> 24);
        }
        const auto result = io::parseDossier(flipped);
        if (!result)
            EXPECT_FALSE(result.error().message.id.empty());
    }
}

} // namespace
} // namespace ts
