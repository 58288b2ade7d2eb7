// Solves, scenario, fork, load, layout, levels: the figures that docs/tour.md and the closing notes quote.

#include "core/analysis/analysis.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/io/dossier_file.h"
#include "core/io/dossier_text.h"
#include "core/network/solver.h"
#include "core/offers/consequence.h"
#include "core/offers/offer.h"
#include "core/simulation/bench_run.h"

#include <benchmark/benchmark.h>

#include <cmath>

namespace {

using namespace ts;

const DossierFile& demo()
{
    static const DossierFile file = *io::loadDossier(
        std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2_chip_blower.sentry");
    return file;
}

/// A ladder of impedances with 40 super-nodes in one island, fed at one end.
network::Network ladder(int nodes)
{
    network::Network n;
    n.nodeCount = nodes + 1;
    n.sources.push_back({1, 0, {230.0, 0.0}, {0.05, 0.02}});
    for (int k = 1; k < nodes; ++k)
        n.impedances.push_back({k, k + 1, {0.1 * k, 0.01}});
    for (int k = 1; k <= nodes; ++k)
        n.impedances.push_back({k, 0, {100.0 + k, 30.0}});
    for (int k = 1; k + 7 <= nodes; k += 5)
        n.impedances.push_back({k, k + 7, {5.0, 1.0}});
    return n;
}

void solve_cold_40(benchmark::State& state)
{
    const network::Network n = ladder(40);
    network::Solution solution;
    for (auto _ : state) {
        const auto prepared = network::Prepared::make(n);
        prepared->solve({}, solution);
        benchmark::DoNotOptimize(solution);
    }
}
BENCHMARK(solve_cold_40)->Unit(benchmark::kMicrosecond);

void solve_kept_40(benchmark::State& state)
{
    network::Network n = ladder(40);
    network::Motor motor;
    motor.terminals = {1, 2, 3};
    motor.circuit = {7.277, 10.28, 2411.0, 208.8, 14.68, 49.61, 12.11, 10.28};
    n.motors.push_back(motor);
    const auto prepared = *network::Prepared::make(n);
    network::Solution solution;
    double slip = 1.0;
    for (auto _ : state) {
        prepared.solve(std::span(&slip, 1), solution);
        slip = slip > 0.05 ? slip * 0.999 : 1.0;
        benchmark::DoNotOptimize(solution);
    }
}
BENCHMARK(solve_kept_40)->Unit(benchmark::kMicrosecond);

void demo_scenario_30s(benchmark::State& state)
{
    const Plant plant = *compile(demo().dossier.circuit);
    Workspace workspace;
    for (auto _ : state)
        benchmark::DoNotOptimize(runScenario(plant, demo().dossier.scenarios[0], {}, 0.0, workspace));
}
BENCHMARK(demo_scenario_30s)->Unit(benchmark::kMillisecond);

const DossierFile& machine()
{
    static const DossierFile file = *io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry");
    return file;
}

/// Three motors, star-delta, brake, controller: 60 s with the run-down of the blower.
void machine_scenario_60s(benchmark::State& state)
{
    const Plant plant = *compile(machine().dossier.circuit);
    Workspace workspace;
    for (auto _ : state)
        benchmark::DoNotOptimize(runScenario(plant, machine().dossier.scenarios[0], {}, 0.0, workspace));
}
BENCHMARK(machine_scenario_60s)->Unit(benchmark::kMillisecond);

void layout_machine(benchmark::State& state)
{
    const auto graph = *diagram::wiredGraph(machine().dossier.circuit);
    for (auto _ : state) {
        benchmark::DoNotOptimize(diagram::controlDrawing(graph));
        benchmark::DoNotOptimize(diagram::powerDrawing(graph));
    }
}
BENCHMARK(layout_machine)->Unit(benchmark::kMillisecond);

/// The demo with starters built again until it has so many devices.
Circuit largerMachine(std::size_t devices)
{
    DossierFile file = machine();
    while (file.dossier.circuit.devices.size() < devices)
        file = *offers::carriedOut(
            file, {file.dossier.circuit.device(std::string_view("M3"))->id, "", {}}, "starter_again", {});
    return file.dossier.circuit;
}

/// From the wiring to both drawings: what one edit costs before the new picture.
void layout_of_devices(benchmark::State& state)
{
    const Circuit circuit = largerMachine(static_cast<std::size_t>(state.range(0)));
    const auto school = state.range(1) == 0 ? diagram::School::CurrentPaths : diagram::School::Ladder;
    for (auto _ : state) {
        const auto graph = diagram::wiredGraph(circuit);
        benchmark::DoNotOptimize(diagram::controlDrawing(*graph, school));
        benchmark::DoNotOptimize(diagram::powerDrawing(*graph));
    }
}
BENCHMARK(layout_of_devices)->Args({60, 0})->Args({60, 1})->Args({81, 0})->Unit(benchmark::kMillisecond);

/// What is asked when something is selected, and what is worked out for every answer that is tried.
void offers_for_a_coil(benchmark::State& state)
{
    const offers::Picked target{machine().dossier.circuit.device(std::string_view("Q1"))->id, "coil", {}};
    for (auto _ : state)
        benchmark::DoNotOptimize(offers::offersFor(machine().dossier, target));
}
BENCHMARK(offers_for_a_coil)->Unit(benchmark::kMillisecond);

void change_and_its_meaning(benchmark::State& state)
{
    const offers::Picked target{machine().dossier.circuit.device(std::string_view("Q1"))->id, "coil", {}};
    for (auto _ : state) {
        const auto changed = offers::carriedOut(machine(), target, "series_before", {});
        benchmark::DoNotOptimize(offers::meaningOf(machine().dossier.circuit, changed->dossier.circuit));
    }
}
BENCHMARK(change_and_its_meaning)->Unit(benchmark::kMillisecond);

void compile_demo(benchmark::State& state)
{
    for (auto _ : state)
        benchmark::DoNotOptimize(compile(demo().dossier.circuit));
}
BENCHMARK(compile_demo)->Unit(benchmark::kMicrosecond);

void fork_state(benchmark::State& state)
{
    const Plant plant = *compile(demo().dossier.circuit);
    Workspace workspace;
    const State running = runScenario(plant, demo().dossier.scenarios[0], {}, 3.0, workspace)->end;
    for (auto _ : state) {
        State fork = running;
        benchmark::DoNotOptimize(fork);
    }
}
BENCHMARK(fork_state)->Unit(benchmark::kNanosecond);

void observe_frame(benchmark::State& state)
{
    const Plant plant = *compile(demo().dossier.circuit);
    Workspace workspace;
    const State running = runScenario(plant, demo().dossier.scenarios[0], {}, 3.0, workspace)->end;
    for (auto _ : state)
        benchmark::DoNotOptimize(observe(plant, running));
}
BENCHMARK(observe_frame)->Unit(benchmark::kMicrosecond);

void load_demo(benchmark::State& state)
{
    const std::string text = io::printDossier(demo());
    for (auto _ : state)
        benchmark::DoNotOptimize(io::parseDossier(text));
    state.SetBytesProcessed(static_cast<int64_t>(state.iterations()) * static_cast<int64_t>(text.size()));
}
BENCHMARK(load_demo)->Unit(benchmark::kMicrosecond);

void layout_demo(benchmark::State& state)
{
    for (auto _ : state) {
        const auto graph = diagram::wiredGraph(demo().dossier.circuit);
        benchmark::DoNotOptimize(diagram::controlDrawing(*graph));
    }
}
BENCHMARK(layout_demo)->Unit(benchmark::kMicrosecond);

void level_of_demo(benchmark::State& state)
{
    for (auto _ : state)
        benchmark::DoNotOptimize(safety::functionLevel(demo().dossier, demo().dossier.functions[0]));
}
BENCHMARK(level_of_demo)->Unit(benchmark::kMicrosecond);

void analyse_demo(benchmark::State& state)
{
    for (auto _ : state)
        benchmark::DoNotOptimize(analyse(demo().dossier));
}
BENCHMARK(analyse_demo)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
