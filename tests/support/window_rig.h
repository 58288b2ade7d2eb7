#pragma once
// The real window with a made-up person who answers its questions and a clock that only moves when told.

#include "app/places/bench/bench_place.h"
#include "app/places/bench/door_view.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/paths_view.h"
#include "app/places/bench/trace_view.h"
#include "app/places/faults/faults_place.h"
#include "app/places/functions/functions_place.h"
#include "app/places/levels/levels_place.h"
#include "app/places/machine/machine_place.h"
#include "app/places/skyline/skyline_place.h"
#include "app/shell/file_desk.h"
#include "app/shell/ledge.h"
#include "app/shell/main_window.h"
#include "app/shell/report_writer.h"
#include "core/analysis/fault_analysis.h"
#include "core/checks/check.h"
#include "tests/support/circuits.h"
#include "tests/support/kept_results.h"

#include <QAbstractButton>
#include <QApplication>
#include <QCheckBox>
#include <QLabel>
#include <QPrinter>
#include <QTemporaryDir>
#include <QtTest/QTest>

#include <optional>

namespace ts::test {

class FakeAsker : public app::Asker {
public:
    QString open, save, printTo;
    Unsaved unsaved = Unsaved::Cancel;
    Foreign foreign = Foreign::Cancel;
    Found found = Found::Later;
    int chosen = -1;
    QStringList told, leftovers, choices;
    int asked = 0, foreignAsked = 0;

    QString fileToOpen(const QString&, const QString&) override { return open; }
    QString fileToSave(const QString&, const QString&) override { return save; }
    Unsaved aboutUnsaved(const QString&) override
    {
        ++asked;
        return unsaved;
    }
    Foreign aboutForeignChange(const QString&) override
    {
        ++foreignAsked;
        return foreign;
    }
    Found aboutLeftover(const QString& what) override
    {
        leftovers << what;
        return found;
    }
    int choose(const QString&, const QStringList& list) override
    {
        choices = list;
        return chosen;
    }
    bool choosePrinter(QPrinter& printer) override
    {
        printer.setOutputFormat(QPrinter::PdfFormat);
        printer.setOutputFileName(printTo);
        return !printTo.isEmpty();
    }
    void tell(const QString& what) override { told << what; }
};

/// The window with its places by name. Nothing Long begins by itself, and single faults only where a test wants them.
class TestWindow : public app::MainWindow {
public:
    TestWindow(
        app::Theme& theme, std::string resultFolder = keptResults(), bool isLiving = false, QString safekeeping = {})
        : MainWindow(theme, settings(isLiving), io::systemFiles(),
            {.results = std::move(resultFolder), .safekeeping = std::move(safekeeping)})
    {
        book().setPatience(-1);
    }
    app::SkylinePlace& skyline() { return place<app::SkylinePlace>(); }
    app::MachinePlace& machine() { return place<app::MachinePlace>(); }
    app::FunctionsPlace& functions() { return place<app::FunctionsPlace>(); }
    app::BenchPlace& bench() { return place<app::BenchPlace>(); }
    app::FaultsPlace& faults() { return place<app::FaultsPlace>(); }
    app::LevelsPlace& levels() { return place<app::LevelsPlace>(); }
    std::shared_ptr<const Analysis> analysis() { return book().fresh(kLevels); }
    std::vector<Finding> findings()
    {
        const auto checked = book().fresh(kChecks);
        return checked ? checked->findings : std::vector<Finding>{};
    }

private:
    static app::Settings settings(bool isLiving)
    {
        app::Settings s;
        s.verifiesByItself = isLiving;
        return s;
    }
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
        static std::optional<app::StudyBook::Known> ofDemo; // the same each time
        if (ofDemo)
            window.book().adopt(*ofDemo);
        waitForResults();
        if (!ofDemo)
            ofDemo = window.book().known();
    }
    void TearDown() override
    {
        asker->unsaved = app::Asker::Unsaved::Discard;
        window.close();
    }
    app::BenchSession& session() { return window.bench().session(); }
    void waitForResults()
    {
        ASSERT_TRUE(QTest::qWaitFor([this] { return !window.book().isBehind(); }, 90000));
    }
    /// The first finding of that id; fails the test if there is none.
    Finding finding(std::string_view id)
    {
        for (const Finding& f : window.findings())
            if (f.what.id == id)
                return f;
        ADD_FAILURE() << "no finding " << id;
        return {};
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
    /// Where an element or a terminal is drawn at the Bench, its page turned up.
    QPoint elementAt(std::string_view tag, std::string_view role)
    {
        const DeviceId id = window.document().dossier().circuit.device(tag)->id;
        return drawnAt(std::string(tag) + " " + std::string(role), [&](const diagram::Scene& scene) {
            const auto s = std::find_if(scene.symbols.begin(), scene.symbols.end(),
                [&](const diagram::Symbol& symbol) { return symbol.device == id && symbol.role == role; });
            return s == scene.symbols.end()
                ? std::nullopt
                : std::optional(diagram::Point{(s->top.x + s->bottom.x) / 2, (s->top.y + s->bottom.y) / 2});
        });
    }
    QPoint pinAt(std::string_view tag, std::string_view marking)
    {
        const DeviceId id = window.document().dossier().circuit.device(tag)->id;
        return drawnAt(std::string(tag) + ":" + std::string(marking), [&](const diagram::Scene& scene) {
            const auto pin = std::find_if(scene.pins.begin(), scene.pins.end(),
                [&](const auto& p) { return p.first.device == id && p.first.marking == marking; });
            return pin == scene.pins.end() ? std::nullopt : std::optional(pin->second);
        });
    }
    template <class Find> QPoint drawnAt(const std::string& what, const Find& placeIn)
    {
        app::PathsView& paths = window.bench().paths();
        const int shown = paths.page();
        for (int k = 0; k < paths.pageCount(); ++k) { // the one in view first
            paths.showPage(k == 0 ? shown : k <= shown ? k - 1 : k);
            if (const std::optional<diagram::Point> place = placeIn(paths.scene()))
                return paths.onWidget(*place).toPoint();
        }
        ADD_FAILURE() << what << " is not drawn";
        return {};
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
    TestWindow window{theme};
    FakeAsker* asker = nullptr;
};

} // namespace ts::test
