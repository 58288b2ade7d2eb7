// One frame of the Bench painted into an image, at 100 and 200 %.

#include "app/places/bench/bench_place.h"
#include "app/places/levels/levels_place.h"
#include "app/shell/main_window.h"
#include "core/edit/claim_edits.h"

#include <QApplication>
#include <QImage>
#include <QPainter>

#include <benchmark/benchmark.h>

namespace {

ts::app::MainWindow* g_window = nullptr;

void paint(benchmark::State& state, ts::app::MainWindow::PlaceIndex place, double scale)
{
    g_window->goTo(place);
    QImage image(g_window->size() * scale, QImage::Format_RGB32);
    image.setDevicePixelRatio(scale);
    for (auto _ : state) {
        if (place == ts::app::MainWindow::kBench)
            g_window->bench().session().advanceBy(0.016);
        QPainter painter(&image);
        g_window->render(&painter);
    }
}

void frame_bench_100(benchmark::State& state)
{
    paint(state, ts::app::MainWindow::kBench, 1.0);
}
BENCHMARK(frame_bench_100)->Unit(benchmark::kMillisecond);
void frame_bench_200(benchmark::State& state)
{
    paint(state, ts::app::MainWindow::kBench, 2.0);
}
BENCHMARK(frame_bench_200)->Unit(benchmark::kMillisecond);
void frame_levels_100(benchmark::State& state)
{
    paint(state, ts::app::MainWindow::kLevels, 1.0);
}
BENCHMARK(frame_levels_100)->Unit(benchmark::kMillisecond);

/// One move of a slider at the level desk: the edit, the calculation, all views, the repaint. Goal: 16 ms.
void slider_move(benchmark::State& state)
{
    g_window->goTo(ts::app::MainWindow::kLevels);
    QImage image(g_window->size(), QImage::Format_RGB32);
    double seconds = 600;
    for (auto _ : state) {
        seconds = seconds > 5000 ? 600 : seconds + 10;
        g_window->document().edit(
            QStringLiteral("slider"),
            [seconds](const ts::Dossier& d) {
                return ts::edit::withSecondsPerCycle(d, {d.functions[0].id, 2, 0, 0}, ts::seconds(seconds));
            },
            QStringLiteral("bench"));
        QPainter painter(&image);
        g_window->render(&painter);
    }
}
BENCHMARK(slider_move)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv)
{
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    ts::app::loadFonts();
    ts::app::Theme theme;
    theme.applyTo(app);
    ts::app::MainWindow window(theme, {}, ts::io::systemFiles());
    window.bench().session().setClockEnabled(false);
    window.open(QStringLiteral(TS_SOURCE_DIR "/data/demo/larkspur_db2_chip_blower.sentry"));
    window.show();
    g_window = &window;
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
