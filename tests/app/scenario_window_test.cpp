// Scenarios over time in the real window: flags and squares are taken hold of, sentences changed, all of it undone.

#include "app/places/machine/machine_place.h"
#include "app/places/machine/scenario_page.h"
#include "app/widgets/word_flow.h"
#include "tests/support/window_rig.h"

#include <QPushButton>

namespace ts {
namespace {

using namespace app;
using Pin = ScenarioLine::Pin;
using Kind = Pin::Kind;

class ScenarioWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
        find<QPushButton>("machine.to_scenarios")->click();
        settle();
    }
    void settle()
    {
        QApplication::processEvents(); // what was chosen is taken by the next turn of the loop
        ASSERT_TRUE(QTest::qWaitFor([this] { return !page().isBusy(); }, 20000));
        QApplication::processEvents();
    }
    ScenarioPage& page() { return window.machine().scenarioPage(); }
    ScenarioLine& line() { return page().line(); }
    const Scenario& shown() { return *page().scenario(); }
    void drag(Pin pin, double toS)
    {
        const QPoint from = line().pointOf(pin).toPoint();
        QPoint to = from;
        while (line().secondsAt(to.x()) < toS)
            to.rx() += 1;
        while (line().secondsAt(to.x()) > toS + 0.2)
            to.rx() -= 1;
        QTest::mousePress(&line(), Qt::LeftButton, {}, from);
        QTest::mouseMove(&line(), (from + to) / 2);
        QTest::mouseMove(&line(), to);
        QTest::mouseRelease(&line(), Qt::LeftButton, {}, to);
        settle();
    }
};

TEST_F(ScenarioWindow, ShowsTheFirstWithWhatComesAbout)
{
    EXPECT_EQ(shown().id, window.document().dossier().scenarios.front().id);
    EXPECT_EQ(text("timeline.verdict"), QString("All %1 expectations come about.").arg(shown().expectations.size()));
    for (std::size_t k = 0; k < shown().expectations.size(); ++k)
        EXPECT_EQ(line().isMet(k), true) << k;
}

TEST_F(ScenarioWindow, AFlagIsDraggedAndTheRunFollowsAndUndoIsOneStep)
{
    const Scenario before = shown();
    const std::size_t press = 2; // S0, after four seconds
    ASSERT_EQ(before.steps[press].target, "S0");
    const int steps = window.document().history().count();
    drag({Kind::Step, press}, 6.0);
    EXPECT_NEAR(shown().steps[press].atS, 6.0, 0.25);
    EXPECT_EQ(window.document().history().count(), steps + 1) << "one gesture, one step";
    EXPECT_TRUE(text("timeline.verdict").contains("do not come about")) << "Q1 is still in after 4.1 s";
    window.document().history().undo();
    settle();
    EXPECT_EQ(shown(), before);
    EXPECT_TRUE(text("timeline.verdict").startsWith("All ")) << text("timeline.verdict").toStdString();
}

