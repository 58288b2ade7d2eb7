// One frame of the Bench painted into an image, at 100 and 200 %.

#include "app/places/bench/bench_place.h"
#include "app/places/levels/levels_place.h"
#include "app/shell/main_window.h"

#include <QApplication>
#include <QImage>
#include <QPainter>

#include <benchmark/benchmark.h>

namespace {

ts::app::MainWindow* g_window = nullptr;

void paint(benchmark::State& state, int place, double scale)
{
    g_window->goTo(place);
    QImage image(g_window->size() * scale, QImage::Format_RGB32);
    image.setDevicePixelRatio(scale);
    for (auto _ : state) {
        if (place == 0)
            g_window->bench().session().advanceBy(0.016);
        QPainter painter(&image);
        g_window->render(&painter);
    }
}

void frame_bench_100(benchmark::State& state) { paint(state, 0, 1.0); }
BENCHMARK(frame_bench_100)->Unit(benchmark::kMillisecond);
void frame_bench_200(benchmark::State& state) { paint(state, 0, 2.0); }
BENCHMARK(frame_bench_200)->Unit(benchmark::kMillisecond);
void frame_levels_100(benchmark::State& state) { paint(state, 1, 1.0); }
BENCHMARK(frame_levels_100)->Unit(benchmark::kMillisecond);

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
