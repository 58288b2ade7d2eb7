// The command line as a user sees it: what comes out where, exit codes, and JSON against its schemas and a kept file.

#include "core/checks/check.h"
#include "tests/support/circuits.h"
#include "tests/support/cli_rig.h"
#include "tests/support/golden.h"
#include "wording/wording.h"

#include <nlohmann/json.hpp>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

#include <filesystem>
#include <fstream>

namespace ts {
namespace {

using test::Said;

Said run(const std::vector<std::string>& arguments, std::stop_token stop = {})
{
    return test::runCli(arguments, std::move(stop));
}

std::string text(const std::string& relative)
{
    return *io::systemFiles().read(test::sourcePath(relative));
}

std::string trouble(const std::string& schemaFile, const std::string& document)
{
    valijson::Schema schema;
    valijson::SchemaParser parser;
    const auto schemaJson = nlohmann::json::parse(text(schemaFile));
    parser.populateSchema(valijson::adapters::NlohmannJsonAdapter(schemaJson), schema);
    const auto json = nlohmann::json::parse(document);
    valijson::Validator validator;
    valijson::ValidationResults results;
    if (validator.validate(schema, valijson::adapters::NlohmannJsonAdapter(json), &results))
        return {};
    std::string all;
    for (valijson::ValidationResults::Error e; results.popError(e);) {
        for (const std::string& c : e.context)
            all += c;
        all += ": " + e.description + "\n";
    }
    return all.empty() ? "invalid" : all;
}

const std::string kPump = test::sourcePath("tests/data/pump_230v_ac.sentry");

std::string changedDemo(const std::string& from, const std::string& to)
{
    std::string t = *io::systemFiles().read(test::demoPath());
    const std::size_t at = t.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    const auto path = std::filesystem::temp_directory_path()
        / ("tall_sentry_cli_" + std::to_string(::getpid()) + ".sentry");
    EXPECT_TRUE(io::saveText(path, t.replace(at, from.size(), to)));
    return path;
}

TEST(Schemas, DossiersConform)
{
    EXPECT_EQ(trouble("docs/formats/dossier.schema.json", *io::systemFiles().read(test::demoPath())), "");
    EXPECT_EQ(trouble("docs/formats/dossier.schema.json", *io::systemFiles().read(kPump)), "");
    EXPECT_NE(
        trouble("docs/formats/dossier.schema.json", R"({"format":"draft-2","dossier":{"machine":{"nom":"x"}}})"), "")
        << "the schema refuses something";
}

TEST(Check, SaysWhatCountsWhatWasFoundAndWhatWasNotLookedAt)
{
    const Said said = run({"check", test::demoPath()});
    EXPECT_EQ(said.code, 1) << "its contact block alone loses the stop: " << said.err;
    EXPECT_NE(
        said.out.find("At most PL b by its single faults; claimed PL e; needed PL d: not reached"), std::string::npos)
        << said.out;
    EXPECT_NE(said.out.find("S0 contact block: fallen off"), std::string::npos);
    EXPECT_NE(said.out.find("not checked: Second faults"), std::string::npos) << "what was not looked at is listed";
    EXPECT_NE(said.out.find("replaces neither"), std::string::npos) << "the caution is always there";
    EXPECT_TRUE(said.err.empty());
}

TEST(Check, FindingsGiveExitCodeOne)
{
    const std::string path = changedDemo("\"stop_category\": 0", "\"stop_category\": 2");
    const Said said = run({"check", path});
    EXPECT_EQ(said.code, 1);
    EXPECT_NE(said.out.find("stop category 0 or 1, 2 is chosen"), std::string::npos) << said.out;
    const Said json = run({"check", "--json", path});
    EXPECT_EQ(json.code, 1);
    EXPECT_EQ(trouble("docs/formats/check.schema.json", json.out), "");
    const auto verdict = nlohmann::json::parse(json.out)["verdicts"][0]["verdict"];
    EXPECT_EQ(verdict["claimed"], "e");
    EXPECT_EQ(verdict["at_most"], "b");
    EXPECT_EQ(verdict["level"], "b") << "the worse of claimed and what was found";
    EXPECT_TRUE(verdict["built"].is_null()) << "second faults were not tried";
    EXPECT_EQ(verdict["answer"], "not_reached");
}

TEST(Check, JsonNamesWhatIsNotKnownAndHowMuchOfIt)
{
    const Said said = run({"check", "--json", kPump});
    ASSERT_EQ(trouble("docs/formats/check.schema.json", said.out), "");
    const auto unknown = nlohmann::json::parse(said.out)["verdicts"][0]["verdict"]["not_known"];
    const std::size_t wires = io::loadDossier(kPump)->dossier.circuit.wires.size();
    EXPECT_TRUE(std::find(unknown.begin(), unknown.end(), "unknown.routes " + std::to_string(wires)) != unknown.end())
        << "no wire of it has a route: " << unknown.dump();
}

TEST(Check, WhatWasWorkedOutOnceIsFoundAgainAndSaysTheSame)
{
    const auto folder = std::filesystem::temp_directory_path() / ("tall_sentry_kept_" + std::to_string(::getpid()));
    const std::vector<std::string> command{"levels", "--all", "--json", "--remember", folder, kPump};
    const std::string sweeping = wording::word("study.pairs");
    const Said first = run(command);
    EXPECT_NE(first.err.find(sweeping), std::string::npos) << first.err;
    const Said second = run(command);
    EXPECT_EQ(second.err.find(sweeping), std::string::npos) << "nothing was swept again";
    EXPECT_EQ(second.out, first.out);
    EXPECT_EQ(second.code, first.code);
    for (const auto& kept : std::filesystem::directory_iterator(folder))
        std::ofstream(kept.path(), std::ios::binary | std::ios::trunc) << "half of";
    const Said third = run(command);
    EXPECT_NE(third.err.find(sweeping), std::string::npos) << "what is damaged is worked out anew";
    EXPECT_EQ(third.out, first.out);
    std::filesystem::remove_all(folder);
}

TEST(Tried, JsonOfOrdersAndStopFollowsItsSchema)
{
    const Said orders = run({"explore", "--json", "--no-faults", kPump});
    EXPECT_EQ(orders.code, 0) << orders.err;
    EXPECT_EQ(trouble("docs/formats/explore.schema.json", orders.out), "");
    const Said bounded = run({"explore", "--json", "--no-faults", "--bound", "5", kPump});
    EXPECT_EQ(bounded.code, 3) << "not decided is not in order";
    EXPECT_EQ(trouble("docs/formats/explore.schema.json", bounded.out), "");
    EXPECT_EQ(trouble("docs/formats/stop.schema.json", run({"stop", "--json", kPump}).out), "");
    EXPECT_NE(trouble("docs/formats/stop.schema.json", R"({"format":"stop-1"})"), "");
}

TEST(Tested, JsonOfPlanMistakesAndRehearsalFollowsItsSchema)
{
    const std::string demo = test::demoPath();
    EXPECT_EQ(trouble("docs/formats/mistakes.schema.json", run({"mistakes", "--json", demo}).out), "");
    EXPECT_EQ(trouble("docs/formats/tests.schema.json", run({"tests", "--json", demo}).out), "");
    EXPECT_EQ(trouble("docs/formats/rehearse.schema.json", run({"rehearse", "--json", "--built", demo, demo}).out), "");
    EXPECT_EQ(trouble("docs/formats/find.schema.json", run({"find", "--json", "--built", demo, demo}).out), "");
    EXPECT_EQ(trouble("docs/formats/find.schema.json", run({"find", "--json", demo}).out), "");
    EXPECT_EQ(trouble("docs/formats/bridge.schema.json",
                  run({"bridge", "--json", "--between", "S0:11", "--and", "S0:12", demo}).out),
        "");
    EXPECT_EQ(trouble("docs/formats/drill.schema.json",
                  test::runCli({"drill", "--json", "--mistake", "missing/64", demo}, {}, "give_up\n").out),
        "");
    EXPECT_EQ(trouble("docs/formats/retest.schema.json", run({"retest", "--json", demo}).out), "");
    EXPECT_NE(trouble("docs/formats/tests.schema.json", R"({"format":"tests-1"})"), "");
}

/// An end on a terminal where no list has it: what is said of it is true, and follows the schema.
TEST(Found, AnEndThatIsElsewhereIsSaidToBeOff)
{
    const std::string demo = test::demoPath(), from = "\"number\": \"40\",\n          \"from\": \"Q1:A2\"";
    const std::string built = changedDemo(from, "\"number\": \"40\",\n          \"from\": \"Q0:5\"");
    const Said said = run({"find", "--json", "--built", built, demo});
    EXPECT_EQ(trouble("docs/formats/find.schema.json", said.out), "");
    const auto found = nlohmann::json::parse(said.out);
    if (!found.at("unexplained").get<bool>()) {
        const auto& first = found.at("classes").at(0).at("candidates").at(0);
        EXPECT_EQ(first.at("id"), "off/74/from");
        EXPECT_EQ(first.at("kind"), "off_one_end");
    }
}

TEST(Check, AnEmergencyStopThatIsDeadIsNeverWithoutFindings)
{
    // Once: no function was suggested for it, "0 findings", exit code 0.
    const std::string file = ::testing::TempDir() + "dead_stop.sentry";
    std::filesystem::remove(file);
    run({"new", "reversing", "--with", "hold=ahead_of_stop", "-o", file});
    const Said said = run({"check", file});
    EXPECT_EQ(said.code, 1);
    EXPECT_NE(said.out.find("S0 was operated and M1 went on"), std::string::npos) << said.out;
    EXPECT_NE(said.out.find("M1 is brought to rest by no function"), std::string::npos);
    EXPECT_EQ(trouble("docs/formats/check.schema.json", run({"check", "--json", file}).out), "");
}

TEST(Levels, TextAndJson)
{
    const Said said = run({"levels", test::demoPath()});
    EXPECT_EQ(said.code, 1) << "as built it is not what is claimed";
    EXPECT_NE(said.out.find("Emergency stop: as claimed PL e, required PL d, PFHd 4.31e-9 /h"), std::string::npos);
    EXPECT_NE(said.out.find("At most PL b"), std::string::npos) << "one verdict everywhere";
    EXPECT_NE(said.out.find("stop category 0"), std::string::npos);
    const Said json = run({"levels", test::demoPath(), "--json"});
    EXPECT_EQ(trouble("docs/formats/levels.schema.json", json.out), "");
    test::expectGolden("tests/golden/levels_demo.json", json.out);
}

TEST(Levels, CsvHasALineForEachValueAndNoFormulaCell)
{
    auto dossier = test::demoFile();
    dossier.dossier.functions[0].name = "=1+1";
    const std::string path = (std::filesystem::path(::testing::TempDir()) / "formula.sentry").string();
    ASSERT_TRUE(io::saveDossier(path, dossier));
    const Said said = run({"levels", path, "--csv"});
    EXPECT_EQ(said.out.rfind("function,subject,value,number,unit,formula,source\n", 0), 0u);
    EXPECT_NE(said.out.find("'=1+1,"), std::string::npos) << "a spreadsheet would calculate it";
    EXPECT_EQ(said.out.find("\n=1+1"), std::string::npos);
    EXPECT_GT(std::count(said.out.begin(), said.out.end(), '\n'), 20);
}

TEST(Improve, JsonFollowsItsSchemaAndTextSaysTheEffort)
{
    auto dossier = test::demoFile();
    dossier.dossier.functions[0].claim[2].ccfAnswers = {"separation", "overload_protection", "well_tried", "analysis"};
    const std::string path = (std::filesystem::path(::testing::TempDir()) / "improve.sentry").string();
    ASSERT_TRUE(io::saveDossier(path, dossier));
    const Said json = run({"improve", path, "--json"});
    ASSERT_EQ(json.code, 0) << json.err;
    EXPECT_EQ(trouble("docs/formats/improve.schema.json", json.out), "");
    const Said words = run({"improve", path});
    EXPECT_NE(words.out.find("no level now, needed PL d"), std::string::npos) << words.out;
    EXPECT_NE(words.out.find("effort 1  PL e reaches"), std::string::npos) << words.out;
    EXPECT_EQ(run({"improve", path, "--function", "nobody"}).code, 2);
}

TEST(Skyline, IsAnSvgOfAllFunctions)
{
    const Said said = run({"skyline", test::demoPath()});
    ASSERT_EQ(said.code, 0) << said.err;
    EXPECT_EQ(said.out.rfind("<?xml", 0), 0u);
    EXPECT_NE(said.out.find("Emergency stop"), std::string::npos);
    EXPECT_NE(said.out.find("PL b at most"), std::string::npos) << "PL e is claimed, single faults alone take it away";
}

TEST(Levels, NotReachedGivesExitCodeOne)
{
    EXPECT_EQ(run({"levels", kPump}).code, 1);
}

TEST(Simulate, JsonIsKept)
{
    const Said json = run({"simulate", test::demoPath(), "--json", "--until", "5"});
    EXPECT_EQ(json.code, 0);
    EXPECT_EQ(trouble("docs/formats/simulate.schema.json", json.out), "");
    test::expectGolden("tests/golden/simulate_demo.json", json.out);
}

TEST(Simulate, ScenarioByIdOrNameAndFaults)
{
    EXPECT_EQ(run({"simulate", test::demoPath(), "--scenario", "92"}).code, 0);
    EXPECT_EQ(run({"simulate", test::demoPath(), "--scenario", "Mains lost and back"}).code, 0);
    const Said welded = run({"simulate", test::demoPath(), "--fault", "Q1/main:welded", "--json"});
    EXPECT_EQ(welded.code, 1) << "with a welded contactor the first reset is refused already";
    EXPECT_EQ(trouble("docs/formats/simulate.schema.json", welded.out), "");
    const Said unknown = run({"simulate", test::demoPath(), "--scenario", "no such"});
    EXPECT_EQ(unknown.code, 2);
    EXPECT_NE(unknown.err.find("91 (Emergency stop while running)"), std::string::npos);
    const Said fault = run({"simulate", test::demoPath(), "--fault", "Q1/main:melted"});
    EXPECT_EQ(fault.code, 2);
    EXPECT_NE(fault.err.find("Q1/main:welded"), std::string::npos) << "says what it knows";
}

TEST(Simulate, UntilEndsEarlierOrLater)
{
    const auto end = [](const char* until) {
        return nlohmann::json::parse(run({"simulate", test::demoPath(), "--json", "--until", until}).out)["end_s"]
            .get<std::string>();
    };
    EXPECT_EQ(end("2.5"), "2.500000000");
    EXPECT_EQ(end("40"), "40.000000000");
}

TEST(Report, IsOneSelfContainedFile)
{
    const Said said = run({"report", test::demoPath()});
    EXPECT_EQ(said.code, 1) << "the report is written, and it holds something to be corrected";
    EXPECT_EQ(said.out.rfind("<!DOCTYPE html>", 0), 0u);
    for (const char* outside : {"http://", "https://", "<script", "<link", "src=\""})
        EXPECT_EQ(said.out.find(outside), std::string::npos) << outside;
    EXPECT_EQ(said.out, run({"report", test::demoPath()}).out) << "same input, same bytes";
}

TEST(Report, EscapesWhatComesFromTheFile)
{
    const std::string path = changedDemo("\"label\": \"main breaker\"", "\"label\": \"<script>alert(1)</script>\"");
    const std::string named = changedDemo(
        "\"name\": \"Debarker DB-2: chip blower\"", "\"name\": \"<script>alert(1)</script>\"");
    EXPECT_EQ(run({"report", named}).out.find("<script>"), std::string::npos);
    EXPECT_EQ(run({"report", path}).out.find("<script>"), std::string::npos);
}

TEST(Unusable, FilesAndArgumentsGiveExitCodeTwo)
{
    for (const char* command : {"check", "levels", "simulate", "report"}) {
        const Said absent = run({command, "/no/such/file.sentry"});
        EXPECT_EQ(absent.code, 2);
        EXPECT_NE(absent.err.find("/no/such/file.sentry"), std::string::npos);
        EXPECT_TRUE(absent.out.empty()) << "nothing half done on standard output";
    }
    const std::string broken = changedDemo("\"kind\": \"breaker\"", "\"kind\": \"teapot\"");
    const Said said = run({"check", broken});
    EXPECT_EQ(said.code, 2);
    EXPECT_NE(said.err.find(".sentry:"), std::string::npos) << said.err;
    EXPECT_NE(said.err.find("no device kind \"teapot\""), std::string::npos) << said.err;
    EXPECT_EQ(run({}).code, 2);
    EXPECT_EQ(run({"fly", test::demoPath()}).code, 2);
    EXPECT_EQ(run({"simulate", test::demoPath(), "--until", "-3"}).code, 2);
    EXPECT_EQ(run({"--help"}).code, 0);
}

/// A file in the temporary folder, gone at the end.
class TemporaryFile {
public:
    explicit TemporaryFile(const std::string& name)
        : path(std::filesystem::temp_directory_path() / (std::to_string(::getpid()) + "_" + name))
    {
    }
    ~TemporaryFile() { std::filesystem::remove(path); }
    std::string text() const { return *io::systemFiles().read(path); }
    const std::string path;
};

TEST(Patterns, AreListedInWordsAndAsJson)
{
    const Said said = run({"patterns"});
    EXPECT_EQ(said.code, 0);
    EXPECT_NE(said.out.find("two channels into a safety relay"), std::string::npos);
    EXPECT_EQ(said.out.find("choice."), std::string::npos) << "no id is left without its sentence";
    const Said json = run({"patterns", "--json"});
    EXPECT_EQ(trouble("docs/formats/patterns.schema.json", json.out), "");
}

/// A test by hand and the day on which it is asked for.
TEST(CheckCommand, SaysWhatIsOverdueOnADay)
{
    const std::string path = changedDemo("\"stop_category\": 0",
        "\"stop_category\": 0, \"manual_test\": {\"every_days\": 30, \"last_on\": \"2026-10-01\"}");
    const auto on = [&](const char* day) { return run({"check", path, "--group", "record", "--on", day}); };
    EXPECT_EQ(on("2026-10-31").out.find("was due on"), std::string::npos);
    EXPECT_NE(on("2026-11-01").out.find("the test by hand was due on 2026-10-31"), std::string::npos)
        << on("2026-11-01").out;
    EXPECT_EQ(on("2026-11-01").code, 1);
    const Said wrong = on("31.10.2026");
    EXPECT_EQ(wrong.code, 2);
    EXPECT_NE(wrong.err.find("31.10.2026"), std::string::npos) << wrong.err;
}

TEST(CheckCommand, ListsExplainsAndKeepsToAGroup)
{
    const Said list = run({"check", "--list"});
    EXPECT_EQ(list.code, 0);
    for (const Check& c : allChecks())
        EXPECT_NE(list.out.find(std::string(c.id)), std::string::npos) << c.id;
    const Said one = run({"check", "--explain", "overloads"});
    EXPECT_NE(one.out.find("overload=none"), std::string::npos) << one.out;
    EXPECT_EQ(run({"check", "--explain", "tea"}).code, 2);
    EXPECT_EQ(run({"check"}).code, 2);
    EXPECT_EQ(run({"check", test::demoPath(), "--group", "tea"}).code, 2);
    const TemporaryFile file("group.sentry");
    run({"new", "direct", "--with", "overload=none", "--with", "monitor=two_transformers", "-o", file.path});
    const Said power = run({"check", file.path, "--group", "power"});
    EXPECT_EQ(power.code, 1);
    EXPECT_NE(power.out.find("No overload protection carries the current of M1"), std::string::npos) << power.out;
    EXPECT_EQ(power.out.find("no required level"), std::string::npos) << "that is of another group";
    EXPECT_NE(power.out.find("No verdict on a function is given"), std::string::npos) << "a part says that it is one";
    const auto json = nlohmann::json::parse(run({"check", file.path, "--group", "indication", "--json"}).out);
    EXPECT_TRUE(json.at("verdicts").empty());
    for (const auto& c : json.at("checks"))
        EXPECT_EQ(checkNamed(c.at("id").get<std::string>())->group, "indication");
}

TEST(SizeCommand, SaysTheWorstFirstAndWhatItDoesNotJudge)
{
    const TemporaryFile file("size.sentry");
    run({"new", "direct", "--advised", "-o", file.path});
    const Said good = run({"size", file.path});
    EXPECT_EQ(good.code, 3) << "nothing too small, and not everything is judged";
    EXPECT_NE(good.out.find("not judged: wire.ampacity"), std::string::npos) << good.out;
    EXPECT_NE(good.out.find("cabinet.heat"), std::string::npos);
    auto small = *io::loadDossier(file.path);
    for (Wire& w : small.dossier.circuit.wires)
        w.areaMm2 = 0.05;
    ASSERT_TRUE(io::saveDossier(file.path, small));
    const Said bad = run({"size", file.path});
    EXPECT_EQ(bad.code, 1);
    EXPECT_NE(bad.out.find("NOT met"), std::string::npos) << bad.out;
    const auto json = nlohmann::json::parse(run({"size", file.path, "--json"}).out);
    EXPECT_FALSE(json.at("headroom").empty());
    EXPECT_TRUE(run({"size", file.path, "--csv"}).out.starts_with("rule,at,"));
    EXPECT_EQ(run({"check", file.path, "--group", "sizing"}).code, 1);
    EXPECT_EQ(run({"size", "nowhere.sentry"}).code, 2);
}

TEST(New, WritesADossierThatConformsAndSaysWhatFollows)
{
    const TemporaryFile file("new.sentry");
    const Said good = run(
        {"new", "reversing", "--with", "stop=two_channel_relay", "--with", "brake=yes", "-o", file.path});
    EXPECT_EQ(good.code, 0) << good.out << good.err;
    EXPECT_EQ(trouble("docs/formats/dossier.schema.json", file.text()), "");
    EXPECT_EQ(run({"simulate", file.path}).code, 0);
    EXPECT_NE(run({"report", file.path}).out.find("</html>"), std::string::npos);
    const Said bad = run({"new", "direct", "--with", "hold=ahead_of_stop", "-o", file.path});
    EXPECT_EQ(bad.code, 1);
    EXPECT_NE(bad.out.find("NOT as expected"), std::string::npos);
    const Said no = run({"new", "drive", "--with", "control=phase_neutral", "-o", file.path});
    EXPECT_EQ(no.code, 2);
    EXPECT_NE(no.err.find("24 V DC"), std::string::npos);
    EXPECT_EQ(run({"new", "teapot", "-o", file.path}).code, 2);
}

/// Each is written by the schema, runs as it says, and is judged without anybody being asked.
TEST(New, TheWordsOfTheTradeAreBuiltAndJudged)
{
    const TemporaryFile file("trade.sentry");
    for (const std::vector<std::string>& words : {std::vector<std::string>{"direct", "operation=two_hand"},
             {"single_phase", "motor=0.37kW", "operation=called_relay"}, {"dc_motor", "motor=0.1kW"},
             {"direct", "control=phase_neutral", "relay_supply=control", "marks=north_american"}}) {
        std::vector<std::string> said{"new", words.front(), "--advised", "-o", file.path};
        for (std::size_t k = 1; k < words.size(); ++k) {
            said.push_back("--with");
            said.push_back(words[k]);
        }
        EXPECT_EQ(run(said).code, 0) << words.back();
        EXPECT_EQ(trouble("docs/formats/dossier.schema.json", file.text()), "") << words.back();
        const Said checked = run({"check", file.path, "--group", "complete"});
        EXPECT_LE(checked.code, 1) << checked.err;
        EXPECT_EQ(checked.out.find("Nothing that hands do brings M1 to run"), std::string::npos) << words.back();
    }
    EXPECT_NE(file.text().find("1=L1"), std::string::npos) << "the last one has its poles printed otherwise";
    EXPECT_EQ(
        run({"new", "direct", "--advised", "--with", "operation=switched", "--with", "stop=straight", "-o", file.path})
            .code,
        1)
        << "it starts when the supply returns";
    const Said no = run({"new", "solid_state", "--advised", "--with", "control=phase_phase", "-o", file.path});
    EXPECT_EQ(no.code, 2);
    EXPECT_NE(no.err.find("choose a transformer"), std::string::npos) << no.err;
    EXPECT_EQ(run({"patterns"}).out.find("choice."), std::string::npos) << "every word has its text";
}

/// A machine of three motors, one more beside it, one taken out again: what is lost is said before anything is written.
TEST(Plan, IsChangedAfterwardsAndSaysWhatIsLost)
{
    const TemporaryFile file("machine.sentry"), more("more.sentry");
    const Said made = run({"new", "reversing", "--advised", "--with", "2.base=star_delta", "--with", "2.motor=30kW",
        "--with", "2.load=none", "-o", file.path});
    EXPECT_EQ(made.code, 0) << made.out << made.err;
    EXPECT_NE(made.out.find("M1 (motor) and M2 (motor)"), std::string::npos) << made.out;
    const std::string before = file.text();
    EXPECT_EQ(run({"plan", file.path, "--without", "2"}).code, 0);
    EXPECT_EQ(file.text(), before) << "nothing is written without -o";
    const Said changed = run({"plan", file.path, "--with", "3.motor=0.75kW", "--without", "2", "-o", more.path});
    EXPECT_EQ(changed.code, 0) << changed.out << changed.err;
    EXPECT_NE(changed.out.find("claim loses the parts of Q21"), std::string::npos) << changed.out;
    EXPECT_EQ(trouble("docs/formats/dossier.schema.json", more.text()), "");
    const auto now = io::loadDossier(more.path);
    ASSERT_TRUE(now);
    EXPECT_FALSE(now->dossier.circuit.device("M2"));
    EXPECT_TRUE(now->dossier.circuit.device("M3"));
    EXPECT_EQ(run({"plan", file.path, "--without", "9"}).code, 2);
    EXPECT_EQ(run({"plan", test::demoPath(), "--with", "2.base=direct"}).code, 2);
}

/// What was chosen, and why, stands in the report; what a file says there is only text.
TEST(Report, SaysWhatWasChosenAndWhy)
{
    const TemporaryFile file("chosen.sentry");
    ASSERT_EQ(run({"new", "direct", "--with", "2.base=star_delta", "-o", file.path}).code, 0);
    auto made = *io::loadDossier(file.path);
    made.dossier.machine.plan.reasons["2.base"] = "the <b>grid</b> is weak";
    made.dossier.machine.plan.words["stop"] = "<script>alert(1)</script>";
    ASSERT_TRUE(io::saveDossier(file.path, made));
    const Said html = run({"report", file.path});
    EXPECT_NE(html.out.find("What was chosen, and why"), std::string::npos);
    EXPECT_NE(html.out.find("main, star and delta contactor with a timer"), std::string::npos) << "in words";
    EXPECT_NE(html.out.find("the &lt;b&gt;grid&lt;/b&gt; is weak"), std::string::npos);
    EXPECT_EQ(html.out.find("<script>alert"), std::string::npos);
    EXPECT_EQ(run({"report", test::demoPath()}).out.find("What was chosen, and why"), std::string::npos)
        << "drawn by hand: nothing was chosen";
}

TEST(Lists, GoOutAndComeBackIn)
{
    const TemporaryFile devices("devices.csv"), wires("wires.csv"), parts("parts.json"), file("again.sentry"),
        more("more.sentry");
    EXPECT_EQ(
        run({"export", test::demoPath(), "--devices", devices.path, "--wires", wires.path, "--parts", parts.path}).code,
        0);
    EXPECT_EQ(trouble("docs/formats/parts.schema.json", parts.text()), "");
    const Said in = run(
        {"import", "--devices", devices.path, "--wires", wires.path, "--parts", parts.path, "-o", file.path});
    EXPECT_EQ(in.code, 0) << in.err;
    const auto again = io::loadDossier(file.path);
    ASSERT_TRUE(again);
    EXPECT_EQ(again->dossier.circuit.devices.size(), test::demoFile().dossier.circuit.devices.size());
    EXPECT_EQ(again->dossier.circuit.wires.size(), test::demoFile().dossier.circuit.wires.size());
    EXPECT_EQ(
        run({"parts", file.path, "--add", test::sourcePath("data/parts/larkspur_parts.csv"), "-o", more.path}).code, 0);
    EXPECT_GT(io::loadDossier(more.path)->dossier.circuit.parts.size(), again->dossier.circuit.parts.size());
    // An error names the list and the place in it.
    ASSERT_TRUE(io::saveText(wires.path, "from,to\nQ1:A1,Q1:99\n"));
    const Said wrong = run(
        {"import", "--devices", devices.path, "--wires", wires.path, "--parts", parts.path, "-o", file.path});
    EXPECT_EQ(wrong.code, 2);
    EXPECT_NE(wrong.err.find("wires.csv:2:7: "), std::string::npos) << wrong.err;
}

/// A run of given steps, kept with what it shows; played again it ends as expected.
TEST(ScenarioCommand, KeepsARunWithWhatItShows)
{
    const TemporaryFile made("made.sentry"), steps("run.txt"), file("kept.sentry");
    ASSERT_EQ(run({"new", "direct", "-o", made.path}).code, 0);
    ASSERT_TRUE(io::saveText(steps.path, "# start, then stop\n2.0 press S2\n2,6 release S2\n\n14 press S1\n"));
    const Said kept = run(
        {"scenario", made.path, "--from-run", steps.path, "--name", "By hand", "--until", "60", "-o", file.path});
    EXPECT_EQ(kept.code, 0) << kept.err;
    const auto dossier = io::loadDossier(file.path)->dossier;
    const Scenario* scenario = dossier.scenario("By hand");
    ASSERT_TRUE(scenario);
    const auto expects = [scenario](double after, double before, const char* subject, const char* state) {
        return std::any_of(scenario->expectations.begin(), scenario->expectations.end(), [&](const Expectation& e) {
            return e.atS > after && e.atS < before && e.subject == subject && e.state == state;
        });
    };
    EXPECT_TRUE(expects(0, 2, "M1", "at_rest"));
    EXPECT_TRUE(expects(2, 14, "M1", "driven"));
    EXPECT_TRUE(expects(14, 61, "M1", "at_rest"));
    EXPECT_TRUE(expects(2, 14, "P1", "lit"));
    EXPECT_EQ(run({"simulate", file.path, "--scenario", "By hand"}).code, 0);
    ASSERT_TRUE(io::saveText(steps.path, "2.0 press S2\nsoon press S1\n"));
    const Said bad = run({"scenario", made.path, "--from-run", steps.path});
    EXPECT_EQ(bad.code, 2);
    EXPECT_NE(bad.err.find("run.txt:2"), std::string::npos) << bad.err;
    ASSERT_TRUE(io::saveText(steps.path, "2.0 press S77\n"));
    EXPECT_EQ(run({"scenario", made.path, "--from-run", steps.path}).code, 2);
    EXPECT_EQ(run({"scenario", made.path}).code, 2) << "neither was asked for";
}

/// From a typed panel without a word about what it does to functions that can be judged.
TEST(ScenarioCommand, SaysWhatACircuitDoesAndKeepsIt)
{
    const TemporaryFile made("made.sentry"), file("seen.sentry");
    ASSERT_EQ(run({"new", "reversing", "-o", made.path}).code, 0);
    auto bare = *io::loadDossier(made.path);
    bare.dossier.functions.clear();
    bare.dossier.scenarios.clear();
    ASSERT_TRUE(io::saveDossier(made.path, bare));
    const Said seen = run({"scenario", made.path, "--suggest", "-o", file.path});
    EXPECT_EQ(seen.code, 0) << seen.err;
    EXPECT_NE(seen.out.find("backwards, and it stays on"), seen.out.npos) << seen.out;
    const auto whole = *io::loadDossier(file.path);
    EXPECT_EQ(whole.dossier.functions.size(), 1u);
    EXPECT_GE(whole.dossier.scenarios.size(), 4u);
    EXPECT_EQ(run({"scenario", made.path}).code, 2) << "what is wanted must be said";
}

/// The demo as lines, and the lines as a dossier; what is wrong is told with its line, and nothing is written.
TEST(TakeCommand, ReadsWhatExportWroteAndTellsEveryLineThatItCannotTake)
{
    const TemporaryFile notes("panel.notes"), file("panel.sentry"), wrong("wrong.notes"), none("none.sentry");
    ASSERT_EQ(run({"export", test::demoPath(), "--notes", notes.path}).code, 0);
    const Said taken = run({"take", notes.path, "-o", file.path});
    EXPECT_EQ(taken.code, 0) << taken.err;
    EXPECT_NE(taken.out.find("S1: push button"), taken.out.npos) << taken.out;
    const auto demo = test::demoFile(), back = *io::loadDossier(file.path);
    EXPECT_EQ(back.dossier.circuit.devices.size(), demo.dossier.circuit.devices.size());
    EXPECT_EQ(back.dossier.circuit.wires.size(), demo.dossier.circuit.wires.size());

    ASSERT_TRUE(io::saveText(wrong.path, "control 24 dc\nQ1 = contactor 13-14\nQ1 13 >\nS9 13 > Q1 13\n"));
    const Said refused = run({"take", wrong.path, "-o", none.path});
    EXPECT_EQ(refused.code, 2);
    EXPECT_NE(refused.err.find(wrong.path + ":3:"), refused.err.npos) << refused.err;
    EXPECT_NE(refused.err.find(wrong.path + ":4:"), refused.err.npos) << refused.err;
    EXPECT_NE(refused.err.find("S9 = contactor"), refused.err.npos) << "what would be right";
    EXPECT_FALSE(io::systemFiles().read(none.path)) << "nothing was written";
    EXPECT_EQ(run({"take", wrong.path, "--into", "/nowhere.sentry", "-o", none.path}).code, 2);
}

/// Two lists typed in, and what import makes of them.
struct TypedIn {
    const TemporaryFile devices{"d.csv"}, wires{"w.csv"}, file{"panel.sentry"};
    Said imported(const std::string& deviceList, const std::string& wireList)
    {
        EXPECT_TRUE(io::saveText(devices.path, deviceList));
        EXPECT_TRUE(io::saveText(wires.path, wireList));
        return run({"import", "--devices", devices.path, "--wires", wires.path, "-o", file.path});
    }
};

TEST(Lists, AreReadAsACountryWithDecimalCommasWritesThemAndSayHow)
{
    TypedIn panel;
    const Said in = panel.imported(
        "tag;kind;parameters;note\nG1;supply_external_24v;;old\nP1;lamp;rated_voltage_v=24;\n",
        "from;to;length_m\nG1:+;P1:X1;2,5\nP1:X2;G1:-;1\nG1:+;P1:X1;1\n");
    EXPECT_EQ(in.code, 0) << in.err;
    for (const char* said : {"semicolons", "decimal points", "\"note\" is none of ours", "a second wire between G1:+"})
        EXPECT_NE(in.err.find(said), std::string::npos) << said << " in " << in.err;
    EXPECT_DOUBLE_EQ(io::loadDossier(panel.file.path)->dossier.circuit.wires.front().lengthM, 2.5);
}

/// A list of somebody else: what was read as what, and what is kept, stands on the error line; nothing is lost.
TEST(Lists, OfSomebodyElseAreTakenAsTheyCome)
{
    TypedIn panel;
    const Said in = panel.imported(
        "Designation;Type;Values;Supplier\nG1;supply_external_24v;;Harrow\nP1;lamp;rated_voltage_v=24;Field\n",
        "Source;Target;Length (m);Drum\nG1:+;P1:X1;2,5;7\nP1:X2;G1:-;1;8\n");
    EXPECT_EQ(in.code, 0) << in.err;
    for (const char* said : {"\"Designation\" was read as tag", "\"Length (m)\" was read as length_m",
             "\"Supplier\" is none of ours", "\"Drum\" is none of ours"})
        EXPECT_NE(in.err.find(said), std::string::npos) << said << " in " << in.err;
    const auto file = io::loadDossier(panel.file.path);
    ASSERT_TRUE(file);
    EXPECT_EQ(file->dossier.circuit.device("G1")->remark, "Supplier: Harrow");
    EXPECT_EQ(file->dossier.circuit.wires.front().remark, "Drum: 7");
}

/// A panel that is typed in, with a valve in it: it is run, and asked who stops it.
TEST(Lists, AValveIsReadRunAndAskedAbout)
{
    TypedIn panel;
    const Said in = panel.imported(
        "tag,kind,parameters\nG1,supply_external_24v,\nS1,push_button,contacts=13-14\n"
        "Y1,solenoid,coil_voltage_v=24;coil_current=dc;coil_power_w=8;acts_in_s=0.05;rests_in_s=0.08\n",
        "from,to,length_m\nG1:+,S1:13,1\nS1:14,Y1:A1,1\nY1:A2,G1:-,1\n");
    ASSERT_EQ(in.code, 0) << in.err;
    const Said checked = run({"check", panel.file.path});
    EXPECT_EQ(checked.code, 1);
    EXPECT_NE(checked.out.find("Y1 is brought to rest by no function"), std::string::npos) << checked.out;
    const Said explored = run({"explore", "--motor", "Y1", "--no-faults", panel.file.path});
    EXPECT_EQ(explored.code, 0) << explored.out << explored.err;
    EXPECT_NE(explored.out.find("Y1: the supply that comes back does not start it: proved"), std::string::npos)
        << explored.out;
    const TemporaryFile report("valve.html");
    EXPECT_EQ(run({"report", panel.file.path, "-o", report.path}).code, 1) << "it is written, with its findings";
    EXPECT_NE(report.text().find("Y1 is brought to rest by no function"), std::string::npos);
}

/// A scenario that does not come about is a finding with an exit code, and names what, when and how often.
TEST(Check, HoldsScenariosAgainstWhatTheyExpect)
{
    const TemporaryFile file("unmet.sentry");
    DossierFile demo = test::demoFile();
    demo.dossier.scenarios[0].expectations.push_back({3.5, "M1", "at_rest"});
    demo.dossier.scenarios[0].expectations.push_back({3.6, "Q1", "out"});
    ASSERT_TRUE(io::saveDossier(file.path, demo));
    const Said s = run({"check", file.path});
    EXPECT_EQ(s.code, 1);
    EXPECT_NE(
        s.out.find("In the scenario \"Emergency stop while running\", M1 is not at rest at 3.50 s"), std::string::npos)
        << s.out;
    EXPECT_NE(s.out.find("2 of its expectations are not met"), std::string::npos);
}

TEST(Lists, TellEverythingThatIsWrongAndWriteNothing)
{
    TypedIn panel;
    const Said in = panel.imported(
        "tag,kind\nG1,supply_external_24v\nQ1,teapot\n", "from,to,length_m\nG1:+,G1:-,far\nG1:+,G1:9,1\n");
    EXPECT_EQ(in.code, 2);
    for (const char* said : {"d.csv:3:4: ", "w.csv:2:11: ", "w.csv:3:6: ", "3 errors; nothing was written"})
        EXPECT_NE(in.err.find(said), std::string::npos) << said << " in " << in.err;
    EXPECT_FALSE(io::loadDossier(panel.file.path));
}

TEST(Report, NamesEveryExclusionThatWasTaken)
{
    const std::string html = run({"report", test::sourcePath("data/demo/larkspur_db2.sentry")}).out;
    EXPECT_NE(html.find("cabinet built to EN 60204-1, wires in ducts, ends with ferrules"), std::string::npos)
        << "of a whole route";
    EXPECT_NE(html.find("device to IEC 60947-5-5, used within its number of operations"), std::string::npos)
        << "of one fault";
}

TEST(Simulate, TakesAFaultByTheNameThatIsPrinted)
{
    const std::string demo = test::demoPath();
    const Said first = run({"simulate", demo, "--fault", "G1:++Q1:A2:short"});
    EXPECT_NE(first.code, 2) << first.err;
    EXPECT_NE(run({"simulate", demo, "--fault", "G1:++Q1:A9:short"}).code, 0);
}

TEST(Cancelled, GivesExitCode130)
{
    std::stop_source source;
    source.request_stop();
    for (const char* command : {"check", "levels", "simulate", "report"})
        EXPECT_EQ(run({command, test::demoPath()}, source.get_token()).code, 130) << command;
}

TEST(Change, ListsWhatCanBeMeantSaysWhatItMeansAndWritesOnlyWhenAsked)
{
    const std::string demo = test::demoPath(), out = ::testing::TempDir() + "changed.sentry";
    std::filesystem::remove(out);
    const Said list = run({"change", demo, "--at", "S2 13-14"});
    EXPECT_EQ(list.code, 0);
    EXPECT_NE(list.out.find("series_before"), std::string::npos);
    EXPECT_NE(list.out.find("new push_button opening"), std::string::npos);
    const Said said = run({"change", demo, "series_before", "--at", "S2 13-14", "--with", "reach=all"});
    EXPECT_EQ(said.code, 0);
    EXPECT_NE(said.out.find("now cuts Q1"), std::string::npos) << said.out;
    EXPECT_FALSE(std::filesystem::exists(out));
    EXPECT_EQ(run({"change", demo, "series_before", "--at", "S2 13-14", "--with", "reach=all", "-o", out}).code, 0);
    EXPECT_EQ(run({"check", out}).code, run({"check", demo}).code);
    EXPECT_NE(run({"change", demo, "--at", "S99"}).err.find("S99"), std::string::npos);
    EXPECT_NE(run({"change", demo, "--at", "wire 99999"}).err.find("no such wire"), std::string::npos);
    EXPECT_NE(run({"change", demo, "paint", "--at", "S2"}).err.find("cannot be done"), std::string::npos);
    EXPECT_NE(run({"change", demo, "tag", "--at", "S2", "--with", "tag"}).err.find("tag"), std::string::npos);
    EXPECT_EQ(
        run({"change", demo, "tag", "--at", "S2", "--with", "tag=S1"}).code, run({"check", "nothing.sentry"}).code);
}

TEST(Draw, WritesBothCircuitsInBothSchools)
{
    const std::string demo = test::demoPath(), out = ::testing::TempDir() + "drawn.svg";
    const Said paths = run({"draw", demo}), ladder = run({"draw", demo, "--ladder"}),
               power = run({"draw", demo, "--power"});
    for (const Said* s : {&paths, &ladder, &power}) {
        EXPECT_EQ(s->code, 0);
        EXPECT_TRUE(s->out.starts_with("<?xml"));
        EXPECT_NE(s->out.find("@font-face"), std::string::npos) << "it needs nothing beside it";
    }
    EXPECT_NE(paths.out, ladder.out);
    EXPECT_NE(power.out.find(">M1<"), std::string::npos);
    EXPECT_EQ(run({"draw", demo, "-o", out}).code, 0);
    EXPECT_EQ(*io::systemFiles().read(out), paths.out);
    EXPECT_NE(run({"draw", demo, "-o", "no/such/folder/x.svg"}).code, 0);
}

TEST(Sweep, JsonFollowsItsSchema)
{
    const Said s = run({"sweep", test::demoPath(), "--single", "--json"});
    EXPECT_EQ(s.code, cli::kFindings);
    EXPECT_EQ(trouble("docs/formats/sweep.schema.json", s.out), "");
}

} // namespace
} // namespace ts
