// The Functions place in the real window: read the sentence, answer the risk questions, decide stop and restart, enter
// what was measured.

#include "app/places/functions/functions_place.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/word_flow.h"
#include "core/patterns/machine.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

namespace ts {
namespace {

using namespace app;

class Functions : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_2, Qt::ControlModifier);
    }
    const SafetyFunction& function() { return window.document().dossier().functions.front(); }
    QString drawn()
    {
        QStringList words;
        for (const figures::Label& l : find<app::FigureView>("timing.drawing")->figure().labels)
            words << QString::fromStdString(l.text);
        return words.join(" | ");
    }
    void type(const QString& name, const QString& words)
    {
        auto* line = find<QLineEdit>(name);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, words);
        QTest::keyClick(line, Qt::Key_Return);
    }
};

TEST_F(Functions, TheSentenceIsInTheMachinesOwnWords)
{
    EXPECT_TRUE(text("functions.sentence").contains("S0 (emergency stop)")) << text("functions.sentence").toStdString();
    EXPECT_TRUE(text("functions.sentence").contains("M1 (chip blower)")) << text("functions.sentence").toStdString();
    EXPECT_TRUE(text("functions.sentence").contains("S3 (reset) has been operated"));
    EXPECT_TRUE(text("demand.consequences").contains("As wired: M1 stops by category 0"));
    EXPECT_TRUE(text("demand.consequences").contains("nothing in it can bring a motor to rest under power"));
}

/// What is edited reads as a sentence, and the plain one in the report says the same.
TEST_F(Functions, WhatIsEditedReadsAsASentence)
{
    const QString sentence = find<app::WordFlow>("demand.sentence")->text();
    EXPECT_TRUE(sentence.startsWith("When S0 emergency stop is pressed, this comes to rest: M1 chip blower within"))
        << sentence.toStdString();
    EXPECT_TRUE(sentence.contains("Nothing may start again until S3 reset has been operated;"))
        << sentence.toStdString();
    const QString risk = find<app::WordFlow>("risk.sentence")->text();
    EXPECT_TRUE(risk.startsWith("If it fails, somebody can be hurt seriously, lasting or deadly (S2), is there"))
        << risk.toStdString();
    // In the order of reading, by the keyboard.
    find<QWidget>("demand.name")->setFocus();
    QStringList order;
    for (int k = 0; k < 4; ++k) {
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
        order << QApplication::focusWidget()->objectName();
    }
    EXPECT_EQ(order, (QStringList{"demand.trigger", "demand.motor.M1", "demand.allowed", "demand.category"}));
}

/// The machine beside it: what demands, what rests, and what no function looks after; put in and taken out there.
TEST_F(Functions, TheMapShowsTheMachineAndTakesIn)
{
    window.desk().open(QStringLiteral(TS_SOURCE_DIR "/data/demo/larkspur_db2.sentry"));
    QTest::keyClick(&window, Qt::Key_2, Qt::ControlModifier);
    auto* map = find<app::FigureView>("functions.map");
    const auto spot = [map](const char* words) {
        for (const figures::Spot& s : map->figure().spots)
            if (QString::fromStdString(s.words).startsWith(words))
                return QPointF(s.area.x + s.area.width / 2, s.area.y + s.area.height / 2).toPoint();
        ADD_FAILURE() << words;
        return QPoint();
    };
    spot("B2 rotor guard door: other function");
    ASSERT_EQ(function().alsoBy.size(), 2u);
    QTest::mouseDClick(map, Qt::LeftButton, {}, spot("S10"));
    EXPECT_EQ(function().alsoBy.size(), 1u);
    spot("S10 infeed: no function");
    QTest::mouseClick(map, Qt::LeftButton, {}, spot("M3"));
    map->setFocus();
    QTest::keyClick(map, Qt::Key_Return);
    EXPECT_EQ(function().mustRest.size(), 2u);
    window.document().history().undo();
    window.document().history().undo();
    EXPECT_EQ(function().alsoBy.size(), 2u);
}

