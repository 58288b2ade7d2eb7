// Tests in the real window: the plan made, steps taken by keys alone, a reading that is not as expected, what is proved
// in the drawing, and what a change opens again.

#include "app/places/tests/day_line.h"
#include "app/places/tests/tests_place.h"
#include "app/widgets/marked_drawing.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/measuring/test_plan.h"
#include "core/results/study_ids.h"
#include "tests/support/window_rig.h"
#include "wording/cautions.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>

namespace ts {
namespace {

using namespace app;
using measuring::Stage;

class Proving : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_9, Qt::ControlModifier);
        static std::optional<app::StudyBook::Known> planned; // the same each time
        if (planned) {
            window.book().adopt(*planned);
        } else {
            EXPECT_TRUE(text("tests.said").contains("Not planned yet")) << text("tests.said").toStdString();
            QTest::mouseClick(find("tests.make"), Qt::LeftButton);
        }
        ASSERT_TRUE(QTest::qWaitFor([this] { return plan() != nullptr; }, 90000));
        QApplication::processEvents();
        planned = window.book().known();
    }
    std::shared_ptr<const measuring::TestPlan> plan() { return window.book().fresh(kTests); }
    MarkedDrawing& drawing() { return *find<MarkedDrawing>("tests.drawing"); }
    std::size_t firstOf(Stage stage)
    {
        const auto& steps = plan()->steps;
        return static_cast<std::size_t>(std::find_if(steps.begin(), steps.end(), [stage](const auto& s) {
            return s.stage == stage;
        }) - steps.begin());
    }
    /// By the arrow keys of the day's line.
    void goToStage(Stage stage)
    {
        auto* day = find<DayLine>("tests.day");
        for (int k = 0; k < 12; ++k)
            QTest::keyClick(day, Qt::Key_Left);
        for (int k = 0; k < 12 && !text("tests.head").contains(words::word("stage." + std::string(wordOf(stage)))); ++k)
            QTest::keyClick(day, Qt::Key_Right);
    }
    void introduce()
    {
        find<QLineEdit>("tests.who")->setText("A. Weller");
        find<QLineEdit>("tests.instrument")->setText("meter 1");
        find<QLineEdit>("tests.calibrated")->setText("2099-01-01");
    }
    void proveDead()
    {
        const auto steps = plan()->steps;
        for (std::size_t k = 0; steps[k].stage == Stage::Isolation; ++k) {
            EXPECT_FALSE(text("tests.supply").startsWith("DEAD")) << k;
            steps[k].expect.word.empty() ? type("tests.figure", "0")
                                         : type("tests.word", QString::fromStdString(steps[k].expect.word));
        }
    }
    void type(const char* name, const QString& reading)
    {
        auto* edit = qobject_cast<QLineEdit*>(find(name));
        if (!edit)
            edit = find<QComboBox>(name)->lineEdit();
        edit->clear();
        QTest::keyClicks(edit, reading);
        QTest::keyClick(edit, Qt::Key_Return);
        QApplication::processEvents();
    }
};

TEST_F(Proving, BeginsWithProvingDeadAndGoesOnByKeysAlone)
{
    EXPECT_TRUE(text("tests.supply").contains("NOT PROVED DEAD")) << text("tests.supply").toStdString();
    EXPECT_EQ(text("tests.look"), "locked off and tagged");
    type("tests.word", "done");
    EXPECT_TRUE(text("tests.verdict").contains("Who")) << "nobody has tested: " << text("tests.verdict").toStdString();
    EXPECT_EQ(window.document().record().size(), 0u);
    introduce();
    type("tests.word", "done");
    EXPECT_EQ(window.document().record().size(), 1u);
    EXPECT_TRUE(text("tests.look").contains("voltage tester")) << "on to the next open one";
    type("tests.word", "shows voltage");
    EXPECT_TRUE(text("tests.look").startsWith("Volts: (1)")) << text("tests.look").toStdString();
    type("tests.figure", "230");
    EXPECT_TRUE(text("tests.verdict").contains("not as expected"))
        << "it is live: " << text("tests.verdict").toStdString();
    type("tests.figure", "0,1");
    EXPECT_EQ(window.document().record().size(), 4u) << "the second reading hides nothing";
    EXPECT_TRUE(text("tests.said").startsWith("3 proved of")) << text("tests.said").toStdString();
    QTest::mouseClick(find("tests.back"), Qt::LeftButton);
    EXPECT_TRUE(text("tests.verdict").contains("an earlier reading was not")) << text("tests.verdict").toStdString();
    EXPECT_TRUE(text("tests.history").contains("A. Weller, with meter 1")) << text("tests.history").toStdString();
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(window.document().record().size(), 4u) << "nothing takes a reading back";
    EXPECT_TRUE(window.document().isModified());
}

/// Dead is what has been proved so, and nothing before.
TEST_F(Proving, IsCalledDeadOnlyOnceItIsProved)
{
    introduce();
    proveDead();
    EXPECT_TRUE(text("tests.supply").startsWith("DEAD")) << text("tests.supply").toStdString();
    EXPECT_TRUE(text("tests.head").contains("bonding")) << text("tests.head").toStdString();
}

