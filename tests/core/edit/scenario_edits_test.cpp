// Steps and expectations of a scenario: changed, taken out, refused.

#include "core/edit/circuit_edits.h"
#include "core/edit/scenario_edits.h"
#include "core/io/dossier_text.h"
#include "tests/support/circuits.h"

#include <limits>

namespace ts::edit {
namespace {

/// Eight seconds of the demo: its first scenario's beginning under another name.
struct Short {
    Dossier d;
    ScenarioId id;
    Short()
    {
        Scenario s;
        s.name = "Short";
        s.lengthS = 8;
        s.steps = {{1.0, "operate", "S3", 0.3}, {2.0, "press", "S0", 0}};
        s.expectations = {{1.5, "K1", "outputs_on"}};
        const DossierFile file = withScenario(test::demoFile(), s);
        d = file.dossier;
        id = d.scenarios.back().id;
    }
    const Scenario& in(const Dossier& changed) const { return *changed.scenario(std::to_string(id.value)); }
};

TEST(ScenarioEdits, MoveAStepAndLeaveTheRest)
{
    const Short s;
    const auto after = withStep(s.d, s.id, 1, {3.25, "press", "S0", 0});
    ASSERT_TRUE(after);
    EXPECT_EQ(s.in(*after).steps[1].atS, 3.25);
    EXPECT_EQ(s.in(*after).steps[0], s.in(s.d).steps[0]);
    EXPECT_EQ(*withStep(*after, s.id, 1, s.in(s.d).steps[1]), s.d) << "and back";
    const auto more = withStep(s.d, s.id, std::nullopt, {4, "unlatch", "S0", 0});
    EXPECT_EQ(s.in(*more).steps.size(), 3u);
    EXPECT_EQ(*withoutStep(*more, s.id, 2), s.d);
    const auto expected = withExpectation(s.d, s.id, std::nullopt, {2.5, "M1", "at_rest"});
    EXPECT_EQ(s.in(*expected).expectations.size(), 2u);
    EXPECT_EQ(*withoutExpectation(*expected, s.id, 1), s.d);
}

TEST(ScenarioEdits, RefuseWhatIsNotWithinTheScenario)
{
    const Short s;
    const double nan = std::numeric_limits<double>::quiet_NaN();
    for (double t : {-0.1, 8.1, nan}) {
        EXPECT_EQ(withStep(s.d, s.id, 1, {t, "press", "S0", 0}).error().message.id, "edit.scenario_time") << t;
        EXPECT_EQ(withExpectation(s.d, s.id, 0, {t, "K1", "outputs_on"}).error().message.id, "edit.scenario_time") << t;
    }
    EXPECT_TRUE(withStep(s.d, s.id, 1, {8.0, "press", "S0", 0})) << "its last moment";
    EXPECT_EQ(withStep(s.d, s.id, 0, {7.9, "operate", "S3", 0.3}).error().message.id, "edit.scenario_held");
    EXPECT_EQ(withStep(s.d, s.id, 0, {1, "operate", "S3", 0}).error().message.id, "edit.scenario_held");
    EXPECT_EQ(withStep(s.d, s.id, 0, {1, "press", "S77", 0}).error().code, ErrorCode::NotFound);
    EXPECT_EQ(withStep(s.d, s.id, 0, {1, "fault", "", 0}).error().code, ErrorCode::NotFound);
    EXPECT_EQ(withStep(s.d, s.id, 5, {1, "press", "S0", 0}).error().message.id, "edit.no_step");
    EXPECT_EQ(withoutExpectation(s.d, s.id, 1).error().message.id, "edit.no_step");
    EXPECT_EQ(withStep(s.d, {99999}, 0, {1, "press", "S0", 0}).error().message.id, "edit.no_scenario");
}

TEST(ScenarioEdits, KeepALengthThatHoldsEverything)
{
    const Short s;
    EXPECT_EQ(s.in(*withScenarioLength(s.d, s.id, 2.0)).lengthS, 2.0);
    EXPECT_EQ(withScenarioLength(s.d, s.id, 1.9).error().message.id, "edit.scenario_shorter");
    for (double length : {0.0, -1.0, 3601.0})
        EXPECT_EQ(withScenarioLength(s.d, s.id, length).error().message.id, "edit.scenario_length") << length;
}

TEST(ScenarioEdits, KeepNamesApart)
{
    const Short s;
    EXPECT_EQ(s.in(*withScenarioNamed(s.d, s.id, "Shorter")).name, "Shorter");
    EXPECT_TRUE(withScenarioNamed(s.d, s.id, "Short")) << "its own";
    for (const std::string& name :
        {std::string(), std::string("  "), s.d.scenarios.front().name, std::string(201, 'x')})
        EXPECT_EQ(withScenarioNamed(s.d, s.id, name).error().message.id, "edit.scenario_name") << name;
}

TEST(ScenarioEdits, AScenarioThatShowsAFunctionStays)
{
    Short s;
    s.d.machine.duty.timesPerHour[s.id] = 2;
    const auto without = withoutScenario(s.d, s.id);
    ASSERT_TRUE(without);
    EXPECT_FALSE(without->machine.duty.timesPerHour.contains(s.id));
    EXPECT_EQ(without->scenarios.size() + 1, s.d.scenarios.size());
    const auto refused = withoutScenario(s.d, s.d.functions.front().demandScenario);
    EXPECT_EQ(refused.error().message.id, "edit.scenario_shows");
    EXPECT_EQ(std::get<std::string>(refused.error().message.arguments[0]), s.d.functions.front().name);
    EXPECT_EQ(withoutScenario(s.d, {99999}).error().code, ErrorCode::NotFound);
}

/// What the edits let through can be saved and read again.
TEST(ScenarioEdits, LeaveAFileThatIsRead)
{
    const Short s;
    DossierFile file = test::demoFile();
    file.nextId = 100000;
    file.dossier = *withStep(s.d, s.id, std::nullopt, {8.0, "set", "G0.L1", 0.5});
    const auto read = io::parseDossier(io::printDossier(file));
    ASSERT_TRUE(read) << read.error().message.id;
    EXPECT_EQ(read->dossier, file.dossier);
}

} // namespace
} // namespace ts::edit