/// A line of the supply that is lost demands a function as a hand does: chosen like a button, its other lines beside
/// it.
TEST_F(Functions, ALostLineDemandsAFunction)
{
    window.desk().open(QStringLiteral(TS_SOURCE_DIR "/data/demo/larkspur_db2.sentry"));
    QTest::keyClick(&window, Qt::Key_2, Qt::ControlModifier);
    auto* list = find<QListWidget>("functions.list");
    const QRect row = list->visualItemRect(list->item(2));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, row.center());
    EXPECT_TRUE(text("functions.sentence").contains("When G0 (mains, 400 V TN-S) is without L2 or without L1"))
        << text("functions.sentence").toStdString();
    auto* first = find<QAbstractButton>("demand.also.G0.lose_l1");
    EXPECT_TRUE(first->isChecked());
    EXPECT_TRUE(first->text().contains("without L1")) << first->text().toStdString();
    QTest::mouseClick(first, Qt::LeftButton);
    QCoreApplication::processEvents();
    EXPECT_EQ(window.document().dossier().functions[2].alsoBy.size(), 1u);
    EXPECT_FALSE(text("functions.sentence").contains("without L1"));
    EXPECT_EQ(window.findChild<QAbstractButton*>("demand.also.S0"), nullptr) << "a hand is another kind of demand";
}

TEST_F(Functions, OtherTriggersAndTestsByHandAreEntered)
{
    window.desk().open(QStringLiteral(TS_SOURCE_DIR "/data/demo/larkspur_db2.sentry"));
    QTest::keyClick(&window, Qt::Key_2, Qt::ControlModifier);
    ASSERT_EQ(function().alsoBy.size(), 2u);
    auto* outfeed = find<QAbstractButton>("demand.also.S20");
    EXPECT_TRUE(outfeed->isChecked());
    QTest::mouseClick(outfeed, Qt::LeftButton);
    QCoreApplication::processEvents(); // the boxes are made anew by the edit
    EXPECT_EQ(function().alsoBy.size(), 1u);
    EXPECT_EQ(window.findChild<QAbstractButton*>("demand.also.B2"), nullptr) << "a guard is another kind of demand";
    EXPECT_FALSE(find<QLineEdit>("demand.tested_on")->isEnabled());
    auto* days = find<QSpinBox>("demand.test_days");
    days->setFocus();
    days->selectAll();
    QTest::keyClicks(days, "31");
    QTest::keyClick(days, Qt::Key_Return);
    EXPECT_EQ(function().manualTest.everyDays, 31.0);
    type("demand.tested_on", "31.05.2026");
    EXPECT_TRUE(function().manualTest.lastOn.empty()) << "no day of ours";
    EXPECT_TRUE(window.ledge().line().contains("31.05.2026")) << window.ledge().line().toStdString();
    EXPECT_TRUE(window.ledge().line().contains("2026-05-31")) << "what would be right";
    type("demand.tested_on", "2026-05-31");
    EXPECT_EQ(function().manualTest.lastOn, "2026-05-31");
}

