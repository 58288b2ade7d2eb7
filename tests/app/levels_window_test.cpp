// At the level desk: read the verdict, ask a number where it comes from, change how often things work.

#include "app/places/levels/danger_page.h"
#include "app/places/levels/reach_page.h"
#include "app/places/levels/value_button.h"
#include "app/widgets/figure_view.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QSlider>
#include <QTreeWidget>

namespace ts {
namespace {

using namespace app;

class Levels : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_7, Qt::ControlModifier);
    }
    double pfhd() { return window.levels().level().explanation[window.levels().level().pfhd].si; }
    app::FigureView* path() { return find<app::FigureView>("levels.path"); }
    /// The knot whose words begin so, once the path was read from a run.
    QPoint knot(const char* words)
    {
        const figures::Spot* found = nullptr;
        const bool isThere = QTest::qWaitFor(
            [&] {
                for (const figures::Spot& s : path()->figure().spots)
                    if (QString::fromStdString(s.words).startsWith(words))
                        found = &s;
                return found != nullptr;
            },
            90000);
        EXPECT_TRUE(isThere) << words;
        return found ? QPointF(found->area.x + found->area.width / 2, found->area.y + found->area.height / 2).toPoint()
                     : QPoint();
    }
    void choose(const char* words) { QTest::mouseClick(path(), Qt::LeftButton, {}, knot(words)); }
    app::ValueButton* button(std::string_view what)
    {
        for (int row = 0; row < 60; ++row)
            if (auto* b = window.findChild<app::ValueButton*>(QStringLiteral("value.%1").arg(row)))
                if (b->value() >= 0 && window.levels().level().explanation[b->value()].what == what)
                    return b;
        ADD_FAILURE() << what;
        return nullptr;
    }
    bool sheetSays(const char* words)
    {
        const auto buttons = find("levels.knot")->findChildren<app::ValueButton*>();
        return std::any_of(buttons.begin(), buttons.end(),
            [words](const app::ValueButton* b) { return b->accessibleName().contains(words); });
    }
};

TEST_F(Levels, VerdictAndStopAreThere)
{
    EXPECT_EQ(
        text("levels.verdict"), "PL e claimed, no fault tried; needed PL d: not known yet. PFHd as claimed 4.31e-9 /h");
    waitForResults();
    choose("M1");
    EXPECT_TRUE(sheetSays("stop category 0"));
    EXPECT_TRUE(sheetSays("51.0 ms"));
}

/// From what demands it to what must rest, with the keyboard alone.
TEST_F(Levels, ThePathIsWalkedWithArrowKeys)
{
    waitForResults();
    knot("S0 contact 11-12");
    path()->setFocus();
    QTest::keyClick(path(), Qt::Key_Right);
    QStringList walked;
    for (int k = 0; k < 6; ++k) {
        walked << path()->accessibleDescription();
        QTest::keyClick(path(), Qt::Key_Right);
    }
    EXPECT_TRUE(walked.first().startsWith("S")) << walked.join(" | ").toStdString();
    EXPECT_TRUE(walked.last().startsWith("M1")) << walked.join(" | ").toStdString();
    EXPECT_TRUE(walked.filter("by its sheet").size() >= 1) << walked.join(" | ").toStdString();
}

TEST_F(Levels, ANumberTellsWhereItComesFromDownToThePlate)
{
    choose("Q1 main poles");
    QTest::mouseClick(button("value.mttfd"), Qt::LeftButton);
    EXPECT_EQ(text("source.number"), "19697 y");
    // Its inputs can be asked in turn: B10d is the maker's.
    const auto& mttfd = window.levels().level().explanation[button("value.mttfd")->value()];
    ASSERT_EQ(mttfd.inputs.size(), 2u);
    QTest::mouseClick(find<QAbstractButton>(QStringLiteral("source.input.%1").arg(mttfd.inputs[0])), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return text("source.number") == "1300000"; }))
        << text("source.number").toStdString();
    bool saysSheet = false;
    for (const QLabel* l : find<QWidget>("levels.source")->findChildren<QLabel*>())
        saysSheet |= l->text().contains("Sheet LK-C09");
    EXPECT_TRUE(saysSheet);
}

TEST_F(Levels, ChangedSwitchingRateChangesEverythingAndUndoes)
{
    // Every 60 s: 220 * 16 * 3600 / 60 = 211200 a year, MTTFd 61.55 y, category 4 row of 56 y: 4.73e-8 for the
    // pair, sum 9.06e-10 + 2.5e-9 + 4.73e-8 = 5.0706e-8: PL e. Both contactors, one after the other.
    for (const char* name : {"box.Q1", "box.Q2"}) {
        auto* box = find<QDoubleSpinBox>(name);
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, "60");
        QTest::keyClick(box, Qt::Key_Return);
    }
    EXPECT_NEAR(pfhd(), 5.0706e-8, 1e-12);
    EXPECT_EQ(
        text("levels.verdict"), "PL e claimed, no fault tried; needed PL d: not known yet. PFHd as claimed 5.07e-8 /h");
    EXPECT_TRUE(window.document().isModified());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NEAR(pfhd(), 4.312e-9, 1e-15);
    EXPECT_FALSE(window.document().isModified());
    EXPECT_DOUBLE_EQ(find<QDoubleSpinBox>("box.Q1")->value(), 19200.0) << "the box follows the undo";
}

