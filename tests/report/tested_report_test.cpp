// What was proved on the panel, as the report tells it: readings with who and when, what is open, what no step shows.

#include "core/measuring/readings.h"
#include "core/results/study_ids.h"
#include "report/tested.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

bool has(const std::string& html, std::string_view words)
{
    return html.find(words) != std::string::npos;
}

TEST(TestedReport, SaysThatNothingWasPlanned)
{
    const DossierFile file = test::demoFile();
    EXPECT_TRUE(has(report::testedHtml(file.dossier, {}, file.record), "nothing is known here of what was built"));
}

TEST(TestedReport, TellsReadingsWhatIsOpenAndWhatIsHidden)
{
    DossierFile file = test::demoFile();
    const measuring::TestPlan plan = *measuring::testPlanOf(file.dossier.circuit);
    measuring::StepTaken taken{plan.steps.front().id, "A. <Weller>", "2026-11-30T10:00:00+01:00", "lock 7", {}, 0.0, {},
        std::string(measuring::kDone)};
    file.record.push_back(*measuring::entryOf(taken, plan, file.dossier, file.record));
    Results results;
    results.put(kTests.id, {}, Value::of(measuring::TestPlan(plan), 1));
    const std::string html = report::testedHtml(file.dossier, results, file.record);
    const std::string open = std::to_string(plan.steps.size() - 1) + " of " + std::to_string(plan.steps.size());
    EXPECT_TRUE(has(html, open + " steps are open")) << html.substr(0, 400);
    EXPECT_TRUE(has(html, "A. &lt;Weller&gt;, lock 7")) << "nothing of the file is let through unescaped";
    EXPECT_TRUE(has(html, "not done"));
    ASSERT_FALSE(plan.hidden.empty());
    EXPECT_TRUE(has(html, "inside the devices it joins the same")) << "what no step shows, with its reason";
}

} // namespace
} // namespace ts
