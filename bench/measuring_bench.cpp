// Proving a built panel: what can be wired wrong, the plan of tests, the plan rehearsed, what is open after readings.
// Goals on two cores: mistakes 50 ms, plan 20 s, rehearsal 1 s (the debarker).

#include "core/io/dossier_file.h"
#include "core/measuring/readings.h"
#include "core/measuring/rehearsal.h"

#include <benchmark/benchmark.h>

namespace {

using namespace ts;

const DossierFile& demo(bool isWhole)
{
    static const DossierFile whole = *io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2.sentry");
    static const DossierFile blower = *io::loadDossier(
        std::string(TS_SOURCE_DIR) + "/data/demo/larkspur_db2_chip_blower.sentry");
    return isWhole ? whole : blower;
}
const measuring::TestPlan& planOf(bool isWhole)
{
    static const measuring::TestPlan whole = *measuring::testPlanOf(demo(true).dossier.circuit);
    static const measuring::TestPlan blower = *measuring::testPlanOf(demo(false).dossier.circuit);
    return isWhole ? whole : blower;
}

void mistakes(benchmark::State& state)
{
    for (auto _ : state)
        benchmark::DoNotOptimize(measuring::mistakesOf(demo(state.range(0) != 0).dossier.circuit)->size());
}
BENCHMARK(mistakes)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

void plan(benchmark::State& state)
{
    for (auto _ : state)
        benchmark::DoNotOptimize(measuring::testPlanOf(demo(state.range(0) != 0).dossier.circuit)->revealed);
}
BENCHMARK(plan)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

void rehearsal(benchmark::State& state)
{
    const bool isWhole = state.range(0) != 0;
    const Circuit& c = demo(isWhole).dossier.circuit;
    const measuring::TestPlan& taken = planOf(isWhole);
    for (auto _ : state)
        benchmark::DoNotOptimize(measuring::rehearsalOf(c, taken, c)->steps.size());
}
BENCHMARK(rehearsal)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

void standing(benchmark::State& state)
{
    const bool isWhole = state.range(0) != 0;
    for (auto _ : state)
        benchmark::DoNotOptimize(measuring::standingOf(planOf(isWhole), demo(isWhole)).size());
}
BENCHMARK(standing)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
