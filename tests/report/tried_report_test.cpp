// What was tried, as the report tells it in words: outcomes, structure, exclusions with their reason, orders, and the
// stop in its worst case.

#include "core/analysis/stop_study.h"
#include "core/exploration/explore.h"
#include "core/results/subjects.h"
#include "core/studies/working_out.h"
#include "report/report.h"
#include "report/tried.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

class TriedReport : public ::testing::Test {
protected:
    void SetUp() override
    {
        dossier = test::stopping(test::twoChannels(false).circuit()); // Q2 is not in the reset loop
        dossier.machine.name = "Debarker";
        dossier.functions[0].claim = {test::claimedPair(dossier.circuit, "Q1", "Q2", "4", 0.99)};
        dossier.exclusions = {{"S0/actuator:broken", "device to IEC 60947-5-5"}};
    }
    Results swept()
    {
        auto analysis = faultAnalysis(dossier, dossier.functions[0], {});
        EXPECT_TRUE(analysis);
        Results results;
        results.put(kBuilt.id, about(dossier.functions[0].id), Value::of(std::move(*analysis)));
        return results;
    }
    std::string html(const Results& results)
    {
        const auto written = report::triedHtml(dossier, results);
        EXPECT_TRUE(written);
        return written ? *written : std::string();
    }
    static bool has(const std::string& html, std::string_view words) { return html.find(words) != std::string::npos; }
    Dossier dossier;
};

TEST_F(TriedReport, SaysThatNothingWasTried)
{
    const std::string text = html({});
    EXPECT_TRUE(has(text, "No faults, orders of operation or worst cases of the stop were tried")) << text;
    EXPECT_FALSE(has(text, "<table>"));
}

TEST_F(TriedReport, TellsTheSweepInWords)
{
    const std::string text = html(swept());
    EXPECT_TRUE(has(text, "<td>lost</td><td>S0 contact block: fallen off</td>"))
        << "the fault that makes one channel of two";
    EXPECT_TRUE(has(text, "<td>hidden</td><td>Q2 main poles: welded</td>"));
    EXPECT_TRUE(has(text, "<td>caught</td><td>Q1 main poles: welded</td>"));
    EXPECT_TRUE(has(text, "<td>Contactors</td><td>single fault tolerated</td>"));
    EXPECT_TRUE(has(text, "S0 actuator: broken")) << "excluded ones are listed";
    EXPECT_TRUE(has(text, "device to IEC 60947-5-5")) << "with their reason";
    EXPECT_TRUE(has(text, "category 4 is claimed, but these faults stay hidden")) << "and what follows for the claim";
    EXPECT_FALSE(has(text, "fallen_off")) << "words, no ids";
}

TEST_F(TriedReport, LetsNothingOfTheFileThroughUnescaped)
{
    const std::string evil = "<img src=x onerror=alert(1)>";
    dossier.functions[0].name = evil;
    dossier.functions[0].claim[0].name = evil;
    dossier.exclusions[0].reason = evil;
    const std::string text = html(swept());
    EXPECT_FALSE(has(text, "<img"));
    EXPECT_TRUE(has(text, "&lt;img"));
}

TEST_F(TriedReport, TellsTheStopAndTheOrders)
{
    StopStudyOptions options;
    options.withFaults = false;
    auto study = stopStudy(dossier, dossier.functions[0], options);
    ASSERT_TRUE(study) << study.error().message.id;
    exploration::Request request;
    request.withFaults = false;
    auto explored = exploration::explore(dossier, request);
    ASSERT_TRUE(explored) << explored.error().message.id;
    Results results;
    results.put(kOrders.id, subjectsOf(Subject::Kind::Motor, dossier).front(), Value::of(std::move(*explored)));
    results.put(kWorstStop.id, about(dossier.functions[0].id), Value::of(std::move(*study)));
    const std::string text = html(results);
    EXPECT_TRUE(has(text, "M1"));
    EXPECT_TRUE(has(text, "stop category 0") || has(text, "category 0")) << text;
    EXPECT_TRUE(has(text, "proved in every order")) << text;
}

TEST_F(TriedReport, IsPartOfTheWholeReport)
{
    Results results = swept(), bare;
    for (Results* r : {&results, &bare})
        ASSERT_TRUE(workOut(dossier, {.only = {kLevels.id, kChecks.id}}, *r));
    const auto whole = report::reportHtml(dossier, results);
    ASSERT_TRUE(whole);
    EXPECT_TRUE(has(*whole, "S0 contact block: fallen off"));
    EXPECT_FALSE(has(*whole, "No faults, orders of operation or worst cases of the stop were tried"));
    EXPECT_TRUE(has(
        *report::reportHtml(dossier, bare), "No faults, orders of operation or worst cases of the stop were tried"));
}

} // namespace
} // namespace ts
