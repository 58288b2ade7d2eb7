// The claim is made in the window: read from the wiring, put together part by part, tested (category 2), counted.

#include "app/widgets/figure_view.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>

namespace ts {
namespace {

using namespace app;

class ClaimDesk : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_7, Qt::ControlModifier);
        QTest::mouseClick(find<QAbstractButton>("levels.tab.claim"), Qt::LeftButton);
    }
    const SafetyFunction& function() { return window.document().dossier().functions.front(); }
    const std::vector<ClaimedSubsystem>& claim() { return function().claim; }
    void chooseSubsystem(int k)
    {
        auto* subsystems = find<QComboBox>("claim.subsystems");
        subsystems->setCurrentIndex(k);
        emit subsystems->activated(k);
    }
    void choose(const char* box, int k)
    {
        auto* c = find<QComboBox>(box);
        c->setCurrentIndex(k);
        emit c->activated(k);
    }
    /// Takes the entry that begins so from a button's menu or one of its menus.
    bool takeFrom(const QString& button, const QString& entry)
    {
        QMenu* menu = find<QPushButton>(button)->menu();
        emit menu->aboutToShow();
        QList<QAction*> all = menu->actions();
        for (QAction* a : menu->actions())
            if (a->menu())
                all += a->menu()->actions();
        for (QAction* a : all)
            if (!a->menu() && a->text().startsWith(entry)) {
                a->trigger();
                return true;
            }
        return false;
    }
    void type(const QString& box, double value)
    {
        auto* b = find<QDoubleSpinBox>(box);
        b->setFocus();
        b->selectAll();
        QTest::keyClicks(b, QString::number(value, 'f', 0));
        QTest::keyClick(b, Qt::Key_Return);
    }
};

TEST_F(ClaimDesk, ReadsTheChainFromTheWiringAndTakesItBack)
{
    const Dossier before = window.document().dossier();
    QTest::mouseClick(find<QAbstractButton>("claim.from_wiring"), Qt::LeftButton);
    ASSERT_EQ(claim().size(), 3u) << "senses, decides, switches";
    EXPECT_EQ(claim()[0].channels.size(), 2u);
    EXPECT_TRUE(claim()[1].encapsulated);
    EXPECT_EQ(claim()[2].channels.size(), 2u);
    EXPECT_TRUE(text("levels.verdict").startsWith("No level")) << "nothing is claimed for it yet";
    window.document().history().undo();
    EXPECT_EQ(window.document().dossier(), before);
}

TEST_F(ClaimDesk, AChainIsMadeFromNothingUntilItHasALevel)
{
    // A guard's contact straight to one contactor: category 1 with well-tried parts.
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions.front().claim.clear();
        return changed;
    });
    ASSERT_TRUE(takeFrom("claim.more", "of channels"));
    auto* name = find<QLineEdit>("claim.name");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Contactor of the blower");
    QTest::keyClick(name, Qt::Key_Return);
    ASSERT_EQ(claim().size(), 1u);
    EXPECT_EQ(claim()[0].name, "Contactor of the blower");
    ASSERT_TRUE(takeFrom("claim.add.0", "Q1 main poles"));
    ASSERT_EQ(claim()[0].channels.size(), 1u);
    EXPECT_TRUE(text("claim.conditions").contains("Q1"))
        << "the part without operations is named: " << text("claim.conditions").toStdString();
    type("claim.use.0.0", 14400);
    EXPECT_EQ(claim()[0].channels[0].parts[0].secondsPerCycle, 14400.0);
    choose("claim.category", 1);
    QTest::mouseClick(find<QAbstractButton>("claim.well_tried"), Qt::LeftButton);
    EXPECT_TRUE(text("levels.verdict").startsWith("PL c") || text("levels.verdict").contains("range of PL c"))
        << text("levels.verdict").toStdString();
    // The same use said in the other unit is the same use: 220 days of 16 h make 880 operations.
    const double pfhd = window.levels().level().explanation[window.levels().level().pfhd].si;
    const double perYear = window.document().dossier().machine.duty.daysPerYear
        * window.document().dossier().machine.duty.hoursPerDay * 3600 / 14400;
    choose("claim.use_unit.0.0", 1);
    EXPECT_NEAR(*claim()[0].channels[0].parts[0].operationsPerYear, perYear, 0.5);
    EXPECT_NEAR(window.levels().level().explanation[window.levels().level().pfhd].si, pfhd, 1e-3 * pfhd);
    QTest::mouseClick(find<QAbstractButton>("claim.out.0.0"), Qt::LeftButton);
    EXPECT_TRUE(claim()[0].channels.empty());
    QTest::mouseClick(find<QAbstractButton>("claim.less"), Qt::LeftButton);
    EXPECT_TRUE(claim().empty());
}

