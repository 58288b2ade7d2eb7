// The place of the machine: choices are built and run beside the person who makes them, and taken with one button.

#include "app/places/machine/machine_place.h"
#include "app/places/machine/plan_drawing.h"
#include "app/places/machine/plan_preview.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/patterns/machine.h"
#include "tests/support/window_rig.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QElapsedTimer>
#include <QLineEdit>

namespace ts {
namespace {

class MachineWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        test::WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
        ASSERT_TRUE(find("place.machine")->isVisible());
    }
    void waitForPreview()
    {
        ASSERT_TRUE(QTest::qWaitFor([this] { return !window.machine().preview().isBusy(); }, 90000));
    }
    void choose(const QString& choice, const QString& word)
    {
        auto* box = find<QComboBox>("choice." + choice);
        ASSERT_GE(box->findData(word), 0) << word.toStdString();
        box->setFocus();
        QTest::keyClick(box, Qt::Key_Home);
        for (int k = 0; k < box->findData(word); ++k)
            QTest::keyClick(box, Qt::Key_Down);
        ASSERT_EQ(box->currentData().toString(), word);
        waitForPreview();
    }
    int wrongLines()
    {
        int wrong = 0;
        for (QWidget* w : find("machine.runs")->findChildren<QWidget*>())
            wrong += w->accessibleName().startsWith(app::markWord(app::Mark::Wrong) + ": ");
        return wrong;
    }
};

TEST_F(MachineWindow, ShowsWhatFollowsAndBuildsOnDemand)
{
    EXPECT_FALSE(find("machine.build")->isEnabled()) << "still being built";
    waitForPreview();
    EXPECT_TRUE(find("machine.build")->isEnabled()) << "the plainest starter is there at once";
    EXPECT_FALSE(find("choice.tap")->isEnabled()) << "there is no monitor that could look anywhere";
    choose("base", "reversing");
    EXPECT_EQ(wrongLines(), 0);
    choose("stop", "straight");
    EXPECT_TRUE(text("machine.summary").contains("18 devices")) << text("machine.summary").toStdString();
    choose("hold", "behind_interlock");
    EXPECT_EQ(wrongLines(), 0) << "the lever between the armatures still prevents it";
    QWidget* lever = find("choice.interlock.mechanical");
    QTest::mouseClick(lever, Qt::LeftButton, {}, QPoint(8, lever->height() / 2));
    waitForPreview();
    EXPECT_EQ(wrongLines(), 1) << "the other armature pushed in by hand";
    click("machine.build");
    EXPECT_TRUE(session().hasRun());
    EXPECT_GE(session().plant().deviceIndex("Q2"), 0);
    EXPECT_TRUE(window.document().isModified()) << "new and not saved";
    EXPECT_TRUE(window.document().path().isEmpty());
    EXPECT_TRUE(find("place.bench")->isVisible());
    push("S2");
    EXPECT_TRUE(is("Q1", "in")) << "and it runs";
}

/// The sentence says only what matters, and the drawing grows with it.
TEST_F(MachineWindow, WhatDoesNotMatterIsNotSaidAndTheDrawingGrows)
{
    waitForPreview();
    EXPECT_FALSE(find("choice.tap")->isVisible());
    EXPECT_FALSE(find("choice.interlock.mechanical")->isVisible()) << "one contactor needs no interlock";
    auto* drawing = find<app::PlanDrawing>("machine.drawing");
    EXPECT_GT(drawing->scene().symbols.size(), 5u);
    choose("base", "reversing");
    EXPECT_TRUE(find("choice.interlock.mechanical")->isVisible());
    const auto& symbols = drawing->scene().symbols;
    EXPECT_TRUE(std::any_of(symbols.begin(), symbols.end(), [&](const auto& s) { return drawing->isNew(s); }))
        << "the other direction, and marked";
    choose("monitor", "voltage");
    EXPECT_TRUE(find("choice.tap")->isVisible());
}

