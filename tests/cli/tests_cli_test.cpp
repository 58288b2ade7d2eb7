// mistakes, tests, rehearse, record, retest on the command line: by their schemas, and one after the other.

#include "core/io/dossier_file.h"
#include "tests/support/circuits.h"
#include "tests/support/cli_rig.h"

#include <nlohmann/json.hpp>

#include <filesystem>

namespace ts {
namespace {

using test::Said;
using Json = nlohmann::json;

class TestsCommand : public ::testing::Test {
protected:
    void SetUp() override
    {
        folder = std::filesystem::temp_directory_path() / ("tall-sentry-tests-" + std::to_string(::getpid()));
        std::filesystem::create_directories(folder);
    }
    void TearDown() override { std::filesystem::remove_all(folder); }
    std::string at(const char* name) const { return (folder / name).string(); }
    Json json(std::vector<std::string> arguments, int code)
    {
        const Said s = test::runCli(arguments);
        EXPECT_EQ(s.code, code) << s.out.substr(0, 300) << s.err;
        return Json::parse(s.out);
    }
    std::filesystem::path folder;
};

TEST_F(TestsCommand, AMistakeIsMadeAndFoundBeforeItHurts)
{
    const Json all = json({"mistakes", test::demoPath(), "--json"}, cli::kInOrder);
    EXPECT_GT(all["mistakes"].size(), 800u);
    const Said made = test::runCli({"mistakes", test::demoPath(), "--make", "left_out/Q1/21-22", "-o", at("x.sentry")});
    EXPECT_EQ(made.code, cli::kInOrder) << made.err;
    EXPECT_NE(made.out.find("contact Q1/21-22 is left out"), std::string::npos) << made.out;
    const Json r = json({"rehearse", test::demoPath(), "--built", at("x.sentry"), "--json"}, cli::kFindings);
    std::size_t disagree = 0;
    for (const Json& step : r["steps"])
        disagree += !step["agrees"].get<bool>();
    EXPECT_GT(disagree, 0u);
    for (const Json& danger : r["dangers"])
        EXPECT_FALSE(danger["before_disagreement"].get<bool>()) << danger.dump();
    EXPECT_EQ(test::runCli({"mistakes", test::demoPath(), "--make", "missing/9999", "-o", at("y.sentry")}).code,
        cli::kUnusable);
    EXPECT_FALSE(std::filesystem::exists(at("y.sentry")));
}

TEST_F(TestsCommand, WhatIsTheMatterIsFound)
{
    const std::string id = "left_out/Q1/21-22";
    ASSERT_EQ(test::runCli({"mistakes", test::demoPath(), "--make", id, "-o", at("x.sentry")}).code, cli::kInOrder);
    const Json wires{{"84", {"Q1:21", "Q2:21"}}}; // all that is on 21-22 is on one end
    const auto isNamed = [&wires](const Json& candidates) {
        return std::any_of(candidates.begin(), candidates.end(), [&](const Json& c) { return c["wires"] == wires; });
    };
    const Json found = json({"find", test::demoPath(), "--built", at("x.sentry"), "--json"}, cli::kInOrder);
    ASSERT_FALSE(found["classes"].empty());
    EXPECT_TRUE(isNamed(found["classes"][0]["candidates"])) << found["classes"].dump();
    EXPECT_TRUE(found["concluded"].get<bool>());
    EXPECT_FALSE(found["unexplained"].get<bool>());
    EXPECT_TRUE(found["dangers"].empty());
    EXPECT_GT(found["measurements"].size(), 2u);
    const Json r = json({"rehearse", test::demoPath(), "--built", at("x.sentry"), "--json"}, cli::kFindings);
    EXPECT_TRUE(isNamed(r["concluded"])) << r["concluded"].dump();
    EXPECT_LT(r["measurements"].get<std::size_t>(), found["measurements"].size()) << "the plan has read much before";
    const Said text = test::runCli({"find", test::demoPath(), "--built", at("x.sentry")});
    EXPECT_NE(text.out.find("joins the same: contact Q1/21-22 is left out"), std::string::npos) << text.out;
}

TEST_F(TestsCommand, WithoutAPanelTheFirstLookIsSaid)
{
    const Json first = json({"find", test::demoPath(), "--json", "--symptom", "P2 dark"}, cli::kInOrder);
    EXPECT_TRUE(first["measurements"].empty());
    EXPECT_FALSE(first["concluded"].get<bool>());
    EXPECT_EQ(first["next"]["power"], "locked_off");
    const Said text = test::runCli({"find", test::demoPath(), "--symptom", "P2 dark", "--history", "ran_until_now"});
    EXPECT_NE(text.out.find("Look next: "), std::string::npos) << text.out;
    EXPECT_NE(text.out.find("lock-out"), std::string::npos) << "the caution";
    for (const char* wrong : {"P2 flies", "fly S2 -> P2 lit", "operate S99 -> P2 lit", "P2"}) {
        const Said said = test::runCli({"find", test::demoPath(), "--symptom", wrong});
        EXPECT_EQ(said.code, cli::kUnusable) << wrong;
        EXPECT_FALSE(said.err.empty());
    }
    EXPECT_NE(test::runCli({"find", test::demoPath(), "--symptom", "P2"}).err.find("operate S2 -> not M1 driven"),
        std::string::npos)
        << "what would be right";
}

TEST_F(TestsCommand, ADrillIsWorkedByLines)
{
    const std::vector<std::string> command{"drill", test::demoPath(), "--mistake", "missing/64"};
    const Said solved = test::runCli(
        command, {}, "lock_off\nprove_dead\nprobe red S1:12\nprobe black S2:13\nohms\nlook S1:12\nname missing/64\n");
    EXPECT_EQ(solved.code, cli::kInOrder) << solved.err;
    EXPECT_NE(solved.out.find("SIMULATED"), std::string::npos);
    EXPECT_NE(solved.out.find("open (1 Mohm and more)"), std::string::npos) << solved.out;
    EXPECT_NE(solved.out.find("S1:12 empty"), std::string::npos);
    EXPECT_NE(solved.out.find("Right: wire 32"), std::string::npos);
    const Said careless = test::runCli(command, {}, "probe red S1:12\nprobe black S2:13\nohms\nname missing/63\n");
    EXPECT_EQ(careless.code, cli::kFindings);
    EXPECT_NE(careless.out.find("No. It was: wire 32"), std::string::npos) << careless.out;
    EXPECT_NE(careless.out.find("ohms on live parts"), std::string::npos) << "what could have hurt is said";
    EXPECT_EQ(test::runCli(command, {}, "lock_off\n").code, cli::kCancelled) << "nothing was named";
    EXPECT_EQ(test::runCli({"drill", test::demoPath(), "--mistake", "missing/9999"}).code, cli::kUnusable);
}

TEST_F(TestsCommand, ThePlanIsRememberedAndTheSame)
{
    const std::vector<std::string> command{"tests", test::demoPath(), "--json", "--remember", at("plans")};
    const Said first = test::runCli(command);
    ASSERT_EQ(first.code, cli::kInOrder) << first.err;
    EXPECT_NE(first.err.find("plan of tests: "), std::string::npos) << "progress";
    const Said second = test::runCli(command);
    EXPECT_EQ(second.out, first.out);
    EXPECT_EQ(second.err, "") << "nothing was worked out again";
    EXPECT_NE(
        test::runCli({"tests", test::demoPath(), "--remember", at("plans")}).out.find("They show"), std::string::npos);
}

TEST_F(TestsCommand, ReadingsGoIntoTheRecordAndCloseTheirSteps)
{
    const Json plan = json({"tests", test::demoPath(), "--json"}, cli::kInOrder);
    const Json read = json({"rehearse", test::demoPath(), "--built", test::demoPath(), "--json"}, cli::kInOrder);
    Json entries = Json::array();
    for (std::size_t k = 0; k < read["steps"].size(); ++k) {
        const Json& reading = read["steps"][k]["reading"];
        Json taken = reading.contains("word") ? Json{{"word", reading["word"]}}
                                              : Json{{"value", reading["low"].is_null() ? Json(1e9) : reading["low"]}};
        entries.push_back({{"step", read["steps"][k]["id"]}, {"who", "A. Weller"}, {"at", "2026-11-30T10:00:00+01:00"},
            {"instrument", {{"name", "meter 1"}, {"calibrated_until", "2027-03-01"}}}, {"reading", taken}});
    }
    Json results{{"format", "sentry-results-1"}, {"circuit", plan["circuit"]}, {"entries", entries}};
    ASSERT_TRUE(io::saveText(at("r.json"), results.dump()));
    const Said added = test::runCli({"record", test::demoPath(), "--add", at("r.json"), "-o", at("done.sentry")});
    EXPECT_EQ(added.code, cli::kInOrder) << added.out << added.err;
    const Json after = json({"retest", at("done.sentry"), "--json"}, cli::kInOrder);
    EXPECT_EQ(after["open"].size(), 0u);
    EXPECT_TRUE(after["broken_at"].is_null());
    const Json before = json({"retest", test::demoPath(), "--json"}, cli::kFindings);
    EXPECT_EQ(before["open"].size(), plan["steps"].size());

    results["circuit"] = "of another panel";
    ASSERT_TRUE(io::saveText(at("other.json"), results.dump()));
    const Said refused = test::runCli({"record", test::demoPath(), "--add", at("other.json"), "-o", at("no.sentry")});
    EXPECT_EQ(refused.code, cli::kUnusable);
    EXPECT_NE(refused.err.find("taken on another circuit"), std::string::npos) << refused.err;
    ASSERT_TRUE(io::saveText(at("broken.json"), results.dump().substr(0, 200)));
    EXPECT_NE(test::runCli({"record", test::demoPath(), "--add", at("broken.json"), "-o", at("no.sentry")})
                  .err.find("broken.json:1:"),
        std::string::npos)
        << "the place is named";
    EXPECT_FALSE(std::filesystem::exists(at("no.sentry")));
}

TEST_F(TestsCommand, ABridgeSaysWhatItCostsAndStandsInTheRecordUntilItIsOff)
{
    const std::vector<std::string> ends{"--between", "S0:11", "--and", "S0:12"};
    const auto bridge = [&](std::vector<std::string> more) {
        std::vector<std::string> all{"bridge"};
        all.insert(all.end(), ends.begin(), ends.end());
        all.insert(all.end(), more.begin(), more.end());
        return test::runCli(all);
    };
    const Said cost = bridge({test::demoPath()});
    EXPECT_EQ(cost.code, cli::kFindings) << "something is lost by it";
    EXPECT_NE(cost.out.find("S0 21-22: does not open"), std::string::npos) << cost.out;
    EXPECT_NE(cost.out.find("Not looked at"), std::string::npos) << cost.out;
    EXPECT_EQ(bridge({test::demoPath(), "-o", at("x.sentry")}).code, cli::kUnusable) << "who, when and why are wanted";
    const std::vector<std::string> entry{
        "--who", "B. Fitter", "--on", "2026-12-01T10:00:00Z", "--reason", "block ordered"};
    const auto entered = [&](std::vector<std::string> more) {
        more.insert(more.end(), entry.begin(), entry.end());
        return bridge(more);
    };
    EXPECT_EQ(entered({test::demoPath(), "--until", "soon", "-o", at("x.sentry")}).code, cli::kUnusable);
    EXPECT_FALSE(std::filesystem::exists(at("x.sentry")));
    EXPECT_EQ(entered({test::demoPath(), "--until", "2026-12-05", "-o", at("x.sentry")}).code, cli::kInOrder);
    const Said checked = test::runCli({"check", at("x.sentry")});
    EXPECT_EQ(checked.code, cli::kFindings) << "with a bridge nothing is in order";
    EXPECT_NE(checked.out.find("BRIDGED: S0:11 - S0:12, until 2026-12-05"), std::string::npos) << checked.out;
    EXPECT_NE(test::runCli({"report", at("x.sentry")}).out.find("BRIDGED: S0:11 - S0:12"), std::string::npos);
    EXPECT_EQ(entered({test::demoPath(), "--close", "-o", at("y.sentry")}).code, cli::kUnusable) << "none is in force";
    EXPECT_EQ(entered({at("x.sentry"), "--close", "-o", at("y.sentry")}).code, cli::kInOrder);
    EXPECT_EQ(test::runCli({"check", at("y.sentry")}).out.find("BRIDGED"), std::string::npos);
    EXPECT_EQ(io::loadDossier(at("y.sentry"))->record.size(), 2u);
}

TEST_F(TestsCommand, APageOfPaperHoldsWhatItsOccasionCallsFor)
{
    const auto page = [&](std::vector<std::string> more) {
        std::vector<std::string> all{"sheet", test::demoPath(), "-o", at("page.html")};
        all.insert(all.end(), more.begin(), more.end());
        return test::runCli(all);
    };
    const auto written = [&] { return *io::systemFiles().read(at("page.html")); };
    const auto has = [&](const char* part) { return written().find(part) != std::string::npos; };
    EXPECT_EQ(page({"--page", "emergency_stops"}).code, cli::kInOrder);
    EXPECT_TRUE(has("S0"));
    EXPECT_TRUE(has("of the plan of tests"));
    EXPECT_FALSE(has("Low ohms")) << "nothing dead on it";
    EXPECT_EQ(page({"--page", "feeder"}).code, cli::kInOrder);
    EXPECT_TRUE(has("Sequence at"));
    EXPECT_EQ(page({"--page", "replaced", "--device", "Q1"}).code, cli::kInOrder);
    EXPECT_TRUE(has("After Q1 was replaced"));
    EXPECT_TRUE(has("voltage tester on a source")) << "proved dead first";
    EXPECT_TRUE(has("Q1"));
    EXPECT_EQ(page({"--page", "replaced", "--device", "Q77"}).code, cli::kUnusable);
    EXPECT_EQ(page({}).code, cli::kUnusable);
    EXPECT_EQ(page({"--tests", "--page", "feeder"}).code, cli::kUnusable) << "one or the other";
}

} // namespace
} // namespace ts
