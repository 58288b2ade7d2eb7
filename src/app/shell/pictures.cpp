#include "app/shell/pictures.h"

#include "app/places/bench/bench_place.h"
#include "app/places/bench/edit_sheet.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/paths_view.h"
#include "app/places/bench/wire_list_view.h"
#include "app/places/faults/fault_wall.h"
#include "app/places/faults/faults_place.h"
#include "app/places/faults/orders_page.h"
#include "app/places/faults/stop_page.h"
#include "app/places/faults/sweep_page.h"
#include "app/places/levels/danger_page.h"
#include "app/places/levels/levels_place.h"
#include "app/places/levels/reach_page.h"
#include "app/places/machine/machine_place.h"
#include "app/shell/main_window.h"
#include "core/patterns/starter.h"

#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QKeyEvent>
#include <QLineEdit>

#include <functional>
#include <map>

namespace ts::app {
namespace {

constexpr double kRunningS = 8.0, kStoppedS = 9.8; ///< moments of the demo's first scenario

/// Plays the first scenario's steps up to a moment.
void play(MainWindow& window, double untilS, const char* fault = nullptr)
{
    BenchSession& session = window.bench().session();
    session.setClockEnabled(false);
    session.restart();
    const Dossier& d = window.document().dossier();
    if (!session.hasRun() || d.scenarios.empty())
        return;
    if (const auto site = fault ? faultFrom(session.plant(), fault) : Expected<FaultSite>(FaultSite{}); site && fault)
        session.setFault(site->fault, true);
    const auto stimuli = stimuliOf(session.plant(), d.scenarios.front());
    if (!stimuli)
        return;
    for (const Stimulus& s : *stimuli) {
        const double atS = secondsOf(s.at).si();
        if (atS > untilS)
            break;
        session.advanceBy(atS - secondsOf(session.run().now()).si());
        session.run().act(s);
    }
    session.advanceBy(untilS - secondsOf(session.run().now()).si());
}

void waitForResults(MainWindow& window)
{
    QElapsedTimer limit;
    limit.start();
    while (window.analyst().isBusy() && limit.elapsed() < 10000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20); // no event loop runs yet: this is a program of its
                                                                    // own
}

bool grab(MainWindow& window, const QString& file)
{
    for (int round = 0; round < 5; ++round) // a layout that wraps asks for its height a few times
        QCoreApplication::processEvents();
    return window.grab().save(file);
}

void probe(MainWindow& window, const char* red, const char* black)
{
    const Circuit& c = window.document().dossier().circuit;
    for (const char* name : {red, black}) {
        const std::string text(name);
        const std::size_t colon = text.find(':');
        if (const Device* d = c.device(std::string_view(text).substr(0, colon)))
            window.bench().meter().probe({d->id, text.substr(colon + 1)});
    }
}

/// The place of the machine with a starter chosen that has something wrong.
bool grabMachine(MainWindow& window, const QString& file)
{
    window.goTo(MainWindow::kMachine);
    for (const auto& [choice, word] : {std::pair{"choice.base", "reversing"}, {"choice.operation", "run_inch_button"},
             {"choice.stop", "two_channel_relay"}})
        if (auto* box = window.findChild<QComboBox*>(QLatin1String(choice)))
            box->setCurrentIndex(box->findData(QLatin1String(word)));
    QElapsedTimer limit;
    limit.start();
    while (window.machine().preview().isBusy() && limit.elapsed() < 20000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    return grab(window, file);
}

/// A change that is meant but not made: a hold that joins behind the interlock, with what that would mean.
bool grabChange(MainWindow& window, const QString& file)
{
    const Device* device = window.document().dossier().circuit.device("Q1");
    if (!device)
        return true;
    window.bench().find({device->id, "coil", {}});
    for (const offers::Offer& offer : std::vector(window.bench().offers()))
        if (offer.id == "hold_add")
            window.bench().openOffer(offer);
    if (auto* box = window.findChild<QComboBox*>(QStringLiteral("change.hold")))
        for (int k = 0; k < box->count(); ++k)
            if (box->itemText(k).startsWith(QStringLiteral("past S2"))
                && box->itemText(k).endsWith(QStringLiteral("Q2 21-22")))
                box->setCurrentIndex(k);
    QElapsedTimer limit;
    limit.start();
    while (!window.bench().sheet().trial().result() && limit.elapsed() < 20000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    const bool ok = grab(window, file);
    window.bench().sheet().leave();
    return ok;
}

/// The wire list with one of its wires selected.
bool grabWires(MainWindow& window, const QString& file)
{
    WireListView& wires = window.bench().wires();
    window.bench().find({{}, {}, wires.rows().wireAt(wires.rows().rowCount() / 2)});
    const bool ok = grab(window, file);
    window.bench().showWires(false);
    window.bench().find({});
    window.bench().paths().fit();
    return ok;
}

/// The wall of the first function, second faults included, with the story of a welded contactor.
bool grabFaults(MainWindow& window, const QString& file)
{
    SweepPage& place = window.faults().sweep();
    window.goTo(MainWindow::kFaults);
    window.faults().show(FaultsPlace::Sweep);
    place.startOrCancel();
    while (place.isBusy())
        QCoreApplication::processEvents(QEventLoop::AllEvents, 50);
    if (!place.analysis())
        return false;
    const faults::Sweep& sweep = place.analysis()->sweep;
    if (const faults::SweptFault* welded = faults::faultNamed(sweep.faults, "Q1/main:welded"))
        place.wall().select(static_cast<int>(welded - sweep.faults.data()), faults::Moment::JustBefore);
    QElapsedTimer limit;
    limit.start();
    while (!place.hasStory() && limit.elapsed() < 20000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    return grab(window, file);
}

/// The stop of the first function in its worst case.
bool grabStop(MainWindow& window, const QString& file)
{
    window.goTo(MainWindow::kFaults);
    window.faults().show(FaultsPlace::Stop);
    window.faults().startOrCancel();
    while (window.faults().stop().isBusy())
        QCoreApplication::processEvents(QEventLoop::AllEvents, 50);
    return window.faults().stop().hasResult() && grab(window, file);
}

/// Every order of operation of a reversing starter whose hold joins behind the interlock, and the order that shows it.
bool grabOrders(MainWindow& window, const QString& file)
{
    const std::vector<std::string> with{
        "base=reversing", "interlock=auxiliary", "hold=behind_interlock", "machine=Bark conveyor BC-1"};
    window.document().startWith(*patterns::starter(*patterns::Plan::from(with)));
    window.goTo(MainWindow::kFaults);
    window.faults().show(FaultsPlace::Orders);
    window.faults().startOrCancel();
    OrdersPage& page = window.faults().orders();
    while (page.isBusy())
        QCoreApplication::processEvents(QEventLoop::AllEvents, 50);
    if (!page.hasResult())
        return false;
    QTreeWidgetItem* first = page.list().topLevelItem(0);
    page.list().setCurrentItem(first->child(first->childCount() - 1));
    return grab(window, file);
}

/// The search box with something half written.
bool grabSearch(MainWindow& window, const QString& file)
{
    window.actionTable().action("search")->trigger();
    auto* line = window.findChild<QLineEdit*>(QStringLiteral("search.line"));
    line->setText(QStringLiteral("Q1"));
    const bool ok = grab(window, file);
    QKeyEvent escape(QEvent::KeyPress, Qt::Key_Escape, Qt::NoModifier);
    QCoreApplication::sendEvent(line, &escape);
    return ok;
}

/// A page of the level desk with what it works out.
void showLevels(MainWindow& window, LevelsPlace::Page page)
{
    window.goTo(MainWindow::kLevels);
    window.levels().showPage(page);
    if (page == LevelsPlace::Reach)
        window.levels().reach().startOrCancel();
    QElapsedTimer limit;
    limit.start();
    while ((window.levels().danger().isBusy() || window.levels().reach().isBusy()) && limit.elapsed() < 60000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
}

bool showView(MainWindow& window, const QString& view)
{
    const std::map<QString, std::function<void()>> views{{"skyline", [&] { window.goTo(MainWindow::kSkyline); }},
        {"machine", [&] { window.goTo(MainWindow::kMachine); }},
        {"functions", [&] { window.goTo(MainWindow::kFunctions); }},
        {"faults", [&] { window.goTo(MainWindow::kFaults); }},
        {"levels", [&] { showLevels(window, LevelsPlace::Calculation); }},
        {"levels.claim", [&] { showLevels(window, LevelsPlace::Claim); }},
        {"levels.danger", [&] { showLevels(window, LevelsPlace::Danger); }},
        {"levels.reach", [&] { showLevels(window, LevelsPlace::Reach); }}};
    const auto found = views.find(view);
    if (found == views.end())
        return false;
    found->second();
    return true;
}

} // namespace

bool writePicture(MainWindow& window, const QString& file, const QString& place)
{
    play(window, kRunningS);
    waitForResults(window);
    return (place.isEmpty() || showView(window, place)) && grab(window, file);
}

bool writeShots(MainWindow& window, Theme& theme, const QString& folder)
{
    const QDir dir(folder);
    bool ok = true;
    play(window, kRunningS);
    waitForResults(window);
    probe(window, "Q1:A1", "Q1:A2");
    ok &= grab(window, dir.filePath("bench_running.png"));
    play(window, kStoppedS);
    ok &= grab(window, dir.filePath("bench_stopped.png"));
    play(window, kRunningS, "Q1/main:welded");
    BenchSession& session = window.bench().session();
    if (const Device* q1 = window.document().dossier().circuit.device("Q1"))
        emit window.bench().paths().symbolPicked(q1->id, "coil");
    for (const auto& [tag, word, waitS] :
        {std::tuple{"S0", "press", 20.0}, {"S0", "unlatch", 1.0}, {"S4", "press", 0.3}, {"S4", "release", 1.0}}) {
        session.act(tag, word);
        session.advanceBy(waitS);
    }
    ok &= grab(window, dir.filePath("bench_welded.png"));
    play(window, kRunningS);
    ok &= grabChange(window, dir.filePath("bench_change.png"));
    ok &= grabWires(window, dir.filePath("bench_wires.png"));
    ok &= grabSearch(window, dir.filePath("search.png"));
    window.bench().showPower(true);
    play(window, kRunningS);
    ok &= grab(window, dir.filePath("bench_power.png"));
    window.bench().showPower(false);
    window.actionTable().action("habit.ladder")->trigger();
    window.bench().setLarge(true);
    ok &= grab(window, dir.filePath("bench_ladder.png"));
    window.bench().setLarge(false);
    window.actionTable().action("habit.current_paths")->trigger();
    ok &= grabFaults(window, dir.filePath("faults.png"));
    ok &= grabStop(window, dir.filePath("faults_stop.png"));
    window.goTo(MainWindow::kLevels);
    window.levels().ask(window.levels().level().pfhd);
    ok &= grab(window, dir.filePath("levels.png"));
    for (const char* view : {"skyline", "functions", "levels.claim", "levels.danger", "levels.reach"})
        ok &= showView(window, QString::fromLatin1(view))
            && grab(window, dir.filePath(QString::fromLatin1(view).replace('.', '_') + ".png"));
    window.goTo(MainWindow::kBench);
    ok &= grabMachine(window, dir.filePath("machine.png"));
    window.goTo(MainWindow::kBench);
    theme.setDark(true);
    ok &= grab(window, dir.filePath("bench_dark.png"));
    theme.setDark(false);
    ok &= grabOrders(window, dir.filePath("faults_orders.png"));
    return ok;
}

} // namespace ts::app