TEST_F(Proving, ATickIsNoReading)
{
    introduce();
    goToStage(Stage::Continuity);
    ASSERT_TRUE(find("tests.figure")->isVisible());
    type("tests.figure", "ok");
    EXPECT_TRUE(text("tests.verdict").contains("wants a figure")) << text("tests.verdict").toStdString();
    EXPECT_EQ(window.document().record().size(), 0u);
    find<QLineEdit>("tests.calibrated")->setText("2020-01-01");
    type("tests.figure", "0.1");
    EXPECT_EQ(window.document().record().size(), 1u);
    EXPECT_TRUE(text("tests.verdict").contains("overdue")) << text("tests.verdict").toStdString();
}

/// A wire end that reads open: what alone would read so is said, in words, with the wire among it.
TEST_F(Proving, WhatCouldBeTheMatterIsSaidBesideADeviation)
{
    introduce();
    proveDead();
    goToStage(Stage::Continuity);
    EXPECT_TRUE(text("tests.suspects").isEmpty());
    const auto& steps = plan()->steps;
    std::size_t k = firstOf(Stage::Continuity);
    while (steps[k].expect.high > 5 || steps[k].look.with != measuring::Instrument::Ohms) {
        QTest::mouseClick(find("tests.next"), Qt::LeftButton);
        ++k;
    }
    ASSERT_LT(k, steps.size());
    type("tests.figure", "OL");
    ASSERT_TRUE(QTest::qWaitFor([this] { return text("tests.suspects").contains("What alone"); }, 60000))
        << text("tests.suspects").toStdString();
    EXPECT_TRUE(text("tests.suspects").contains("is missing")) << text("tests.suspects").toStdString();
    type("tests.figure", "0.2");
    EXPECT_TRUE(text("tests.suspects").isEmpty()) << "in order: on to the next";
}

TEST_F(Proving, ProbesStandInTheDrawingAndWhatIsProvedIsGoneOver)
{
    introduce();
    proveDead();
    const std::size_t first = firstOf(Stage::Continuity);
    goToStage(Stage::Continuity);
    EXPECT_TRUE(text("tests.head").startsWith(QString("Step %1 of").arg(first + 1)))
        << text("tests.head").toStdString();
    std::size_t shown = 0, tried = 0;
    for (std::size_t k = first; k < first + 20 && plan()->steps[k].stage == Stage::Continuity; ++k) {
        const bool isOhms = plan()->steps[k].look.with == measuring::Instrument::Ohms;
        tried += isOhms;
        shown += isOhms && drawing().probesShown() == 2;
        const double value = std::min(plan()->steps[k].expect.high, 2e6);
        isOhms ? type("tests.figure", QString::number(value, 'f', 3))
               : type("tests.word", QString::fromStdString(plan()->steps[k].expect.word));
    }
    EXPECT_GT(tried, 5u);
    EXPECT_GE(shown + 1, tried) << "the page with both ends is turned up";
    std::size_t over = 0;
    for (const auto& conductor : drawing().scene().conductors)
        over += drawing().markedOf(conductor) != MarkedDrawing::Share::None;
    EXPECT_GT(over, 0u) << "some wires are proved by now";
}

/// At each stage, what somebody must know with the probes in hand.
TEST_F(Proving, EachStageSaysItsCautions)
{
    for (const Stage stage : {Stage::Isolation, Stage::Insulation, Stage::Incoming, Stage::Control, Stage::Direction,
             Stage::Stops, Stage::Times}) {
        goToStage(stage);
        const auto lines = wording::testCautions(plan()->steps[firstOf(stage)], window.document().dossier().circuit);
        ASSERT_FALSE(lines.empty());
        for (const std::string& line : lines)
            EXPECT_TRUE(text("tests.caution").contains(QString::fromStdString(line))) << line;
        EXPECT_EQ(text("tests.supply").contains("LIVE:"), !isDead(stage)) << wordOf(stage);
        EXPECT_EQ(text("tests.supply").contains("NOT PROVED"), isDead(stage)) << wordOf(stage);
        EXPECT_EQ(text("tests.early").contains("steps before this one are open"), !isDead(stage)) << wordOf(stage);
    }
}

TEST_F(Proving, AChangeMakesThePlanAnewAndOpensWhatItTouches)
{
    introduce();
    type("tests.word", "done");
    ASSERT_TRUE(text("tests.said").startsWith("1 proved"));
    const WireId wire = window.document().dossier().circuit.wires.front().id;
    ASSERT_TRUE(window.document().editFile(
        "Take a wire out", [wire](const DossierFile& file) { return edit::withoutWire(file, wire); }));
    QApplication::processEvents();
    EXPECT_TRUE(find("tests.make")->isVisible()) << "the plan was for another circuit";
    EXPECT_FALSE(find("tests.figure")->isVisible());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([this] { return plan() != nullptr; }, 90000)) << "it is there again";
    EXPECT_TRUE(text("tests.said").startsWith("1 proved")) << text("tests.said").toStdString();
}

} // namespace
} // namespace ts
