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

/// With a reading at each step.
const DossierFile& provedFile(bool isWhole)
{
    const auto prove = [](bool whole) {
        const measuring::TestPlan& plan = planOf(whole);
        const Circuit& c = demo(whole).dossier.circuit;
        const auto read = measuring::rehearsalOf(c, plan, c);
        measuring::SentResults results{measuring::circuitHash(c), {}};
        for (std::size_t k = 0; k < plan.steps.size(); ++k) {
            measuring::StepTaken t{plan.steps[k].id, "A. Weller", "2026-11-30", "meter 1", {}, 0.0, {}, {}};
            t.word = read->steps[k].reading->word;
            if (t.word.empty())
                t.value = std::min(read->steps[k].reading->low, measuring::kOverloadOhm);
            results.entries.push_back(std::move(t));
        }
        return *measuring::withResults(results, plan, demo(whole));
    };
    static const DossierFile whole = prove(true), blower = prove(false);
    return isWhole ? whole : blower;
}

/// After each reading, on the window's thread: goal 50 ms with what follows.
void standing(benchmark::State& state)
{
    const bool isWhole = state.range(0) != 0;
    const DossierFile& file = provedFile(isWhole);
    for (auto _ : state)
        benchmark::DoNotOptimize(measuring::standingOf(planOf(isWhole), file).size());
}
BENCHMARK(standing)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

void one_reading(benchmark::State& state)
{
    const bool isWhole = state.range(0) != 0;
    const DossierFile& file = provedFile(isWhole);
    const measuring::TestPlan& plan = planOf(isWhole);
    const measuring::StepTaken t{
        plan.steps.front().id, "A. Weller", "2026-11-30", "lock 7", {}, 0.0, {}, std::string(measuring::kDone)};
    for (auto _ : state)
        benchmark::DoNotOptimize(measuring::entryOf(t, plan, file.dossier, file.record)->before.size());
}
BENCHMARK(one_reading)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
