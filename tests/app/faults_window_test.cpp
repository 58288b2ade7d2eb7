// The Faults place in the real window: break everything, walk the wall by keys and mouse, exclude with a reason, jump
// to the Bench.

#include "app/places/faults/fault_wall.h"
#include "app/places/faults/faults_place.h"
#include "app/places/faults/orders_page.h"
#include "app/places/faults/outcome_mark.h"
#include "app/places/faults/stop_page.h"
#include "app/places/faults/sweep_page.h"
#include "core/patterns/machine.h"
#include "tests/core/faults/stop_circuits.h"
#include "tests/support/window_rig.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

namespace ts {
namespace {

using namespace app;
using faults::Moment;
using faults::Outcome;

class FaultsWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_6, Qt::ControlModifier);
    }
    SweepPage& place() { return window.faults().sweep(); }
    FaultWall& wall() { return place().wall(); }
    /// Single faults come by themselves.
    void trySingles()
    {
        window.book().setLiving(true);
        ASSERT_TRUE(QTest::qWaitFor(
            [this] { return !window.book().isBehind() && place().swept() && !place().isStale(); }, 60000));
    }
    void breakEverything()
    {
        QTest::mouseClick(place().findChild<QPushButton*>("faults.start"), Qt::LeftButton);
        ASSERT_TRUE(QTest::qWaitFor(
            [this] {
                return !place().isBusy() && place().swept() && place().swept()->hasPairs && !place().isStale()
                    && !window.book().isBehind();
            },
            120000));
    }
    int placeOf(std::string_view id)
    {
        const auto sweep = place().swept();
        const faults::SweptFault* f = faults::faultNamed(sweep->faults, id);
        EXPECT_NE(f, nullptr) << id;
        return f ? static_cast<int>(f - sweep->faults.data()) : -1;
    }
};

TEST_F(FaultsWindow, BreaksEverythingAndTellsWhatCameOfIt)
{
    EXPECT_TRUE(text("faults.state").contains("Every fault"));
    trySingles();
    EXPECT_TRUE(find<OutcomeCounts>("faults.counts")->text().contains("lost"));
    wall().select(placeOf("S0/block:fallen_off"), Moment::JustBefore);
    EXPECT_TRUE(text("faults.title").contains("S0"));
    EXPECT_TRUE(text("faults.what").contains("M1 runs on"));
    EXPECT_TRUE(text("faults.built").contains("one channel"));
    ASSERT_TRUE(QTest::qWaitFor([this] { return place().hasStory(); }, 20000));
}

TEST_F(FaultsWindow, ListsWhatThereIsToBreakBeforeItIsBroken)
{
    EXPECT_TRUE(text("faults.state").contains("at five moments each"));
    EXPECT_FALSE(wall().cellRect(0, Moment::AtRest).isNull());
    EXPECT_EQ(place().swept(), nullptr);
    wall().setFocus();
    QTest::keyClick(&wall(), Qt::Key_Down);
    EXPECT_GE(wall().selected(), 1) << "it can be read before";
}

TEST_F(FaultsWindow, ShowsWhatCameOfItWhileItRunsAndKeepsItWhenCancelled)
{
    QPushButton* start = place().findChild<QPushButton*>("faults.start");
    QTest::mouseClick(start, Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([this] { return place().swept() != nullptr; }, 60000));
    ASSERT_TRUE(place().isBusy()) << "second faults are still to come";
    EXPECT_FALSE(place().swept()->hasPairs);
    const auto shown = place().swept();
    const auto& outcomes = shown->outcomes;
    const auto tried = std::find_if(
        outcomes.begin(), outcomes.end(), [](const faults::FaultOutcome& o) { return o.isRun; });
    ASSERT_NE(tried, outcomes.end());
    EXPECT_FALSE(wall().cellRect(static_cast<int>(tried - outcomes.begin()), Moment::AtRest).isNull())
        << "all of them are shown while they come";
    EXPECT_EQ(start->text(), "Cancel");
    QTest::mouseClick(start, Qt::LeftButton);
    EXPECT_FALSE(place().isBusy());
    EXPECT_NE(place().swept(), nullptr);
    EXPECT_EQ(start->text(), "Break everything");
}