TEST_F(MachineWindow, SaysWhyAChoiceCannotBe)
{
    choose("base", "drive");
    choose("control", "phase_neutral");
    EXPECT_EQ(find<QComboBox>("choice.stop")->currentData(), "delayed_relay") << "advised: a drive ramps down first";
    EXPECT_TRUE(text("machine.summary").contains("24 V DC")) << text("machine.summary").toStdString();
    EXPECT_FALSE(find("machine.build")->isEnabled());
    EXPECT_TRUE(text("machine.why").contains("advised would be")) << text("machine.why").toStdString();
    auto* motor = find<QLineEdit>("choice.motor");
    choose("control", "dc24");
    motor->setFocus();
    motor->selectAll();
    QTest::keyClicks(motor, "plenty");
    QTest::keyClick(motor, Qt::Key_Return);
    waitForPreview();
    EXPECT_TRUE(text("machine.summary").contains("5.5kW,11A,0.83,1455"));
}

TEST_F(MachineWindow, ShowsHowWellTheCircuitMeetsThePlate)
{
    EXPECT_TRUE(
        text("machine.motors").startsWith("M1 chip blower: the equivalent circuit meets the plate in current by "));
}

TEST_F(MachineWindow, UnsavedWorkIsAskedAboutBeforeItIsReplaced)
{
    choose("base", "star_delta");
    click("machine.build");
    QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
    click("machine.begin_another");
    choose("base", "direct");
    asker->unsaved = app::Asker::Unsaved::Cancel;
    const int asked = asker->asked;
    click("machine.build");
    EXPECT_EQ(asker->asked, asked + 1);
    EXPECT_GE(session().plant().deviceIndex("Q3"), 0) << "the star-delta starter is still there";
}

