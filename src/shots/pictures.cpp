#include "shots/pictures.h"

#include "app/document/moment.h"
#include "app/places/bench/bench_place.h"
#include "app/places/bench/edit_sheet.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/paths_view.h"
#include "app/places/faults/fault_wall.h"
#include "app/places/faults/faults_place.h"
#include "app/places/faults/orders_page.h"
#include "app/places/faults/stop_page.h"
#include "app/places/faults/sweep_page.h"
#include "app/places/levels/danger_page.h"
#include "app/places/levels/levels_place.h"
#include "app/places/levels/reach_page.h"
#include "app/places/machine/machine_place.h"
#include "app/places/machine/scenario_page.h"
#include "app/places/tests/day_line.h"
#include "app/shell/main_window.h"
#include "app/shell/picture.h"
#include "app/shell/start_page.h"
#include "core/measuring/readings.h"
#include "core/measuring/rehearsal.h"
#include "core/patterns/machine.h"
#include "core/results/study_ids.h"
#include "core/simulation/scenario_run.h"

#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QPushButton>

namespace ts::app {
namespace {

constexpr double kRunningS = 8.0, kStoppedS = 9.8; ///< moments of the demo's first scenario

/// Plays the first scenario's steps up to a moment.
void play(MainWindow& window, double untilS, const char* fault = nullptr)
{
    BenchSession& session = window.place<BenchPlace>().session();
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

void probe(MainWindow& window, const char* red, const char* black)
{
    const Circuit& c = window.document().dossier().circuit;
    for (const char* name : {red, black}) {
        const std::string text(name);
        const std::size_t colon = text.find(':');
        if (const Device* d = c.device(std::string_view(text).substr(0, colon)))
            window.place<BenchPlace>().meter().probe({d->id, text.substr(colon + 1)});
    }
}

/// A machine of two motors being chosen, one operated in a way that has something wrong.
bool grabMachine(MainWindow& window, const QString& file)
{
    window.goTo(QStringLiteral("machine"));
    const auto choose = [&window](const char* choice, const char* word) {
        if (auto* box = window.findChild<QComboBox*>(QLatin1String(choice)))
            box->setCurrentIndex(box->findData(QLatin1String(word)));
    };
    choose("choice.injury", "serious");
    choose("choice.exposure", "rare");
    choose("choice.avoidance", "scarcely");
    choose("choice.base", "reversing");
    if (auto* another = window.findChild<QPushButton*>(QStringLiteral("machine.another")))
        another->click();
    const PlanPreview& preview = window.place<MachinePlace>().preview();
    if (!waitFor([&preview] { return !preview.isBusy(); }))
        return false;
    choose("choice.operation", "run_inch_button");
    if (auto* looked = window.findChild<QComboBox*>(QStringLiteral("choice.operation")))
        looked->setFocus();
    return waitFor([&preview] { return !preview.isBusy() && !preview.isTrying() && !preview.isComparing(); })
        && grab(window, file);
}

/// A change that is meant but not made: a hold that joins behind the interlock, with what that would mean.
bool grabChange(MainWindow& window, const QString& file)
{
    const Device* device = window.document().dossier().circuit.device("Q1");
    if (!device)
        return true;
    window.place<BenchPlace>().find({device->id, "coil", {}});
    for (const offers::Offer& offer : std::vector(window.place<BenchPlace>().offers()))
        if (offer.id == "hold_add")
            window.place<BenchPlace>().openOffer(offer);
    if (auto* box = window.findChild<QComboBox*>(QStringLiteral("change.hold")))
        for (int k = 0; k < box->count(); ++k)
            if (box->itemText(k).startsWith(QStringLiteral("past S2"))
                && box->itemText(k).endsWith(QStringLiteral("Q2 21-22")))
                box->setCurrentIndex(k);
    const bool ok = waitFor([&window] {
        const EditTrial& trial = window.place<BenchPlace>().sheet().trial();
        return trial.result() != nullptr && trial.findings() != nullptr;
    }) && grab(window, file);
    window.place<BenchPlace>().sheet().leave();
    return ok;
}

/// A scenario over time, with something that is expected chosen.
bool grabScenario(MainWindow& window, const QString& file)
{
    if (!showView(window, QStringLiteral("machine.scenarios")))
        return false;
    ScenarioPage& page = window.place<MachinePlace>().scenarioPage();
    page.line().choose(ScenarioLine::Pin{ScenarioLine::Pin::Kind::Expectation, 2});
    return waitFor([&page] { return !page.isBusy(); }) && grab(window, file);
}

/// The wall of the first function, second faults included, with the story of a welded contactor.
bool grabFaults(MainWindow& window, const QString& file)
{
    if (!showView(window, QStringLiteral("faults.sweep")))
        return false;
    SweepPage& page = window.place<FaultsPlace>().sweep();
    const auto sweep = page.swept();
    if (!sweep || !sweep->hasPairs)
        return false;
    if (const faults::SweptFault* welded = faults::faultNamed(sweep->faults, "Q1/main:welded"))
        page.wall().select(static_cast<int>(welded - sweep->faults.data()), faults::Moment::JustBefore);
    return waitFor([&page] { return page.hasStory(); }) && grab(window, file);
}

/// Every order of operation of a reversing starter whose hold joins behind the interlock, and the order that shows it.
bool grabOrders(MainWindow& window, const QString& file)
{
    const std::vector<std::string> with{
        "base=reversing", "interlock=auxiliary", "hold=behind_interlock", "machine=Bark conveyor BC-1"};
    window.document().startWith(*patterns::machine(*patterns::MachinePlan::from(with)));
    OrdersPage& page = window.place<FaultsPlace>().orders();
    if (!showView(window, QStringLiteral("faults.orders")) || !page.hasResult())
        return false;
    QTreeWidgetItem* first = page.list().topLevelItem(0);
    page.list().setCurrentItem(first->child(first->childCount() - 1));
    return grab(window, file);
}

/// A day's work half done: made-up readings, each as the right panel would give it.
bool grabTests(MainWindow& window, const QString& file)
{
    constexpr std::size_t kDone = 150;
    if (!showView(window, QStringLiteral("tests")))
        return false;
    const auto plan = window.book().fresh(kTests);
    const Circuit& circuit = window.document().dossier().circuit;
    const auto read = plan ? measuring::rehearsalOf(circuit, *plan, circuit)
                           : Expected<measuring::Rehearsal>(failure(ErrorCode::NotFound, {}));
    if (!read)
        return false;
    for (std::size_t k = 0; k < std::min(kDone, plan->steps.size()); ++k) {
        measuring::StepTaken taken{read->steps[k].id, "A. Weller", momentNow(), "meter 1", "2027-03-01", 0.0, {},
            read->steps[k].reading->word};
        if (taken.word.empty())
            taken.value = std::min(read->steps[k].reading->low, 2e6);
        const DossierFile now = window.document().file();
        auto entry = measuring::entryOf(taken, *plan, now.dossier, now.record);
        if (!entry || !window.document().addToRecord(*std::move(entry)))
            return false;
    }
    if (auto* day = window.findChild<DayLine*>())
        emit day->stepChosen(static_cast<int>(std::min(kDone, plan->steps.size() - 1)));
    return waitFor([&window] { return !window.book().isBehind(); }) && grab(window, file);
}

/// A search begun from what was seen, by the buttons that people press.
bool grabFind(MainWindow& window, const QString& file)
{
    window.goTo(QStringLiteral("find"));
    const auto press = [&](const char* name) {
        auto* button = window.findChild<QAbstractButton*>(QLatin1String(name));
        if (button)
            button->click();
        return button != nullptr;
    };
    const auto choose = [&](const char* name, const QString& text) {
        auto* box = window.findChild<QComboBox*>(QLatin1String(name));
        const int index = box ? box->findText(text) : -1;
        if (index >= 0)
            box->setCurrentIndex(index);
        return index >= 0;
    };
    const auto isThere = [&] { return !window.findChild<QWidget*>(QStringLiteral("find.stop"))->isVisible(); };
    constexpr int kLongestMs = 120'000;
    return choose("find.hand", QStringLiteral("S4 pressed and let go")) && press("find.add_hand")
        && choose("find.device", QStringLiteral("K0")) && choose("find.state", QStringLiteral("outputs on"))
        && press("find.tell") && waitFor(isThere, kLongestMs) && press("find.safe") && press("find.answer1")
        && waitFor(isThere, kLongestMs) && grab(window, file);
}

} // namespace

bool writeShots(MainWindow& window, const QString& folder)
{
    const QDir dir(folder);
    bool ok = true;
    window.book().setPatience(-1); // what is Long only when a picture asks for it
    play(window, kRunningS);
    ok &= waitForResults(window);
    probe(window, "Q1:A1", "Q1:A2");
    ok &= grab(window, dir.filePath("bench_running.png"));
    play(window, kStoppedS);
    if (const Device* device = window.document().dossier().circuit.device("Q1")) // and what keeps it off now
        window.place<BenchPlace>().find({device->id, "coil", {}});
    ok &= grab(window, dir.filePath("bench_stopped.png"));
    play(window, kRunningS);
    ok &= grabChange(window, dir.filePath("bench_change.png"));
    window.place<BenchPlace>().showPower(true);
    play(window, kRunningS);
    ok &= grab(window, dir.filePath("bench_power.png"));
    window.place<BenchPlace>().showPower(false);
    ok &= grabFaults(window, dir.filePath("faults.png"));
    ok &= showView(window, QStringLiteral("faults.stop")) && grab(window, dir.filePath("faults_stop.png"));
    window.goTo(QStringLiteral("levels"));
    window.place<LevelsPlace>().ask(window.place<LevelsPlace>().level().pfhd);
    ok &= grab(window, dir.filePath("levels.png"));
    for (const char* view : {"checks", "skyline", "functions", "levels.claim", "levels.danger"})
        ok &= showView(window, QString::fromLatin1(view))
            && grab(window, dir.filePath(QString::fromLatin1(view).replace('.', '_') + ".png"));
    window.goTo(QStringLiteral("bench"));
    ok &= grabMachine(window, dir.filePath("machine.png"));
    ok &= showView(window, QStringLiteral("machine.notes")) && grab(window, dir.filePath("machine_notes.png"));
    ok &= grabScenario(window, dir.filePath("machine_scenarios.png"));
    ok &= grabFind(window, dir.filePath("find.png"));
    ok &= grabTests(window, dir.filePath("tests.png"));
    ok &= grabOrders(window, dir.filePath("faults_orders.png"));
    window.showStart();
    const auto* start = window.findChild<StartPage*>();
    ok &= waitFor([start] { return !start->isBusy() && !start->isTrying(); })
        && grab(window, dir.filePath("start.png"));
    return ok;
}

} // namespace ts::app
