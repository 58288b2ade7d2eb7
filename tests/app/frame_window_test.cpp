// The frame around the places: files, undo, the report, actions, what happens to bad input.

#include "app/shell/course.h"
#include "app/shell/report_writer.h"
#include "tests/support/window_rig.h"
#include "wording/cautions.h"

#include <QFile>
#include <QPushButton>

namespace ts {
namespace {

class Frame : public test::WindowTest {
protected:
    QString written(const QString& path)
    {
        QFile f(path);
        EXPECT_TRUE(f.open(QIODevice::ReadOnly));
        return QString::fromUtf8(f.readAll());
    }
    QTemporaryDir folder;
};

TEST_F(Frame, WritesTheReport)
{
    asker->save = folder.filePath("report.html");
    QTest::keyClick(&window, Qt::Key_R, Qt::ControlModifier);
    EXPECT_TRUE(window.ledge().line().contains("Writing")) << "in the background";
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.desk().reportWriter().isBusy(); }, 30000));
    const QString html = written(asker->save);
    for (const char* needed :
        {"Debarker DB-2: chip blower", "Emergency stop", "PL e", "<svg", "stop category 0", "replaces neither"})
        EXPECT_TRUE(html.contains(needed)) << needed;
    EXPECT_TRUE(window.ledge().line().contains("report.html"));
    asker->save = folder.filePath("no/such/folder/report.html");
    window.desk().writeReport(asker->save);
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.desk().reportWriter().isBusy(); }, 30000));
    ASSERT_EQ(asker->told.size(), 1);
    EXPECT_TRUE(asker->told[0].contains("no/such/folder"));
}

TEST_F(Frame, TheReportIsOfTheMomentItWasAskedForAndAnOlderOneIsDropped)
{
    const auto rename = [this](const char* name) {
        window.document().edit("Rename", [name](const Dossier& d) -> Expected<Dossier> {
            Dossier changed = d;
            changed.machine.name = name;
            return changed;
        });
    };
    rename("Before");
    asker->save = folder.filePath("report.html");
    QTest::keyClick(&window, Qt::Key_R, Qt::ControlModifier);
    rename("Afterwards"); // while it is being written
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.desk().reportWriter().isBusy(); }, 30000));
    EXPECT_TRUE(written(asker->save).contains("Before"));
    EXPECT_FALSE(written(asker->save).contains("Afterwards"));
    // Asked for twice, the newer one is what the ledge tells of.
    window.desk().writeReport(folder.filePath("first.html"));
    window.desk().writeReport(folder.filePath("second.html"));
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.desk().reportWriter().isBusy(); }, 30000));
    EXPECT_TRUE(window.ledge().line().contains("second.html")) << window.ledge().line().toStdString();
    EXPECT_TRUE(written(folder.filePath("second.html")).contains("Afterwards"));
}

/// A long name gives way to what matters more: that there is something to be saved.
TEST_F(Frame, TheMarkOfUnsavedWorkIsNeverCutOff)
{
    const QString name = "The second debarker of the upper yard with its chip blower, feeder and roller deck";
    window.document().edit("Rename", [&name](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.machine.name = name.toStdString();
        return changed;
    });
    QApplication::processEvents();
    const auto* shown = find<QPushButton>("dossier");
    EXPECT_TRUE(shown->text().endsWith(" *")) << shown->text().toStdString();
    EXPECT_TRUE(shown->text().contains(QChar(0x2026))) << "what is cut is said to be";
    EXPECT_LE(shown->sizeHint().width(), shown->width()) << "all that it says is seen";
    EXPECT_TRUE(shown->toolTip().startsWith(name));
}

TEST_F(Frame, BadFileIsRefusedWithPlaceAndNothingIsLost)
{
    const QString path = folder.filePath("bad.sentry");
    QFile f(path);
    ASSERT_TRUE(f.open(QIODevice::WriteOnly));
    f.write("{\n  \"format\": \"draft-2\",\n  \"dossier\": { \"machine\": { \"name\": 7 } }\n}");
    f.close();
    const Snapshot before = window.document().snapshot();
    asker->open = path;
    QTest::keyClick(&window, Qt::Key_O, Qt::ControlModifier);
    ASSERT_EQ(asker->told.size(), 1);
    EXPECT_TRUE(asker->told[0].contains("bad.sentry:3:")) << asker->told[0].toStdString();
    EXPECT_TRUE(asker->told[0].contains("/dossier/machine/name")) << asker->told[0].toStdString();
    EXPECT_EQ(window.document().snapshot(), before);
    EXPECT_TRUE(session().hasRun());
}