TEST_F(ClaimDesk, CategoryTwoGetsWhatTestsIt)
{
    chooseSubsystem(2);
    QTest::mouseClick(find<QAbstractButton>("claim.out.1.0"), Qt::LeftButton);
    ASSERT_EQ(claim()[2].channels.size(), 1u);
    EXPECT_EQ(window.findChild<QPushButton*>("claim.add.test"), nullptr) << "only category 2 has test equipment";
    choose("claim.category", 2);
    ASSERT_TRUE(takeFrom("claim.add.test", "Q2 main poles"));
    ASSERT_TRUE(claim()[2].test);
    type("claim.use.test.0", 14400);
    type("claim.tests_per_demand", 100);
    EXPECT_EQ(claim()[2].test->testsPerDemand, 100.0);
    EXPECT_FALSE(text("levels.verdict").startsWith("No level"))
        << text("levels.verdict").toStdString() << text("claim.conditions").toStdString();
    type("claim.tests_per_demand", 3);
    EXPECT_TRUE(text("levels.verdict").startsWith("No level")) << "tested more rarely than 25 times a demand";
    QTest::mouseClick(find<QAbstractButton>("claim.only_warns"), Qt::LeftButton);
    EXPECT_TRUE(claim()[2].test->onlyWarns);
    QTest::mouseClick(find<QAbstractButton>("claim.out.test.0"), Qt::LeftButton);
    EXPECT_FALSE(claim()[2].test);
}

TEST_F(ClaimDesk, ReliabilityIsEnteredWhereItIsMissed)
{
    chooseSubsystem(2);
    const double before = window.levels().level().explanation[window.levels().level().pfhd].si;
    QTest::mouseClick(find<QAbstractButton>("claim.data.0.0"), Qt::LeftButton);
    auto* dialog = window.findChild<QDialog*>("reliability.dialog");
    ASSERT_NE(dialog, nullptr);
    auto* kind = dialog->findChild<QComboBox*>("reliability.kind");
    auto* value = dialog->findChild<QLineEdit*>("reliability.value");
    kind->setCurrentIndex(4); // MTTFd, years
    QTest::keyClicks(value, "1,5");
    auto* take = dialog->findChild<QPushButton*>("reliability.take");
    QTest::mouseClick(take, Qt::LeftButton);
    EXPECT_TRUE(dialog->findChild<QLabel*>("reliability.trouble")->text().contains("1,5"))
        << "a comma is refused, not guessed at";
    value->clear();
    QTest::keyClicks(value, "0");
    QTest::mouseClick(take, Qt::LeftButton);
    EXPECT_TRUE(dialog->findChild<QLabel*>("reliability.trouble")->text().contains("between"));
    value->clear();
    QTest::keyClicks(value, "40");
    QTest::keyClick(value, Qt::Key_Return);
    const DeviceId device = claim()[2].channels[0].parts[0].device;
    EXPECT_EQ(window.document().dossier().circuit.device(device)->reliability->mttfdYears, 40.0);
    ASSERT_GE(window.levels().level().pfhd, 0);
    EXPECT_GT(window.levels().level().explanation[window.levels().level().pfhd].si, before);
    window.document().history().undo();
    EXPECT_EQ(window.levels().level().explanation[window.levels().level().pfhd].si, before);
}

TEST_F(ClaimDesk, WhatTheMakerGivesForAWholeDeviceStandsOnItsPage)
{
    chooseSubsystem(1);
    auto* kind = find<QComboBox>("reliability.kind");
    kind->setCurrentIndex(7); // PFHd
    auto* value = find<QLineEdit>("reliability.value");
    value->setFocus();
    value->clear();
    QTest::keyClicks(value, "2e-7");
    find<QComboBox>("reliability.level")->setCurrentText("d");
    find<QComboBox>("reliability.category")->setCurrentText("3");
    QTest::mouseClick(find<QAbstractButton>("reliability.take"), Qt::LeftButton);
    EXPECT_TRUE(text("levels.verdict").startsWith("PL d"))
        << "the chain is no better than its weakest: " << text("levels.verdict").toStdString();
}

