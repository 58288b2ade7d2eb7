#include "core/faults/sweep.h"

#include "core/base/at.h"
#include "core/faults/consequence.h"
#include "core/faults/parallel.h"
#include "core/faults/same_fault.h"
#include "core/faults/second_faults.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <map>
#include <mutex>

namespace ts::faults {
namespace {

/// Order of gravity of one run.
int gravity(const RunResult& r)
{
    return r.loss != Loss::None ? 3 : r.isUndecided ? 2 : r.blocks ? 0 : 1;
}

bool hasRaced(const ForkedRun& run)
{
    return std::any_of(run.stretches.begin() + static_cast<std::ptrdiff_t>(run.first), run.stretches.end(),
        [](const auto& stretch) { return stretch && hasRace(stretch->events); });
}

/// One way in which a fault can happen, at every moment that is wanted; tells each run.
template <class Wanted, class Told>
void runMoments(const Context& c, const SweptFault& fault, std::size_t variant, Workspace& workspace,
    const std::stop_token& stop, const Wanted& isWanted, const Told& tell)
{
    std::vector<ForkedRun> kept;
    kept.reserve(kMoments.size());
    for (Moment moment : kMoments) {
        if (!isWanted(moment))
            continue;
        ForkedRun passage;
        const std::vector<Stimulus> supply = supplyCourse(c.plant, fault, c.cycle.at(moment));
        Fork fork{fault.variants[variant], moment, false, kept, supply};
        if (!supply.empty())
            fork.same = {}; // a disturbance of the supply is over in one passage and to come in the other
        RunResult run = judgedRun(c.course, c.base, c.healthy, fork, workspace, stop, &passage);
        if (hasRaced(passage)) { // equal parts: the other one may be first
            fork.ties = Limits::Ties::LastIdFirst;
            fork.same = {};
            const RunResult other = judgedRun(c.course, c.base, c.healthy, fork, workspace, stop);
            if (gravity(other) > gravity(run))
                run = other;
        }
        tell(moment, run);
        kept.push_back(std::move(passage));
    }
}

/// The moments of one fault, each with its worst variant.
FaultOutcome singleOutcome(const Context& c, const SweptFault& fault, Workspace& workspace, std::stop_token stop)
{
    FaultOutcome o;
    o.isRun = true;
    for (std::size_t v = 0; v < fault.variants.size() && !stop.stop_requested(); ++v)
        runMoments(
            c, fault, v, workspace, stop, [](Moment) { return true; },
            [&](Moment moment, const RunResult& run) {
                const auto m = static_cast<std::size_t>(moment);
                if (v == 0 || gravity(run) > gravity(o.runs[m])) {
                    o.runs[m] = run;
                    o.variant[m] = static_cast<std::uint8_t>(v);
                }
            });
    return o;
}

/// All supplies at a share of their voltage from the beginning.
void setVoltage(const Plant& plant, Cycle& cycle, double share)
{
    for (int k = 0; k < static_cast<int>(plant.knobs.size()); ++k) {
        Stimulus s;
        s.kind = Stimulus::Kind::SetKnob;
        s.slot = k;
        s.value = plant.knobs[at(k)].initial * share;
        cycle.stimuli.insert(cycle.stimuli.begin(), s);
    }
}

bool isHarmless(const RunResult& r)
{
    return r.loss == Loss::None && !r.isUndecided;
}

/// Places of faults that are one and the same under several names.
using Names = std::vector<std::size_t>;

/// What is run: each fault with all that are the same under other names; what is not excluded first, because pairs need
/// nothing else.
std::vector<Names> inOrder(const SameFault& same, const std::vector<SweptFault>& faults, bool withExcluded)
{
    std::vector<Names> order;
    for (const bool excluded : {false, true}) {
        std::map<std::vector<std::uint64_t>, std::size_t> known;
        for (std::size_t k = 0; k < faults.size(); ++k) {
            if (faults[k].isExcluded != excluded || (excluded && !withExcluded))
                continue;
            const auto [place, isNew] = known.try_emplace(same.essence(faults[k]), order.size());
            if (isNew)
                order.emplace_back();
            order[place->second].push_back(k);
        }
    }
    return order;
}

/// Every moment at one limit: takes the place of the nominal run where it is worse.
bool addAtLimit(const Context& c, Limit limit, const SameFault& same, Sweep& s, const std::vector<Names>& which,
    int threads, Ticker& ticker, const std::stop_token& stop, const std::shared_ptr<CircuitMemory>& memory)
{
    std::vector<TimeNs> rests(which.size(), 0);
    const auto job = [&](std::size_t place, Workspace& workspace) {
        const Names& names = which[place];
        const SweptFault& fault = s.faults[names.front()];
        FaultOutcome& o = s.outcomes[names.front()];
        const auto isWanted = [&o](Moment m) { return isHarmless(o.runs[static_cast<std::size_t>(m)]); };
        for (std::size_t v = 0; v < fault.variants.size() && !stop.stop_requested(); ++v)
            runMoments(c, fault, v, workspace, stop, isWanted, [&](Moment moment, const RunResult& run) {
                const auto m = static_cast<std::size_t>(moment);
                if (run.loss == Loss::None)
                    rests[place] = std::max(rests[place], run.longestRest);
                if (isHarmless(run))
                    return;
                o.runs[m] = run;
                o.variant[m] = static_cast<std::uint8_t>(v);
                o.limits[m] = limit;
            });
        for (std::size_t k : names)
            if (k != names.front())
                s.outcomes[k] = same.outcomeOf(s.faults[k], fault, o);
        ticker.add(names.size() * fault.variants.size());
    };
    const bool isDone = forEachIndex(which.size(), threads, job, stop, memory);
    for (TimeNs rest : rests)
        s.worstRestS = std::max(s.worstRestS, secondsOf(rest).si());
    return isDone;
}

/// Where nobody entered a least load, there is no such limit: what it might be is the stop's finding.
bool hasLeastLoad(const Plant& plant)
{
    return std::any_of(plant.motors.begin(), plant.motors.end(),
        [](const PlantMotor& m) { return m.data.isLowestLoadEntered && m.data.lowestLoad < 1.0; });
}

/// At every limit, all faults that are not excluded and not lost already. False if cancelled.
bool addLimits(const Dossier& dossier, const SafetyFunction& function, const Context& nominal, const SameFault& same,
    const std::vector<Names>& alike, Sweep& s, const SweepOptions& options, const SweepListener& listener,
    const std::stop_token& stop)
{
    std::vector<Names> which;
    std::size_t variants = 0;
    for (const Names& names : alike) {
        const SweptFault& fault = s.faults[names.front()];
        const auto& runs = s.outcomes[names.front()].runs;
        if (fault.isExcluded || !fault.supply.empty() || std::none_of(runs.begin(), runs.end(), isHarmless))
            continue;
        which.push_back(names);
        variants += names.size() * fault.variants.size();
    }
    std::vector<Limit> limits(kLimits.begin(), kLimits.end());
    if (!hasLeastLoad(nominal.plant))
        limits.erase(std::find(limits.begin(), limits.end(), Limit::LeastLoad));
    Ticker ticker(listener, SweepProgress::Stage::Limits, variants * limits.size());
    for (Limit limit : limits) {
        const auto c = contextOf(dossier, function, stop, limit);
        if (stop.stop_requested())
            return false;
        if (!c) {
            s.limitTrouble.emplace_back(limit, c.error().message);
            continue;
        }
        const auto& known = limit == Limit::LeastLoad ? (*c)->memory : nominal.memory; // another load, another circuit
        if (!addAtLimit(**c, limit, same, s, which, options.threads, ticker, stop, known))
            return false;
        s.limitRunCount += variants * kMoments.size();
    }
    return true;
}

std::vector<std::string> notRunning(const Context& c)
{
    std::vector<std::string> tags;
    const auto frame = std::find_if(
        c.times.begin(), c.times.end(), [](const FrameTime& t) { return t.look == Look::BeforeDemand; });
    for (int m : c.cycle.motors)
        if (c.base.frames[static_cast<std::size_t>(frame - c.times.begin())]->actuatorMode[at(m)] == MotorMode::AtRest)
            tags.push_back(c.plant.deviceOfActuator(m).tag);
    return tags;
}

void readWorstRest(Sweep& s)
{
    for (std::size_t k = 0; k < s.faults.size(); ++k)
        for (const RunResult& r : s.outcomes[k].runs)
            if (r.loss == Loss::None && !s.faults[k].isExcluded)
                s.worstRestS = std::max(s.worstRestS, secondsOf(r.longestRest).si());
}

/// Collects outcomes as they come, beside the vector that other threads still write to.
class SoFar {
public:
    SoFar(const Sweep& begun, const SweepOptions& options)
        : m_options(options)
    {
        if (m_options.onSoFar)
            m_sweep = begun;
    }
    void add(std::size_t fault, const FaultOutcome& outcome)
    {
        if (!m_options.onSoFar)
            return;
        const std::scoped_lock lock(m_mutex);
        m_sweep.outcomes[fault] = outcome;
        if (const auto now = Clock::now();
            std::chrono::duration<double>(now - m_told).count() >= m_options.soFarEveryS) {
            tell(m_sweep);
            m_told = now;
        }
    }
    void tell(Sweep sweep) const
    {
        if (!m_options.onSoFar)
            return;
        decide(sweep);
        readWorstRest(sweep);
        m_options.onSoFar(sweep);
    }

private:
    using Clock = std::chrono::steady_clock;
    const SweepOptions& m_options;
    Sweep m_sweep;
    Clock::time_point m_told = Clock::now();
    std::mutex m_mutex;
};

} // namespace

Context::Context(Plant p, Cycle c)
    : plant(std::move(p))
    , cycle(std::move(c))
    , times(frameTimes(cycle))
    , course{plant, cycle, times}
{
}

Ticker::Ticker(const SweepListener& listener, SweepProgress::Stage stage, std::size_t total)
    : m_listener(listener)
    , m_progress{stage, 0, total}
{
}

void Ticker::add(std::size_t runs)
{
    if (!m_listener)
        return;
    const std::scoped_lock lock(m_mutex);
    m_progress.done += runs;
    m_listener(m_progress);
}

Expected<std::unique_ptr<Context>> contextOf(
    const Dossier& dossier, const SafetyFunction& function, std::stop_token stop, Limit limit)
{
    auto plant = compile(dossier.circuit,
        limit == Limit::FastTimes                                    ? Timing::Fast
            : limit == Limit::SlowTimes || limit == Limit::LeastLoad ? Timing::Slow
                                                                     : Timing::Nominal);
    if (!plant)
        return Unexpected{plant.error()};
    if (limit == Limit::LeastLoad)
        setLowestLoad(*plant, LeastLoads::Entered);
    Workspace workspace;
    auto cycle = cycleOf(*plant, dossier, function, function.demandScenario, workspace, stop);
    if (!cycle)
        return Unexpected{cycle.error()};
    if (limit == Limit::LowVoltage || limit == Limit::HighVoltage) {
        setVoltage(*plant, *cycle, limit == Limit::LowVoltage ? 0.9 : 1.1);
        setCoilBand(*plant, limit == Limit::LowVoltage ? CoilBand::LetsGo : CoilBand::Holds);
    }
    auto context = std::make_unique<Context>(std::move(*plant), std::move(*cycle));
    context->memory = workspace.shared();
    context->base = wholeRun(context->course, workspace, stop);
    if (context->base.pause == Pause::Cancelled)
        return cancelled();
    if (context->base.pause == Pause::Chatter)
        return failure(ErrorCode::Refused, message("stop.chatter"));
    context->healthy = healthyOf(context->course, context->base, function.allowedTimeS);
    Verdict verdict(context->course, context->base, context->healthy);
    for (std::size_t k = 1; k < context->times.size(); ++k)
        if (!verdict(k, *context->base.stretches[k - 1], *context->base.frames[k]))
            return failure(ErrorCode::Refused,
                message("sweep.healthy_loses",
                    {function.name, context->plant.devices[at(verdict.result().lostMotor)].tag,
                        "@loss." + std::string(nameOf(verdict.result().loss))}));
    return context;
}

std::string_view nameOf(Outcome outcome)
{
    constexpr std::array<std::string_view, 6> names{"not_run", "safe", "caught", "hidden", "lost", "undecided"};
    return names[static_cast<std::size_t>(outcome)];
}

std::string_view fileWord(Outcome outcome, const RunResult& run)
{
    switch (outcome) {
    case Outcome::NotRun:
        return "excluded";
    case Outcome::Safe:
        return run.blocks ? "stops" : "no_part";
    case Outcome::Caught:
        return "caught";
    case Outcome::Hidden:
        return "hidden";
    case Outcome::Lost:
        return isStopLost(run.loss) ? "lost" : "starts";
    case Outcome::Undecided:
        return "undecided";
    }
    return "";
}

std::string_view fileWord(const FaultOutcome& o)
{
    std::string_view word = fileWord(o.overall, {});
    bool isFound = false;
    for (std::size_t m = 0; m < o.runs.size(); ++m)
        if (o.outcomes[m] == o.overall && (!isFound || fileWord(o.overall, o.runs[m]) == "lost")) {
            word = fileWord(o.overall, o.runs[m]);
            isFound = true;
        }
    return word;
}

std::string_view nameOf(Limit limit)
{
    constexpr std::array<std::string_view, 6> names{
        "none", "fast_times", "slow_times", "low_voltage", "high_voltage", "least_load"};
    return names[static_cast<std::size_t>(limit)];
}

std::size_t Sweep::count(Outcome outcome, bool withExcluded) const
{
    std::size_t n = 0;
    for (std::size_t k = 0; k < faults.size(); ++k)
        n += outcomes[k].overall == outcome && faults[k].family != Family::CommonCause
            && (withExcluded || !faults[k].isExcluded);
    return n;
}

Expected<Sweep> sweep(const Dossier& dossier, const SafetyFunction& function, const SweepOptions& options,
    const SweepListener& listener, std::stop_token stop)
{
    const auto made = contextOf(dossier, function, stop);
    if (!made)
        return Unexpected{made.error()};
    const Context& c = **made;
    Sweep s;
    s.function = function.id;
    s.runDownS = secondsOf(c.cycle.runDown).si();
    s.watchS = secondsOf(c.cycle.goes[0].released - c.cycle.goes[0].demand).si();
    s.notRunning = notRunning(c);
    s.faults = faultList(c.plant, dossier);
    const SameFault same(c.plant, dossier.circuit, c.cycle);
    if (!addConsequences(c, same, s.faults, options.threads, stop))
        return cancelled();
    s.outcomes.resize(s.faults.size());
    const std::vector<Names> alike = inOrder(same, s.faults, options.withExcluded);
    for (const auto& names : alike)
        s.runCount += names.size() * s.faults[names.front()].variants.size() * kMoments.size();

    Ticker ticker(listener, SweepProgress::Stage::Single, s.runCount);
    SoFar soFar(s, options);
    const std::vector<Stimulus> ways = otherDemands(c);
    const bool knowsSome = options.known && options.known->outcomes.size() == s.faults.size()
        && options.known->limitRunCount == 0 && !options.known->hasPairs;
    const auto single = [&](std::size_t place, Workspace& workspace) {
        const Names& names = alike[place];
        const SweptFault& fault = s.faults[names.front()];
        FaultOutcome outcome;
        if (knowsSome && options.known->outcomes[names.front()].isRun) {
            outcome = options.known->outcomes[names.front()];
        } else {
            outcome = singleOutcome(c, fault, workspace, stop);
            outcome.forgottenBy = forgottenBy(c, ways, fault, outcome, workspace, stop);
        }
        for (std::size_t k : names) {
            s.outcomes[k] = same.outcomeOf(s.faults[k], fault, outcome);
            soFar.add(k, s.outcomes[k]);
        }
        ticker.add(names.size() * fault.variants.size() * kMoments.size());
    };
    if (!forEachIndex(alike.size(), options.threads, single, stop, c.memory))
        return cancelled();
    if (options.withLimits && !addLimits(dossier, function, c, same, alike, s, options, listener, stop))
        return cancelled();
    if (options.withPairs)
        soFar.tell(s);
    if (options.withPairs && !addSecondFaults(c, s, options, listener, stop))
        return cancelled();
    if (!options.withPairs)
        decide(s);
    readWorstRest(s);
    return s;
}

Expected<TriedFault> tryFault(
    const Dossier& dossier, const SafetyFunction& function, std::string_view id, std::stop_token stop)
{
    const auto made = contextOf(dossier, function, stop);
    if (!made)
        return Unexpected{made.error()};
    const Context& c = **made;
    const std::vector<SweptFault> list = faultList(c.plant, dossier);
    const SweptFault* listed = faultNamed(list, id);
    if (!listed)
        return failure(ErrorCode::NotFound, message("sweep.no_fault", {std::string(id)}));
    Sweep s;
    s.faults = {*listed};
    addConsequences(c, SameFault(c.plant, dossier.circuit, c.cycle), s.faults, 1, stop);
    const SweptFault& fault = s.faults.front();
    Workspace workspace;
    s.outcomes = {singleOutcome(c, fault, workspace, stop)};
    s.outcomes.front().forgottenBy = forgottenBy(c, otherDemands(c), fault, s.outcomes.front(), workspace, stop);
    if (stop.stop_requested())
        return cancelled();
    decide(s);
    return TriedFault{fault, std::move(s.outcomes.front()), notRunning(c)};
}

} // namespace ts::faults
