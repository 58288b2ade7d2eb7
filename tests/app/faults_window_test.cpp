// The Faults place in the real window: break everything, walk the wall by keys and mouse, exclude with a reason, jump to the Bench.

#include "app/places/faults/fault_wall.h"
#include "app/places/faults/faults_place.h"
#include "app/places/faults/outcome_mark.h"
#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
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
        QTest::keyClick(&window, Qt::Key_3, Qt::ControlModifier);
        place().setWithPairs(false);
    }
    FaultsPlace& place() { return window.faults(); }
    FaultWall& wall() { return place().wall(); }
    void breakEverything()
    {
        QTest::mouseClick(place().findChild<QPushButton*>("faults.start"), Qt::LeftButton);
        ASSERT_TRUE(QTest::qWaitFor([this] { return place().analysis() != nullptr; }, 60000));
    }
    int placeOf(std::string_view id)
    {
        const auto& list = place().analysis()->sweep.faults;
        const faults::SweptFault* f = faults::faultNamed(list, id);
        EXPECT_NE(f, nullptr) << id;
        return f ? static_cast<int>(f - list.data()) : -1;
    }
};

TEST_F(FaultsWindow, BreaksEverythingAndTellsWhatCameOfIt)
{
    EXPECT_TRUE(text("faults.state").contains("every fault"));
    breakEverything();
    EXPECT_TRUE(find<OutcomeCounts>("faults.counts")->text().contains("lost"));
    wall().select(placeOf("S0/block:fallen_off"), Moment::JustBefore);
    EXPECT_TRUE(text("faults.title").contains("S0"));
    EXPECT_TRUE(text("faults.what").contains("M1 runs on"));
    EXPECT_TRUE(text("faults.built").contains("one channel"));
    ASSERT_TRUE(QTest::qWaitFor([this] { return place().hasStory(); }, 20000));
}

TEST_F(FaultsWindow, IsWalkedByArrowKeysAndMouse)
{
    breakEverything();
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

TEST_F(FaultsWindow, FiltersByOutcome)
{
    breakEverything();
    auto* filter = place().findChild<QComboBox*>("faults.filter");
    filter->setCurrentIndex(static_cast<int>(WallFilter::Lost));
    emit filter->activated(filter->currentIndex());
    EXPECT_EQ(place().analysis()->sweep.outcomes[static_cast<std::size_t>(wall().selected())].overall, Outcome::Lost);
    EXPECT_TRUE(wall().cellRect(placeOf("Q1/coil:open"), Moment::AtRest).isNull());
    filter->setCurrentIndex(static_cast<int>(WallFilter::Excluded));
    emit filter->activated(filter->currentIndex());
    EXPECT_FALSE(wall().cellRect(placeOf("Q1/21-22:welded"), Moment::AtRest).isNull());
}

TEST_F(FaultsWindow, ExcludesAFaultWithAReasonAsOneStepOfUndo)
{
    breakEverything();
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

TEST_F(FaultsWindow, ShowsTheMomentOnTheBench)
{
    breakEverything();
    wall().select(placeOf("S0/block:fallen_off"), Moment::JustBefore);
    ASSERT_TRUE(QTest::qWaitFor([this] { return place().hasStory(); }, 20000));
    QTest::mouseClick(place().findChild<QPushButton*>("faults.bench"), Qt::LeftButton);
    BenchSession& session = window.bench().session();
    EXPECT_TRUE(window.bench().isVisible());
    EXPECT_FALSE(session.isRunning());
    ASSERT_EQ(session.run().state().faults.size(), 1u);
    EXPECT_EQ(session.run().state().motorMode.front(), MotorMode::Driven) << "long after the demand";
}

TEST_F(FaultsWindow, CanBeCancelled)
{
    QTest::mouseClick(place().findChild<QPushButton*>("faults.start"), Qt::LeftButton);
    EXPECT_TRUE(place().isBusy());
    EXPECT_EQ(place().findChild<QPushButton*>("faults.start")->text(), "Cancel");
    QTest::mouseClick(place().findChild<QPushButton*>("faults.start"), Qt::LeftButton);
    EXPECT_FALSE(place().isBusy());
    EXPECT_EQ(place().findChild<QPushButton*>("faults.start")->text(), "Break everything");
    EXPECT_EQ(place().analysis(), nullptr);
}

} // namespace
} // namespace ts