TEST_F(MachineWindow, APartsListIsAddedAsOneStepOfUndoAndABadOneIsExplained)
{
    const std::size_t before = window.document().dossier().circuit.parts.size();
    asker->open = QString::fromStdString(test::sourcePath("data/parts/larkspur_parts.csv"));
    QTest::keyClick(&window, Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_GT(window.document().dossier().circuit.parts.size(), before);
    window.document().history().undo();
    EXPECT_EQ(window.document().dossier().circuit.parts.size(), before);
    asker->open = QString::fromStdString(test::sourcePath("README.md"));
    QTest::keyClick(&window, Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(asker->told.size(), 1);
    EXPECT_TRUE(asker->told[0].contains("README.md:")) << asker->told[0].toStdString();
    EXPECT_EQ(window.document().dossier().circuit.parts.size(), before);
}

TEST_F(MachineWindow, APartsListWithManyErrorsTellsThemAtOnceAndOneInAnotherDialectSaysHowItWasRead)
{
    QTemporaryDir folder;
    const QString path = folder.filePath("parts.csv");
    std::string text = "id,name,kind,b10d_cycles\n";
    for (int k = 0; k < 30; ++k)
        text += "P" + std::to_string(k) + ",part,lamp,0\n";
    ASSERT_TRUE(io::saveText(path.toStdString(), text));
    asker->open = path;
    QTest::keyClick(&window, Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(asker->told.size(), 1);
    EXPECT_EQ(asker->told[0].count('\n'), 20) << "twenty, and how many more";
    EXPECT_TRUE(asker->told[0].endsWith("and 10 more")) << asker->told[0].toStdString();
    ASSERT_TRUE(io::saveText(path.toStdString(), "id;name;kind;parameters\nP1;part;lamp;\"rated_voltage_v=24,5\"\n"));
    QTest::keyClick(&window, Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(asker->told.size(), 1);
    EXPECT_TRUE(window.ledge().line().contains("decimal points")) << window.ledge().line().toStdString();
}

/// By visible clicks only: word by word, then the buttons on the door.
TEST_F(MachineWindow, AReversingStarterWithTwoChannelsFromNothingToRunningByClicksOnly)
{
    const auto pick = [this](const QString& choice, const QString& word) {
        auto* box = find<QComboBox>("choice." + choice);
        QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(8, box->height() / 2));
        ASSERT_TRUE(QTest::qWaitFor([box] { return box->view()->isVisible(); }, 5000));
        QTest::qWait(QApplication::doubleClickInterval() + 50); // before it, letting go belongs to the first click
        const QModelIndex item = box->model()->index(box->findData(word), 0);
        box->view()->scrollTo(item);
        QTest::mouseClick(box->view()->viewport(), Qt::LeftButton, {}, box->view()->visualRect(item).center());
        ASSERT_EQ(box->currentData().toString(), word);
    };
    QElapsedTimer clock;
    clock.start();
    pick("injury", "serious");
    pick("exposure", "rare");
    pick("avoidance", "scarcely");
    EXPECT_TRUE(text("machine.required").contains("S2 F1 P2: PL d")) << text("machine.required").toStdString();
    pick("base", "reversing");
    waitForPreview();
    EXPECT_EQ(find<QComboBox>("choice.stop")->currentData(), "two_channel_relay") << "advised for PL d";
    EXPECT_EQ(wrongLines(), 0);
    click("machine.build");
    EXPECT_TRUE(find("place.bench")->isVisible());
    push("S4");
    push("S2");
    EXPECT_TRUE(is("Q1", "in"));
    session().advanceBy(2.0);
    EXPECT_TRUE(is("M1", "driven"));
    EXPECT_LT(clock.elapsed(), 180'000);
    ASSERT_FALSE(window.document().dossier().functions.empty()) << "with the function it was made for";
    const SafetyFunction& f = window.document().dossier().functions.front();
    EXPECT_EQ(f.requiredLevel, safety::Level::D);
    EXPECT_TRUE(f.risk.has_value());
    EXPECT_FALSE(window.document().dossier().machine.plan.reasons.at("stop").empty()) << "kept for the report";
}

TEST_F(MachineWindow, AWordInHandSaysWhyAndWhatTheOthersWouldDo)
{
    waitForPreview();
    choose("base", "reversing");
    QTest::keyClick(find<QComboBox>("choice.base"), Qt::Key_Tab);
    find("choice.hold")->setFocus();
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.machine().preview().isComparing(); }, 60000));
    EXPECT_TRUE(text("machine.why").contains("advised, because")) << text("machine.why").toStdString();
    const auto schools = window.machine().preview().schools();
    ASSERT_TRUE(schools);
    ASSERT_EQ(schools->size(), 2u);
    const auto wrong = [&](const char* word) {
        for (const app::PlanPreview::School& s : *schools)
            if (s.word == word)
                return std::count_if(
                    s.outcomes.begin(), s.outcomes.end(), [](const auto& o) { return !o.isInOrder(); });
        return std::ptrdiff_t(-1);
    };
    EXPECT_GT(wrong("ahead_of_stop"), 0) << "it cannot be stopped by its stop button";
    auto* reason = find<QLineEdit>("machine.reason");
    reason->setFocus();
    QTest::keyClicks(reason, "as in the old panel");
    QTest::keyClick(reason, Qt::Key_Return);
    waitForPreview();
    click("machine.build");
    EXPECT_EQ(window.document().dossier().machine.plan.reasons.at("1.hold"), "as in the old panel");
}

TEST_F(MachineWindow, AMotorIsAddedAndTakenOutAgain)
{
    waitForPreview();
    click("machine.another");
    waitForPreview();
    EXPECT_EQ(wrongLines(), 0);
    ASSERT_TRUE(window.machine().preview().result()->file);
    EXPECT_TRUE(window.machine().preview().result()->file->dossier.circuit.device("M2"));
    EXPECT_FALSE(window.machine().preview().result()->newDevices.empty()) << "marked in the drawing";
    choose("2.base", "star_delta");
    EXPECT_TRUE(window.machine().preview().result()->file->dossier.circuit.device("Q23"));
    click("machine.drop.1");
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.findChild<QWidget*>("choice.moves"); }, 5000));
    waitForPreview();
    const Circuit& c = window.machine().preview().result()->file->dossier.circuit;
    EXPECT_FALSE(c.device("M1"));
    EXPECT_TRUE(c.device("M2")) << "keeps its number";
    EXPECT_FALSE(window.findChild<QWidget*>("machine.drop.2")) << "the last one stays";
}

