// A person at the Bench: presses the emergency stop, sees why the motor stops, welds a contact, sees the reset
// refused, measures. With real clicks and keys on the real window.

#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QPointer>

#include <set>

namespace ts {
namespace {

class Bench : public test::WindowTest {
protected:
    void clickDrawing(QPoint p) { QTest::mouseClick(&window.bench().paths(), Qt::LeftButton, {}, p); }
};

TEST_F(Bench, EmergencyStopStopsAndSaysWhy)
{
    EXPECT_TRUE(isLit("P2"));
    startMachine();
    EXPECT_TRUE(isLit("P1"));
    EXPECT_FALSE(isLit("P2"));
    click("door.S0");
    session().advanceBy(0.2);
    EXPECT_TRUE(is("S0", "in")) << "it latches";
    EXPECT_FALSE(isLit("P1"));
    EXPECT_TRUE(isLit("P2"));
    EXPECT_FALSE(is("M1", "driven"));
    const QString why = window.bench().trace().reason();
    EXPECT_TRUE(why.contains("drops out")) << why.toStdString();
    EXPECT_TRUE(why.contains("K1 outputs off")) << why.toStdString();
    EXPECT_TRUE(why.endsWith("S0: pressed")) << why.toStdString();
    // Unlatched by the next click; nothing starts.
    session().advanceBy(20.0);
    click("door.S0");
    session().advanceBy(1.0);
    EXPECT_TRUE(is("S0", "out"));
    EXPECT_TRUE(is("M1", "at_rest"));
    startMachine();
}

TEST_F(Bench, WeldedContactorRefusesTheResetAndShowsWhere)
{
    startMachine();
    clickDrawing(elementAt("Q1", "coil"));
    auto* welded = find<QCheckBox>("fault.Q1/main:welded");
    QTest::mouseClick(welded, Qt::LeftButton, {}, QPoint(8, welded->height() / 2));
    EXPECT_EQ(session().run().state().faults.size(), 1u);
    EXPECT_TRUE(text("bench.time").contains("1 fault on"));
    click("door.S0");
    session().advanceBy(20.0);
    EXPECT_TRUE(is("M1", "at_rest")) << "the other contactor stops it";
    click("door.S0");
    session().advanceBy(1.0);
    push("S3");
    EXPECT_TRUE(is("K1", "outputs_off"));
    const QString card = find<QAbstractButton>("plate.K1")->accessibleName();
    EXPECT_TRUE(card.contains("reset open at Q1 21-22")) << card.toStdString();
    push("S2");
    EXPECT_TRUE(is("M1", "at_rest"));
    // Taken off again, everything works.
    QTest::keyClick(&window, Qt::Key_Backspace, Qt::ControlModifier);
    EXPECT_TRUE(session().run().state().faults.empty());
    session().advanceBy(1.0);
    startMachine();
}

TEST_F(Bench, MeterReadsBetweenTwoClickedTerminals)
{
    startMachine();
    clickDrawing(pinAt("Q1", "A1"));
    clickDrawing(pinAt("Q1", "A2"));
    app::MeterPanel& meter = window.bench().meter();
    EXPECT_EQ(meter.reading().value, "24.0");
    EXPECT_EQ(meter.reading().unit, "V DC");
    click("door.S0");
    session().advanceBy(1.0);
    EXPECT_EQ(meter.reading().value, "0.00");
    // By name, in the power circuit: line to line.
    auto* red = find<QComboBox>("meter.red");
    auto* black = find<QComboBox>("meter.black");
    red->setCurrentIndex(red->findText("Q0:2"));
    black->setCurrentIndex(black->findText("Q0:4"));
    EXPECT_EQ(meter.reading().unit, "V AC");
    EXPECT_NEAR(meter.reading().value.toDouble(), 400.0, 0.5);
    // Between the open contactors: nothing there.
    red->setCurrentIndex(red->findText("Q1:2"));
    EXPECT_EQ(meter.reading().value, "floating");
}

TEST_F(Bench, ShiftClickHoldsAButtonDown)
{
    push("S3");
    click("door.S2", Qt::ShiftModifier);
    session().advanceBy(2.0);
    EXPECT_TRUE(is("S2", "in")) << "held without a hand";
    click("door.S2");
    session().advanceBy(0.5);
    EXPECT_TRUE(is("S2", "out"));
    EXPECT_TRUE(is("Q1", "in")) << "and the hold keeps the motor";
}

TEST_F(Bench, WorksFromTheKeyboardAlone)
{
    const auto hold = [&](const QString& tag) {
        QWidget* button = find("door." + tag);
        button->setFocus(Qt::TabFocusReason);
        QTest::keyPress(button, Qt::Key_Space);
        session().advanceBy(0.3);
        QTest::keyRelease(button, Qt::Key_Space);
        session().advanceBy(0.3);
    };
    hold("S3");
    hold("S2");
    session().advanceBy(2.0);
    EXPECT_TRUE(is("M1", "driven"));
    hold("S0");
    session().advanceBy(0.2);
    EXPECT_FALSE(is("M1", "driven"));
    // Walk through the drawing, go to the power circuit and back, to Levels and back.
    QWidget& paths = window.bench().paths();
    paths.setFocus();
    QTest::keyClick(&paths, Qt::Key_N);
    EXPECT_FALSE(find<QLabel>("inspector.state")->text().isEmpty());
    QTest::keyClick(&window, Qt::Key_F6);
    EXPECT_TRUE(window.bench().showsPower());
    QTest::keyClick(&window, Qt::Key_7, Qt::ControlModifier);
    EXPECT_TRUE(window.levels().isVisible());
    QTest::keyClick(&window, Qt::Key_3, Qt::ControlModifier);
    EXPECT_TRUE(window.bench().isVisible());
}

TEST_F(Bench, StepsFromEventToEventAndBack)
{
    startMachine();
    QTest::keyClick(&window, Qt::Key_F5); // pause
    EXPECT_FALSE(session().isRunning());
    click("door.S0");
    const std::size_t before = session().run().trace().events.size();
    QTest::keyClick(&window, Qt::Key_Period);
    EXPECT_GT(session().run().trace().events.size(), before);
    session().advanceBy(0.5);
    EXPECT_TRUE(is("Q1", "out"));
    for (int i = 0; i < 30 && !is("Q1", "in"); ++i)
        QTest::keyClick(&window, Qt::Key_Comma);
    EXPECT_TRUE(is("Q1", "in")) << "back before it dropped out";
    session().advanceBy(0.5);
    EXPECT_TRUE(is("Q1", "out")) << "the same happens again";
}

TEST_F(Bench, LosesAPhaseAtTheSupply)
{
    startMachine();
    window.bench().showPower(true);
    const DeviceId g0 = window.document().dossier().circuit.device("G0")->id;
    emit window.bench().paths().symbolPicked(g0, {});
    auto* l1 = find<QCheckBox>("knob.G0.L1");
    EXPECT_TRUE(l1->isChecked());
    QTest::mouseClick(l1, Qt::LeftButton, {}, QPoint(8, l1->height() / 2));
    EXPECT_FALSE(l1->isChecked());
    session().advanceBy(2.0);
    EXPECT_TRUE(is("Q1", "out")) << "the control transformer is on L1 and L2";
}

TEST_F(Bench, HandOnTheArmature)
{
    emit window.bench().paths().symbolPicked(window.document().dossier().circuit.device("Q1")->id, "coil");
    click("do.Q1.push_in");
    session().advanceBy(0.5);
    EXPECT_TRUE(is("Q1", "in"));
    EXPECT_TRUE(is("M1", "at_rest")) << "the second contactor is still open";
    click("do.Q1.let_go");
    session().advanceBy(0.5);
    EXPECT_TRUE(is("Q1", "out"));
}

TEST_F(Bench, RealTimeKeepsTheWindowAlive)
{
    session().setClockEnabled(true);
    push("S3");
    push("S2");
    // A gap over 50 ms would be ours; times four on a shared machine, and one quiet try of three is enough.
    qint64 best = 1000000;
    for (int attempt = 0; attempt < 3 && best >= 200; ++attempt) {
        QElapsedTimer gap;
        gap.start();
        qint64 longest = 0;
        QTimer beat;
        QObject::connect(&beat, &QTimer::timeout, [&] { longest = std::max(longest, gap.restart()); });
        beat.start(5);
        QTest::qWait(700);
        best = std::min(best, longest);
    }
    EXPECT_LT(best, 200);
}

TEST_F(Bench, TimeNeverRunsAheadOfTheClock)
{
    session().setClockEnabled(true);
    const TimeNs from = session().run().now();
    QElapsedTimer clock;
    clock.start();
    QTest::qWait(500);
    const double simulated = secondsOf(session().run().now() - from).si();
    EXPECT_GT(simulated, 0.0);
    EXPECT_LT(simulated, static_cast<double>(clock.elapsed()) / 1000.0 + 0.1);
    session().setRunning(false);
    const TimeNs paused = session().run().now();
    QTest::qWait(100);
    EXPECT_EQ(session().run().now(), paused);
}

TEST_F(Bench, AnotherCircuitNeedsNoOtherCode)
{
    ASSERT_TRUE(window.open(QString::fromStdString(test::sourcePath("tests/data/pump_230v_ac.sentry"))));
    waitForResults();
    push("S12");
    session().advanceBy(2.0);
    EXPECT_TRUE(is("M7", "driven"));
    EXPECT_TRUE(isLit("P10"));
    clickDrawing(pinAt("KM1", "A1"));
    clickDrawing(pinAt("KM1", "A2"));
    EXPECT_NEAR(window.bench().meter().reading().value.toDouble(), 231.0, 1.0);
    click("door.S10");
    session().advanceBy(1.0);
    EXPECT_FALSE(is("M7", "driven"));
    EXPECT_TRUE(window.ledge().line().contains("no level")) << "nothing is claimed there, and that is said";
}

/// 43 devices at 1280 x 800: every page is read without a magnifier, is turned with keys and from the list, and what
/// is found stands on its own.
TEST_F(Bench, LargeDrawingIsReadPageByPage)
{
    window.resize(1280, 800);
    ASSERT_TRUE(window.open(QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"))));
    waitForResults();
    app::PathsView& paths = window.bench().paths();
    const auto smallestText = [&paths] {
        return diagram::kSmallSize * (paths.onWidget({1, 0}).x() - paths.onWidget({0, 0}).x());
    };
    for (bool power : {false, true}) {
        window.bench().showPower(power);
        ASSERT_GT(paths.pageCount(), 2);
        for (int k = 0; k + 1 < paths.pageCount(); ++k) {
            EXPECT_EQ(paths.page(), k);
            EXPECT_GE(smallestText(), 9.0) << "page " << k + 1;
            const diagram::Scene& scene = paths.scene();
            EXPECT_TRUE(QRectF(paths.rect()).contains(paths.onWidget({scene.width - 1, scene.height - 1})));
            QTest::keyClick(&paths, Qt::Key_PageDown);
        }
        EXPECT_EQ(find<QAbstractButton>("bench.page")->text(), "whole");
    }
    window.bench().showPower(false);
    EXPECT_EQ(paths.page(), 0) << "another drawing is begun at its first page";
    const QString first = find<QAbstractButton>("bench.page")->text();
    window.bench().find({window.document().dossier().circuit.device("P5")->id, "", {}});
    EXPECT_NE(find<QAbstractButton>("bench.page")->text(), first);
    click("bench.page");
    auto* menu = find<QMenu>("bench.pages");
    ASSERT_EQ(menu->actions().size(), paths.pageCount());
    EXPECT_TRUE(menu->actions().front()->text().contains("Q1")) << menu->actions().front()->text().toStdString();
    menu->actions().front()->trigger();
    EXPECT_EQ(paths.page(), 0);
    menu->close();
}

/// The door is as high as its buttons need, also if the file was opened while another place was in view.
TEST_F(Bench, DoorIsWholeAfterAFileWasOpenedElsewhere)
{
    window.resize(1280, 800);
    QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
    ASSERT_TRUE(window.open(QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"))));
    waitForResults();
    QTest::keyClick(&window, Qt::Key_3, Qt::ControlModifier);
    QTest::qWait(50);
    EXPECT_GE(find("door.frame")->height(), 400);
}

TEST_F(Bench, SymbolsAreWalkedOverAllPages)
{
    ASSERT_TRUE(window.open(QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"))));
    waitForResults();
    app::PathsView& paths = window.bench().paths();
    paths.setFocus();
    std::set<int> pages;
    std::set<QString> seen;
    for (int k = 0; k < 200; ++k) {
        QTest::keyClick(&paths, Qt::Key_N);
        if (!seen.insert(text("inspector.title")).second)
            break;
        pages.insert(paths.page());
    }
    EXPECT_EQ(static_cast<int>(pages.size()), std::max(1, paths.pageCount() - 1)) << "all but the whole";
    EXPECT_GT(seen.size(), 50u);
}

TEST_F(Bench, EverythingThatTakesTheKeyboardHasAName)
{
    for (QWidget* w : window.findChildren<QWidget*>()) {
        if (!(w->focusPolicy() & Qt::TabFocus) || !w->isVisible() || w->objectName().startsWith("qt_"))
            continue;
        const auto* button = qobject_cast<QAbstractButton*>(w);
        const bool isNamed = !w->accessibleName().isEmpty() || (button && !button->text().isEmpty())
            || qobject_cast<QLineEdit*>(w);
        EXPECT_TRUE(isNamed) << w->metaObject()->className() << " " << w->objectName().toStdString();
    }
}

/// Only wires changed: the door stands, and what is pressed there works in the new run. A changed device is built anew.
TEST_F(Bench, DoorAndPlateStandWhileWiresChange)
{
    const QPointer<QWidget> button = find("door.S2");
    const auto edit = [this](const std::function<void(Circuit&)>& what) {
        window.document().edit("another", [&what](const Dossier& d) -> Expected<Dossier> {
            Dossier changed = d;
            what(changed.circuit);
            return changed;
        });
    };
    edit([](Circuit& c) { c.wires.front().lengthM += 1.0; });
    ASSERT_TRUE(button);
    EXPECT_EQ(find("door.S2"), button.get());
    startMachine();
    EXPECT_TRUE(is("M1", "driven"));
    const DeviceId id = window.document().dossier().circuit.device("S2")->id;
    edit([id](Circuit& c) {
        for (Device& d : c.devices)
            if (d.id == id)
                d.label = "go";
    });
    QApplication::processEvents();
    EXPECT_FALSE(button) << "another label, another button";
    EXPECT_TRUE(find("door.S2")->isVisible());
}

/// What was tried by hand is kept with what it showed, one step of undo, and plays again.
TEST_F(Bench, WhatWasDoneIsKeptAsAScenario)
{
    const std::size_t before = window.document().dossier().scenarios.size();
    QTest::keyClick(&window, Qt::Key_K, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(window.document().dossier().scenarios.size(), before) << "nothing was done yet";
    session().advanceBy(1.0);
    push("S3");
    push("S2");
    session().advanceBy(3.0);
    ASSERT_TRUE(is("M1", "driven"));
    QTest::keyClick(&window, Qt::Key_K, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().dossier().scenarios.size() == before + 1; }, 20000));
    const Scenario& kept = window.document().dossier().scenarios.back();
    EXPECT_EQ(kept.name, "Kept from the Bench");
    EXPECT_EQ(kept.steps.size(), 4u) << "two buttons pressed and let go";
    EXPECT_TRUE(std::any_of(kept.expectations.begin(), kept.expectations.end(),
        [](const Expectation& e) { return e.subject == "M1" && e.state == "driven"; }));
    EXPECT_TRUE(window.ledge().line().contains("Kept from the Bench")) << window.ledge().line().toStdString();
    window.document().history().undo();
    EXPECT_EQ(window.document().dossier().scenarios.size(), before);
}

} // namespace
} // namespace ts
