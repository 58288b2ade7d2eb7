// Checks in the real window: gates by arrow keys, findings unfolded where they stand, let happen on the Bench, accepted
// and withdrawn.

#include "app/places/checks/checks_place.h"
#include "app/places/checks/finding_board.h"
#include "app/places/checks/finding_line.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/word_flow.h"
#include "core/edit/device_edits.h"
#include "core/exploration/trials.h"
#include "core/library/registry.h"
#include "core/patterns/machine.h"
#include "core/sizing/sizing.h"
#include "tests/support/window_rig.h"

#include <QPushButton>

namespace ts {
namespace {

using namespace app;

class Checks : public test::WindowTest {
protected:
    /// A starter with a hold that goes past the stop: a finding of the gravest kind that can be played.
    void SetUp() override
    {
        WindowTest::SetUp();
        window.document().startWith(
            *patterns::machine(*patterns::MachinePlan::from(std::vector<std::string>{"hold=ahead_of_stop"})));
        QTest::keyClick(&window, Qt::Key_5, Qt::ControlModifier);
        window.book().ask(kTrials.id, {});
        ASSERT_TRUE(QTest::qWaitFor(
            [this] {
                return window.book().fresh(kTrials) && window.book().fresh(kSizing) && window.book().fresh(kChecks)
                    && !window.book().isBehind();
            },
            90000));
        QApplication::processEvents();
    }
    FigureView& ways() { return *find<FigureView>("checks.ways"); }
    FindingBoard& board() { return *find<FindingBoard>("checks.board"); }
    std::vector<FindingLine*> lines()
    {
        std::vector<FindingLine*> all;
        for (int k = 0; auto* line = board().findChild<FindingLine*>(QStringLiteral("checks.finding.%1").arg(k)); ++k)
            all.push_back(line);
        return all;
    }
    FindingLine* lineOf(const QString& words)
    {
        for (FindingLine* line : lines())
            if (line->text().contains(words))
                return line;
        ADD_FAILURE() << words.toStdString();
        return nullptr;
    }
    void open(const QString& words)
    {
        if (FindingLine* line = lineOf(words))
            line->click();
        QApplication::processEvents();
    }
    void fill(const char* who, const char* why)
    {
        find<TextWord>("checks.who")->setText(who);
        auto* reason = find<TextWord>("checks.why");
        window.activateWindow();
        reason->setFocus();
        QTest::keyClicks(reason, why);
        QTest::keyClick(reason, Qt::Key_Return);
        QApplication::processEvents();
    }
};

TEST_F(Checks, WalksFromTheSupplyToTheMotorAndSaysOfEachGateWhatWasJudged)
{
    ASSERT_GT(ways().figure().spots.size(), 5u);
    window.activateWindow();
    ways().setFocus();
    QTest::keyClick(&ways(), Qt::Key_Right);
    EXPECT_EQ(ways().chosen(), 0);
    std::string contactor;
    for (const auto& spot : ways().figure().spots)
        if (spot.words.starts_with("Q1 ") && contactor.empty())
            contactor = spot.words;
    EXPECT_NE(contactor.find("running 11.0 A"), std::string::npos) << contactor;
    EXPECT_NE(contactor.find("current of the contactor: needs 11.0 A"), std::string::npos) << contactor;
    for (const auto& spot : ways().figure().spots)
        if (spot.words.starts_with("Q1 ")) {
            ways().choose(spot.item);
            break;
        }
    EXPECT_TRUE(text("checks.gate").contains("current of the contactor")) << text("checks.gate").toStdString();
    EXPECT_TRUE(text("checks.gate").contains("IEC 60947-4-1"));
    EXPECT_TRUE(text("checks.not_judged").contains("not judged for want of an entry"));
}

TEST_F(Checks, UnfoldsOneFindingWhereItStands)
{
    ASSERT_FALSE(lines().empty());
    EXPECT_EQ(board().findChild<QWidget*>("checks.sheet"), nullptr);
    open("F2");
    EXPECT_FALSE(text("checks.consequence").isEmpty());
    EXPECT_TRUE(text("checks.rests").contains("Look up: EN 60204-1")) << text("checks.rests").toStdString();
    ASSERT_NE(board().opened(), nullptr);
    window.activateWindow();
    FindingLine* line = lineOf("F2");
    line->setFocus();
    QTest::keyClick(line, Qt::Key_Return);
    QApplication::processEvents();
    EXPECT_EQ(board().opened(), nullptr);
    EXPECT_TRUE(lineOf("F2")->hasFocus() || !QApplication::focusWidget()) << "the keyboard stays where it was";
}

TEST_F(Checks, GoesFromFindingToFindingByArrows)
{
    ASSERT_GT(lines().size(), 1u);
    window.activateWindow();
    lines()[0]->setFocus();
    ASSERT_TRUE(QTest::qWaitFor([this] { return lines()[0]->hasFocus(); }));
    QTest::keyClick(lines()[0], Qt::Key_Down);
    EXPECT_TRUE(QTest::qWaitFor([this] { return lines()[1]->hasFocus(); }));
    QTest::keyClick(lines()[1], Qt::Key_Up);
    EXPECT_TRUE(QTest::qWaitFor([this] { return lines()[0]->hasFocus(); }));
}

TEST_F(Checks, LetsItHappenOnTheBench)
{
    open("F2");
    QTest::mouseClick(find<QPushButton>("checks.play"), Qt::LeftButton);
    EXPECT_TRUE(window.bench().isVisible());
    ASSERT_TRUE(QTest::qWaitFor([this] { return session().frame().now > 2'000'000'000; }, 20000));
    const Plant& plant = session().plant();
    ASSERT_FALSE(plant.motors.empty());
    EXPECT_EQ(session().frame().motors[0].mode, MotorMode::Driven) << "tripped, and it runs on";
}

/// A reading that is not as drawn is said here as soon as it stands in the record, and no more once a later one agrees.
TEST_F(Checks, AReadingThatDisagreesIsAFinding)
{
    const auto read = [this](const char* word) {
        RecordEntry e;
        e.date = "2026-11-30T10:00:00+01:00";
        e.who = "A. Weller";
        e.text = std::string("seen: ") + word;
        e.kind = "reading";
        e.role = "tested";
        e.subject = "lamp/P1";
        e.reading = TakenReading{{}, word, {}, {}, {}, "lit", "eye", {}, 0, {}};
        ASSERT_TRUE(window.document().addToRecord(e));
        ASSERT_TRUE(QTest::qWaitFor([this] { return window.book().fresh(kChecks) != nullptr; }, 20000));
        QApplication::processEvents();
    };
    const auto isSaid = [this] {
        const auto all = lines();
        return std::any_of(all.begin(), all.end(),
            [](FindingLine* line) { return line->text().contains("the last reading is not what the drawing says"); });
    };
    EXPECT_FALSE(isSaid());
    read("dark");
    EXPECT_TRUE(isSaid());
    EXPECT_EQ(finding("finding.record.disagrees").severity, Severity::Stop);
    read("lit");
    EXPECT_FALSE(isSaid());
}

TEST_F(Checks, AcceptsWithNameAndReasonAndStaysAFinding)
{
    const std::size_t before = lines().size();
    open("F2");
    find<QPushButton>("checks.accept")->click();
    QApplication::processEvents();
    EXPECT_TRUE(window.document().record().empty()) << "nobody, and no reason";
    EXPECT_TRUE(text("ledge.line").contains("Who?")) << text("ledge.line").toStdString();
    fill("A. Weller", "rebuilt in spring");
    ASSERT_EQ(window.document().record().size(), 1u);
    EXPECT_EQ(window.document().record()[0].kind, "finding_accepted");
    EXPECT_TRUE(window.document().isModified());
    EXPECT_EQ(lines().size(), before) << "it stays a finding";
    EXPECT_TRUE(text("checks.accepted").contains("by A. Weller (designed): rebuilt in spring"))
        << text("checks.accepted").toStdString();
    EXPECT_TRUE(lineOf("F2")->accessibleName().startsWith("accepted"));
    window.document().history().undo();
    EXPECT_EQ(window.document().record().size(), 1u) << "undo takes nothing from the record";
    fill("B. Novak", "not any more");
    ASSERT_EQ(window.document().record().size(), 2u);
    EXPECT_EQ(window.document().record()[1].kind, "acceptance_withdrawn");
    EXPECT_EQ(board().findChild<QLabel*>("checks.accepted", Qt::FindDirectChildrenOnly), nullptr);
    EXPECT_FALSE(lineOf("F2")->accessibleName().startsWith("accepted"));
    ASSERT_TRUE(QTest::qWaitFor([this] { return window.book().fresh(kChecks) != nullptr; }, 20000))
        << "with each entry of the record the checks are made again";
}

TEST_F(Checks, KeepsWhatWasAcceptedInTheFile)
{
    open("F2");
    fill("A. Weller", "rebuilt in spring");
    QTemporaryDir folder;
    const QString path = folder.filePath("kept.sentry");
    ASSERT_TRUE(window.document().save(path));
    EXPECT_FALSE(window.document().isModified());
    const auto loaded = io::loadDossier(path.toStdString());
    ASSERT_TRUE(loaded);
    EXPECT_EQ(loaded->record, window.document().record());
    EXPECT_FALSE(record::firstBroken(loaded->record));
}

/// Tried in the background, done by a click, taken back by undo.
TEST_F(Checks, OffersWhatMendsItAndDoesIt)
{
    window.document().editFile("x", [](const DossierFile& file) {
        return edit::withValue(file, file.dossier.circuit.device("Q1")->id, "rated_current_ac3_a", "9");
    });
    waitForResults();
    ASSERT_TRUE(QTest::qWaitFor(
        [this] { return window.book().fresh(kSizing) && window.book().fresh(kChecks) && !window.book().isBehind(); },
        60000));
    QApplication::processEvents();
    open("is made for 9.00 A");
    find<QPushButton>("checks.mends")->click();
    ASSERT_TRUE(QTest::qWaitFor([this] { return board().findChild<QPushButton*>("checks.mend.0") != nullptr; }, 90000));
    EXPECT_TRUE(text("checks.mending").contains("that were run these mend it")) << text("checks.mending").toStdString();
    EXPECT_TRUE(text("checks.mend.text.0").contains("Q1: rated current AC-3 in A"))
        << text("checks.mend.text.0").toStdString();
    find<QPushButton>("checks.mend.0")->click();
    const auto rated = [this] {
        const Circuit& c = window.document().dossier().circuit;
        return parametersOf(c, *c.device("Q1"))->number("rated_current_ac3_a");
    };
    EXPECT_GT(rated(), 11.0);
    QApplication::processEvents();
    EXPECT_EQ(board().findChild<QPushButton*>("checks.mend.0"), nullptr) << "tried on another dossier";
    window.document().history().undo();
    EXPECT_EQ(rated(), 9.0);
}

/// Each is entered where it is missed, for the device or for its part.
TEST_F(Checks, TakesMissingFiguresWhereTheyAreMissed)
{
    open("sizes are not judged");
    const auto fieldFor = [this](const QString& what) -> TextWord* {
        for (TextWord* field : board().findChildren<TextWord*>())
            if (field->accessibleName().contains(what))
                return field;
        ADD_FAILURE() << what.toStdString();
        return nullptr;
    };
    const auto give = [this](TextWord* field, const char* value) {
        ASSERT_NE(field, nullptr);
        field->setText(value);
        QTest::keyClick(field, Qt::Key_Return);
        waitForResults();
        ASSERT_TRUE(QTest::qWaitFor([this] { return window.book().fresh(kSizing) != nullptr; }, 60000));
        ASSERT_TRUE(
            QTest::qWaitFor([this] { return window.book().fresh(kChecks) && !window.book().isBehind(); }, 60000));
        QApplication::processEvents();
    };
    const auto missing = [this] { return window.book().fresh(kSizing)->notJudged.size(); };
    const std::size_t before = missing();
    give(fieldFor("Q0: rated current"), "40");
    EXPECT_EQ(missing(), before - 1);
    const Circuit& c = window.document().dossier().circuit;
    EXPECT_EQ(parametersOf(c, *c.device("Q0"))->number("rated_current_a"), 40);
    give(fieldFor("lie loaded together in cabinet"), "2");
    EXPECT_EQ(missing(), before - 2);
    give(fieldFor("G0"), "far");
    EXPECT_EQ(missing(), before - 2) << "not a figure";
    EXPECT_TRUE(text("ledge.line").contains("earth_return_ohm")) << text("ledge.line").toStdString();
}

/// Somebody wrote another reason into the file.
TEST_F(Checks, SaysThatARecordWasChangedBehindItsBack)
{
    DossierFile file = window.document().file();
    for (const char* text : {"first", "second"}) {
        RecordEntry e;
        e.date = "2027-01-31T08:00:00+01:00";
        e.who = "A. Weller";
        e.text = text;
        e.kind = "note";
        e.role = "designed";
        file.record.push_back(*record::nextEntry(e, file.record, file.dossier));
    }
    file.record[0].text = "another";
    window.document().startWith(file);
    EXPECT_TRUE(text("ledge.line").contains("changed behind its back: entry 2")) << text("ledge.line").toStdString();
}

TEST_F(Checks, ListsWhatWasNotLookedAtWithAWayToDoIt)
{
    const auto rows = board().findChildren<QPushButton*>("checks.run");
    ASSERT_FALSE(rows.empty());
    EXPECT_TRUE(text("checks.group.missing").contains("Not looked at"));
    EXPECT_TRUE(rows.first()->accessibleName().startsWith("Look at it now: "));
}

} // namespace
} // namespace ts
