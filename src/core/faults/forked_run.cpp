#include "core/faults/forked_run.h"

#include "core/base/at.h"
#include "core/simulation/electrics.h"

#include <algorithm>
#include <cmath>

namespace ts::faults {
namespace {

constexpr TimeNs kFrameStep = 500'000'000; ///< while motors run up
constexpr TimeNs kBeforeAction = 1'000'000, kAfterAction = 150'000'000;
constexpr double kSameValue = 1e-9; ///< relative; the order of floating-point sums differs, nothing else

bool isSameAgenda(const State& a, const State& b)
{
    return std::equal(
        a.agenda.begin(), a.agenda.end(), b.agenda.begin(), b.agenda.end(), [](const Pending& p, const Pending& q) {
            return p.at == q.at && p.phase == q.phase && p.slot == q.slot && p.to == q.to;
        });
}

bool isClose(double a, double b)
{
    return std::abs(a - b) <= kSameValue * std::max({1.0, std::abs(a), std::abs(b)});
}

/// Same in all that decides what happens next; faults, causes and counters of past moves apart.
bool isSameSituation(const Plant& plant, const State& a, const State& b)
{
    if (a.now != b.now || a.travel != b.travel || a.wish != b.wish || a.pushed != b.pushed || a.relays != b.relays
        || a.logics != b.logics || a.levels != b.levels || a.converters != b.converters || a.knobs != b.knobs
        || a.lampLit != b.lampLit || a.actuatorMode != b.actuatorMode || a.actuatorFed != b.actuatorFed
        || a.wasDriven != b.wasDriven || !isSameAgenda(a, b))
        return false;
    for (std::size_t c = 0; c < a.converterPowerW.size(); ++c)
        if (!isClose(a.converterPowerW[c], b.converterPowerW[c]))
            return false;
    for (std::size_t f = 0; f < a.flows.size(); ++f)
        if (a.flows[f].law != b.flows[f].law || !isClose(a.flows[f].drive, b.flows[f].drive)
            || !isClose(a.flows[f].target, b.flows[f].target)
            || !isClose(
                flowValue(plant, a, static_cast<int>(f), a.now), flowValue(plant, b, static_cast<int>(f), b.now)))
            return false;
    return true;
}

std::shared_ptr<const Stretch> stretchOf(const std::vector<std::uint8_t>& from, Trace&& trace)
{
    auto stretch = std::make_shared<Stretch>();
    for (std::uint8_t travel : from)
        stretch->visited.push_back(static_cast<std::uint8_t>(1u << travel));
    for (const Event& e : trace.events)
        if (e.why == Why::Moved)
            stretch->visited[at(e.slot)] = static_cast<std::uint8_t>(stretch->visited[at(e.slot)] | 1u << e.to);
    stretch->events = std::move(trace.events);
    return stretch;
}

bool isSpeedingUp(const State& s)
{
    return std::any_of(s.flows.begin(), s.flows.end(), [](const Flow& f) { return f.law == Flow::Law::Driven; });
}

std::size_t frameAt(const std::vector<FrameTime>& times, TimeNs when)
{
    const auto found = std::find_if(times.begin(), times.end(), [when](const FrameTime& t) { return t.at == when; });
    return static_cast<std::size_t>(found - times.begin());
}

/// One passage on its way.
class Runner {
public:
    Runner(const Course& course, Workspace& workspace, std::stop_token stop, Limits::Ties ties)
        : m_course(course)
        , m_workspace(workspace)
        , m_stop(std::move(stop))
        , m_ties(ties)
    {
        m_passage.frames.resize(course.times.size());
        m_passage.stretches.resize(course.times.size());
    }

    /// Advances to a frame's time with the cycle's stimuli and those given; false on chatter or cancelling.
    bool to(std::size_t frame, std::span<const Stimulus> more)
    {
        const TimeNs until = m_course.times[frame].at;
        std::vector<Stimulus> stimuli;
        std::copy_if(more.begin(), more.end(), std::back_inserter(stimuli),
            [until](const Stimulus& x) { return x.at <= until; });
        const auto& all = m_course.cycle.stimuli;
        const auto isNext = [this](const Stimulus& s) {
            return s.at > state.now || (!state.isSettled && s.at == state.now);
        };
        auto s = std::partition_point(all.begin(), all.end(), [this](const Stimulus& x) { return x.at < state.now; });
        for (; s != all.end() && s->at <= until; ++s)
            if (isNext(*s))
                stimuli.push_back(*s);
        std::stable_sort(
            stimuli.begin(), stimuli.end(), [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; });
        const std::vector<std::uint8_t> before = state.travel;
        Trace trace;
        m_passage.pause = advance(
            m_course.plant, state, stimuli, {until, m_stop, {}, false, m_ties}, trace, m_workspace);
        m_passage.stretches[m_frame] = stretchOf(before, std::move(trace));
        if (m_passage.pause != Pause::Reached)
            return false;
        m_frame = frame;
        m_passage.frames[frame] = std::make_shared<const State>(state);
        return true;
    }