TEST_F(Levels, ADragIsOneStepOfUndoAndQuick)
{
    auto* slider = find<QSlider>("slider.Q1");
    const int start = slider->value();
    QElapsedTimer clock;
    clock.start();
    emit slider->sliderPressed();
    for (int i = 1; i <= 40; ++i)
        slider->setValue(start - 6 * i);
    EXPECT_LT(clock.elapsed() / 40, 100) << "a move is a repaint, not a wait";
    EXPECT_EQ(window.document().history().count(), 1);
    EXPECT_GT(
        window.levels().level().explanation[window.levels().level().subsystems[2].channels[0].parts[0].operations].si,
        660.0);
    window.document().history().undo();
    EXPECT_NEAR(pfhd(), 4.312e-9, 1e-15);
}

TEST_F(Levels, TooFrequentSwitchingGivesNoLevelAndSaysWhy)
{
    auto* box = find<QDoubleSpinBox>("box.Q1");
    box->setValue(2.0); // MTTFd 2.05 y
    EXPECT_TRUE(text("levels.verdict").startsWith("No level"));
    waitForResults();
    EXPECT_TRUE(window.ledge().line().contains("reaches no level")) << window.ledge().line().toStdString();
    bool warns = false;
    for (const auto* b : window.findChildren<app::ValueButton*>())
        warns |= b->accessibleName().contains("below 3 years");
    EXPECT_TRUE(warns);
}

TEST_F(Levels, TheRunningBenchIsLeftAloneByAChangedClaim)
{
    startMachine();
    find<QDoubleSpinBox>("box.days")->setValue(200);
    EXPECT_TRUE(is("M1", "driven"));
    EXPECT_NEAR(window.document().dossier().machine.duty.daysPerYear, 200, 0);
}

TEST_F(Levels, AnotherPartBySliderChangesTheNumberAndUndoes)
{
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        Part weak = *d.circuit.part("LK-C09-24");
        weak.id = "WEAK";
        weak.name = "A contactor that wears out";
        weak.reliability->b10dCycles = 20'000;
        changed.circuit.parts.push_back(weak);
        return changed;
    });
    const double before = pfhd();
    QTest::mouseClick(find<QAbstractButton>("levels.which_strip"), Qt::LeftButton);
    auto* slider = find<QSlider>("slider.part.Q1");
    ASSERT_EQ(slider->maximum(), 1);
    EXPECT_EQ(slider->value(), 1) << "the one that lasts longest is on the right";
    slider->setFocus();
    QTest::keyClick(slider, Qt::Key_Left);
    EXPECT_EQ(window.document().dossier().circuit.device("Q1")->part, "WEAK");
    EXPECT_GT(pfhd(), before);
    window.document().history().undo();
    EXPECT_EQ(pfhd(), before);
    EXPECT_EQ(slider->value(), 1);
}

TEST_F(Levels, LoadingMakesNoEdit)
{
    EXPECT_FALSE(window.document().history().canUndo()) << "showing values in boxes must not write them back";
}

TEST_F(Levels, TheClaimIsAnsweredByMouseAndTakenBack)
{
    QTest::mouseClick(find<QAbstractButton>("levels.tab.claim"), Qt::LeftButton);
    auto* subsystems = find<QComboBox>("claim.subsystems");
    subsystems->setCurrentIndex(2);
    emit subsystems->activated(2);
    const Dossier before = window.document().dossier();
    EXPECT_TRUE(text("claim.conditions").contains("DCavg at least 99 %"));
    QTest::mouseClick(find<QAbstractButton>("claim.ccf.emc_contamination"), Qt::LeftButton);
    EXPECT_TRUE(text("claim.conditions").contains("45 points")) << text("claim.conditions").toStdString(); // 70 - 25
    EXPECT_TRUE(text("levels.verdict").startsWith("No level"));
    window.document().history().undo();
    EXPECT_EQ(window.document().dossier(), before);
    EXPECT_TRUE(find<QAbstractButton>("claim.ccf.emc_contamination")->isChecked());
    auto* evidence = find<QLineEdit>("claim.ccf_evidence.separation");
    evidence->setFocus();
    evidence->selectAll();
    QTest::keyClicks(evidence, "two cables, sheet 4");
    QTest::keyClick(evidence, Qt::Key_Return);
    EXPECT_EQ(window.document().dossier().functions[0].claim[2].ccfEvidence.at("separation"), "two cables, sheet 4");
}

