// explore on the command line: words with the order that shows it, JSON, CSV, bound, refusals.

#include "tests/core/faults/stop_circuits.h"
#include "tests/support/cli_rig.h"

#include <nlohmann/json.hpp>

#include <filesystem>

namespace ts {
namespace {

using test::Said;

class ExploreCommand : public ::testing::Test {
protected:
    void SetUp() override
    {
        folder = std::filesystem::temp_directory_path() / ("tall-sentry-explore-" + std::to_string(::getpid()));
        std::filesystem::create_directories(folder);
        DossierFile file;
        file.nextId = 9600;
        file.dossier = test::stopping(test::twoChannels().circuit());
        file.dossier.machine.name = "Test machine";
        path = (folder / "two.sentry").string();
        ASSERT_TRUE(io::saveDossier(path, file, io::systemFiles()));
    }
    void TearDown() override { std::filesystem::remove_all(folder); }
    Said run(std::vector<std::string> more)
    {
        std::vector<std::string> arguments{"explore", path};
        arguments.insert(arguments.end(), more.begin(), more.end());
        return test::runCli(arguments);
    }
    std::filesystem::path folder;
    std::string path;
};

TEST_F(ExploreCommand, SaysWhatIsProvedAndWhatWasOperated)
{
    const Said s = run({"--no-faults"});
    EXPECT_EQ(s.code, cli::kInOrder) << s.out;
    EXPECT_NE(
        s.out.find("M1 is not driven while S0 is operated (Emergency stop): proved in every order"), std::string::npos)
        << s.out;
    EXPECT_NE(s.out.find("operated: F1, Q1, Q2, S0, S3, and the supply"), std::string::npos) << s.out;
    EXPECT_NE(s.err.find("search 1 of 1"), std::string::npos) << s.err;
}

TEST_F(ExploreCommand, NamesTheFaultThatBreaksAProof)
{
    const Said s = run({});
    EXPECT_NE(s.out.find("with S0/block:fallen_off:\n    M1 is not driven while S0 is operated"), std::string::npos)
        << s.out;
    EXPECT_NE(s.out.find("single faults tried"), std::string::npos);
}

TEST_F(ExploreCommand, JsonHasEveryProofAndItsOrder)
{
    const auto j = nlohmann::json::parse(run({"--json", "--motor", "M1", "--bound", "10", "--no-faults"}).out);
    EXPECT_EQ(j["format"], "explore-1");
    EXPECT_EQ(j["motors"][0]["motor"], "M1");
    EXPECT_EQ(j["motors"][0]["healthy"]["bounded"], true);
    EXPECT_EQ(j["motors"][0]["healthy"]["states"], 10);
    EXPECT_EQ(j["motors"][0]["healthy"]["proofs"][2]["claim"], "stays_stopped");
    EXPECT_EQ(j["motors"][0]["healthy"]["proofs"][2]["answer"], "bounded");
}

TEST_F(ExploreCommand, CsvHasALineForEachClaim)
{
    const Said s = run({"--csv", "--no-faults"});
    EXPECT_NE(s.out.find("motor,fault,claim,function,answer,operations,order\n"), std::string::npos);
    EXPECT_NE(s.out.find("M1,,can_start,,proved,,\n"), std::string::npos) << s.out;
}

TEST_F(ExploreCommand, TheReportHoldsWhatWasTried)
{
    const std::string html = test::runCli({"report", path, "--with", "sweep", "--with", "orders", "--with", "stop"})
                                 .out;
    for (const char* text : {"Every fault: Emergency stop", "S0 contact block: fallen off", "counts together with",
             "Every order of operation: M1", "proved in every order", "The stop in its worst case: Emergency stop",
             "latest rest"})
        EXPECT_NE(html.find(text), std::string::npos) << text;
    const std::string bare = test::runCli({"report", path}).out;
    EXPECT_NE(bare.find("second faults, limits of times, voltage and load: not tried"), std::string::npos);
    EXPECT_EQ(bare.find("Every order of operation: M1"), std::string::npos);
}

TEST_F(ExploreCommand, TheStopOnTheCommandLine)
{
    const Said json = test::runCli({"stop", path, "--json"});
    EXPECT_EQ(json.code, cli::kFindings) << "a fallen contact block is no stop";
    const auto j = nlohmann::json::parse(json.out);
    EXPECT_EQ(j["format"], "stop-1");
    EXPECT_EQ(j["actuators"][0]["motor"], "M1");
    EXPECT_EQ(j["actuators"][0]["category"], 0);
    EXPECT_GT(j["actuators"][0]["no_stop"].size(), 0u);
    const Said words = test::runCli({"stop", path});
    EXPECT_NE(words.out.find("M1: stop category 0"), std::string::npos) << words.out;
    EXPECT_NE(words.out.find("no stop: with S0 contact block: fallen off"), std::string::npos) << words.out;
}

TEST_F(ExploreCommand, RefusesAMotorThatIsNotThere)
{
    const Said s = run({"--motor", "M7"});
    EXPECT_EQ(s.code, cli::kUnusable);
    EXPECT_NE(s.err.find("M7"), std::string::npos);
    EXPECT_EQ(run({"--bound", "0"}).code, cli::kUnusable);
}

} // namespace
} // namespace ts
