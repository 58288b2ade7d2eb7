// What a machine of many starters costs, and how it grows: 1 to 100 motors made from patterns. Complexity is fitted at
// the end of each.

#include "bench/many_starters.h"
#include "core/analysis/fault_analysis.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/pages.h"
#include "core/diagram/power_layout.h"
#include "core/io/dossier_text.h"
#include "core/simulation/scenario_run.h"
#include "core/studies/working_out.h"
#include "report/report.h"

#include <benchmark/benchmark.h>

#include <cmath>

#include <sys/resource.h>

namespace {

using namespace ts;

constexpr double kPageWidth = 1240, kPageHeight = 520; ///< of the Bench in a window of 1280 x 800

void peakMemory(benchmark::State& state)
{
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    state.counters["peak_MB"] = static_cast<double>(usage.ru_maxrss) / 1024; // of the whole program so far
}

const DossierFile& machineOf(benchmark::State& state)
{
    static std::map<std::int64_t, DossierFile> made;
    const std::int64_t motors = state.range(0);
    state.SetComplexityN(motors);
    if (!made.contains(motors))
        made[motors] = bench::manyStarters(static_cast<int>(motors));
    return made[motors];
}

const Scenario& demandOf(const Dossier& dossier)
{
    return *dossier.scenario(dossier.functions.front().demandScenario);
}

void load(benchmark::State& state)
{
    const std::string text = io::printDossier(machineOf(state));
    for (auto _ : state)
        if (!io::parseDossier(text))
            state.SkipWithError("refused");
}
BENCHMARK(load)->Arg(10)->Arg(30)->Arg(100)->Complexity()->Unit(benchmark::kMillisecond);

void drawing(benchmark::State& state)
{
    const Circuit& circuit = machineOf(state).dossier.circuit;
    for (auto _ : state) {
        const auto graph = *diagram::wiredGraph(circuit);
        benchmark::DoNotOptimize(diagram::pagesOf(graph, diagram::controlDrawing(graph), {kPageWidth, kPageHeight}));
        benchmark::DoNotOptimize(diagram::powerDrawing(graph));
    }
}
BENCHMARK(drawing)->Arg(10)->Arg(30)->Arg(100)->Complexity()->Unit(benchmark::kMillisecond);

/// All motors are started, run, and the first one's emergency stop is pressed: a minute of the machine.
void one_run(benchmark::State& state)
{
    const Dossier& dossier = machineOf(state).dossier;
    const Plant plant = *compile(dossier.circuit);
    for (auto _ : state) {
        Workspace workspace;
        benchmark::DoNotOptimize(runScenario(plant, demandOf(dossier), {}, 0.0, workspace));
    }
    peakMemory(state);
}
BENCHMARK(one_run)->Arg(10)->Arg(30)->Arg(100)->Complexity()->Unit(benchmark::kMillisecond);

/// Only the first starter is operated, a minute long: as many things happen whatever the number of motors.
void one_run_of_one(benchmark::State& state)
{
    const Dossier& dossier = machineOf(state).dossier;
    const Plant plant = *compile(dossier.circuit);
    for (auto _ : state) {
        Workspace workspace;
        benchmark::DoNotOptimize(runScenario(plant, dossier.scenarios.front(), {}, 0.0, workspace));
    }
    peakMemory(state);
}
BENCHMARK(one_run_of_one)->Arg(10)->Arg(30)->Arg(100)->Complexity()->Unit(benchmark::kMillisecond);

/// One fault after the other, at every moment, nominal: the verdict of the first starter's emergency stop. Arguments:
/// motors; 0 with a demand while its own motor runs, 1 while all run.
void single_faults(benchmark::State& state)
{
    const Dossier& dossier = machineOf(state).dossier;
    SafetyFunction function = dossier.functions.front();
    if (state.range(1) == 0)
        function.demandScenario = dossier.scenarios[1].id;
    faults::SweepOptions options;
    options.withPairs = options.withExcluded = options.withLimits = false;
    std::size_t runs = 0;
    for (auto _ : state) {
        const auto s = faults::sweep(dossier, function, options);
        runs = s->runCount;
        benchmark::DoNotOptimize(s);
    }
    state.counters["runs"] = static_cast<double>(runs);
    peakMemory(state);
}
BENCHMARK(single_faults)
    ->Args({10, 0})
    ->Args({30, 0})
    ->Args({10, 1})
    ->Args({30, 1})
    ->Unit(benchmark::kSecond)
    ->UseRealTime()
    ->Iterations(1);

/// All that is worked out at once after an edit, and the report on it, each within its budget.
void check_and_report(benchmark::State& state)
{
    const Dossier& dossier = machineOf(state).dossier;
    for (auto _ : state) {
        Results results;
        benchmark::DoNotOptimize(workOut(dossier, {}, results));
        benchmark::DoNotOptimize(report::reportHtml(dossier, results));
    }
    peakMemory(state);
}
BENCHMARK(check_and_report)->Arg(10)->Arg(30)->Complexity()->Unit(benchmark::kSecond)->UseRealTime()->Iterations(1);

/// The report on nothing worked out: what its own lists and drawings cost.
void bare_report(benchmark::State& state)
{
    const Dossier& dossier = machineOf(state).dossier;
    for (auto _ : state)
        if (!report::reportHtml(dossier, {}))
            state.SkipWithError("refused");
}
BENCHMARK(bare_report)->Arg(10)->Arg(30)->Arg(100)->Complexity()->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