/// Of a machine that was made so the choices come back; what was edited since stays, and what would be lost is said.
TEST_F(MachineWindow, OtherChoicesForAMachineThatWasEditedSince)
{
    waitForPreview();
    click("machine.another");
    waitForPreview();
    asker->unsaved = app::Asker::Unsaved::Discard;
    click("machine.build");
    window.document().editFile("by hand", [](const DossierFile& file) {
        return edit::withValue(file, file.dossier.circuit.device("F2")->id, "setting_a", "9.5");
    });
    window.document().editFile(
        "by hand", [](const DossierFile& file) { return edit::withWire(file, "Q21:A1", "S0:11", {}); });
    QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
    waitForPreview();
    EXPECT_TRUE(text("machine.whose").contains("as it was chosen")) << text("machine.whose").toStdString();
    EXPECT_EQ(window.machine().preview().result()->lost.size(), 0u);
    click("machine.drop.2");
    ASSERT_TRUE(QTest::qWaitFor([this] { return !window.findChild<QWidget*>("choice.2.moves"); }, 5000));
    waitForPreview();
    const int before = window.document().history().count();
    EXPECT_GE(wrongLines(), 1) << "the wire that was laid by hand";
    ASSERT_FALSE(window.machine().preview().result()->lost.empty());
    const auto& lost = window.machine().preview().result()->lost;
    EXPECT_TRUE(std::any_of(lost.begin(), lost.end(), [](const Message& m) { return m.id == "replan.wire_lost"; }));
    EXPECT_TRUE(window.document().dossier().circuit.device("M2")) << "only said so far";
    click("machine.build");
    EXPECT_FALSE(window.document().dossier().circuit.device("M2"));
    const Device& overload = *window.document().dossier().circuit.device("F2");
    EXPECT_EQ(std::get<double>(overload.parameters.at("setting_a")), 9.5);
    EXPECT_EQ(window.document().history().count(), before + 1) << "one step of undo";
    waitForPreview();
    window.document().history().undo();
    EXPECT_TRUE(window.document().dossier().circuit.device("M2"));
    waitForPreview();
    click("machine.begin_another");
    waitForPreview();
    EXPECT_EQ(text("machine.whose"), "A new machine");
}

/// Edited elsewhere after the preview was made: what is built then holds that edit.
TEST_F(MachineWindow, AnEditMadeMeanwhileIsNotLost)
{
    waitForPreview();
    click("machine.another");
    waitForPreview();
    asker->unsaved = app::Asker::Unsaved::Discard;
    click("machine.build");
    QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
    waitForPreview();
    choose("2.base", "reversing");
    QTest::keyClick(&window, Qt::Key_5, Qt::ControlModifier);
    window.document().editFile("by hand", [](const DossierFile& file) {
        return edit::withValue(file, file.dossier.circuit.device("F2")->id, "setting_a", "9.5");
    });
    QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
    waitForPreview();
    click("machine.build");
    const Circuit& c = window.document().dossier().circuit;
    EXPECT_TRUE(c.device("Q22")) << "the other choice";
    EXPECT_EQ(std::get<double>(c.device("F2")->parameters.at("setting_a")), 9.5) << "and the edit";
}

/// What a file's plan says and this program does not know is said, and nothing is lost by it.
TEST_F(MachineWindow, APlanThatIsNotUnderstoodIsSaidAndTheMachineStays)
{
    DossierFile file = *patterns::machine(*patterns::MachinePlan::from({}));
    file.dossier.machine.plan.words["stop"] = "by magic";
    const std::size_t devices = file.dossier.circuit.devices.size();
    window.document().startWith(file);
    QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
    waitForPreview();
    EXPECT_TRUE(text("machine.summary").contains("by magic")) << text("machine.summary").toStdString();
    EXPECT_FALSE(find("machine.build")->isEnabled());
    EXPECT_EQ(window.document().dossier().circuit.devices.size(), devices);
    EXPECT_EQ(window.document().dossier().machine.plan.words.at("stop"), "by magic") << "kept as it was read";
}