TEST_F(Frame, SavesUndoesAndAsksBeforeLeaving)
{
    const auto shorterDuty = [](const Dossier& d) {
        Dossier changed = d;
        changed.machine.duty.daysPerYear = 100;
        return Expected<Dossier>(changed);
    };
    EXPECT_FALSE(window.document().isModified());
    window.document().edit("duty", shorterDuty);
    EXPECT_TRUE(window.document().isModified());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(window.document().isModified());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(window.document().isModified());

    asker->unsaved = app::Asker::Unsaved::Cancel;
    EXPECT_FALSE(window.close());
    EXPECT_EQ(asker->asked, 1);
    asker->save = folder.filePath("copy.sentry");
    QTest::keyClick(&window, Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_FALSE(window.document().isModified());
    EXPECT_EQ(io::loadDossier(asker->save.toStdString())->dossier.machine.duty.daysPerYear, 100);
    EXPECT_EQ(io::loadDossier(asker->save.toStdString())->nextId, test::demoFile().nextId);
}

TEST_F(Frame, RefusedEditChangesNothingAndIsSaid)
{
    const Snapshot before = window.document().snapshot();
    EXPECT_FALSE(window.document().edit("x",
        [](const Dossier&) { return Expected<Dossier>(failure(ErrorCode::OutOfRange, message("edit.duty_range"))); }));
    EXPECT_EQ(window.document().snapshot(), before);
    EXPECT_FALSE(window.document().history().canUndo());
    EXPECT_TRUE(window.ledge().line().contains("between 1 and 366"));
}

TEST_F(Frame, FindingsShowOnTheLedgeAndTheCourse)
{
    EXPECT_TRUE(window.ledge().line().contains("while a start button is held")) << "a note, no more";
    window.document().edit("category", [](const Dossier& d) {
        Dossier changed = d;
        changed.functions[0].stopCategory = 1;
        return Expected<Dossier>(changed);
    });
    waitForResults();
    EXPECT_TRUE(window.ledge().line().contains("stops with 0, stop category 1 is chosen"))
        << window.ledge().line().toStdString();
    EXPECT_TRUE(find<QAbstractButton>("ledge.open")->text().contains("checks open"))
        << "a finding does not hide what was not looked at";
    EXPECT_EQ(find<QAbstractButton>("course.bench")->accessibleName(), "Bench, findings");
    EXPECT_EQ(find<QAbstractButton>("course.levels")->accessibleName(), "Levels, claimed, not all of it tried");
}

TEST_F(Frame, ActionTableIsSoundAndFollowsTheState)
{
    QSet<QString> ids;
    QSet<QString> keys;
    for (const app::ActionSpec& s : window.actionTable().specs()) {
        EXPECT_FALSE(ids.contains(s.id)) << s.id.toStdString();
        ids.insert(s.id);
        if (!s.shortcut.isEmpty()) {
            EXPECT_FALSE(keys.contains(s.shortcut.toString())) << s.id.toStdString();
            keys.insert(s.shortcut.toString());
        }
        EXPECT_FALSE(s.text.isEmpty());
        EXPECT_TRUE(s.run) << s.id.toStdString();
        if (s.isPossible)
            EXPECT_EQ(s.isPossible(), window.actionTable().action(s.id)->isEnabled()) << s.id.toStdString();
    }
    EXPECT_FALSE(window.actionTable().action("edit.undo")->isEnabled());
    EXPECT_FALSE(window.actionTable().action("bench.do_clear_faults")->isEnabled());
    EXPECT_TRUE(window.actionTable().action("bench.do_step")->isEnabled());
    window.goTo("levels");
    EXPECT_FALSE(window.actionTable().action("bench.do_step")->isEnabled())
        << "a full stop typed into Levels is no step";
}

/// Each caution stands where its table says.
TEST_F(Frame, CautionsStandWhereTheHandIs)
{
    window.goTo("functions"); // it fills itself when it is looked at
    window.goTo("tests");
    window.book().ask(kTests.id, {});
    ASSERT_TRUE(QTest::qWaitFor([this] { return !text("tests.caution").isEmpty(); }, 90000));
    window.goTo("bench");
    window.bench().find({window.document().dossier().circuit.device("F1")->id, {}, {}});
    QApplication::processEvents();
    for (const wording::Caution& c : wording::allCautions())
        for (const QString& name : QString::fromStdString(std::string(c.where)).split(' ', Qt::SkipEmptyParts)) {
            const auto* label = find<QLabel>(name);
            EXPECT_FALSE(label->isHidden()) << name.toStdString();
            EXPECT_FALSE(label->text().isEmpty()) << name.toStdString() << " for " << c.id;
        }
    window.goTo("functions");
    window.book().ask(kPath.id, about(window.document().dossier().functions.front().id));
    EXPECT_TRUE(QTest::qWaitFor([this] { return text("functions.caution").contains("is still at G0"); }, 90000))
        << text("functions.caution").toStdString();
    EXPECT_TRUE(text("functions.caution").contains("Parts move for up to")) << text("functions.caution").toStdString();
}

/// Places keep their keys whatever places are still to come; a key without a place does nothing.
TEST_F(Frame, EachPlaceHasItsOwnKeyForGood)
{
    for (const auto& [key, place] : {std::pair{Qt::Key_0, "skyline"}, {Qt::Key_1, "machine"}, {Qt::Key_2, "functions"},
             {Qt::Key_3, "bench"}, {Qt::Key_6, "faults"}, {Qt::Key_7, "levels"}}) {
        QTest::keyClick(&window, key, Qt::ControlModifier);
        EXPECT_TRUE(find(QStringLiteral("place.") + QLatin1String(place))->isVisible()) << place;
    }
    QTest::keyClick(&window, Qt::Key_4, Qt::ControlModifier);
    EXPECT_TRUE(find("place.levels")->isVisible());
}

TEST_F(Frame, ThemeChangesAndComesBack)
{
    const QColor before = theme.colours().paper;
    QTest::keyClick(&window, Qt::Key_D, Qt::ControlModifier);
    EXPECT_TRUE(theme.isDark());
    EXPECT_NE(theme.colours().paper, before);
    QTest::keyClick(&window, Qt::Key_D, Qt::ControlModifier);
    EXPECT_EQ(theme.colours().paper, before);
}

TEST_F(Frame, FontsAreTheProgramsOwn)
{
    const QFontMetrics body(theme.body()), mono(theme.mono());
    EXPECT_LT(body.horizontalAdvance('i'), body.horizontalAdvance('W'));
    EXPECT_EQ(mono.horizontalAdvance('i'), mono.horizontalAdvance('W'));
    EXPECT_EQ(QFontInfo(theme.body()).family(), "Sentry Sans");
    for (int px : {11, 13, 28})
        for (bool strong : {false, true}) {
            EXPECT_EQ(QFontInfo(theme.mono(px, strong)).family(), "Sentry Mono") << px;
            EXPECT_EQ(theme.mono(px, strong).bold(), strong) << px;
            EXPECT_EQ(theme.mono(px, strong).pixelSize(), px);
        }
    // The advance that core lays drawings out with.
    EXPECT_NEAR(mono.horizontalAdvance(QString(100, '0')) / 100.0, 11 * diagram::kAdvance, 0.35);
}

/// The smallest window that is promised: no place's word is cut, nor a button of the run.
TEST_F(Frame, NoWordIsCutInTheSmallestWindow)
{
    window.resize(1100, 700);
    QApplication::processEvents();
    ASSERT_EQ(window.width(), 1100);
    for (app::CourseButton* b : window.findChildren<app::CourseButton*>())
        EXPECT_GE(b->width(), QFontMetrics(b->font()).horizontalAdvance(b->text())) << b->text().toStdString();
    window.goTo("bench");
    QApplication::processEvents();
    for (const char* name : {"bench.back", "bench.step", "bench.restart", "bench.page", "bench.power", "tool.search"})
        if (auto* b = find<QAbstractButton>(name); b->isVisible())
            EXPECT_GE(b->width(), QFontMetrics(b->font()).horizontalAdvance(b->text())) << name;
    EXPECT_GE(find("bench.time")->width(), find("bench.time")->sizeHint().width());
    EXPECT_EQ(find<QAbstractButton>("tool.search")->text(), "Ctrl+K");
    window.resize(1280, 800);
    QApplication::processEvents();
    EXPECT_TRUE(find<QAbstractButton>("tool.search")->text().startsWith("Find anything"));
}

/// A fault that is on at the Bench, or hidden for an exercise, is told on every other page until it is off.
TEST_F(Frame, WhatIsMadeUpIsToldOnEveryOtherPage)
{
    const auto strip = [this] { return find("shell.bridges"); };
    const Fault weld = faultFrom(session().plant(), "Q1/main:welded")->fault;
    session().setFault(weld, true);
    EXPECT_FALSE(strip()->isVisible()) << "it stands on the Bench itself";
    for (const char* place : {"levels", "checks", "skyline"}) {
        window.goTo(place);
        EXPECT_TRUE(strip()->isVisible()) << place;
        EXPECT_TRUE(text("shell.bridges").contains("Q1 main poles: welded. What stands below is without it"))
            << text("shell.bridges").toStdString();
    }
    session().setFault(weld, false);
    EXPECT_FALSE(strip()->isVisible());
    window.goTo("practice");
    click("practice.hide");
    ASSERT_TRUE(QTest::qWaitFor([this] { return !text("practice.told").isEmpty(); }, 60000));
    EXPECT_FALSE(strip()->isVisible());
    window.goTo("levels");
    EXPECT_TRUE(text("shell.bridges").contains("EXERCISE")) << text("shell.bridges").toStdString();
}

} // namespace
} // namespace ts
