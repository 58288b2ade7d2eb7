// A scenario over its whole length: what is seen from when to when.

#include "core/simulation/scenario_course.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

using Words = std::vector<std::string>;

TEST(ScenarioCourse, ShowsFromWhenToWhenAMachineTurns)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    const Words tags{"M1", "Q1", "K1", "W0", "P1"};
    const auto course = courseOf(plant, file.dossier.scenarios[0], tags);
    ASSERT_TRUE(course);
    ASSERT_EQ(course->bands.size(), 4u) << "what is not there shows nothing";
    const SeenBand &motor = course->bands[0], &contactor = course->bands[1], &relay = course->bands[2];
    EXPECT_EQ(motor.word, "turning");
    ASSERT_EQ(motor.whenS.size(), 1u) << "started once, and not again";
    EXPECT_GT(motor.whenS[0].first, 1.5) << "S2 is pressed";
    EXPECT_LT(motor.whenS[0].first, 1.6);
    EXPECT_GT(motor.whenS[0].second, 4.0) << "it runs down after S0";
    ASSERT_EQ(contactor.whenS.size(), 1u);
    EXPECT_EQ(contactor.word, "in");
    EXPECT_NEAR(contactor.whenS[0].second, 4.0, 0.1);
    EXPECT_EQ(relay.word, "outputs_on");
    ASSERT_EQ(relay.whenS.size(), 2u) << "reset, stopped, reset again";
    EXPECT_DOUBLE_EQ(relay.whenS[1].second, 30.0) << "to the end";
    EXPECT_EQ(course->run.expectations.size(), file.dossier.scenarios[0].expectations.size());
    EXPECT_TRUE(std::all_of(course->run.expectations.begin(), course->run.expectations.end(),
        [](const ExpectationResult& r) { return r.isMet; }));
}

/// At any moment the band agrees with the state at that moment.
TEST(ScenarioCourse, AgreesWithWhatIsAtEachMoment)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    for (const Scenario& s : file.dossier.scenarios) {
        const auto course = courseOf(plant, s, Words{"M1", "Q1", "P1"});
        ASSERT_TRUE(course) << s.name;
        for (double t = 0.25; t < s.lengthS; t += 0.5) {
            Workspace workspace;
            const auto run = runScenario(plant, s, {}, t, workspace);
            for (const SeenBand& band : course->bands) {
                const bool isSeen = std::any_of(band.whenS.begin(), band.whenS.end(),
                    [t](const auto& when) { return when.first <= t && t < when.second; });
                EXPECT_EQ(isSeen, *isInState(plant, run->end, band.tag, band.word))
                    << s.name << ' ' << t << ' ' << band.tag;
            }
        }
    }
}

TEST(ScenarioCourse, FailsAsTheScenarioDoes)
{
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    Scenario s = file.dossier.scenarios[0];
    s.steps.push_back({1, "press", "S77", 0});
    EXPECT_EQ(courseOf(plant, s, Words{"M1"}).error().code, ErrorCode::NotFound);
}

TEST(StateWords, AreThoseThatADeviceCanBeIn)
{
    const Plant plant = *compile(test::demoFile().dossier.circuit);
    const State rest = initialState(plant);
    for (const PlantDevice& d : plant.devices)
        for (const std::string& word : stateWordsOf(plant, d.tag))
            EXPECT_TRUE(isInState(plant, rest, d.tag, word)) << d.tag << ' ' << word;
    EXPECT_EQ(stateWordsOf(plant, "M1").front(), "turning");
    EXPECT_EQ(stateWordsOf(plant, "Q1"), (Words{"in", "out"}));
    EXPECT_EQ(stateWordsOf(plant, "P1"), (Words{"lit", "dark"}));
    EXPECT_EQ(stateWordsOf(plant, "F1").front(), "tripped");
    EXPECT_TRUE(stateWordsOf(plant, "W9").empty());
}

} // namespace
} // namespace ts
