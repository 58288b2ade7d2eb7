// A panel that exists is typed in, line by line, with the keys of a keyboard and the buttons beside them; and what it
// does is found out.

#include "app/places/machine/deeds_map.h"
#include "app/places/machine/deeds_page.h"
#include "app/places/machine/notes_page.h"
#include "app/places/machine/plan_drawing.h"
#include "app/places/machine/scenario_line.h"
#include "tests/support/window_rig.h"

#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>

namespace ts {
namespace {

class NotesWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        test::WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
        ASSERT_TRUE(find("notes.typed")->isVisible());
        click("notes.empty");
        QTest::keyClick(&window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
        ASSERT_TRUE(circuit().devices.empty());
    }
    const Circuit& circuit() { return window.document().dossier().circuit; }
    QPlainTextEdit& typed() { return *find<QPlainTextEdit>("notes.typed"); }
    QString question() { return text("notes.question"); }
    void type(const QString& line)
    {
        typed().setFocus();
        QTest::keyClicks(&typed(), line);
        QTest::keyClick(&typed(), Qt::Key_Return);
        QCoreApplication::processEvents();
    }
    void press(const char* button)
    {
        auto* b = find<QPushButton>(button);
        QTest::keyClick(b, Qt::Key_Space);
        QCoreApplication::processEvents();
    }
    QString lastEntry()
    {
        auto* list = find<QListWidget>("notes.list");
        return list->count() == 0 ? QString() : list->item(list->count() - 1)->text();
    }
};

TEST_F(NotesWindow, ALineAsksForWhatItNeedsAndIsTakenThen)
{
    type("Q1 13 > S2 14");
    EXPECT_TRUE(question().contains("Q1 is not there yet")) << question().toStdString();
    EXPECT_EQ(typed().toPlainText(), "Q1 13 > S2 14") << "what was typed stays";
    press("notes.kind.contactor");
    auto* volts = find<QLineEdit>("notes.value.coil_voltage_v");
    ASSERT_TRUE(volts->hasFocus());
    QTest::keyClicks(volts, "24");
    auto* kind = find<QComboBox>("notes.value.coil_current");
    kind->setFocus();
    press("notes.take_values");
    EXPECT_TRUE(circuit().devices.empty()) << "the kind of current was not read yet, and is not guessed";
    kind->setFocus();
    QTest::keyClick(kind, Qt::Key_End);
    ASSERT_EQ(kind->currentText(), "dc");
    press("notes.take_values");
    EXPECT_TRUE(question().contains("S2 is not there yet")) << question().toStdString();
    press("notes.kind.push_button");
    ASSERT_EQ(circuit().wires.size(), 1u) << question().toStdString();
    EXPECT_EQ(circuit().nameOf(circuit().wires.front().to), "S2:14");
    EXPECT_TRUE(typed().toPlainText().isEmpty());
    EXPECT_TRUE(lastEntry().startsWith("Q1 13 > S2 14")) << lastEntry().toStdString();
    EXPECT_TRUE(text("notes.count").contains("as typed, not as found"));
    const auto& scene = find<app::PlanDrawing>("notes.control")->scene();
    EXPECT_FALSE(scene.symbols.empty()) << "the drawing grows";
}

TEST_F(NotesWindow, AHalfTypedLineStaysAndSaysWhatIsMissing)
{
    type("control 24 dc");
    type("Q1 = contactor");
    type("Q1 13 >");
    EXPECT_TRUE(question().contains("terminal is missing")) << question().toStdString();
    EXPECT_EQ(typed().toPlainText(), "Q1 13 >");
    QTest::keyClick(&typed(), Qt::Key_End);
    QTest::keyClicks(&typed(), " Q1 A1");
    QTest::keyClick(&typed(), Qt::Key_Return);
    EXPECT_EQ(circuit().wires.size(), 1u);
    EXPECT_TRUE(asker->told.isEmpty()) << "never a box";
}

TEST_F(NotesWindow, TabCompletesAndUndoTakesBack)
{
    type("control 24 dc");
    type("Q1 = contactor 13-14");
    typed().setFocus();
    QTest::keyClicks(&typed(), "Q");
    QTest::keyClick(&typed(), Qt::Key_Tab);
    EXPECT_EQ(typed().toPlainText(), "Q1 ");
    QTest::keyClicks(&typed(), "1");
    QTest::keyClick(&typed(), Qt::Key_Tab); // 1 itself is a terminal of it; of those that go on from there the first
    EXPECT_TRUE(typed().toPlainText().startsWith("Q1 13")) << typed().toPlainText().toStdString();
    QTest::keyClicks(&typed(), "> Q1 A1");
    QTest::keyClick(&typed(), Qt::Key_Return);
    ASSERT_EQ(circuit().wires.size(), 1u);
    window.document().history().undo();
    EXPECT_TRUE(circuit().wires.empty());
    EXPECT_TRUE(lastEntry().startsWith("taken back: Q1 13")) << lastEntry().toStdString();
    window.document().history().redo();
    EXPECT_EQ(circuit().wires.size(), 1u);
}

TEST_F(NotesWindow, ManyLinesAtOnceAreOneStepAndStopWhereOneAsks)
{
    typed().setPlainText("control 24 dc\nQ1 = contactor 13-14\nS2 = push_button 13-14\nQ1 14 > S2 14\nQ1 13 > S9 13\n"
                         "Q1 13 > S2 13");
    QTest::keyClick(&typed(), Qt::Key_Return);
    EXPECT_EQ(circuit().wires.size(), 1u);
    EXPECT_EQ(typed().toPlainText(), "Q1 13 > S9 13\nQ1 13 > S2 13");
    EXPECT_TRUE(question().contains("S9"));
    EXPECT_EQ(window.document().history().count(), 1);
    press("notes.kind.push_button");
    EXPECT_EQ(circuit().wires.size(), 3u);
    EXPECT_TRUE(typed().toPlainText().isEmpty());
}

TEST_F(NotesWindow, WiresGetARouteByAGesture)
{
    type("control 24 dc");
    type("Q1 = contactor 13-14");
    type("Q1 14 > Q1 A1");
    EXPECT_TRUE(text("notes.count").contains("laid nobody said where")) << text("notes.count").toStdString();
    auto* route = find<QComboBox>("notes.route");
    route->setFocus();
    QTest::keyClick(route, Qt::Key_Down); // the first way of laying: an enclosure
    emit route->activated(route->currentIndex());
    ASSERT_TRUE(find("notes.lay_rest")->isVisible());
    click("notes.lay_rest");
    ASSERT_EQ(circuit().routes.size(), 1u);
    EXPECT_EQ(circuit().wires.front().route, circuit().routes.front().id);
    EXPECT_EQ(circuit().routes.front().kind, RouteKind::Enclosure);
    EXPECT_FALSE(text("notes.count").contains("laid nobody said where"));
}

TEST_F(NotesWindow, AContactThatNobodyKnowsIsAFindingThatSaysWhatToMeasure)
{
    type("control 24 dc");
    type("K1 = contactor_relay");
    type("K1 7 > K1 A1");
    EXPECT_TRUE(question().contains("Which contact is it")) << question().toStdString();
    auto* pair = find<QLineEdit>("notes.pair");
    ASSERT_TRUE(pair->hasFocus());
    QTest::keyClicks(pair, "8");
    press("notes.effect.unknown");
    ASSERT_EQ(circuit().wires.size(), 1u) << question().toStdString();
    EXPECT_TRUE(lastEntry().startsWith("K1 7 > K1 A1"));
    waitForResults();
    const Finding f = finding("finding.contact.unknown");
    EXPECT_EQ(f.severity, Severity::Stop);
    EXPECT_EQ(f.devices, std::vector<std::string>{"K1"});
}

/// From nothing to a machine that is judged, by the keyboard alone: read off, found out, kept, run.
TEST_F(NotesWindow, FromAnEmptyPanelToAFunctionThatIsJudged)
{
    for (const char* line : {"control 24 dc", "G0 = supply_three_phase voltage_v=400", "in plate: enclosure",
             "F1 = fuse poles=3 rated_current_a=10", "Q1 = contactor 13-14",
             "M1 = motor rated_power_w=1500 voltage_v=400 current_a=3.4 cos_phi=0.79 speed_per_min=1430 \"pump\"",
             "G1 = supply_24v_dc input_voltage_v=400 rated_current_a=5", "S0 = emergency_stop 11-12",
             "S2 = push_button 13-14", "G0 L1 > F1 1", "G0 L2 > F1 3", "G0 L3 > F1 5", "F1 2 > Q1 1", "F1 4 > Q1 3",
             "F1 6 > Q1 5", "Q1 2 > M1 U1", "Q1 4 > M1 V1", "Q1 6 > M1 W1", "F1 2 > G1 L", "F1 4 > G1 N",
             "G1 + > S0 11", "S0 12 > S2 13 > Q1 13", "S2 14 > Q1 14 > Q1 A1", "Q1 A2 > G1 -"})
        type(line);
    ASSERT_TRUE(typed().toPlainText().isEmpty()) << question().toStdString();
    EXPECT_EQ(circuit().devices.size(), 7u);
    EXPECT_EQ(circuit().wires.size(), 17u);
    press("machine.to_deeds");
    auto& deeds = window.machine().deedsPage();
    ASSERT_TRUE(QTest::qWaitFor([&deeds] { return !deeds.isBusy(); }, 30000));
    EXPECT_TRUE(text("deeds.what").startsWith("S0, pressed: stops M1 (pump)")) << text("deeds.what").toStdString();
    press("deeds.all");
    ASSERT_TRUE(QTest::qWaitFor([&deeds] { return !deeds.isBusy(); }, 30000));
    const Dossier& d = window.document().dossier();
    ASSERT_EQ(d.functions.size(), 1u) << "the emergency stop's";
    EXPECT_EQ(d.functions.front().mustRest, std::vector<DeviceId>{d.circuit.device("M1")->id});
    waitForResults();
    for (const Finding& f : window.findings()) {
        EXPECT_NE(f.what.id, "finding.scenario.unmet");
        EXPECT_NE(f.what.id, "finding.motor.no_function");
    }
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(window.document().dossier().functions.empty()) << "one step of undo";
}

class DeedsWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        test::WindowTest::SetUp();
        ASSERT_TRUE(window.open(QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"))));
        QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
        click("machine.to_deeds");
        ASSERT_TRUE(QTest::qWaitFor([this] { return !window.machine().deedsPage().isBusy(); }, 60000));
    }
    /// By the keyboard, from the top.
    void choose(const QString& begins, const QString& holds)
    {
        auto& map = window.machine().deedsPage().map();
        map.setFocus();
        QTest::keyClick(&map, Qt::Key_Home);
        for (int k = 0; k < map.count(); ++k) {
            const QString line = text("deeds.what");
            if (line.startsWith(begins) && line.contains(holds))
                return;
            QTest::keyClick(&map, Qt::Key_Down);
        }
        ADD_FAILURE() << begins.toStdString() << " ... " << holds.toStdString();
    }
};

TEST_F(DeedsWindow, SaysWhatEachHandDoesAndPlaysIt)
{
    choose("S3", "starts M1 (roller deck) backwards");
    const auto& steps = window.machine().deedsPage().steps();
    bool isPressed = false;
    for (std::size_t k = 0; k < steps.stepCount(); ++k)
        isPressed |= steps.textOf({app::ScenarioLine::Pin::Kind::Step, k}).contains("S3 pressed");
    EXPECT_TRUE(isPressed);
    bool isExpected = false;
    for (std::size_t k = 0; k < steps.expectationCount(); ++k)
        isExpected |= steps.textOf({app::ScenarioLine::Pin::Kind::Expectation, k})
                          .contains("M1 is expected to be driven");
    EXPECT_TRUE(isExpected);
    click("deeds.play");
    EXPECT_TRUE(find("place.bench")->isVisible());
    EXPECT_TRUE(is("Q2", "in")) << "played as it was seen";
}

/// The mouse takes hold of any line where it is by itself.
TEST_F(DeedsWindow, EachLineIsChosenWhereItRuns)
{
    auto& map = window.machine().deedsPage().map();
    ASSERT_GT(map.count(), 8);
    for (std::size_t deed = 0; deed < static_cast<std::size_t>(map.count()); deed += 3) {
        QTest::mouseClick(&map, Qt::LeftButton, {}, map.pointOn(deed).toPoint());
        EXPECT_EQ(map.chosen(), deed);
    }
    EXPECT_TRUE(text("deeds.rest").contains("tried: every hand")) << text("deeds.rest").toStdString();
}

TEST_F(DeedsWindow, WhatIsWrongBecomesAFindingAndWhatIsRightIsKept)
{
    const auto count = [this] { return window.document().dossier().scenarios.size(); };
    const std::size_t before = count();
    choose("S22", "starts M3");
    click("deeds.right");
    EXPECT_EQ(count(), before + 1);
    waitForResults();
    for (const Finding& f : window.findings())
        EXPECT_NE(f.what.id, "finding.scenario.unmet");
    click("deeds.wrong");
    EXPECT_EQ(count(), before + 2);
    waitForResults();
    EXPECT_EQ(finding("finding.scenario.unmet").id, "scenarios");
    window.document().history().undo();
    EXPECT_EQ(count(), before + 1);
}

TEST_F(DeedsWindow, KeepsAllOfItForAPanelThatNobodyHasDescribed)
{
    window.document().edit("bare", [](const Dossier& d) -> Expected<Dossier> {
        Dossier bare = d;
        bare.functions.clear();
        bare.scenarios.clear();
        return bare;
    });
    click("deeds.all");
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.machine().deedsPage().isBusy(); }, 60000));
    EXPECT_TRUE(text("deeds.state").contains("Look at each")) << text("deeds.state").toStdString();
    const Dossier& d = window.document().dossier();
    EXPECT_GE(d.scenarios.size(), 8u);
    for (const char* stop : {"S0", "S10", "S20", "B2"})
        EXPECT_TRUE(std::any_of(d.functions.begin(), d.functions.end(), [&](const SafetyFunction& f) {
            return f.trigger.device == d.circuit.device(stop)->id && f.mustRest.size() == 3;
        })) << stop;
}

/// What was found for another circuit is not put into this one.
TEST_F(DeedsWindow, KeepsNothingIfTheDossierIsChangedMeanwhile)
{
    const auto scenarios = window.document().dossier().scenarios;
    click("deeds.all");
    window.document().edit("label", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.machine.site = "elsewhere";
        return changed;
    });
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.machine().deedsPage().isBusy(); }, 60000));
    EXPECT_EQ(window.document().dossier().scenarios, scenarios);
    EXPECT_TRUE(text("deeds.state").contains("changed meanwhile")) << text("deeds.state").toStdString();
}

} // namespace
} // namespace ts
