// The level desk: many functions calculated, inputs varied, one move of a slider explained.

#include "core/io/dossier_file.h"
#include "core/safety/level.h"
#include "core/safety/uncertainty.h"

#include <benchmark/benchmark.h>

namespace {

using namespace ts;

DossierFile demo()
{
    return *io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2_chip_blower.sentry");
}

safety::Chain chainOfThree()
{
    const DossierFile file = demo();
    return *safety::functionLevel(file.dossier, file.dossier.functions.front()).chain; // sensing, deciding, switching
}

/// Goal: 10 000 functions of three subsystems in 100 ms on one core.
void levels_10000_functions(benchmark::State& state)
{
    const safety::Chain chain = chainOfThree();
    std::vector<safety::Chain> all(10'000, chain);
    for (std::size_t k = 0; k < all.size(); ++k)
        all[k].subsystems.back().channels.front().front().operationsPerYear = 100.0 + static_cast<double>(k);
    for (auto _ : state) {
        double sum = 0;
        for (const safety::Chain& c : all)
            sum += safety::figuresOf(c).pfhd.si();
        benchmark::DoNotOptimize(sum);
    }
    state.counters["subsystems"] = static_cast<double>(chain.subsystems.size());
}
BENCHMARK(levels_10000_functions)->Unit(benchmark::kMillisecond);

/// Goal: a million chains in a second.
void monte_carlo_million(benchmark::State& state)
{
    const safety::Chain chain = chainOfThree();
    for (auto _ : state)
        benchmark::DoNotOptimize(safety::uncertaintyOf(chain, {}, safety::Level::D, 1'000'000, 1));
}
BENCHMARK(monte_carlo_million)->Unit(benchmark::kMillisecond);

/// What a slider's move calculates with every explanation; the goal of 16 ms includes the repaint (frame_bench).
void level_explained(benchmark::State& state)
{
    const DossierFile file = demo();
    for (auto _ : state)
        benchmark::DoNotOptimize(safety::functionLevel(file.dossier, file.dossier.functions.front()));
}
BENCHMARK(level_explained)->Unit(benchmark::kMicrosecond);

} // namespace

BENCHMARK_MAIN();
