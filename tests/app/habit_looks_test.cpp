// Habits: kept from one start to the next, and what they change in lamps and drawings; background work of which only
// the newest counts.

#include "app/document/latest.h"
#include "app/places/bench/habit_looks.h"
#include "app/places/bench/search_items.h"
#include "app/settings/settings.h"
#include "core/diagram/power_layout.h"
#include "tests/support/circuits.h"

#include <QSettings>
#include <QtTest/QTest>

#include <atomic>

namespace ts::app {
namespace {

using wording::Habits;

TEST(Settings, HabitsSurviveAndWhatIsNotKnownFallsBack)
{
    const Settings before = Settings::load();
    Settings s;
    s.habits = {diagram::School::Ladder, Habits::Phases::UVW, Habits::WireSize::AmericanGauge,
        Habits::Power::Horsepower, Habits::LampColours::RunningRed};
    s.darkTheme = true;
    s.save();
    EXPECT_EQ(Settings::load().habits, s.habits);
    EXPECT_TRUE(Settings::load().darkTheme);
    QSettings().setValue("habits/phases", "sideways");
    QSettings().setValue("habits/drawing", 17);
    EXPECT_EQ(Settings::load().habits.phases, Habits::Phases::L1L2L3);
    EXPECT_EQ(Settings::load().habits.school, diagram::School::CurrentPaths);
    EXPECT_EQ(Settings::load().habits.power, Habits::Power::Horsepower) << "the others stay";
    before.save();
}

TEST(LampColours, FollowWhatTheLampTellsOnlyWhereASchoolSaysSo)
{
    const Dossier d = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier;
    const DeviceId runs = d.circuit.device("P1")->id, fault = d.circuit.device("P5")->id;
    Habits h;
    EXPECT_TRUE(lampColours(d, h).empty());
    h.lampColours = Habits::LampColours::Standard;
    EXPECT_EQ(lampColours(d, h).at(runs), "green");
    EXPECT_EQ(lampColours(d, h).at(fault), "yellow");
    h.lampColours = Habits::LampColours::RunningRed;
    EXPECT_EQ(lampColours(d, h).at(runs), "red");
}

TEST(PhaseNames, ChangeTextsAndNothingElse)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const diagram::Scene scene = diagram::powerDrawing(*diagram::wiredGraph(c));
    Habits h;
    h.phases = Habits::Phases::RYB;
    const diagram::Scene named = withPhaseNames(scene, h);
    ASSERT_EQ(named.texts.size(), scene.texts.size());
    int changed = 0;
    for (std::size_t k = 0; k < scene.texts.size(); ++k) {
        EXPECT_EQ(named.texts[k].at, scene.texts[k].at);
        changed += named.texts[k].text != scene.texts[k].text;
    }
    EXPECT_GE(changed, 3);
    EXPECT_EQ(named.pins, scene.pins) << "terminals keep their names";
}

TEST(SearchItems, LeadWhereTheySay)
{
    const Circuit c = test::demoFile().dossier.circuit;
    std::vector<offers::Picked> found;
    const SearchTargets targets{[&](const offers::Picked& t) { found.push_back(t); }, [](const offers::Offer&) {}};
    const auto items = circuitItems(c, targets);
    EXPECT_GT(items.size(), c.devices.size() + c.wires.size());
    for (const SearchItem& item : items)
        item.choose();
    ASSERT_EQ(found.size(), items.size());
    EXPECT_EQ(found.front().device, c.devices.front().id);
    EXPECT_EQ(found[c.devices.size()].wire, c.wires.front().id);
    EXPECT_TRUE(circuitItems({}, targets).empty());
}

TEST(Latest, OnlyTheNewestJobIsHeard)
{
    QObject owner;
    Latest<int> work(&owner);
    std::atomic<bool> stopped = false;
    std::vector<int> heard;
    work.run(
        [&](std::stop_token stop) -> std::optional<int> {
            while (!stop.stop_requested())
                std::this_thread::yield();
            stopped = true;
            return 1; // too late: nobody wants it
        },
        [&](const std::shared_ptr<const int>& r) { heard.push_back(*r); });
    EXPECT_TRUE(work.isBusy());
    work.run([](std::stop_token) -> std::optional<int> { return 2; },
        [&](const std::shared_ptr<const int>& r) { heard.push_back(*r); });
    ASSERT_TRUE(QTest::qWaitFor([&] { return !work.isBusy(); }, 5000));
    QTest::qWait(20);
    EXPECT_TRUE(stopped) << "the older one was told";
    EXPECT_EQ(heard, std::vector<int>{2});
    work.run([](std::stop_token) -> std::optional<int> { return 3; },
        [&](const std::shared_ptr<const int>& r) { heard.push_back(*r); });
    work.drop();
    QTest::qWait(20);
    EXPECT_EQ(heard.size(), 1u) << "dropped";
    EXPECT_FALSE(work.isBusy());
}

} // namespace
} // namespace ts::app