TEST_F(FaultsWindow, IsWalkedByArrowKeysAndMouse)
{
    trySingles();
    wall().setFocus();
    const int first = wall().selected();
    QTest::keyClick(&wall(), Qt::Key_Down);
    EXPECT_NE(wall().selected(), first);
    QTest::keyClick(&wall(), Qt::Key_Right);
    EXPECT_EQ(wall().moment(), Moment::WithDemand);
    QTest::keyClick(&wall(), Qt::Key_Up);
    EXPECT_EQ(wall().selected(), first);
    QTest::mouseClick(&wall(), Qt::LeftButton, {}, wall().cellRect(first, Moment::AtRest).center());
    EXPECT_EQ(wall().moment(), Moment::AtRest);
    EXPECT_TRUE(wall().accessibleDescription().contains("at rest"));
}

TEST_F(FaultsWindow, TheBenchSaysBesideEachFaultWhatCameOfIt)
{
    trySingles();
    window.goTo("bench");
    window.bench().find({window.document().dossier().circuit.device("S0")->id, {}, {}});
    EXPECT_TRUE(find<QCheckBox>("fault.S0/block:fallen_off")->text().endsWith("- lost"))
        << find<QCheckBox>("fault.S0/block:fallen_off")->text().toStdString();
}

TEST_F(FaultsWindow, UndoneToWhatItWasTheResultHoldsAgain)
{
    trySingles();
    wall().select(placeOf("S0/block:fallen_off"), Moment::JustBefore);
    window.document().edit("longer", [](const Dossier& d) {
        Dossier changed = d;
        changed.circuit.wires.front().lengthM += 1.0;
        return changed;
    });
    EXPECT_TRUE(place().isStale());
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(place().isStale());
}

TEST_F(FaultsWindow, FiltersByOutcome)
{
    trySingles();
    auto* filter = place().findChild<QComboBox*>("faults.filter");
    filter->setCurrentIndex(static_cast<int>(WallFilter::Lost));
    emit filter->activated(filter->currentIndex());
    EXPECT_EQ(place().swept()->outcomes[static_cast<std::size_t>(wall().selected())].overall, Outcome::Lost);
    EXPECT_TRUE(wall().cellRect(placeOf("Q1/coil:open"), Moment::AtRest).isNull());
    filter->setCurrentIndex(static_cast<int>(WallFilter::Excluded));
    emit filter->activated(filter->currentIndex());
    EXPECT_FALSE(wall().cellRect(placeOf("Q1/21-22:welded"), Moment::AtRest).isNull());
}

TEST_F(FaultsWindow, ExcludesAFaultWithAReasonAsOneStepOfUndo)
{
    trySingles();
    wall().select(placeOf("S0/actuator:broken"), Moment::JustBefore);
    QTest::mouseClick(place().findChild<QPushButton*>("faults.exclude"), Qt::LeftButton);
    auto* reason = place().findChild<QLineEdit*>("faults.reason");
    QTest::keyClick(reason, Qt::Key_Return);
    EXPECT_TRUE(window.document().dossier().exclusions.empty()) << "not without a reason";
    QTest::keyClicks(reason, "device to IEC 60947-5-5");
    QTest::keyClick(reason, Qt::Key_Return);
    ASSERT_EQ(window.document().dossier().exclusions.size(), 1u);
    EXPECT_EQ(window.document().dossier().exclusions[0].fault, "S0/actuator:broken");
    EXPECT_TRUE(text("faults.state").contains("changed since"));
    window.document().history().undo();
    EXPECT_TRUE(window.document().dossier().exclusions.empty());
}