TEST_F(ScenarioWindow, TheKeyboardGoesFromMarkToMarkAndMovesThem)
{
    line().setFocus();
    QTest::keyClick(&line(), Qt::Key_Right);
    ASSERT_TRUE(line().chosen());
    EXPECT_EQ(*line().chosen(), (Pin{Kind::Step, 0})) << "the first in time";
    QTest::keyClick(&line(), Qt::Key_Right);
    EXPECT_EQ(*line().chosen(), (Pin{Kind::Expectation, 0}));
    EXPECT_TRUE(line().accessibleDescription().contains("K1")) << line().accessibleDescription().toStdString();
    QTest::keyClick(&line(), Qt::Key_Left);
    const double was = shown().steps[0].atS;
    QTest::keyClick(&line(), Qt::Key_Right, Qt::ControlModifier);
    EXPECT_NEAR(shown().steps[0].atS, was + 0.1, 1e-9);
    QTest::keyClick(&line(), Qt::Key_Left, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_NEAR(shown().steps[0].atS, was + 0.09, 1e-9);
    const std::size_t count = shown().steps.size();
    QTest::keyClick(&line(), Qt::Key_Delete);
    EXPECT_EQ(shown().steps.size(), count - 1);
    EXPECT_FALSE(line().chosen());
}

TEST_F(ScenarioWindow, TheSentenceOfAnExpectationIsChangedWhereItStands)
{
    line().choose(Pin{Kind::Expectation, 0});
    auto* state = find<ChoiceWord>("timeline.state");
    ASSERT_NE(state, nullptr);
    EXPECT_EQ(state->currentData().toString(), "outputs_on");
    const int off = state->findData("outputs_off");
    ASSERT_GE(off, 0) << "what such a device can be";
    state->setCurrentIndex(off);
    emit state->activated(off);
    settle();
    EXPECT_EQ(shown().expectations[0].state, "outputs_off");
    EXPECT_EQ(line().isMet(0), false);
    EXPECT_TRUE(line().accessibleDescription().contains("is not")) << line().accessibleDescription().toStdString();
    EXPECT_TRUE(text("timeline.verdict").startsWith("1 of")) << text("timeline.verdict").toStdString();
}

TEST_F(ScenarioWindow, ANewOneIsDescribedFromNothing)
{
    find<QPushButton>("timeline.new")->click();
    settle();
    EXPECT_EQ(shown().name, "New scenario");
    EXPECT_TRUE(text("timeline.verdict").startsWith("Nothing is expected"));
    QTest::mouseClick(&line(), Qt::LeftButton, {}, QPoint(line().width() / 2, 12)); // about in its middle
    find<QPushButton>("timeline.add_step")->click();
    settle();
    ASSERT_EQ(shown().steps.size(), 1u);
    EXPECT_NEAR(shown().steps[0].atS, 4.5, 1.0);
    auto* target = find<ChoiceWord>("timeline.target");
    const int supply = target->findData("S3");
    ASSERT_GE(supply, 0);
    emit target->activated(supply);
    settle();
    auto* action = find<ChoiceWord>("timeline.action");
    const int operate = action->findData("operate");
    ASSERT_GE(operate, 0) << "pressed and let go";
    emit action->activated(operate);
    settle();
    EXPECT_EQ(shown().steps[0].target, "S3");
    EXPECT_EQ(shown().steps[0].action, "operate");
    EXPECT_DOUBLE_EQ(shown().steps[0].value, 0.3);
    find<QPushButton>("timeline.add_expectation")->click();
    settle();
    ASSERT_EQ(shown().expectations.size(), 1u);
    EXPECT_EQ(shown().expectations[0].subject, "M1");
    find<QPushButton>("timeline.remove_all")->click();
    settle();
    EXPECT_EQ(shown().id, window.document().dossier().scenarios.front().id);
}

/// A fault is something that is done, too: one that is there is taken at first, and another is written.
TEST_F(ScenarioWindow, AFaultIsPutOnByItsName)
{
    line().choose(Pin{Kind::Step, 0});
    auto* target = find<ChoiceWord>("timeline.target");
    const int fault = target->findData("");
    ASSERT_GE(fault, 0);
    emit target->activated(fault);
    settle();
    EXPECT_EQ(shown().steps[0].action, "fault");
    EXPECT_FALSE(text("timeline.verdict").startsWith("It cannot be run")) << text("timeline.verdict").toStdString();
    auto* site = find<TextWord>("timeline.site");
    site->setText("Q1/main:welded");
    emit site->editingFinished();
    settle();
    EXPECT_EQ(shown().steps[0].target, "Q1/main:welded");
    EXPECT_FALSE(text("timeline.verdict").startsWith("It cannot be run")) << text("timeline.verdict").toStdString();
    find<TextWord>("timeline.site")->setText("Q1/tea:cold");
    emit find<TextWord>("timeline.site")->editingFinished();
    settle();
    EXPECT_TRUE(text("timeline.verdict").startsWith("It cannot be run")) << text("timeline.verdict").toStdString();
    window.document().history().undo();
    settle();
    EXPECT_EQ(shown().steps[0].target, "Q1/main:welded");
}

TEST_F(ScenarioWindow, TheHeadNamesAndMeasuresIt)
{
    auto* name = find<TextWord>("timeline.name");
    name->setText("Another name");
    emit name->editingFinished();
    settle();
    EXPECT_EQ(shown().name, "Another name");
    find<NumberWord>("timeline.length")->setValue(1.0);
    settle();
    EXPECT_EQ(shown().lengthS, 30.0) << "something is done after that";
    EXPECT_TRUE(text("ledge.line").contains("move that first")) << text("ledge.line").toStdString();
    find<NumberWord>("timeline.length")->setValue(40.0);
    settle();
    EXPECT_EQ(shown().lengthS, 40.0);
    auto* which = find<ChoiceWord>("timeline.which");
    emit which->activated(1);
    settle();
    EXPECT_EQ(shown().id, window.document().dossier().scenarios[1].id);
    EXPECT_FALSE(line().chosen());
}

/// After each edit the keyboard stays in the word that was typed in.
TEST_F(ScenarioWindow, TheKeyboardStaysInItsWord)
{
    line().choose(Pin{Kind::Expectation, 3});
    window.activateWindow();
    find<NumberWord>("timeline.at")->setFocus();
    const double was = shown().expectations[3].atS;
    QTest::keyClick(find<NumberWord>("timeline.at"), Qt::Key_Up);
    settle();
    EXPECT_NEAR(shown().expectations[3].atS, was + 0.1, 1e-9);
    EXPECT_EQ(window.focusWidget(), find<NumberWord>("timeline.at"));
}

TEST_F(ScenarioWindow, AScenarioThatShowsAFunctionIsNotTakenOut)
{
    const std::size_t count = window.document().dossier().scenarios.size();
    find<QPushButton>("timeline.remove_all")->click();
    QApplication::processEvents();
    EXPECT_EQ(window.document().dossier().scenarios.size(), count);
    EXPECT_TRUE(text("ledge.line").contains("shown by it")) << text("ledge.line").toStdString();
}

TEST_F(ScenarioWindow, IsPlayedOnTheBench)
{
    find<QPushButton>("timeline.play")->click();
    EXPECT_TRUE(window.bench().isVisible());
    ASSERT_TRUE(QTest::qWaitFor([this] { return session().frame().now >= 29'000'000'000; }, 20000));
}

} // namespace
} // namespace ts
