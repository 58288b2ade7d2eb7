// What is worked out by itself: after loading and after each edit, in the background, the newest first; undo finds it
// again; nothing is shown as in order that was only claimed.

#include "app/document/study_worker.h"
#include "app/shell/course.h"
#include "core/checks/check.h"
#include "core/results/on_record.h"
#include "core/studies/standing.h"
#include "tests/core/faults/stop_circuits.h"
#include "tests/support/window_rig.h"

#include <QSignalSpy>

#include <filesystem>
#include <fstream>

namespace ts {
namespace {

using namespace app;

Expected<Dossier> longerWire(const Dossier& d)
{
    Dossier changed = d;
    changed.circuit.wires.front().lengthM += 1.0;
    return changed;
}

Expected<Dossier> otherName(const Dossier& d)
{
    Dossier changed = d;
    changed.functions[0].conditions.environment = !changed.functions[0].conditions.environment;
    return changed;
}

class Book : public ::testing::Test {
protected:
    void SetUp() override
    {
        book.setPatience(-1);
        Dossier d = test::stopping(test::twoChannels().circuit());
        d.functions.front().claim = {test::claimedPair(d.circuit, "Q1", "Q2", "4", 0.99)};
        document.startWith({10'000, d, {}});
    }
    Subject function() const { return about(document.dossier().functions.front().id); }
    void settle()
    {
        ASSERT_TRUE(QTest::qWaitFor([this] { return !book.isBehind(); }, 60000));
    }

    Document document{io::systemFiles()};
    StudyBook book{document, {}, nullptr};
};

TEST_F(Book, WorksOutWhatIsQuickAfterLoadingWithoutBeingAsked)
{
    settle();
    EXPECT_TRUE(book.fresh(kLevels));
    EXPECT_TRUE(book.fresh(kSingleFaults, function()));
    ASSERT_TRUE(book.fresh(kBuilt, function()));
    EXPECT_FALSE(book.fresh(kBuilt, function())->sweep.hasPairs);
    EXPECT_TRUE(book.fresh(kChecks));
    EXPECT_FALSE(book.fresh(kSecondFaults, function())) << "that is Long: only when asked or idle";
}

TEST_F(Book, AnEditLeavesNothingFreshThatRestedOnIt)
{
    settle();
    document.edit("x", longerWire);
    EXPECT_FALSE(book.fresh(kSingleFaults, function()));
    EXPECT_TRUE(book.newest(kSingleFaults, function())) << "it can still be looked at";
    EXPECT_FALSE(book.newest(kSingleFaults, function()).isFresh);
    settle();
    EXPECT_TRUE(book.fresh(kSingleFaults, function())) << "nobody had to press a button";
}

TEST_F(Book, WhatAnotherBookKnowsIsNotWorkedOutAgain)
{
    settle();
    Document same{io::systemFiles()};
    StudyBook second{same, {}, nullptr};
    second.setPatience(-1);
    same.startWith({10'000, document.dossier(), {}});
    second.adopt(book.known());
    EXPECT_EQ(second.fresh(kLevels), book.fresh(kLevels));
    EXPECT_EQ(second.fresh(kSingleFaults, function()), book.fresh(kSingleFaults, function()));
    ASSERT_TRUE(QTest::qWaitFor([&second] { return !second.isBehind(); }, 60000));
    EXPECT_EQ(second.fresh(kBuilt, function()), book.fresh(kBuilt, function())) << "nothing was made again";
    same.edit("x", longerWire);
    EXPECT_FALSE(second.fresh(kSingleFaults, function())) << "it is another machine now";
}

TEST_F(Book, AnAnswerMakesOnlyWhatFollowsFromItAnew)
{
    settle();
    const auto sweep = book.fresh(kSingleFaults, function());
    document.edit("x", otherName);
    EXPECT_EQ(book.fresh(kSingleFaults, function()), sweep) << "no run depends on it";
    EXPECT_FALSE(book.fresh(kBuilt, function()));
    settle();
    EXPECT_TRUE(book.fresh(kBuilt, function()));
}

TEST_F(Book, UndoFindsWhatWasWorkedOut)
{
    settle();
    const auto sweep = book.fresh(kSingleFaults, function());
    document.edit("x", longerWire);
    settle();
    EXPECT_NE(book.fresh(kSingleFaults, function()), sweep);
    document.history().undo();
    EXPECT_EQ(book.fresh(kSingleFaults, function()), sweep) << "the same one, not another like it";
}

TEST_F(Book, WhatIsAskedForIsWorkedOutAndEveryoneIsTold)
{
    QSignalSpy ended(&book, &StudyBook::ended);
    book.ask(kSecondFaults.id, function());
    EXPECT_TRUE(book.isBusy(kSecondFaults.id, function()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return ended.count() == 1; }, 60000));
    EXPECT_FALSE(book.isBusy(kSecondFaults.id, function()));
    settle();
    EXPECT_TRUE(book.fresh(kBuilt, function())->sweep.hasPairs) << "what reads it is made anew";
    const auto checked = book.fresh(kChecks);
    const auto second = std::find_if(
        checked->checks.begin(), checked->checks.end(), [](const CheckMade& c) { return c.id == "second_faults"; });
    EXPECT_TRUE(second->isWhole());
}

TEST_F(Book, WhatIsCancelledDoesNotBeginAgainByItself)
{
    settle();
    document.edit("x", longerWire);
    ASSERT_TRUE(QTest::qWaitFor([this] { return book.isBusy(kSingleFaults.id, function()); }, 10000));
    book.cancel(kSingleFaults.id, function());
    settle();
    EXPECT_FALSE(book.fresh(kSingleFaults, function()));
    book.ask(kSingleFaults.id, function());
    ASSERT_TRUE(QTest::qWaitFor([this] { return book.fresh(kSingleFaults, function()) != nullptr; }, 60000))
        << "asked for, it is made";
}

TEST_F(Book, AnEditStopsWhatItMadeStale)
{
    settle();
    book.ask(kSecondFaults.id, function());
    ASSERT_TRUE(QTest::qWaitFor(
        [this] {
            return book.progress(kSecondFaults.id, function()).total > 0 || book.fresh(kSecondFaults, function());
        },
        30000));
    document.edit("x", longerWire);
    ASSERT_TRUE(QTest::qWaitFor([this] { return !book.isBusy(kSecondFaults.id, function()); }, 5000));
    EXPECT_FALSE(book.fresh(kSecondFaults, function()));
}

TEST_F(Book, SwitchedOffItRunsNoFaultsByItself)
{
    book.setLiving(false);
    document.edit("x", longerWire);
    settle();
    EXPECT_TRUE(book.fresh(kLevels)) << "what stands in every place is made all the same";
    EXPECT_FALSE(book.fresh(kSingleFaults, function()));
    book.ask(kSecondFaults.id, function());
    ASSERT_TRUE(QTest::qWaitFor([this] { return book.fresh(kSecondFaults, function()) != nullptr; }, 60000))
        << "with what it comes after";
}

TEST_F(Book, LongStudiesBeginWhenNothingElseIsWanted)
{
    settle();
    book.setPatience(10);
    ASSERT_TRUE(QTest::qWaitFor([this] { return book.fresh(kSecondFaults, function()) != nullptr; }, 60000));
}

TEST_F(Book, ATroubleIsToldAndNothingIsTriedTwice)
{
    document.edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions[0].demandScenario = {};
        return changed;
    });
    settle();
    ASSERT_TRUE(book.trouble(kSingleFaults.id, function()));
    EXPECT_FALSE(book.isWorking());
}

/// Niceness of each thread of this process, as the system tells it (proc(5), stat, field 19).
std::vector<long> nicenesses()
{
    std::vector<long> all;
    for (const auto& task : std::filesystem::directory_iterator("/proc/self/task")) {
        std::ifstream stat(task.path() / "stat");
        std::string text((std::istreambuf_iterator<char>(stat)), {});
        std::istringstream rest(text.substr(text.rfind(')') + 1));
        std::string field;
        for (int k = 3; k <= 19; ++k)
            rest >> field;
        all.push_back(std::strtol(field.c_str(), nullptr, 10));
    }
    return all;
}

TEST_F(Book, WorkersGiveWayToTheWindow)
{
    settle();
    const auto all = nicenesses();
    EXPECT_GE(std::count(all.begin(), all.end(), 10), 2) << "two workers at least";
    EXPECT_GE(std::count(all.begin(), all.end(), 0), 1) << "and the window's own thread does not";
}

class Living : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        window.book().setLiving(true);
    }
    Mark markOf(const char* place)
    {
        return window.findChild<CourseButton*>(QStringLiteral("course.") + place)->mark();
    }
};

TEST_F(Living, NobodyHasToPressAButtonToLearnThatTheClaimIsNotWhatIsBuilt)
{
    waitForResults();
    EXPECT_TRUE(text("levels.verdict").startsWith("At most PL b")) << text("levels.verdict").toStdString();
    EXPECT_TRUE(text("levels.verdict").contains("not reached"));
    EXPECT_EQ(markOf("faults"), Mark::Wrong);
    EXPECT_EQ(markOf("levels"), Mark::Wrong);
    EXPECT_EQ(markOf("skyline"), Mark::Wrong);
    for (const char* place : {"bench", "functions"}) // one run of the stop was in order, and nothing else was tried
        EXPECT_EQ(markOf(place), Mark::Claimed) << place;
    EXPECT_TRUE(window.ledge().line().contains("fallen off")) << window.ledge().line().toStdString();
    EXPECT_NE(window.skyline().view().figure().spots[0].words.find("PL b at most"), std::string::npos)
        << window.skyline().view().figure().spots[0].words;
}

TEST_F(Living, WhatIsOnlyClaimedIsNeverShownAsInOrder)
{
    window.book().setLiving(false);
    window.document().edit("x", longerWire);
    waitForResults();
    for (const char* place : {"skyline", "faults", "levels", "bench", "functions"})
        EXPECT_EQ(markOf(place), Mark::Claimed) << place;
    EXPECT_FALSE(window.ledge().line().startsWith("No finding from")) << window.ledge().line().toStdString();
}

TEST_F(Living, TheMenuTurnsItOff)
{
    window.actionTable().action("work.by_itself")->trigger();
    EXPECT_TRUE(window.book().isLiving()) << "the rig's setting was off";
    window.actionTable().action("work.by_itself")->trigger();
    EXPECT_FALSE(window.book().isLiving());
}

TEST_F(Living, AFindingLeadsToWhereItCanBeLookedAt)
{
    waitForResults();
    const auto findings = window.findings();
    const auto fallen = std::find_if(
        findings.begin(), findings.end(), [](const Finding& f) { return f.target.fault == "S0/block:fallen_off"; });
    ASSERT_NE(fallen, findings.end());
    window.showTarget(fallen->target);
    EXPECT_TRUE(window.faults().isVisible());
    EXPECT_TRUE(text("faults.title").contains("S0")) << "its story, not only the place";
    window.showTarget({.device = window.document().dossier().circuit.device("Q1")->id});
    EXPECT_TRUE(window.bench().isVisible());
}

/// What a scenario expects and does not get is a finding, and the finding plays it up to that moment.
TEST_F(Living, AScenarioThatFailsIsFoundAndPlayedThere)
{
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.scenarios[0].expectations.push_back({3.5, "M1", "at_rest"}); // it runs then
        return changed;
    });
    waitForResults();
    window.goTo("levels");
    window.showTarget(finding("finding.scenario.unmet").target);
    EXPECT_TRUE(window.bench().isVisible());
    EXPECT_EQ(session().run().now(), 3'500'000'000);
    EXPECT_TRUE(is("M1", "driven")) << "as it is then";
    EXPECT_FALSE(session().isRunning());
    EXPECT_EQ(text("inspector.title"), "M1");
    EXPECT_EQ(markOf("bench"), Mark::Wrong);
}

