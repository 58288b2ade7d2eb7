#pragma once
// The real window with a made-up person who answers its questions and a clock that only moves when told.

#include "app/places/bench/bench_place.h"
#include "app/places/bench/door_view.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/paths_view.h"
#include "app/places/bench/trace_view.h"
#include "app/places/levels/levels_place.h"
#include "app/shell/ledge.h"
#include "app/shell/main_window.h"
#include "tests/support/circuits.h"

#include <QAbstractButton>
#include <QApplication>
#include <QCheckBox>
#include <QLabel>
#include <QPrinter>
#include <QTemporaryDir>
#include <QtTest/QTest>

namespace ts::test {

class FakeAsker : public app::Asker {
public:
    QString open, save, printTo;
    Unsaved unsaved = Unsaved::Cancel;
    QStringList told;
    int asked = 0;

    QString fileToOpen(const QString&, const QString&) override { return open; }
    QString fileToSave(const QString&, const QString&) override { return save; }
    Unsaved aboutUnsaved(const QString&) override
    {
        ++asked;
        return unsaved;
    }
    bool choosePrinter(QPrinter& printer) override
    {
        printer.setOutputFormat(QPrinter::PdfFormat);
        printer.setOutputFileName(printTo);
        return !printTo.isEmpty();
    }
    void tell(const QString& what) override { told << what; }
};

class WindowTest : public ::testing::Test {
protected:
    void SetUp() override
    {
        auto fake = std::make_unique<FakeAsker>();
        asker = fake.get();
        window.setAsker(std::move(fake));
        session().setClockEnabled(false);
        window.show();
        ASSERT_TRUE(QTest::qWaitForWindowExposed(&window));
        QApplication::setActiveWindow(&window);
        ASSERT_TRUE(window.open(QString::fromStdString(demoPath())));
        waitForResults();
    }
    void TearDown() override
    {
        asker->unsaved = app::Asker::Unsaved::Discard;
        window.close();
    }
    app::BenchSession& session() { return window.bench().session(); }
    void waitForResults()
    {
        ASSERT_TRUE(QTest::qWaitFor([this] { return !window.analyst().isBusy(); }, 20000));
    }
    template <class T = QWidget> T* find(const QString& name)
    {
        T* widget = window.findChild<T*>(name);
        EXPECT_NE(widget, nullptr) << name.toStdString();
        return widget;
    }
    void click(const QString& name, Qt::KeyboardModifiers modifiers = {})
    {
        QTest::mouseClick(find(name), Qt::LeftButton, modifiers);
    }
    /// Presses a door button, holds it and lets go, in simulated time.
    void push(const QString& tag, double heldS = 0.3)
    {
        QWidget* button = find("door." + tag);
        QTest::mousePress(button, Qt::LeftButton);
        session().advanceBy(heldS);
        QTest::mouseRelease(button, Qt::LeftButton);
        session().advanceBy(0.2);
    }
    void startMachine()
    {
        push("S3");
        push("S2");
        session().advanceBy(3.0);
        ASSERT_TRUE(is("M1", "driven"));
    }
    bool is(std::string_view tag, std::string_view state)
    {
        return *isInState(session().plant(), session().run().state(), tag, state);
    }
    bool isLit(const QString& tag) { return find<app::DoorLamp>("door." + tag)->isLit(); }
    QString text(const QString& label) { return find<QLabel>(label)->text(); }

    app::Theme theme;
    app::MainWindow window{theme, app::Settings{}, io::systemFiles()};
    FakeAsker* asker = nullptr;
};

} // namespace ts::test
