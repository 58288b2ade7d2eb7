#include "core/analysis/stop_study.h"

#include "core/analysis/stop_run.h"
#include "core/base/at.h"
#include "core/faults/fault_list.h"
#include "core/faults/parallel.h"

#include <algorithm>
#include <atomic>
#include <mutex>

namespace ts {
namespace {

using Kind = StopCase::Kind;

constexpr TimeNs kBeforeDemand = kSecondNs / 100; ///< faults come so shortly before
constexpr TimeNs kLongestRunDown = 600 * kSecondNs;
constexpr double kLowest = 0.9, kHighest = 1.1; ///< EN 60204-1 clause 4.3.2

/// One operating state, run up to just before the demand.
struct Before {
    ScenarioId scenario;
    TimeNs demand = 0, watch = 0;
    std::vector<Stimulus> stimuli; ///< up to the demand, the trigger last
    State state;
    Trace trace;
    std::vector<Seconds> releaseTimes; ///< by motor: what the devices between demand and removal need when nothing is
                                       ///< broken
};

struct Job {
    const Plant* plant = nullptr;
    const Before* before = nullptr;
    Kind kind = Kind::Nominal;
    const faults::SweptFault* fault = nullptr;
    std::size_t variant = 0;
};

Pause runTo(const Plant& plant, State& state, std::span<const Stimulus> stimuli, TimeNs until, Trace& trace,
    Workspace& workspace, const std::stop_token& stop)
{
    const auto rest = std::find_if(stimuli.begin(), stimuli.end(),
        [&](const Stimulus& s) { return s.at > state.now || (!state.isSettled && s.at == state.now); });
    return advance(plant, state, {rest, stimuli.end()}, {until, stop}, trace, workspace);
}

Stimulus knob(int slot, double value, TimeNs when)
{
    Stimulus s;
    s.at = when;
    s.kind = Stimulus::Kind::SetKnob;
    s.slot = slot;
    s.value = value;
    return s;
}

/// What a case does besides the operating state's own stimuli.
std::vector<Stimulus> stimuliOf(const Job& job)
{
    std::vector<Stimulus> stimuli = job.before->stimuli;
    const TimeNs demand = job.before->demand;
    for (int k = 0; k < static_cast<int>(job.plant->knobs.size()); ++k) {
        const double initial = job.plant->knobs[at(k)].initial;
        if (job.kind == Kind::LowVoltage || job.kind == Kind::HighVoltage)
            stimuli.insert(stimuli.begin(), knob(k, initial * (job.kind == Kind::LowVoltage ? kLowest : kHighest), 0));
        if (job.kind == Kind::SupplyLost)
            stimuli.push_back(knob(k, 0.0, demand));
    }
    if (job.fault)
        for (const Fault& fault : job.fault->variants[job.variant]) {
            Stimulus s;
            s.at = demand - kBeforeDemand;
            s.kind = Stimulus::Kind::PutFault;
            s.fault = fault;
            stimuli.insert(
                std::find_if(stimuli.begin(), stimuli.end(), [&s](const Stimulus& other) { return other.at > s.at; }),
                s);
        }
    return stimuli;
}

/// The actuators' stops in one case; none if it chatters or is cancelled.
std::vector<safety::ActuatorStop> stopsIn(
    const Job& job, const std::vector<int>& motors, Workspace& workspace, const std::stop_token& stop)
{
    const Before& before = *job.before;
    const bool isForked = job.kind == Kind::Fault || job.kind == Kind::SupplyLost || job.kind == Kind::Nominal;
    State state = isForked ? before.state : initialState(*job.plant);
    Trace trace = isForked ? before.trace : Trace{};
    const std::vector<Stimulus> stimuli = stimuliOf(job);
    if (runTo(*job.plant, state, stimuli, before.demand + before.watch, trace, workspace, stop) != Pause::Reached)
        return {};
    std::vector<safety::ActuatorStop> stops;
    for (std::size_t k = 0; k < motors.size(); ++k) {
        safety::ActuatorHistory h = actuatorHistory(
            *job.plant, trace, motors[k], driveLogicOf(*job.plant, state, motors[k], workspace), before.demand);
        // A fault that removes power by itself goes another way; it is in time if the function's own way is not slower.
        h.releaseTimes = seconds(std::max(h.releaseTimes.si(), before.releaseTimes[k].si()));
        stops.push_back(safety::readStop(h));
    }
    return stops;
}

/// The healthy machine up to just before the demand, and how long it is to be watched.
Expected<Before> beforeOf(const Plant& plant, const Scenario& scenario, std::vector<Stimulus> stimuli,
    const std::vector<int>& motors, const std::stop_token& stop)
{
    Before b{scenario.id, stimuli.back().at, 0, std::move(stimuli), initialState(plant), {}, {}};
    Workspace workspace;
    const TimeNs fork = std::max<TimeNs>(0, b.demand - 2 * kBeforeDemand);
    Pause pause = runTo(plant, b.state, b.stimuli, fork, b.trace, workspace, stop);
    State state = b.state;
    Trace trace = b.trace;
    const auto moves = [&] {
        return std::any_of(
            motors.begin(), motors.end(), [&](int m) { return state.actuatorMode[at(m)] != MotorMode::AtRest; });
    };
    for (TimeNs until = b.demand + kSecondNs; pause == Pause::Reached && until <= b.demand + kLongestRunDown;
         until += 5 * kSecondNs) {
        pause = runTo(plant, state, b.stimuli, until, trace, workspace, stop);
        if (pause != Pause::Reached || moves())
            continue;
        TimeNs last = b.demand;
        for (const Event& e : trace.events)
            if (e.why == Why::AtRest)
                last = std::max(last, e.at);
        b.watch = 2 * (last - b.demand) + 10 * kSecondNs;
        for (int m : motors)
            b.releaseTimes.push_back(
                actuatorHistory(plant, trace, m, driveLogicOf(plant, state, m, workspace), b.demand).releaseTimes);
        return b;
    }
    if (pause == Pause::Cancelled)
        return cancelled();
    return failure(
        ErrorCode::Refused, pause == Pause::Chatter ? message("stop.chatter") : message("sweep.never_rests"));
}

bool isLater(const std::optional<Seconds>& a, const std::optional<Seconds>& b)
{
    return a && (!b || a->si() > b->si());
}

/// Nothing is broken and the supply is there.
bool isWhole(const StopCase& c)
{
    return c.kind != Kind::Fault && c.kind != Kind::SupplyLost;
}

void sumUp(ActuatorStudy& study)
{
    bool isFirst = true, differs = false;
    for (int k = 0; k < static_cast<int>(study.cases.size()); ++k) {
        const StopCase& c = study.cases[at(k)];
        if (isWhole(c)) {
            differs = differs || (!isFirst && c.stop.category != study.category);
            if (isFirst)
                study.category = c.stop.category;
            isFirst = false;
        }
        if (!c.stop.stops) {
            study.noStop.push_back(k);
            continue;
        }
        if (!c.stop.category)
            study.noCategory.push_back(k);
        const auto stopOf = [&](int place) { return place < 0 ? safety::ActuatorStop{} : study.cases[at(place)].stop; };
        if (isLater(c.stop.removedAfter, stopOf(study.latestRemoval).removedAfter))
            study.latestRemoval = k;
        const bool isRamped = c.stop.category != 0 && c.stop.removedAfter;
        if (isRamped
            && (study.fastestRemoval < 0
                || c.stop.removalSpeedRadPerS > stopOf(study.fastestRemoval).removalSpeedRadPerS))
            study.fastestRemoval = k;
        if (isLater(c.stop.restAfter, stopOf(study.latestRest).restAfter))
            study.latestRest = k;
        if (study.earliestRest < 0 || isLater(stopOf(study.earliestRest).restAfter, c.stop.restAfter))
            study.earliestRest = k;
    }
    if (differs)
        study.category.reset();
    for (int k = 0; k < static_cast<int>(study.cases.size()); ++k)
        if (!isWhole(study.cases[at(k)]) && study.cases[at(k)].stop.category && study.category
            && study.cases[at(k)].stop.category != study.category)
            study.otherCategory.push_back(k);
}

struct Plants {
    Plant nominal, fast, slow;
    Plant letsGo, holds; ///< their coils
};

/// Faults that a stop must bear by itself.
bool isSingle(const faults::SweptFault& f)
{
    return !f.isExcluded && f.family != faults::Family::CommonCause;
}

std::vector<Job> jobsOf(
    const Plants& plants, const std::vector<Before>& states, const std::vector<faults::SweptFault>& faults)
{
    std::vector<Job> jobs;
    for (const Before& b : states) {
        for (Kind kind :
            {Kind::Nominal, Kind::FastTimes, Kind::SlowTimes, Kind::LowVoltage, Kind::HighVoltage, Kind::SupplyLost})
            jobs.push_back({kind == Kind::FastTimes ? &plants.fast
                    : kind == Kind::SlowTimes       ? &plants.slow
                    : kind == Kind::LowVoltage      ? &plants.letsGo
                    : kind == Kind::HighVoltage     ? &plants.holds
                                                    : &plants.nominal,
                &b, kind});
        for (const faults::SweptFault& f : faults)
            for (std::size_t v = 0; v < f.variants.size() && isSingle(f); ++v)
                jobs.push_back({&plants.nominal, &b, Kind::Fault, &f, v});
    }
    return jobs;
}

} // namespace

std::string_view nameOf(Kind kind)
{
    constexpr std::array<std::string_view, 7> names{
        "nominal", "fast_times", "slow_times", "low_voltage", "high_voltage", "supply_lost", "fault"};
    return names[static_cast<std::size_t>(kind)];
}

Expected<StopStudy> stopStudy(const Dossier& dossier, const SafetyFunction& function, const StopStudyOptions& options,
    const StopListener& listener, std::stop_token stop)
{
    auto nominal = compile(dossier.circuit), fast = compile(dossier.circuit, Timing::Fast),
         slow = compile(dossier.circuit, Timing::Slow);
    if (!nominal || !fast || !slow)
        return Unexpected{(!nominal ? nominal : !fast ? fast : slow).error()};
    Plants plants{*nominal, std::move(*fast), std::move(*slow), *nominal, *nominal};
    setCoilBand(plants.letsGo, CoilBand::LetsGo);
    setCoilBand(plants.holds, CoilBand::Holds);
    const Device* device = dossier.circuit.device(function.trigger.device);
    const auto trigger = device ? stimuliFor(plants.nominal, device->tag, function.trigger.action, 0)
                                : failure(ErrorCode::Refused, message("stop.no_demand"));
    if (!trigger)
        return Unexpected{trigger.error()};
    const std::vector<int> motors = plants.nominal.actuatorsOf(function.mustRest);
    if (motors.empty())
        return failure(ErrorCode::Refused, message("stop.no_motor"));
    StopStudy study{function.id, {}, {}, 0, 0};
    std::vector<Before> states;
    for (const Scenario& s : dossier.scenarios) {
        auto stimuli = upToDemand(plants.nominal, s, *trigger);
        if (stimuli.empty())
            continue;
        auto before = beforeOf(plants.nominal, s, std::move(stimuli), motors, stop);
        if (!before)
            return Unexpected{before.error()};
        states.push_back(std::move(*before));
        study.states.push_back(s.id);
    }
    if (states.empty())
        return failure(ErrorCode::Refused, message("stop.no_demand"));
    const std::vector<faults::SweptFault> faults = options.withFaults ? faults::faultList(plants.nominal, dossier)
                                                                      : std::vector<faults::SweptFault>{};
    const std::vector<Job> jobs = jobsOf(plants, states, faults);
    std::vector<std::vector<safety::ActuatorStop>> found(jobs.size());
    std::atomic<std::size_t> done{0};
    std::mutex telling;
    const auto job = [&](std::size_t k, Workspace& workspace) {
        found[k] = stopsIn(jobs[k], motors, workspace, stop);
        const std::size_t count = ++done;
        if (const std::unique_lock lock(telling, std::try_to_lock); lock && listener)
            listener(count, jobs.size());
    };
    if (!faults::forEachIndex(jobs.size(), options.threads, job, stop))
        return cancelled();
    study.runCount = jobs.size();
    study.faultCount = static_cast<std::size_t>(std::count_if(faults.begin(), faults.end(), isSingle));
    for (std::size_t m = 0; m < motors.size(); ++m) {
        const PlantDevice& motor = plants.nominal.deviceOfActuator(motors[m]);
        ActuatorStudy a;
        a.motor = motor.id;
        a.tag = motor.tag;
        for (std::size_t k = 0; k < jobs.size(); ++k)
            if (!found[k].empty() && found[k][m].runShowsIt)
                a.cases.push_back({jobs[k].before->scenario, jobs[k].kind,
                    jobs[k].fault ? jobs[k].fault->id : std::string(), found[k][m]});
        sumUp(a);
        study.actuators.push_back(std::move(a));
    }
    return study;
}

} // namespace ts