/// How far the hazard must be follows from what keeps a hand away: by the trigger's kind until somebody says more.
TEST_F(Functions, DistanceGoesByWhatKeepsAHandAway)
{
    window.desk().open(QStringLiteral(TS_SOURCE_DIR "/data/demo/larkspur_db2.sentry"));
    QTest::keyClick(&window, Qt::Key_2, Qt::ControlModifier);
    EXPECT_FALSE(find("timing.safeguard")->isVisible()) << "no distance belongs to an emergency stop";
    auto* list = find<QListWidget>("functions.list");
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(1)).center());
    waitForResults();
    auto* kind = find<QComboBox>("timing.safeguard");
    ASSERT_TRUE(kind->isVisible());
    EXPECT_EQ(kind->currentText(), "a guard that opens") << "B2 is a guard switch";
    EXPECT_TRUE(drawn().contains("ISO 13855:2010 clause 9")) << drawn().toStdString();
    EXPECT_FALSE(find("timing.resolution")->isVisible());
    kind->setFocus();
    QTest::keyClick(kind, Qt::Key_Down);
    const auto approach = [this]() -> const Approach& { return window.document().dossier().functions[1].approach; };
    EXPECT_EQ(approach().safeguard, Safeguard::FineCurtain);
    EXPECT_TRUE(find("timing.resolution")->isVisible());
    waitForResults();
    EXPECT_TRUE(drawn().contains("0.850 m") || drawn().contains("0.85 m"))
        << "d is not entered: " << drawn().toStdString();
    auto* d = find<QDoubleSpinBox>("timing.resolution");
    d->setFocus();
    d->selectAll();
    QTest::keyClicks(d, "0.03");
    QTest::keyClick(d, Qt::Key_Return);
    EXPECT_EQ(approach().resolutionM, 0.03);
    waitForResults();
    EXPECT_TRUE(drawn().contains("clause 6.2.3")) << drawn().toStdString();
}

TEST_F(Functions, RiskQuestionsLeadToTheLevelAndOneUndoLeadsBack)
{
    const Dossier before = window.document().dossier();
    EXPECT_TRUE(text("risk.path").startsWith("S2 F1 P2: PL d is required."));
    auto* exposure = find<QComboBox>("risk.exposure");
    exposure->setFocus();
    QTest::keyClick(exposure, Qt::Key_Down); // the word is chosen where it stands
    EXPECT_TRUE(text("risk.path").startsWith("S2 F2 P2: PL e"));
    EXPECT_EQ(function().requiredLevel, safety::Level::E) << "it followed the questions before and follows them now";
    window.document().history().undo();
    EXPECT_EQ(window.document().dossier(), before);
    EXPECT_TRUE(exposure->currentText().contains("F1"));
}

TEST_F(Functions, TheOneLookedAtIsLookedAtInEveryPlace)
{
    QTest::mouseClick(find<QPushButton>("functions.new"), Qt::LeftButton);
    const auto& functions = window.document().dossier().functions;
    ASSERT_EQ(functions.size(), 2u);
    const auto shown = [this](const char* box) { return find<QComboBox>(box)->currentData().toInt(); };
    for (const char* box : {"levels.functions", "faults.functions", "worst.functions"})
        EXPECT_EQ(shown(box), functions[1].id.value) << box << ": the new one, as in the list";
    // With the keyboard in another place: back to the first.
    QTest::keyClick(&window, Qt::Key_7, Qt::ControlModifier);
    auto* levels = find<QComboBox>("levels.functions");
    levels->setFocus();
    QTest::keyClick(levels, Qt::Key_Up);
    for (const char* box : {"levels.functions", "faults.functions", "worst.functions"})
        EXPECT_EQ(shown(box), functions[0].id.value) << box;
    EXPECT_EQ(window.functions().function(), functions[0].id);
    QTest::keyClick(&window, Qt::Key_2, Qt::ControlModifier);
    EXPECT_EQ(find<QListWidget>("functions.list")->currentRow(), 0);
    // Taken away, another one is looked at.
    find<QListWidget>("functions.list")->setCurrentRow(1);
    QTest::mouseClick(find<QPushButton>("functions.remove"), Qt::LeftButton);
    EXPECT_EQ(shown("faults.functions"), window.document().dossier().functions.front().id.value);
    EXPECT_EQ(window.functions().function(), window.document().dossier().functions.front().id);
}

TEST_F(Functions, AnUnlikelyEventCountsOnlyWithItsReason)
{
    QTest::mouseClick(find<QAbstractButton>("risk.unlikely"), Qt::LeftButton);
    EXPECT_TRUE(text("risk.path").contains("counts only with a reason"));
    EXPECT_EQ(function().requiredLevel, safety::Level::D);
    type("risk.unlikely_reason", "the hood is opened twice a year");
    EXPECT_EQ(function().requiredLevel, safety::Level::C);
    EXPECT_TRUE(text("risk.path").contains("One step lower"));
}

