// The fault sweep: mean time of one run over all faults and moments, and what two threads gain. Counters say how many
// of what.

#include "core/exploration/explore.h"
#include "core/faults/second_faults.h"
#include "core/io/dossier_file.h"
#include "core/patterns/machine.h"

#include <benchmark/benchmark.h>

#include <algorithm>

namespace {

using namespace ts;

DossierFile demoAsFiled(const char* name)
{
    return *io::loadDossier(std::string(TS_SOURCE_DIR) + "/data/demo/" + name);
}

DossierFile demo(const char* name)
{
    DossierFile file = demoAsFiled(name);
    for (const Route& r : file.dossier.circuit.routes) // shorts inside enclosures left out, as in practice
        if (r.kind == RouteKind::Enclosure)
            file.dossier.exclusions.push_back(
                {"route/" + std::to_string(r.id.value) + ":short", "enclosure to EN 60204-1"});
    return file;
}

/// Arguments: threads, second faults or not.
void sweepOf(benchmark::State& state, const DossierFile& file)
{
    faults::SweepOptions options;
    options.threads = static_cast<int>(state.range(0));
    options.withPairs = state.range(1) != 0;
    options.withExcluded = false;
    options.withLimits = false; // the nominal sweep
    std::size_t runs = 0, faults = 0;
    for (auto _ : state) {
        const auto s = faults::sweep(file.dossier, file.dossier.functions.front(), options);
        runs = s->runCount + s->pairRunCount;
        faults = s->faults.size()
            - static_cast<std::size_t>(
                std::count_if(s->faults.begin(), s->faults.end(), [](const auto& f) { return f.isExcluded; }));
        benchmark::DoNotOptimize(s);
    }
    state.counters["faults"] = static_cast<double>(faults);
    state.counters["runs"] = static_cast<double>(runs);
    state.counters["s_per_run"] = benchmark::Counter(
        static_cast<double>(runs), benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}
BENCHMARK_CAPTURE(sweepOf, blower, demo("larkspur_db2_chip_blower.sentry"))
    ->Args({1, 0})
    ->Args({2, 0})
    ->Args({2, 1})
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
/// With every short inside the enclosure: what the window runs after an edit.
BENCHMARK_CAPTURE(sweepOf, blower_as_filed, demoAsFiled("larkspur_db2_chip_blower.sentry"))
    ->Args({1, 0})
    ->Args({2, 0})
    ->Args({2, 1})
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(sweepOf, whole_machine, demo("larkspur_db2.sentry"))
    ->Args({1, 0})
    ->Args({2, 0})
    ->Args({2, 1})
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime()
    ->Iterations(1);

/// Every third fault at every moment, by one and the same thread: plainly, each simulated from switching on to the end
/// of its cycle, or forked from the healthy run and from the other moments' runs of the same fault. What forking saves.
/// Argument: 0 with an empty memory, as a sweep begins; 1 when all circuits and steps of speed are in memory: the
/// simulation alone.
template <class Work> void runsOf(benchmark::State& state, const char* name, const Work& work)
{
    const DossierFile file = demo(name);
    const auto context = faults::contextOf(file.dossier, file.dossier.functions.front(), {});
    const faults::Context& c = **context;
    const auto list = faults::faultList(c.plant, file.dossier);
    std::size_t runs = 0;
    const auto all = [&](Workspace& workspace) {
        runs = 0;
        for (std::size_t k = 0; k < list.size(); k += 3)
            if (!list[k].isExcluded && list[k].supply.empty())
                runs += work(c, list[k].variants.front(), workspace);
    };
    Workspace full;
    if (state.range(0) != 0)
        all(full);
    for (auto _ : state) {
        Workspace empty;
        all(state.range(0) != 0 ? full : empty);
    }
    state.counters["runs"] = static_cast<double>(runs);
    state.counters["s_per_run"] = benchmark::Counter(
        static_cast<double>(runs), benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void plainRunsOf(benchmark::State& state, const char* name)
{
    runsOf(state, name, [](const faults::Context& c, const std::vector<Fault>& together, Workspace& workspace) {
        for (const faults::Moment moment : faults::kMoments) {
            std::vector<Stimulus> stimuli = c.cycle.stimuli;
            for (const Fault& f : together) {
                Stimulus put;
                put.at = c.cycle.at(moment);
                put.kind = Stimulus::Kind::PutFault;
                put.fault = f;
                stimuli.insert(std::upper_bound(stimuli.begin(), stimuli.end(), put,
                                   [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; }),
                    put);
            }
            State machine = initialState(c.plant);
            Trace trace;
            advance(c.plant, machine, stimuli, {c.cycle.end, {}, {}, false}, trace, workspace);
        }
        return faults::kMoments.size();
    });
}

void forkedRunsOf(benchmark::State& state, const char* name)
{
    runsOf(state, name, [](const faults::Context& c, const std::vector<Fault>& together, Workspace& workspace) {
        std::vector<faults::ForkedRun> kept;
        kept.reserve(faults::kMoments.size());
        for (const faults::Moment moment : faults::kMoments) {
            faults::ForkedRun passage;
            benchmark::DoNotOptimize(faults::judgedRun(
                c.course, c.base, c.healthy, {together, moment, false, kept}, workspace, {}, &passage));
            kept.push_back(std::move(passage));
        }
        return faults::kMoments.size();
    });
}
BENCHMARK_CAPTURE(plainRunsOf, blower, "larkspur_db2_chip_blower.sentry")
    ->Arg(0)
    ->Arg(1)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(forkedRunsOf, blower, "larkspur_db2_chip_blower.sentry")
    ->Arg(0)
    ->Arg(1)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(plainRunsOf, whole_machine, "larkspur_db2.sentry")
    ->Arg(0)
    ->Arg(1)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime()
    ->Iterations(1);
BENCHMARK_CAPTURE(forkedRunsOf, whole_machine, "larkspur_db2.sentry")
    ->Arg(0)
    ->Arg(1)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime()
    ->Iterations(1);

/// A reversing starter of the patterns: every order of operation, without and with hands on armatures. Argument:
/// threads.
void exploreReversing(benchmark::State& state)
{
    const std::vector<std::string> with{"base=reversing"};
    const Dossier dossier = patterns::machine(*patterns::MachinePlan::from(with))->dossier;
    exploration::Request request;
    request.withFaults = request.withInterlocks = false;
    request.options.threads = static_cast<int>(state.range(0));
    std::size_t states = 0, transitions = 0;
    for (auto _ : state) {
        const auto e = exploration::explore(dossier, request);
        states = e->motors.front().healthy.states + e->motors.front().byHand->states;
        transitions = e->motors.front().healthy.transitions + e->motors.front().byHand->transitions;
    }
    state.counters["states"] = static_cast<double>(states);
    state.counters["transitions"] = static_cast<double>(transitions);
}
BENCHMARK(exploreReversing)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace

BENCHMARK_MAIN();
