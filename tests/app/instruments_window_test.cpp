// What is outside the window: a meter that answers by lines, bridges that stand over every page, a second circuit under
// the same hands, stopping times of ten runs.

#include "app/places/bench/bench_place.h"
#include "app/places/bench/beside_view.h"
#include "app/places/find/bridge_dialog.h"
#include "core/edit/wiring_edits.h"
#include "core/measuring/stop_times.h"
#include "core/record/record.h"
#include "core/results/study_ids.h"
#include "tests/support/window_rig.h"

#include <QAction>
#include <QComboBox>
#include <QFile>
#include <QLineEdit>
#include <QPushButton>
#include <QTcpServer>
#include <QTcpSocket>

namespace ts {
namespace {

using namespace app;

/// Answers every command with the next of its lines, and keeps what it was asked.
class FakeMeter {
public:
    explicit FakeMeter(QList<QByteArray> lines)
        : m_lines(std::move(lines))
    {
        EXPECT_TRUE(m_server.listen(QHostAddress::LocalHost));
        QObject::connect(&m_server, &QTcpServer::newConnection, &m_server, [this] {
            QTcpSocket* socket = m_server.nextPendingConnection();
            QObject::connect(socket, &QTcpSocket::readyRead, socket, [this, socket] {
                asked += socket->readAll();
                if (!m_lines.isEmpty())
                    socket->write(m_lines.takeFirst() + '\n');
            });
        });
    }
    QString address() const { return QString("127.0.0.1:%1").arg(m_server.serverPort()); }
    QByteArray asked;

private:
    QTcpServer m_server;
    QList<QByteArray> m_lines;
};

class Measuring : public test::WindowTest {
protected:
    void plan()
    {
        QTest::keyClick(&window, Qt::Key_9, Qt::ControlModifier);
        QTest::mouseClick(find("tests.make"), Qt::LeftButton);
        ASSERT_TRUE(QTest::qWaitFor([this] { return window.book().fresh(kTests) != nullptr; }, 90000));
        QApplication::processEvents();
    }
    /// To the first step that is measured in volts, over those before it.
    void toVolts()
    {
        find<QLineEdit>("tests.who")->setText("A. Weller");
        find<QLineEdit>("tests.instrument")->setText("meter 1");
        const auto thePlan = window.book().fresh(kTests);
        for (int k = 0; k < 10 && thePlan->steps[step()].look.with != measuring::Instrument::Volts; ++k)
            type("tests.word", QString::fromStdString(thePlan->steps[step()].expect.word));
        ASSERT_EQ(thePlan->steps[step()].look.with, measuring::Instrument::Volts);
    }
    void type(const char* name, const QString& words)
    {
        auto* line = qobject_cast<QLineEdit*>(find(name));
        if (!line)
            line = find<QComboBox>(name)->lineEdit();
        line->clear();
        QTest::keyClicks(line, words);
        QTest::keyClick(line, Qt::Key_Return);
        QApplication::processEvents();
    }
    std::size_t step() { return text("tests.head").section(' ', 1, 1).toULong() - 1; }
};

TEST_F(Measuring, AReadingComesFromTheMeterAndIsEnteredByAPerson)
{
    ASSERT_NO_FATAL_FAILURE(plan());
    ASSERT_NO_FATAL_FAILURE(toVolts());
    EXPECT_FALSE(find("tests.meter.take")->isEnabled()) << "nobody is asked before somebody says where it is";
    FakeMeter meter({"+1.000000E-01", "+2.500000E-01"});
    find<QLineEdit>("tests.meter.address")->setText(meter.address());
    ASSERT_TRUE(find("tests.meter.take")->isEnabled());
    QTest::mouseClick(find("tests.meter.take"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([this] { return !find<QLineEdit>("tests.figure")->text().isEmpty(); }, 5000));
    EXPECT_EQ(find<QLineEdit>("tests.figure")->text(), "0.25") << "the larger of both kinds of voltage";
    EXPECT_EQ(meter.asked, "MEAS:VOLT:AC?\nMEAS:VOLT:DC?\n");
    const std::size_t entries = window.document().record().size();
    EXPECT_EQ(entries, step()) << "nothing is entered by itself";
    QTest::keyClick(find("tests.figure"), Qt::Key_Return);
    EXPECT_EQ(window.document().record().size(), entries + 1);
    EXPECT_EQ(window.document().record().back().reading->value, 0.25);
}

TEST_F(Measuring, AMeterThatSaysNothingOfUseIsSaidInWords)
{
    ASSERT_NO_FATAL_FAILURE(plan());
    ASSERT_NO_FATAL_FAILURE(toVolts());
    const auto said = [this](const QString& address, const QString& part) {
        find<QLineEdit>("tests.meter.address")->setText(address);
        QTest::mouseClick(find("tests.meter.take"), Qt::LeftButton);
        return QTest::qWaitFor([&] { return text("tests.meter.said").contains(part); }, 5000);
    };
    EXPECT_TRUE(said("meter", "is no address")) << text("tests.meter.said").toStdString();
    EXPECT_TRUE(said("/dev/no-such-port", "o")) << text("tests.meter.said").toStdString();
    FakeMeter odd({"fine", "0"});
    EXPECT_TRUE(said(odd.address(), "no figure")) << text("tests.meter.said").toStdString();
    FakeMeter talker({QByteArray(3000, '1')});
    EXPECT_TRUE(said(talker.address(), "longer than a line")) << text("tests.meter.said").toStdString();
    FakeMeter silent({});
    EXPECT_TRUE(said(silent.address(), "within two seconds")) << text("tests.meter.said").toStdString();
    EXPECT_TRUE(find<QLineEdit>("tests.figure")->text().isEmpty());
}

TEST_F(Measuring, TenRunsOfAStopGoIntoItsFunction)
{
    ASSERT_NO_FATAL_FAILURE(plan());
    const auto thePlan = window.book().fresh(kTests);
    const auto timed = std::find_if(thePlan->steps.begin(), thePlan->steps.end(),
        [](const auto& s) { return s.look.with == measuring::Instrument::Stopwatch; });
    ASSERT_NE(timed, thePlan->steps.end());
    const double middle = (timed->expect.low + timed->expect.high) / 2;
    find<QLineEdit>("tests.who")->setText("A. Weller");
    find<QLineEdit>("tests.instrument")->setText("stopwatch 3");
    auto* day = find("tests.day");
    for (int k = 0; k < 12; ++k)
        QTest::keyClick(day, Qt::Key_Right);
    const auto place = static_cast<std::size_t>(timed - thePlan->steps.begin());
    for (int k = 0; k < 20 && step() != place; ++k)
        QTest::mouseClick(find(step() < place ? "tests.next" : "tests.back"), Qt::LeftButton);
    ASSERT_EQ(step(), place);
    EXPECT_TRUE(text("tests.runs").startsWith("0 of 10 runs")) << text("tests.runs").toStdString();
    for (int run = 1; run <= 10; ++run) {
        EXPECT_FALSE(find("tests.times")->isEnabled()) << run;
        EXPECT_EQ(step(), place) << "it stays here";
        type("tests.figure", QString::number(middle * (1 + run / 1000.0), 'f', 4));
    }
    for (int k = 0; k < 5 && step() != place; ++k)
        QTest::mouseClick(find("tests.back"), Qt::LeftButton);
    ASSERT_EQ(step(), place);
    EXPECT_TRUE(text("tests.runs").startsWith("10 of 10 runs")) << text("tests.runs").toStdString();
    QTest::mouseClick(find("tests.times"), Qt::LeftButton);
    const auto functions = measuring::functionsTimedBy(thePlan->steps[place], window.document().dossier());
    ASSERT_FALSE(functions.empty());
    EXPECT_EQ(functions.front()->approach.measuredStopsS.size(), 10u);
    QTest::keyClick(&window, Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(measuring::functionsTimedBy(thePlan->steps[place], window.document().dossier())
                    .front()
                    ->approach.measuredStopsS.empty())
        << "one step of undo";
}

class Bridging : public test::WindowTest {
protected:
    BridgeDialog* open()
    {
        QTest::keyClick(&window, Qt::Key_F, Qt::ControlModifier);
        QTest::mouseClick(find("find.bridge"), Qt::LeftButton);
        QApplication::processEvents();
        return window.findChild<BridgeDialog*>();
    }
    static void set(QWidget* in, const char* name, const QString& text)
    {
        in->findChild<QLineEdit*>(name)->setText(text);
    }
};

TEST_F(Bridging, SaysWhatItCostsAndStandsOverEveryPageUntilItIsOff)
{
    EXPECT_FALSE(find("shell.bridges")->isVisible());
    BridgeDialog* dialog = open();
    ASSERT_NE(dialog, nullptr);
    auto* from = dialog->findChild<QComboBox*>("bridge.from");
    auto* to = dialog->findChild<QComboBox*>("bridge.to");
    auto* enter = dialog->findChild<QPushButton*>("bridge.enter");
    EXPECT_GT(from->count(), 20) << "every terminal can be chosen";
    from->setEditText("S0:11");
    to->setEditText("S0:12");
    EXPECT_FALSE(enter->isEnabled()) << "not before it is said what it costs";
    QTest::mouseClick(dialog->findChild<QPushButton*>("bridge.ask"), Qt::LeftButton);
    auto* cost = dialog->findChild<QLabel*>("bridge.cost");
    ASSERT_TRUE(QTest::qWaitFor([cost] { return cost->text().contains("S0 11-12"); }, 60000))
        << cost->text().toStdString();
    EXPECT_TRUE(cost->text().contains("S0 21-22: does not open")) << cost->text().toStdString();
    EXPECT_TRUE(cost->text().contains("Not looked at")) << cost->text().toStdString();
    ASSERT_TRUE(enter->isEnabled());
    set(dialog, "bridge.who", "B. Fitter");
    set(dialog, "bridge.reason", "waiting for the contact block");
    set(dialog, "bridge.until", "soon");
    QTest::mouseClick(enter, Qt::LeftButton);
    EXPECT_TRUE(cost->text().contains("is no day")) << cost->text().toStdString();
    EXPECT_TRUE(window.document().record().empty());
    set(dialog, "bridge.until", "2099-12-05");
    QTest::mouseClick(enter, Qt::LeftButton);
    ASSERT_EQ(window.document().record().size(), 1u);
    EXPECT_TRUE(find("shell.bridges")->isVisible());
    EXPECT_TRUE(text("shell.bridges").contains("S0:11 - S0:12")) << text("shell.bridges").toStdString();
    // It is off: with what was tested.
    set(dialog, "bridge.tested", "emergency stop, both channels");
    QTest::mouseClick(dialog->findChild<QPushButton*>("bridge.off"), Qt::LeftButton);
    EXPECT_TRUE(record::bypassesInForce(window.document().record()).empty());
    EXPECT_FALSE(find("shell.bridges")->isVisible());
    EXPECT_FALSE(record::firstBroken(window.document().record()));
    dialog->reject();
}

class TwoCircuits : public test::WindowTest { };

TEST_F(TwoCircuits, RunSideBySideUnderTheSameHands)
{
    auto& bench = window.place<BenchPlace>();
    // Without the wire at its coil the contactor stays out.
    const DossierFile here = window.document().file();
    const Circuit& c = here.dossier.circuit;
    const auto coil = std::find_if(c.wires.begin(), c.wires.end(),
        [&c](const Wire& w) { return c.nameOf(w.from) == "Q1:A1" || c.nameOf(w.to) == "Q1:A1"; });
    ASSERT_NE(coil, c.wires.end());
    bench.putBeside(edit::withoutWire(here, coil->id)->dossier.circuit, "without a wire");
    EXPECT_TRUE(text("beside.name").contains("without a wire"));
    bench.session().advanceBy(1.0);
    EXPECT_TRUE(text("beside.differs").contains("looks the same")) << text("beside.differs").toStdString();
    for (const auto& [tag, word, s] :
        {std::tuple{"S3", "press", 0.3}, {"S3", "release", 0.3}, {"S2", "press", 0.5}, {"S2", "release", 0.5}}) {
        bench.session().act(tag, word);
        bench.session().advanceBy(s);
    }
    ASSERT_TRUE(*isInState(bench.session().plant(), bench.session().run().state(), "Q1", "in"));
    QApplication::processEvents();
    EXPECT_TRUE(text("beside.differs").contains("Q1: in above, out here")) << text("beside.differs").toStdString();
    QTest::mouseClick(find("beside.away"), Qt::LeftButton);
    EXPECT_FALSE(find("beside.name")->isVisible());
}

TEST_F(TwoCircuits, AnotherFileIsPutBesideByItsKey)
{
    asker->open = QString::fromStdString(test::sourcePath("data/demo/larkspur_db2.sentry"));
    QTest::keyClick(&window, Qt::Key_F8, Qt::ShiftModifier);
    QApplication::processEvents();
    EXPECT_TRUE(text("beside.name").contains("Debarker DB-2")) << text("beside.name").toStdString();
    auto& bench = window.place<BenchPlace>();
    bench.session().advanceBy(0.5);
    bench.session().act("S2", "press");
    bench.session().advanceBy(0.2);
    QApplication::processEvents();
    EXPECT_FALSE(text("beside.differs").isEmpty());
    asker->open = "/no/such/file.sentry";
    QTest::keyClick(&window, Qt::Key_F8, Qt::ShiftModifier);
    EXPECT_FALSE(asker->told.isEmpty());
}

/// Nothing was worked out before.
class Unmeasured : public Measuring {
protected:
    void SetUp() override
    {
        std::filesystem::remove_all(test::keptResults());
        Measuring::SetUp();
    }
};

TEST_F(Unmeasured, APartOfThePlanIsWrittenOnPaper)
{
    const QString path = QString::fromStdString(::testing::TempDir()) + "page.html";
    QFile::remove(path);
    asker->save = path;
    asker->chosen = 0;
    window.actionTable().action("file.sheet")->trigger();
    EXPECT_FALSE(QFile::exists(path)) << "the plan comes first";
    ASSERT_NO_FATAL_FAILURE(plan());
    window.actionTable().action("file.sheet")->trigger();
    ASSERT_TRUE(QFile::exists(path));
    EXPECT_TRUE(asker->choices.contains("After Q1 was replaced")) << asker->choices.join(", ").toStdString();
    QFile file(path);
    ASSERT_TRUE(file.open(QIODevice::ReadOnly));
    EXPECT_TRUE(file.readAll().contains("Emergency stops and guards"));
}

} // namespace
} // namespace ts