/// Beside the sentences stands what they are about: the strand, who looks at it, and what the channels share.
TEST_F(ClaimDesk, TheStrandAndWhatIsSharedStandBesideTheSentences)
{
    chooseSubsystem(2);
    auto* strand = find<app::FigureView>("claim.strand");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !strand->figure().spots.empty(); }, 90000));
    QStringList names;
    for (const figures::Spot& s : strand->figure().spots)
        names << QString::fromStdString(s.words).section(' ', 0, 0);
    EXPECT_EQ(names, (QStringList{"K1", "Q1", "Q2", "M1"})) << names.join(' ').toStdString();
    EXPECT_TRUE(text("claim.built.0.0").contains("K1 looks at its contact")) << text("claim.built.0.0").toStdString();
    // Who answers for a part sees it.
    find<QWidget>("claim.measure.1.0")->setFocus();
    EXPECT_TRUE(strand->accessibleDescription().startsWith("Q2 main poles"))
        << strand->accessibleDescription().toStdString();
    QString shared;
    for (const figures::Label& l : find<app::FigureView>("claim.means")->figure().labels)
        shared += QString::fromStdString(l.text) + '|';
    EXPECT_TRUE(shared.contains("laid in ")) << shared.toStdString();
    // A neighbour's subsystem is gone to with Enter on its knot.
    chooseSubsystem(0);
    QTest::qWait(20);
    strand = find<app::FigureView>("claim.strand");
    strand->setFocus();
    for (int k = 0; k < 3; ++k)
        QTest::keyClick(strand, Qt::Key_Right);
    EXPECT_TRUE(strand->accessibleDescription().startsWith("K1")) << strand->accessibleDescription().toStdString();
    QTest::keyClick(strand, Qt::Key_Return);
    EXPECT_EQ(find<QComboBox>("claim.subsystems")->currentIndex(), 1);
}

TEST_F(ClaimDesk, CountsWhatTheScenariosDo)
{
    // Each time the function's own scenario is played Q1 pulls in so often; ten times an hour makes a year of it.
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.analysis() != nullptr; }, 20000));
    const Dossier& d = window.document().dossier();
    const ScenarioId scenario = function().demandScenario;
    auto* times = find<QDoubleSpinBox>(QStringLiteral("claim.times.%1").arg(scenario.value));
    times->setFocus();
    times->selectAll();
    QTest::keyClicks(times, "10");
    QTest::keyClick(times, Qt::Key_Return);
    EXPECT_EQ(window.document().dossier().machine.duty.timesPerHour.at(scenario), 10.0);
    auto* take = find<QAbstractButton>("claim.take_counted");
    ASSERT_TRUE(QTest::qWaitFor([&] { return take->isEnabled(); }, 20000));
    EXPECT_TRUE(text("claim.counted").contains("Q1"));
    const DeviceId q1 = d.circuit.device("Q1")->id;
    const auto levels = window.analysis();
    const auto seen = std::find_if(
        levels->duties.begin(), levels->duties.end(), [q1](const SwitchingDuty& s) { return s.device == q1; });
    ASSERT_NE(seen, levels->duties.end());
    const double perYear = seen->operationsPerHour * d.machine.duty.hoursPerDay * d.machine.duty.daysPerYear;
    EXPECT_GE(seen->operationsPerHour, 10.0);
    // More than is claimed: that is a finding until it is taken.
    const auto saysFewer = [&] {
        const auto all = window.findings();
        return std::any_of(all.begin(), all.end(), [](const Finding& f) { return f.what.id == "finding.duty.fewer"; });
    };
    waitForResults();
    EXPECT_TRUE(saysFewer());
    QTest::mouseClick(take, Qt::LeftButton);
    EXPECT_NEAR(*claim()[2].channels[0].parts[0].operationsPerYear, perYear, 1e-6);
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window.book().isBehind() && !saysFewer(); }, 20000));
}

} // namespace
} // namespace ts