/// The level that is needed stands before the circuit, and the advice follows it.
TEST_F(MachineWindow, TheRiskIsAnsweredFirstAndTheAdviceFollows)
{
    waitForPreview();
    EXPECT_TRUE(text("machine.required").contains("gravest")) << text("machine.required").toStdString();
    choose("injury", "slight");
    choose("exposure", "rare");
    EXPECT_TRUE(text("machine.required").contains("gravest")) << "one answer is missing";
    choose("avoidance", "possible");
    EXPECT_TRUE(text("machine.required").contains("PL c")) << text("machine.required").toStdString();
    EXPECT_EQ(find<QComboBox>("choice.second_contactor")->currentData(), "no") << "advised for PL c";
    choose("injury", "serious");
    choose("avoidance", "scarcely");
    EXPECT_EQ(find<QComboBox>("choice.second_contactor")->currentData(), "yes") << "S2 F1 P2: PL d";
    choose("second_contactor", "no");
    choose("exposure", "frequent");
    EXPECT_EQ(find<QComboBox>("choice.second_contactor")->currentData(), "no") << "what was said stays said";
    window.activateWindow();
    find("choice.second_contactor")->setFocus();
    EXPECT_TRUE(QTest::qWaitFor([this] { return text("machine.why").contains("advised would be"); }, 10000))
        << text("machine.why").toStdString();
}

TEST_F(MachineWindow, ThePowerCircuitIsDrawnOnDemand)
{
    waitForPreview();
    EXPECT_FALSE(find("machine.power")->isVisible());
    click("machine.to_power");
    auto* power = find<app::PlanDrawing>("machine.power");
    ASSERT_TRUE(power->isVisible());
    EXPECT_GT(power->scene().symbols.size(), 4u);
    click("machine.another");
    waitForPreview();
    const auto& symbols = power->scene().symbols;
    EXPECT_TRUE(std::any_of(symbols.begin(), symbols.end(), [&](const auto& s) { return power->isNew(s); }))
        << "the second motor is marked in it";
}

/// After the scenarios the functions are tried with faults, and how they stand is said as everywhere.
TEST_F(MachineWindow, SaysHowItsFunctionsStandOnceTheyAreTried)
{
    waitForPreview();
    ASSERT_TRUE(QTest::qWaitFor([this] { return window.machine().preview().standing() != nullptr; }, 90000));
    const auto standing = window.machine().preview().standing();
    ASSERT_FALSE(standing->verdicts.empty());
    EXPECT_NE(standing->verdicts.front().answer, FunctionVerdict::Answer::Reached)
        << "nobody has answered anything yet";
    bool isSaid = false;
    for (QWidget* w : find("machine.follows")->findChildren<QWidget*>())
        isSaid = isSaid || w->accessibleName().contains("Emergency stop S0: ");
    EXPECT_TRUE(isSaid);
    choose("stop", "straight");
    EXPECT_FALSE(window.machine().preview().standing()) << "of what was chosen before";
}

class DoorWindow : public test::WindowTest { };

TEST_F(DoorWindow, ASelectorOnTheDoorTurnsByClickAndByKey)
{
    ASSERT_TRUE(window.open(QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"))));
    QWidget* knob = find("door.S7");
    QTest::mouseClick(knob, Qt::LeftButton, {}, QPoint(knob->width() - 10, 40));
    session().advanceBy(0.1);
    EXPECT_TRUE(is("S7", "at_run"));
    EXPECT_TRUE(knob->accessibleName().endsWith("at run"));
    knob->setFocus();
    QTest::keyClick(knob, Qt::Key_Left);
    session().advanceBy(0.1);
    EXPECT_TRUE(is("S7", "at_inch"));
    QTest::keyClick(knob, Qt::Key_Left);
    session().advanceBy(0.1);
    EXPECT_TRUE(is("S7", "at_inch")) << "there is nothing further left";
}

/// What a monitor cannot see is shown while it is chosen, line by line.
TEST_F(MachineWindow, ShowsTheLineThatTwoTransformersDoNotSee)
{
    waitForPreview();
    choose("monitor", "three_transformers");
    EXPECT_EQ(wrongLines(), 0);
    choose("monitor", "two_transformers");
    EXPECT_EQ(wrongLines(), 1);
    QStringList wrong;
    for (QWidget* w : find("place.machine")->findChildren<QWidget*>())
        if (w->accessibleName().startsWith(app::markWord(app::Mark::Wrong) + ": "))
            wrong << w->accessibleName();
    EXPECT_TRUE(wrong.join(' ').contains("Line L3 lost while running")) << wrong.join(' ').toStdString();
    EXPECT_TRUE(find("machine.build")->isEnabled()) << "it is built all the same, and shown for what it is";
}

} // namespace
} // namespace ts
