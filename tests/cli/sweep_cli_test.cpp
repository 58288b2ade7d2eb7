// sweep on the command line: words, JSON with its schema, CSV, shards put together, refusals.

#include "tests/core/faults/stop_circuits.h"
#include "tests/support/cli_rig.h"

#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>

namespace ts {
namespace {

using test::Said;

class SweepCommand : public ::testing::Test {
protected:
    void SetUp() override
    {
        folder = std::filesystem::temp_directory_path() / ("tall-sentry-sweep-" + std::to_string(::getpid()));
        std::filesystem::create_directories(folder);
        DossierFile file;
        file.nextId = 9600;
        file.dossier = test::stopping(test::twoChannels(false).circuit());
        file.dossier.machine.name = "Test machine";
        file.dossier.functions.front().claim = {test::claimedPair(file.dossier.circuit, "Q1", "Q2", "3", 0.99)};
        path = (folder / "two.sentry").string();
        ASSERT_TRUE(io::saveDossier(path, file, io::systemFiles()));
    }
    void TearDown() override { std::filesystem::remove_all(folder); }
    Said run(std::vector<std::string> more)
    {
        std::vector<std::string> arguments{"sweep", path};
        arguments.insert(arguments.end(), more.begin(), more.end());
        return test::runCli(arguments);
    }
    std::string kept(const std::string& name, const std::string& text)
    {
        const std::string p = (folder / name).string();
        std::ofstream(p) << text;
        return p;
    }
    std::filesystem::path folder;
    std::string path;
};

TEST_F(SweepCommand, SaysInWordsWhatCameOfIt)
{
    const Said s = run({});
    EXPECT_EQ(s.code, cli::kFindings);
    EXPECT_NE(s.out.find("hidden: Q2/main:welded"), std::string::npos);
    EXPECT_NE(s.out.find("Contactors: single fault tolerated"), std::string::npos);
    EXPECT_NE(s.out.find("coverage 0 % as built, 99.0 % claimed"), std::string::npos) << s.out;
    EXPECT_NE(s.err.find("second faults: 100 %"), std::string::npos);
}

TEST_F(SweepCommand, ShardsPutTogetherAreTheWhole)
{
    const auto whole = nlohmann::json::parse(run({"--json"}).out);
    const std::string a = kept("a.json", run({"--json", "--shard", "1/2"}).out),
                      b = kept("b.json", run({"--json", "--shard", "2/2"}).out);
    const auto merged = nlohmann::json::parse(run({"--json", "--merge", a, b}).out);
    EXPECT_GT(whole["pairs"].size(), 0u);
    EXPECT_EQ(whole["faults"], merged["faults"]);
    EXPECT_EQ(whole["pairs"].size(), merged["pairs"].size());
    EXPECT_EQ(whole["structure"], merged["structure"]);
    EXPECT_EQ(whole["pairs"], merged["pairs"]) << "with what each of them loses";
    EXPECT_EQ(whole["skipped_in_pairs"], merged["skipped_in_pairs"]);
    EXPECT_EQ(whole["pair_runs"], merged["pair_runs"]);
    const Said twice = run({"--merge", a, a, b});
    EXPECT_EQ(twice.code, cli::kUnusable);
    EXPECT_NE(twice.err.find("part 1 of 2 once more"), std::string::npos) << twice.err;
    auto foreign = nlohmann::json::parse(run({"--json", "--shard", "1/2"}).out);
    foreign["circuit"] = "of another state of the file";
    EXPECT_NE(
        run({"--merge", kept("c.json", foreign.dump()), b}).err.find("of this circuit: circuit"), std::string::npos);
    const Said half = run({"--merge", a});
    EXPECT_EQ(half.code, cli::kUnusable);
    EXPECT_NE(half.err.find("part 2 of 2 is missing"), std::string::npos) << half.err;
}

TEST_F(SweepCommand, CsvHasALineForEachFaultAndMoment)
{
    const Said s = run({"--csv", "--single"});
    EXPECT_NE(s.out.find("fault,words,group,moment,outcome,what,excluded"), std::string::npos);
    EXPECT_NE(s.out.find("Q1/main:welded,Q1 main poles: welded,Q1,just_before,"), std::string::npos)
        << s.out.substr(0, 2000);
}

TEST_F(SweepCommand, RefusesWhatItCannotUse)
{
    EXPECT_EQ(run({"--function", "no such"}).code, cli::kUnusable);
    EXPECT_NE(run({"--function", "no such"}).err.find("9001 (Emergency stop)"), std::string::npos);
    EXPECT_EQ(run({"--shard", "3/2"}).code, cli::kUnusable);
    EXPECT_EQ(run({"--shard", "x"}).code, cli::kUnusable);
    for (const char* text : {"", "{", "[]", "{\"format\":\"sweep-2\"}",
             "{\"format\":\"sweep-2\",\"function\":9001,\"faults\":[],\"pairs\":3,\"shard\":1,\"shards\":1}"}) {
        const Said s = run({"--single", "--merge", kept("bad.json", text)});
        EXPECT_EQ(s.code, cli::kUnusable) << text;
        EXPECT_NE(s.err.find("bad.json"), std::string::npos) << text;
    }
    EXPECT_EQ(run({"--merge", (folder / "absent.json").string()}).code, cli::kUnusable);
}

} // namespace
} // namespace ts
