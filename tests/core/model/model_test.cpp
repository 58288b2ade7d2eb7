// The plain values of a dossier: what is found in them by id, tag and word, and what is not.

#include "core/model/dossier.h"
#include "core/model/finding.h"
#include "core/model/readings.h"

#include <gtest/gtest.h>

#include <set>

namespace ts {
namespace {

Circuit twoDevices()
{
    Circuit c;
    Part part;
    part.id = "P-1";
    part.kind = "contactor";
    part.reliability = Reliability{};
    part.reliability->b10dCycles = 1.3e6;
    c.parts.push_back(part);
    Device q;
    q.id = {1};
    q.tag = "Q1";
    q.kind = "contactor";
    q.part = "P-1";
    Device s = q;
    s.id = {2};
    s.tag = "S0";
    s.part.clear();
    c.devices = {q, s};
    Wire w;
    w.id = {3};
    w.from = {{1}, "13"};
    w.to = {{2}, "14"};
    w.route = {4};
    c.wires.push_back(w);
    c.routes.push_back({{4}, "door cable", RouteKind::Cable});
    return c;
}

TEST(Circuit, FindsByIdTagAndName)
{
    const Circuit c = twoDevices();
    EXPECT_EQ(c.device(DeviceId{1})->tag, "Q1");
    EXPECT_EQ(c.device("S0")->id, DeviceId{2});
    EXPECT_EQ(c.wire({3})->to.marking, "14");
    EXPECT_EQ(c.route({4})->name, "door cable");
    EXPECT_EQ(c.part("P-1")->kind, "contactor");
    EXPECT_EQ(c.nameOf({{1}, "13"}), "Q1:13");
}

TEST(Circuit, SaysNothingOfWhatIsNotThere)
{
    const Circuit c = twoDevices();
    EXPECT_EQ(c.device(DeviceId{9}), nullptr);
    EXPECT_EQ(c.device("Q9"), nullptr);
    EXPECT_EQ(c.device("q1"), nullptr) << "tags are written as they are";
    EXPECT_EQ(c.wire({9}), nullptr);
    EXPECT_EQ(c.route({}), nullptr) << "a wire that is laid nowhere";
    EXPECT_EQ(c.part(""), nullptr);
    EXPECT_EQ(c.nameOf({{9}, "13"}), "?:13");
}

TEST(Circuit, ADevicesOwnReliabilityGoesBeforeItsParts)
{
    Circuit c = twoDevices();
    EXPECT_EQ(c.reliabilityOf(*c.device("Q1"))->b10dCycles, 1.3e6) << "of its part";
    EXPECT_EQ(c.reliabilityOf(*c.device("S0")), nullptr) << "no part, nothing of its own";
    c.devices[0].reliability = Reliability{};
    c.devices[0].reliability->mttfdYears = 30.0;
    EXPECT_EQ(c.reliabilityOf(*c.device("Q1"))->mttfdYears, 30.0);
    EXPECT_FALSE(c.reliabilityOf(*c.device("Q1"))->b10dCycles) << "the two are not mixed";
}

TEST(Words, OfRoutesAndRestartsReadBack)
{
    std::set<std::string_view> words;
    for (RouteKind k : {RouteKind::Enclosure, RouteKind::Cable, RouteKind::ProtectedCable, RouteKind::ShieldedCable,
             RouteKind::MovingCable}) {
        EXPECT_EQ(routeNamed(routeWord(k)), k);
        words.insert(routeWord(k));
    }
    EXPECT_EQ(words.size(), 5u);
    for (RestartRule r : {RestartRule::StartAction, RestartRule::Reset, RestartRule::Release})
        EXPECT_EQ(restartNamed(restartWord(r)), r);
    EXPECT_EQ(restartNamed("whatever"), RestartRule::StartAction) << "the strictest";
}

TEST(Words, OfLevelsAndCategoriesReadBack)
{
    using namespace safety;
    for (Level l : {Level::A, Level::B, Level::C, Level::D, Level::E})
        EXPECT_EQ(levelNamed(nameOf(l)), l);
    for (Category c : {Category::B, Category::One, Category::Two, Category::Three, Category::Four})
        EXPECT_EQ(categoryNamed(nameOf(c)), c);
    for (const char* no : {"", "f", "A", "e ", "PL d"})
        EXPECT_EQ(levelNamed(no), std::nullopt) << no;
    for (const char* no : {"", "0", "5", "b", "B1"})
        EXPECT_EQ(categoryNamed(no), std::nullopt) << no;
    EXPECT_EQ(wordOf(std::optional<Level>()), "");
}

TEST(Words, OfElementsAsPeopleSayThem)
{
    EXPECT_EQ(elementWords("main"), "main poles");
    EXPECT_EQ(elementWords("11-12"), "contact 11-12");
    EXPECT_EQ(elementWords("armature"), "armature");
    EXPECT_EQ(nameOf(Severity::Stop), "stop");
    EXPECT_EQ(nameOf(Severity::Fix), "fix");
    EXPECT_EQ(nameOf(Severity::Note), "note");
}

/// Each reading has two ways under one name; what is read by a word is what is set, and ours is the first.
TEST(Readings, AreSetAndNamedByTheirWords)
{
    std::set<std::string_view> names;
    for (const ReadingField& r : kReadings) {
        EXPECT_TRUE(names.insert(r.name).second) << r.name;
        EXPECT_EQ(r.get(ArithmeticChoice{}), 0) << r.name << ": the first is the usual one";
        EXPECT_STRNE(r.words[0], r.words[1]) << r.name;
        ArithmeticChoice other;
        r.set(other, 1);
        EXPECT_EQ(r.get(other), 1);
        EXPECT_EQ(r.wordIn(other), r.words[1]);
        for (const ReadingField& apart : kReadings)
            if (apart.get != r.get)
                EXPECT_EQ(apart.get(other), 0) << r.name << " changes " << apart.name;
    }
}

TEST(Dossier, FindsFunctionsAndScenarios)
{
    Dossier d;
    d.functions.resize(1);
    d.functions[0].id = {7};
    d.functions[0].trigger = {{2}, "press"};
    d.functions[0].alsoBy = {{{5}, "press"}};
    Scenario s;
    s.id = {8};
    s.name = "Start and stop";
    d.scenarios.push_back(s);
    EXPECT_TRUE(d.function({7}));
    EXPECT_FALSE(d.function({8}));
    EXPECT_EQ(d.scenario("Start and stop"), d.scenario(ScenarioId{8}));
    EXPECT_EQ(d.scenario("8"), d.scenario(ScenarioId{8})) << "an id as it is typed";
    EXPECT_EQ(d.scenario(ScenarioId{9}), nullptr);
    EXPECT_EQ(d.scenario("Start"), nullptr);
    EXPECT_TRUE(d.functions[0].isTriggeredBy({2}));
    EXPECT_TRUE(d.functions[0].isTriggeredBy({5}));
    EXPECT_FALSE(d.functions[0].isTriggeredBy({6}));
}

} // namespace
} // namespace ts
