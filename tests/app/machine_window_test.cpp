// The place of the machine: choices are built and run beside the person who makes them, and taken with one button.

#include "app/places/machine/machine_place.h"
#include "app/places/machine/plan_drawing.h"
#include "tests/support/window_rig.h"

#include <QCheckBox>
#include <QComboBox>
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
        for (QWidget* w : find("place.machine")->findChildren<QWidget*>())
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
    const std::size_t before = drawing->scene().symbols.size();
    EXPECT_GT(before, 5u);
    choose("base", "reversing");
    EXPECT_TRUE(find("choice.interlock.mechanical")->isVisible());
    EXPECT_GT(drawing->scene().symbols.size(), before) << "the other direction";
    choose("monitor", "voltage");
    EXPECT_TRUE(find("choice.tap")->isVisible());
}

TEST_F(MachineWindow, SaysWhyAChoiceCannotBe)
{
    choose("base", "drive");
    choose("control", "phase_neutral");
    EXPECT_TRUE(text("machine.summary").contains("24 V DC")) << text("machine.summary").toStdString();
    EXPECT_FALSE(find("machine.build")->isEnabled());
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
