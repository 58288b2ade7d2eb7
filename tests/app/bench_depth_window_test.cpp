// The Bench instead of the walk to the cabinet: slower than the machine, the supply's voltage turned down, an ohmmeter
// that refuses live parts, a clamp, a sequence tester, several readings in view.

#include "tests/support/window_rig.h"

#include <QComboBox>
#include <QPushButton>
#include <QSpinBox>
#include <QToolButton>

namespace ts {
namespace {

class BenchDepth : public test::WindowTest {
protected:
    void put(const char* probe, const char* terminal)
    {
        auto* box = find<QComboBox>(probe);
        const int index = box->findText(terminal);
        ASSERT_GE(index, 0) << terminal;
        box->setCurrentIndex(index);
    }
    app::MeterPanel& meter() { return window.bench().meter(); }
    void selectDevice(const char* tag)
    {
        window.bench().find(
            {session().plant().devices[static_cast<std::size_t>(session().plant().deviceIndex(tag))].id, {}, {}});
        QApplication::processEvents();
    }
};

TEST_F(BenchDepth, OhmsAreRefusedUnderVoltageAndReadOnceItIsOff)
{
    put("meter.red", "Q1:A1");
    put("meter.black", "Q1:A2");
    startMachine();
    click("meter.ohms");
    EXPECT_EQ(meter().reading().value, "live");
    EXPECT_TRUE(meter().reading().detail.contains("switch off"));
    session().act("Q0", "switch_off");
    session().advanceBy(30.0);
    EXPECT_TRUE(meter().reading().value.contains("ohm")) << meter().reading().value.toStdString();
    // A closed contact beeps, an open one does not.
    put("meter.red", "S1:11");
    put("meter.black", "S1:12");
    EXPECT_TRUE(meter().reading().detail.startsWith("beeps, as if all the rest"))
        << "ahead of the main switch it is live: " << meter().reading().detail.toStdString();
    put("meter.red", "S2:13");
    put("meter.black", "S2:14");
    EXPECT_FALSE(meter().reading().detail.startsWith("beeps"));
}

TEST_F(BenchDepth, AClampReadsEachWireAtATerminal)
{
    startMachine();
    click("meter.amperes");
    put("meter.red", "M1:U1");
    const app::MeterReading r = meter().reading();
    EXPECT_EQ(r.unit, "A");
    EXPECT_NEAR(r.value.toDouble(), session().frame().motors[0].currentA[0], 0.06);
    EXPECT_TRUE(r.detail.startsWith("wire ")) << r.detail.toStdString();
}

TEST_F(BenchDepth, TheSequenceIsToldAndTurnsWithTwoLeads)
{
    click("meter.sequence");
    EXPECT_TRUE(find<QComboBox>("meter.third")->isVisibleTo(&window.bench()));
    put("meter.red", "G0:L1");
    put("meter.black", "G0:L2");
    EXPECT_EQ(meter().reading().value, "- - -");
    put("meter.third", "G0:L3");
    EXPECT_EQ(meter().reading().value, "right");
    put("meter.black", "G0:L3");
    put("meter.third", "G0:L2");
    EXPECT_EQ(meter().reading().value, "left");
    put("meter.third", "G0:N");
    EXPECT_NE(meter().reading().value, "right");
    click("meter.volts");
    EXPECT_FALSE(find<QComboBox>("meter.third")->isVisibleTo(&window.bench()));
}

TEST_F(BenchDepth, SeveralReadingsStayInViewAndGoOn)
{
    startMachine();
    put("meter.red", "Q1:A1");
    put("meter.black", "Q1:A2");
    click("meter.keep");
    put("meter.red", "S0:11");
    put("meter.black", "S0:12");
    click("meter.keep");
    QApplication::processEvents();
    EXPECT_EQ(find<QPushButton>("meter.kept.1")->text(), "Q1:A1 - Q1:A2: 24.0 V DC");
    EXPECT_EQ(find<QPushButton>("meter.kept.2")->text(), "S0:11 - S0:12: 0.00 V DC");
    click("door.S0");
    session().advanceBy(5.0);
    EXPECT_EQ(find<QPushButton>("meter.kept.2")->text(), "S0:11 - S0:12: 24.0 V DC");
    QTest::mouseClick(find<QPushButton>("meter.kept.1"), Qt::LeftButton);
    EXPECT_TRUE(
        QTest::qWaitFor([this] { return window.findChild<QPushButton*>("meter.kept.1")->text().startsWith("S0:11"); }));
}

TEST_F(BenchDepth, TheSupplyIsTurnedDownUntilTheContactorLetsGo)
{
    startMachine();
    selectDevice("G0");
    auto* level = find<QSpinBox>("level.G0.L1");
    EXPECT_EQ(level->value(), 100);
    level->setFocus();
    level->setValue(90);
    session().advanceBy(0.2);
    EXPECT_NEAR(std::abs(session()
                             .frame()
                             .nodes[static_cast<std::size_t>(
                                 session()
                                     .plant()
                                     .terminals[static_cast<std::size_t>(session().plant().terminalIndex("G0", "L1"))]
                                     .node)]
                             .alternatingV),
        0.9 * 230.9, 1.0);
    for (const char* line : {"level.G0.L1", "level.G0.L2", "level.G0.L3"})
        find<QSpinBox>(line)->setValue(20);
    session().advanceBy(5.0);
    EXPECT_TRUE(is("Q1", "out"));
}

TEST_F(BenchDepth, RunsSlowerWhenTold)
{
    auto* pace = find<QComboBox>("bench.pace");
    EXPECT_EQ(pace->currentText(), "1:1");
    session().setClockEnabled(true);
    session().setRunning(false);
    session().setRunning(true);
    const auto goesIn = [this](int ms) {
        const TimeNs before = session().run().now();
        QTest::qWait(ms);
        return static_cast<double>(session().run().now() - before) * 1e-6;
    };
    const double fast = goesIn(400);
    pace->setCurrentIndex(pace->findText("1:100"));
    const double slow = goesIn(400);
    EXPECT_GT(slow, 0.0);
    EXPECT_LT(slow, fast / 20.0) << fast << " ms of the machine at its own pace, " << slow;
    EXPECT_TRUE(text("bench.time").contains(QRegularExpression("\\d\\.\\d{4} s"))) << text("bench.time").toStdString();
}

} // namespace
} // namespace ts
