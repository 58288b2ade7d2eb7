#include "app/shell/picture.h"

#include "app/shell/main_window.h"
#include "core/simulation/scenario_run.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QPixmap>

namespace ts::app {
namespace {

constexpr double kRunningS = 8.0; ///< the demo's machine is running by then

} // namespace

void playFirstScenario(MainWindow& window, double untilS)
{
    const Dossier& dossier = window.document().dossier();
    const auto plant = compile(dossier.circuit);
    if (!plant || dossier.scenarios.empty())
        return;
    auto script = stimuliOf(*plant, dossier.scenarios.front());
    if (!script)
        return;
    const TimeNs until = timeNs(seconds(untilS));
    std::erase_if(*script, [until](const Stimulus& s) { return s.at > until; });
    for (Place* place : window.places())
        if (place->canPlay())
            place->play(*script, until);
}

bool waitFor(const std::function<bool()>& holds, int limitMs)
{
    QElapsedTimer limit;
    limit.start();
    while (!holds() && limit.elapsed() < limitMs)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20); // no event loop runs yet: this is a program of its
                                                                    // own
    return holds();
}

bool waitForResults(MainWindow& window)
{
    return waitFor([&window] { return !window.book().isBehind(); });
}

bool showView(MainWindow& window, const QString& name)
{
    for (Place* place : window.places())
        for (const PlaceView& view : place->views())
            if (view.name == name) {
                window.goTo(place->id());
                view.show();
                return !view.isReady || waitFor(view.isReady, 600'000);
            }
    return false;
}

bool grab(MainWindow& window, const QString& file)
{
    for (int round = 0; round < 5; ++round) // a layout that wraps asks for its height a few times
        QCoreApplication::processEvents();
    return window.grab().save(file);
}

bool writePicture(MainWindow& window, const QString& file, const QString& view)
{
    playFirstScenario(window, kRunningS);
    waitForResults(window);
    return (view.isEmpty() || showView(window, view)) && grab(window, file);
}

} // namespace ts::app