/// The window's own thread does none of the work: a timer goes on coming while faults are tried. For how long it is
/// held up at the most stands in bench/frame_bench.cpp.
TEST_F(Living, TheWindowAnswersWhileItWorks)
{
    window.document().edit("x", longerWire);
    int beats = 0;
    QTimer beat;
    QObject::connect(&beat, &QTimer::timeout, &beat, [&] { beats += window.book().isWorking(); });
    beat.start(10);
    waitForResults();
    EXPECT_GE(beats, 10) << "hundreds of runs were made meanwhile";
}

/// A window that stays open over midnight reads the record on the new day, without anybody touching it.
TEST_F(Book, ANewDayIsTakenUpByItself)
{
    std::string day = "2026-03-01";
    book.setToday([&day] { return day; });
    settle();
    const auto today = [this] { return book.results().find(kOnRecord)->today; };
    EXPECT_EQ(today(), "2026-03-01");
    QSignalSpy changed(&book, &StudyBook::changed);
    book.lookAtDay();
    EXPECT_TRUE(changed.isEmpty()) << "the same day";
    day = "2026-03-02";
    book.lookAtDay();
    EXPECT_FALSE(changed.isEmpty());
    EXPECT_EQ(today(), "2026-03-02");
    settle();
    EXPECT_TRUE(book.fresh(kChecks));
}

} // namespace
} // namespace ts