TEST_F(FaultsWindow, ExcludesAllShortsOfAnEnclosureTogetherAndTakesThemBack)
{
    trySingles();
    const auto held = place().swept();
    const faults::Sweep& sweep = *held;
    const auto inEnclosure = [this](const faults::SweptFault& f) {
        const Circuit& c = window.document().dossier().circuit;
        return f.family == faults::Family::Short && f.routes.size() == 1
            && c.route(f.routes[0])->kind == RouteKind::Enclosure;
    };
    const auto first = std::find_if(sweep.faults.begin(), sweep.faults.end(), inEnclosure);
    ASSERT_NE(first, sweep.faults.end());
    const auto shorts = static_cast<std::size_t>(std::count_if(sweep.faults.begin(), sweep.faults.end(),
        [&](const auto& f) { return f.family == faults::Family::Short && f.routes == first->routes; }));
    ASSERT_GT(shorts, 10u);
    const std::string id = first->id, route = "route/" + std::to_string(first->routes[0].value) + ":short";
    auto* filter = place().findChild<QComboBox*>("faults.filter");
    filter->setCurrentIndex(static_cast<int>(WallFilter::All));
    emit filter->activated(filter->currentIndex());
    wall().select(placeOf(id), Moment::Running);
    EXPECT_FALSE(find("faults.whole_route")->isVisible()) << "only when a reason is asked for";
    QTest::mouseClick(place().findChild<QPushButton*>("faults.exclude"), Qt::LeftButton);
    auto* whole = find<QCheckBox>("faults.whole_route");
    ASSERT_TRUE(whole->isVisible());
    EXPECT_FALSE(whole->isChecked());
    whole->setFocus();
    QTest::keyClick(whole, Qt::Key_Space);
    auto* reason = place().findChild<QLineEdit*>("faults.reason");
    reason->setFocus();
    QTest::keyClicks(reason, "enclosure to EN 60204-1");
    QTest::keyClick(reason, Qt::Key_Return);
    ASSERT_EQ(window.document().dossier().exclusions.size(), 1u);
    EXPECT_EQ(window.document().dossier().exclusions[0].fault, route);
    trySingles();
    const auto heldAgain = place().swept();
    const auto& again = heldAgain->faults;
    EXPECT_EQ(static_cast<std::size_t>(std::count_if(again.begin(), again.end(),
                  [&](const auto& f) {
                      return f.isExcluded && f.family == faults::Family::Short && f.reason == "enclosure to EN 60204-1";
                  })),
        shorts);
    filter->setCurrentIndex(static_cast<int>(WallFilter::Excluded));
    emit filter->activated(filter->currentIndex());
    wall().select(placeOf(id), Moment::Running);
    QTest::mouseClick(place().findChild<QPushButton*>("faults.include"), Qt::LeftButton);
    EXPECT_TRUE(window.document().dossier().exclusions.empty());
}

TEST_F(FaultsWindow, ShowsTheMomentOnTheBench)
{
    trySingles();
    wall().select(placeOf("S0/block:fallen_off"), Moment::JustBefore);
    ASSERT_TRUE(QTest::qWaitFor([this] { return place().hasStory(); }, 20000));
    QTest::mouseClick(place().findChild<QPushButton*>("faults.bench"), Qt::LeftButton);
    BenchSession& session = window.bench().session();
    EXPECT_TRUE(window.bench().isVisible());
    EXPECT_FALSE(session.isRunning());
    ASSERT_EQ(session.run().state().faults.size(), 1u);
    EXPECT_EQ(session.run().state().actuatorMode.front(), MotorMode::Driven) << "long after the demand";
}