TEST_F(Levels, AMeasureThatIsTakenAwayTakesTheCategory)
{
    QTest::mouseClick(find<QAbstractButton>("levels.tab.claim"), Qt::LeftButton);
    auto* subsystems = find<QComboBox>("claim.subsystems");
    subsystems->setCurrentIndex(2);
    emit subsystems->activated(2);
    auto* measure = find<QComboBox>("claim.measure.1.0");
    measure->setCurrentIndex(0);
    emit measure->activated(0);
    EXPECT_TRUE(text("claim.conditions").contains("49.5 %")) << text("claim.conditions").toStdString();
    auto* reading = find<QComboBox>("claim.untested");
    reading->setCurrentIndex(1);
    emit reading->activated(1);
    EXPECT_TRUE(text("levels.verdict").startsWith("PL e")) << "with untested parts left out DCavg is 99 % again";
}

/// Reckoned by 2015 only: there is no choice to be seen, but a way back where a file asks for another edition.
TEST_F(Levels, TheEditionIsNoChoice)
{
    QTest::mouseClick(find<QAbstractButton>("levels.tab.claim"), Qt::LeftButton);
    auto* edition = find<QComboBox>("claim.edition");
    EXPECT_FALSE(edition->isVisibleTo(&window));
    window.document().edit("another edition", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.arithmetic.edition = Edition::Of2023;
        return changed;
    });
    EXPECT_TRUE(edition->isVisibleTo(edition->parentWidget()));
    edition->setCurrentIndex(0);
    emit edition->activated(0);
    EXPECT_EQ(window.document().dossier().arithmetic.edition, Edition::Of2015);
    EXPECT_FALSE(edition->isVisibleTo(edition->parentWidget()));
}

TEST_F(Levels, AContactorIsNotEstimatedByItsCategory)
{
    QTest::mouseClick(find<QAbstractButton>("levels.tab.claim"), Qt::LeftButton);
    auto* subsystems = find<QComboBox>("claim.subsystems");
    subsystems->setCurrentIndex(2);
    emit subsystems->activated(2);
    QTest::mouseClick(find<QAbstractButton>("claim.estimated"), Qt::LeftButton);
    EXPECT_TRUE(window.document().dossier().functions[0].claim[2].estimatedOutput);
    EXPECT_TRUE(text("levels.verdict").startsWith("No level")) << text("levels.verdict").toStdString();
    window.document().history().undo();
    EXPECT_FALSE(find<QAbstractButton>("claim.estimated")->isChecked());
}

TEST_F(Levels, ShowsFromWhomTheDangerComesAndHowSure)
{
    QTest::mouseClick(find<QAbstractButton>("levels.tab.danger"), Qt::LeftButton);
    DangerPage& page = window.levels().danger();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !page.isBusy() && text("danger.sure").contains("100000 draws"); }, 20000))
        << text("danger.sure").toStdString();
    // S0's two contacts, K1, Q1 and Q2: five bars; K1 with 2.5e-9 of 4.312e-9 is the largest, 58 %.
    ASSERT_EQ(page.shares().figure().spots.size(), 5u);
    EXPECT_NE(page.shares().figure().spots[0].words.find("K1"), std::string::npos);
    EXPECT_NE(page.shares().figure().spots[0].words.find("58 %"), std::string::npos)
        << page.shares().figure().spots[0].words;
    QTest::mouseClick(find<QAbstractButton>("danger.logarithmic"), Qt::LeftButton);
    EXPECT_EQ(page.shares().figure().spots.size(), 5u);
    EXPECT_TRUE(text("danger.sure").contains("reach PL d"));
}

TEST_F(Levels, FindsWhatWouldReachItAndCarriesItOut)
{
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions[0].claim[2].ccfAnswers = {"separation", "overload_protection", "well_tried"}; // 35 points
        return changed;
    });
    const Dossier before = window.document().dossier();
    QTest::mouseClick(find<QAbstractButton>("levels.tab.reach"), Qt::LeftButton);
    QTest::mouseClick(find<QAbstractButton>("reach.start"), Qt::LeftButton);
    ReachPage& page = window.levels().reach();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !page.isBusy() && page.result(); }, 60000));
    ASSERT_GT(page.list().topLevelItemCount(), 0);
    EXPECT_TRUE(page.list().topLevelItem(0)->text(2).contains("reaches"));
    page.list().setFocus();
    page.list().setCurrentItem(page.list().topLevelItem(0));
    QTest::keyClick(&page.list(), Qt::Key_Return);
    EXPECT_TRUE(text("levels.verdict").startsWith("PL e")) << text("levels.verdict").toStdString();
    window.document().history().undo();
    EXPECT_EQ(window.document().dossier(), before);
}

} // namespace
} // namespace ts