    void startAt(std::size_t frame, const State& from)
    {
        m_frame = frame;
        state = from;
        m_passage.first = frame;
        m_passage.frames[frame] = std::make_shared<const State>(from);
    }

    State state;
    std::size_t frame() const { return m_frame; }
    ForkedRun& passage() { return m_passage; }
    const Stretch& lastStretch(std::size_t from) const { return *m_passage.stretches[from]; }
    /// Takes over the base's way up to a frame.
    void follow(const ForkedRun& base, std::size_t to)
    {
        for (; m_frame < to; ++m_frame) {
            m_passage.stretches[m_frame] = base.stretches[m_frame];
            m_passage.frames[m_frame + 1] = base.frames[m_frame + 1];
        }
        state = *base.frames[to];
        state.faults = m_passage.faults;
    }

    /// Takes over the way of another passage with the same faults, as far as it went or the watcher wants it.
    void adopt(const ForkedRun& other, const Watcher& watcher)
    {
        while (other.stretches[m_frame] && !m_passage.isStopped) {
            m_passage.stretches[m_frame] = other.stretches[m_frame];
            std::size_t next = m_frame + 1;
            while (next < other.frames.size() && !other.frames[next])
                ++next;
            if (next == other.frames.size()) { // it ended within this stretch
                m_passage.pause = other.pause;
                return;
            }
            m_passage.frames[next] = other.frames[next];
            m_passage.isStopped = !watcher(next, *other.stretches[m_frame], *other.frames[next]);
            m_frame = next;
        }
        state = *m_passage.frames[m_frame];
        state.faults = m_passage.faults;
    }

private:
    const Course& m_course;
    Workspace& m_workspace;
    std::stop_token m_stop;
    Limits::Ties m_ties;
    ForkedRun m_passage;
    std::size_t m_frame = 0;
};

/// How far the base's way can be taken over from a frame on.
std::size_t inertUntil(const Plant& plant, const ForkedRun& base, std::size_t from, std::span<const Fault> faults)
{
    std::size_t k = from;
    while (k + 1 < base.frames.size() && base.frames[k + 1] && base.stretches[k]
        && std::all_of(faults.begin(), faults.end(),
            [&](const Fault& f) { return isInert(plant, f, base.stretches[k]->visited); }))
        ++k;
    return k;
}

} // namespace

std::vector<FrameTime> frameTimes(const Cycle& cycle)
{
    std::vector<FrameTime> times{{0, Look::Between, 0}, {cycle.atRest, Look::Between, 0},
        {cycle.running, Look::Between, 0}, {cycle.justBefore, Look::BeforeDemand, 0}};
    const TimeNs again = cycle.again();
    for (int go = 0; go < 3; ++go) {
        times.push_back({cycle.firstStart + go * again - kBeforeAction, Look::BeforeStart, go});
        for (TimeNs action : cycle.startUp)
            times.push_back({action + go * again + kAfterAction, Look::Between, go});
        if (go == 2)
            break;
        const TimeNs last = cycle.startUp.empty() ? cycle.goes[at(go)].begins : cycle.startUp.back() + go * again;
        times.push_back({last + kAfterAction, Look::Started, go});
        for (TimeNs t = last + kAfterAction + kFrameStep; t < cycle.goes[at(go)].demand; t += kFrameStep)
            times.push_back({t, Look::Between, go});
        if (go == 0) // what comes just before the demand has done by then what it does at once
            times.push_back({cycle.goes[0].demand - kBeforeAction, Look::Compare, go});
        times.push_back({cycle.goes[at(go)].demand + kFrameStep, Look::Between, go});
        times.push_back({cycle.goes[at(go)].released - kBeforeAction, Look::Released, go});
    }
    times.push_back({cycle.goes[1].begins, Look::Restart, 1});
    times.push_back({cycle.justBefore + again, Look::BeforeDemand, 1});
    times.push_back({cycle.restarts, Look::Restart, 2});
    times.push_back({cycle.end, Look::End, 2});
    std::stable_sort(times.begin(), times.end(),
        [](const FrameTime& a, const FrameTime& b) { return a.at < b.at || (a.at == b.at && a.look > b.look); });
    times.erase(
        std::unique(times.begin(), times.end(), [](const FrameTime& a, const FrameTime& b) { return a.at == b.at; }),
        times.end());
    return times;
}

bool isInert(const Plant& plant, const Fault& fault, const std::vector<std::uint8_t>& visited)
{
    const auto heldClosed = [&](const PlantLink& l) {
        if (l.contact.mover < 0)
            return true;
        const unsigned was = visited[at(l.contact.mover)];
        return (was & ~unsigned(l.contact.closedAt)) == 0 && !(l.contact.boundsMover && (was & kAtRest));
    };
    const auto heldOpen = [&](const PlantLink& l) {
        return l.contact.mover >= 0 && (visited[at(l.contact.mover)] & l.contact.closedAt) == 0;
    };
    const auto allMain = [&](const auto& holds) {
        return std::all_of(plant.links.begin(), plant.links.end(), [&](const PlantLink& l) {
            return l.contact.mover != fault.at || l.contact.kind != ContactKind::Main || holds(l);
        });
    };
    switch (fault.mode) {
    case FaultMode::LinkHeldClosed:
        return heldClosed(plant.links[at(fault.at)]);
    case FaultMode::LinkHeldOpen:
        return heldOpen(plant.links[at(fault.at)]);
    case FaultMode::PolesWelded:
        return allMain(heldClosed);
    case FaultMode::PolesOpen:
        return allMain(heldOpen);
    case FaultMode::BlockFallenOff:
        return visited[at(fault.at)] == kAtRest
            && std::none_of(plant.links.begin(), plant.links.end(), [&](const PlantLink& l) {
                   return l.contact.mover == fault.at && l.contact.opensWhenOff && heldClosed(l);
               });
    case FaultMode::MoverStuckAtRest:
    case FaultMode::LatchFails:
        return visited[at(fault.at)] == kAtRest;
    case FaultMode::MoverStuckActuated:
        return (visited[at(fault.at)] & (kAtRest | kOnTheWay)) == 0;
    default:
        return false;
    }
}

ForkedRun wholeRun(const Course& course, Workspace& workspace, std::stop_token stop)
{
    Runner run(course, workspace, std::move(stop), Limits::Ties::FirstIdFirst);
    run.startAt(0, initialState(course.plant));
    if (run.to(0, {})) // everything reacts to being switched on
        for (std::size_t k = 1; k < course.times.size(); ++k)
            if (!run.to(k, {}))
                break;
    return std::move(run.passage());
}

namespace {

/// Whether the rest of another passage with the same faults is the rest of this one too.
bool isSameFrom(const Plant& plant, const ForkedRun& other, std::size_t frame, const State& state)
{
    return other.first <= frame && other.frames[frame] && isSameSituation(plant, state, *other.frames[frame]);
}

} // namespace

ForkedRun forkedRun(const Course& course, const ForkedRun& base, const Fork& fork, const Watcher& watcher,
    Workspace& workspace, std::stop_token stop)
{
    const TimeNs when = course.cycle.at(fork.moment);
    const std::size_t frame = frameAt(course.times, fork.moment == Moment::WithDemand ? course.cycle.justBefore : when);
    Runner run(course, workspace, std::move(stop), fork.ties);
    run.startAt(frame, *base.frames[frame]);
    ForkedRun& passage = run.passage();
    passage.faults = base.faults;
    passage.faults.insert(passage.faults.end(), fork.faults.begin(), fork.faults.end());
    const auto follows = [&](std::size_t from) { // the base's way, as far as it is the same
        const std::size_t until = inertUntil(course.plant, base, from, fork.faults);
        if (until > from)
            run.follow(base, until);
        for (std::size_t k = from + 1; k <= until && !passage.isStopped; ++k)
            passage.isStopped = !watcher(k, *passage.stretches[k - 1], *passage.frames[k]);
        return until > from;
    };
    std::vector<Stimulus> actions(fork.more.begin(), fork.more.end());
    for (const Fault& f : fork.faults) {
        Stimulus s;
        s.at = when;
        s.kind = Stimulus::Kind::PutFault;
        s.fault = f;
        actions.push_back(s);
    }
    run.state.faults = base.faults;
    if (fork.moment != Moment::WithDemand && fork.more.empty() && follows(frame))
        actions.clear();
    while (run.frame() + 1 < course.times.size() && !passage.isStopped) {
        const std::size_t from = run.frame();
        std::size_t to = from + 1;
        if (!fork.keepsAll && actions.empty() && !isSpeedingUp(run.state))
            while (to + 1 < course.times.size() && course.times[to].look == Look::Between)
                ++to;
        if (!run.to(to, actions))
            break;
        std::erase_if(actions, [&](const Stimulus& s) { return s.at <= run.state.now; });
        if (!watcher(to, run.lastStretch(from), run.state)) {
            passage.isStopped = true;
            break;
        }
        const auto isSame = [&](const ForkedRun& other) { return isSameFrom(course.plant, other, to, run.state); };
        if (const auto other = actions.empty() ? std::find_if(fork.same.begin(), fork.same.end(), isSame)
                                               : fork.same.end();
            other != fork.same.end()) {
            run.adopt(*other, watcher);
            if (passage.pause != Pause::Reached)
                break;
            continue;
        }
        if (actions.empty() && base.frames[to] && isSameSituation(course.plant, run.state, *base.frames[to]))
            follows(to);
    }
    return std::move(passage);
}

} // namespace ts::faults