TEST_F(Functions, ALevelBelowTheQuestionsIsSaid)
{
    auto* level = find<QComboBox>("risk.level");
    level->setCurrentIndex(level->findText("c"));
    emit level->activated(level->currentIndex());
    EXPECT_EQ(function().requiredLevel, safety::Level::C);
    EXPECT_TRUE(text("risk.differs").contains("Lower than what the questions say (PL d)"));
    QTest::mouseClick(find<QPushButton>("risk.take"), Qt::LeftButton);
    EXPECT_EQ(function().requiredLevel, safety::Level::D);
}

/// Lines that are exchanged are no hand's doing, and yet they can demand a function.
TEST_F(Functions, TwoExchangedLinesCanBeChosenAsTheTrigger)
{
    auto* trigger = find<QComboBox>("demand.trigger");
    int exchanged = -1;
    for (int k = 0; k < trigger->count(); ++k)
        if (trigger->itemText(k).contains("two lines exchanged"))
            exchanged = k;
    ASSERT_GE(exchanged, 0);
    trigger->setFocus();
    trigger->setCurrentIndex(exchanged);
    emit trigger->activated(exchanged);
    QTest::qWait(20); // the boxes beside it are made anew
    EXPECT_EQ(function().trigger.action, "exchange");
    EXPECT_TRUE(text("functions.sentence").contains("with two lines exchanged"))
        << text("functions.sentence").toStdString();
    EXPECT_TRUE(find("demand.also.G0.lose_l2")->isVisible()) << "its other losses are offered beside it";
    EXPECT_EQ(window.findChild<QAbstractButton*>("demand.also.G0.exchange"), nullptr) << "itself is not";
    window.document().history().undo();
    EXPECT_EQ(function().trigger.action, "press");
}

TEST_F(Functions, NothingToRestIsRefusedAndStaysAsItWas)
{
    const Dossier before = window.document().dossier();
    QTest::mouseClick(find<QAbstractButton>("demand.motor.M1"), Qt::LeftButton);
    QTest::qWait(20);
    EXPECT_EQ(window.document().dossier(), before);
    EXPECT_TRUE(find<QAbstractButton>("demand.motor.M1")->isChecked());
}

/// A page without a function is no empty page: what is nobody's stands there, and the way to it leads here.
TEST_F(Functions, WithoutAnyItSaysWhatIsNobodys)
{
    window.document().edit("none", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions.clear();
        return changed;
    });
    waitForResults();
    const QString missing = text("functions.missing");
    EXPECT_TRUE(missing.contains("M1 is brought to rest by no function")) << missing.toStdString();
    EXPECT_TRUE(missing.contains("S0 is the trigger of no function")) << missing.toStdString();
    EXPECT_FALSE(find("demand.name")->isVisible());
    window.goTo("bench");
    window.showTarget(finding("finding.motor.no_function").target);
    EXPECT_TRUE(find("place.functions")->isVisible());
    window.document().history().undo();
    EXPECT_FALSE(find("functions.missing")->isVisible());
    EXPECT_TRUE(find("demand.name")->isVisible());
}