TEST_F(FaultsWindow, FindsWhatMendsAFaultAndCarriesItOut)
{
    DossierFile file;
    file.nextId = 20'000;
    file.dossier = test::stopping(test::twoChannels(false).circuit()); // Q2 is not in the reset loop
    window.document().startWith(file);
    window.goTo("faults");
    trySingles();
    wall().select(placeOf("Q2/main:welded"), Moment::JustBefore);
    EXPECT_TRUE(text("faults.outcome").startsWith("hidden"));
    QTest::mouseClick(find<QPushButton>("faults.mend"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([this] { return place().hasMends(); }, 60000));
    auto* list = find<QListWidget>("faults.mends");
    ASSERT_GT(list->count(), 0);
    EXPECT_TRUE(list->item(0)->text().contains("Add feedback at Q2")) << list->item(0)->text().toStdString();
    EXPECT_TRUE(list->item(0)->text().contains("then caught"));
    list->setFocus();
    list->setCurrentRow(0);
    QTest::keyClick(list, Qt::Key_Return);
    EXPECT_NE(window.document().dossier().circuit, file.dossier.circuit);
    trySingles();
    EXPECT_EQ(place().swept()->outcomes[static_cast<std::size_t>(placeOf("Q2/main:welded"))].overall, Outcome::Caught);
}

TEST_F(FaultsWindow, GoesFromAFaultToTheOneItCountsWith)
{
    DossierFile file;
    file.nextId = 20'000;
    file.dossier = test::stopping(test::twoChannels().circuit());
    window.document().startWith(file);
    window.goTo("faults");
    breakEverything();
    wall().select(placeOf("Q1/main:welded"), Moment::JustBefore);
    auto* pairs = find<QListWidget>("faults.pairs");
    ASSERT_GT(pairs->count(), 0);
    const auto hits = pairs->findItems("Q2 main poles: welded", Qt::MatchStartsWith);
    ASSERT_EQ(hits.size(), 1);
    pairs->setFocus();
    pairs->setCurrentItem(hits.front());
    QTest::keyClick(pairs, Qt::Key_Return);
    EXPECT_EQ(wall().selected(), placeOf("Q2/main:welded"));
}

TEST_F(FaultsWindow, WithoutAFunctionLeadsToTheFunctions)
{
    const auto with = std::vector<std::string>{"base=direct", "stop=two_channel_relay"};
    window.document().startWith(*patterns::machine(*patterns::MachinePlan::from(with)));
    window.goTo("faults");
    EXPECT_FALSE(find<QPushButton>("faults.start")->isVisible());
    QTest::mouseClick(find<QPushButton>("faults.change"), Qt::LeftButton);
    EXPECT_TRUE(window.findChild<QWidget*>("place.functions")->isVisible());
}

TEST_F(FaultsWindow, AnAnswerDoesNotMakeTheSweepStale)
{
    trySingles();
    window.document().edit("x", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.functions[0].conditions.environment = false;
        changed.functions[0].claim[2].ccfAnswers.clear();
        return changed;
    });
    EXPECT_FALSE(place().isStale()) << "nothing that was run depends on it";
    window.document().edit("y", [](const Dossier& d) -> Expected<Dossier> {
        Dossier changed = d;
        changed.circuit.wires.pop_back();
        return changed;
    });
    EXPECT_TRUE(place().isStale());
    window.document().history().undo();
    EXPECT_FALSE(place().isStale()) << "undo brings the circuit back, and what was found for it";
}

TEST(RememberedSweep, IsThereWhenTheFileIsOpenedAgain)
{
    const QTemporaryDir folder;
    Theme theme;
    const auto opened = [&](const auto& then) {
        test::TestWindow window(theme, folder.path().toStdString());
        window.setAsker(std::make_unique<test::FakeAsker>());
        window.show();
        window.goTo("faults");
        ASSERT_TRUE(window.open(TS_SOURCE_DIR "/tests/data/pump_230v_ac.sentry"));
        then(window);
    };
    opened([](test::TestWindow& w) {
        w.faults().sweep().startOrCancel();
        ASSERT_TRUE(QTest::qWaitFor(
            [&] {
                return !w.faults().sweep().isBusy() && w.faults().sweep().swept()
                    && w.faults().sweep().swept()->hasPairs;
            },
            120000));
    });
    opened([](test::TestWindow& w) {
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.faults().sweep().swept() != nullptr; }, 20000));
        EXPECT_TRUE(w.faults().sweep().swept()->hasPairs);
        EXPECT_FALSE(w.faults().sweep().isBusy()) << "nothing was run again";
        EXPECT_FALSE(w.faults().sweep().isStale());
    });
}

TEST_F(FaultsWindow, CanBeCancelled)
{
    QTest::mouseClick(place().findChild<QPushButton*>("faults.start"), Qt::LeftButton);
    EXPECT_TRUE(place().isBusy());
    EXPECT_EQ(place().findChild<QPushButton*>("faults.start")->text(), "Cancel");
    QTest::mouseClick(place().findChild<QPushButton*>("faults.start"), Qt::LeftButton);
    EXPECT_FALSE(place().isBusy());
    EXPECT_EQ(place().findChild<QPushButton*>("faults.start")->text(), "Break everything");
    EXPECT_EQ(place().swept(), nullptr);
}