/// A valve beside the contactor: it is offered among what comes to rest, and its own stop is read from the run.
TEST_F(Functions, AValveComesToRestLikeAMotor)
{
    const bool isDone = window.document().edit("a valve", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        Device valve;
        valve.id = {9100};
        valve.tag = "Y1";
        valve.kind = "solenoid";
        valve.parameters = {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"coil_power_w", 8.0},
            {"acts_in_s", 0.05}, {"rests_in_s", 0.08}};
        changed.circuit.devices.push_back(valve);
        const DeviceId contactor = d.circuit.device("Q1")->id;
        for (int k = 0; k < 2; ++k) {
            Wire w;
            w.id = {9101 + k};
            w.number = std::to_string(901 + k);
            w.from = {contactor, k == 0 ? "A1" : "A2"};
            w.to = {valve.id, k == 0 ? "A1" : "A2"};
            w.lengthM = 0.5;
            w.route = d.circuit.wires.front().route;
            changed.circuit.wires.push_back(w);
        }
        return changed;
    });
    ASSERT_TRUE(isDone);
    QTest::qWait(20); // laid out
    EXPECT_FALSE(find<QAbstractButton>("demand.motor.Y1")->isChecked());
    QTest::mouseClick(find<QAbstractButton>("demand.motor.Y1"), Qt::LeftButton);
    QTest::qWait(20);
    EXPECT_EQ(function().mustRest.size(), 2u);
    waitForResults();
    EXPECT_TRUE(text("demand.consequences").contains("As wired: Y1 stops by category 0"))
        << text("demand.consequences").toStdString();
}

TEST_F(Functions, AnEmergencyStopThatItsResetMayStartIsAFinding)
{
    auto* restart = find<QComboBox>("demand.restart");
    restart->setCurrentIndex(1);
    emit restart->activated(1);
    waitForResults();
    finding("finding.restart.rule");
}

TEST_F(Functions, MeasuredStopsMakeTheResponseLonger)
{
    EXPECT_TRUE(drawn().contains("run-down of M1"));
    type("timing.measured", "30; 30; 30; 30; 30; 30; 30; 30; 30; x");
    EXPECT_TRUE(text("timing.trouble").contains("seconds above zero"));
    EXPECT_TRUE(function().approach.measuredStopsS.empty());
    type("timing.measured", "30; 30; 30; 30; 30; 30; 30; 30; 30");
    EXPECT_TRUE(find("timing.few")->isVisible());
    type("timing.measured", "30; 30; 30; 30; 30; 30; 30; 30; 30; 30");
    EXPECT_EQ(function().approach.measuredStopsS.size(), 10u);
    EXPECT_TRUE(QTest::qWaitFor([this] { return drawn().contains("30.0 s"); }, 30000)) << drawn().toStdString();
    EXPECT_FALSE(find("timing.few")->isVisible());
}

TEST_F(Functions, ShowingAFunctionIsNoEdit)
{
    // 12.3456 s has more figures than the box shows.
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions[0].allowedTimeS = 12.3456;
        changed.functions[0].approach.sensorS = 0.0123456;
        return changed;
    });
    const int steps = window.document().history().count();
    for (const char* name : {"demand.allowed", "timing.sensor", "demand.name"}) {
        find<QWidget>(name)->setFocus();
        QTest::keyClick(find<QWidget>(name), Qt::Key_Tab);
    }
    EXPECT_EQ(window.document().history().count(), steps);
    EXPECT_DOUBLE_EQ(function().allowedTimeS, 12.3456);
}

TEST_F(Functions, AreSuggestedForAStarterThatHasNone)
{
    const auto with = std::vector<std::string>{"base=direct", "stop=two_channel_relay"};
    window.document().startWith(*patterns::machine(*patterns::MachinePlan::from(with)));
    window.goTo("functions");
    EXPECT_TRUE(text("functions.state").contains("No function yet"));
    QTest::mouseClick(find<QPushButton>("functions.suggest"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([this] { return window.document().dossier().functions.size() == 1; }, 20000));
    EXPECT_EQ(function().name, "Emergency stop S0");
    QTest::mouseClick(find<QPushButton>("functions.suggest"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([this] { return text("functions.state").contains("no further function"); }, 20000));
    QTest::mouseClick(find<QPushButton>("functions.new"), Qt::LeftButton);
    EXPECT_EQ(window.document().dossier().functions.size(), 2u);
    EXPECT_EQ(find<QLineEdit>("demand.name")->text(), "New function");
    QTest::mouseClick(find<QPushButton>("functions.remove"), Qt::LeftButton);
    EXPECT_EQ(window.document().dossier().functions.size(), 1u);
}

} // namespace
} // namespace ts