/// The two other pages, by mouse and keyboard.
class OrdersWindow : public test::WindowTest {
protected:
    void SetUp() override
    {
        WindowTest::SetUp();
        QTest::keyClick(&window, Qt::Key_6, Qt::ControlModifier);
    }
};

TEST_F(OrdersWindow, PlaysEveryOrderAndTellsWhatHolds)
{
    QTest::mouseClick(find<QPushButton>("faults.tab.orders"), Qt::LeftButton);
    EXPECT_TRUE(text("orders.state").contains("in every order"));
    QTest::mouseClick(find<QPushButton>("orders.start"), Qt::LeftButton);
    EXPECT_EQ(find<QPushButton>("orders.start")->text(), "Cancel");
    OrdersPage& page = window.faults().orders();
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.hasResult(); }, 120000));
    QTreeWidgetItem* healthy = page.list().topLevelItem(0);
    ASSERT_GE(healthy->childCount(), 5);
    bool isProved = false;
    for (int k = 0; k < healthy->childCount(); ++k)
        isProved |= healthy->child(k)->text(0).contains("is not driven while S0 is operated")
            && healthy->child(k)->text(1).contains("proved");
    EXPECT_TRUE(isProved);
    EXPECT_TRUE(text("orders.scope").contains("Operated: "));
}

TEST_F(OrdersWindow, ShowsAnOrderOnTheBench)
{
    const auto with = std::vector<std::string>{"base=reversing", "interlock=none"};
    window.document().startWith(*patterns::machine(*patterns::MachinePlan::from(with)));
    window.goTo("faults");
    window.faults().show(FaultsPlace::Orders);
    QTest::keyClick(&window, Qt::Key_F9);
    OrdersPage& page = window.faults().orders();
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.hasResult(); }, 120000));
    QTreeWidgetItem* joined = page.list().topLevelItem(0)->child(0);
    ASSERT_TRUE(joined->text(1).contains("shown wrong")) << joined->text(1).toStdString();
    page.list().setFocus();
    page.list().setCurrentItem(joined);
    EXPECT_TRUE(text("orders.order").contains("pressed"));
    QTest::keyClick(&page.list(), Qt::Key_Return);
    EXPECT_TRUE(window.findChild<QWidget*>("place.bench")->isVisible());
    EXPECT_FALSE(window.bench().session().run().script().empty());
}

TEST_F(OrdersWindow, IsCancelledByTheSameButton)
{
    window.faults().show(FaultsPlace::Orders);
    window.faults().orders().setWithFaults(true);
    QTest::keyClick(&window, Qt::Key_F9);
    EXPECT_TRUE(window.faults().orders().isBusy());
    QTest::keyClick(&window, Qt::Key_F9);
    EXPECT_FALSE(window.faults().orders().isBusy());
    EXPECT_FALSE(window.faults().orders().hasResult());
}

TEST_F(OrdersWindow, StopsItInEveryCase)
{
    QTest::mouseClick(find<QPushButton>("faults.tab.stop"), Qt::LeftButton);
    QTest::mouseClick(find<QPushButton>("worst.start"), Qt::LeftButton);
    StopPage& page = window.faults().stop();
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.hasResult(); }, 60000));
    QTreeWidgetItem* motor = page.list().topLevelItem(0);
    EXPECT_TRUE(motor->text(0).contains("M1: stop category 0")) << motor->text(0).toStdString();
    EXPECT_TRUE(motor->child(0)->text(1).contains("no stop")) << "the worst first";
    EXPECT_TRUE(motor->child(0)->text(0).contains("S0 contact block")) << motor->child(0)->text(0).toStdString();
    EXPECT_TRUE(find<QWidget>("worst.strip")->accessibleName().contains("M1 at rest after"));
    EXPECT_TRUE(text("worst.state").contains("single faults"));
}

} // namespace
} // namespace ts
