#include "core/exploration/directed.h"

#include "core/base/at.h"
#include "core/faults/cycle.h"
#include "core/library/registry.h"
#include "core/simulation/scenario_run.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::exploration {
namespace {

using Kind = Operation::Kind;
using Protects = KindTraits::Protects;

constexpr std::size_t kMostSituations = 96;
constexpr std::size_t kMostSearched = 200; ///< states looked through for a motor that no scenario brings to run

/// A state in which the machine stays for a while, and how it was reached.
struct Situation {
    State state;
    std::vector<Done> order;
};

bool isDriven(const State& state, std::size_t motor)
{
    return state.actuatorMode[motor] == MotorMode::Driven;
}

std::vector<std::size_t> drivenIn(const State& state)
{
    std::vector<std::size_t> driven;
    for (std::size_t m = 0; m < state.actuatorMode.size(); ++m)
        if (isDriven(state, m))
            driven.push_back(m);
    return driven;
}

/// Everything that a hand works, and what trips; no armatures.
Cone everything(const Plant& plant)
{
    Cone cone;
    for (int m = 0; m < static_cast<int>(plant.movers.size()); ++m) {
        const auto driver = plant.movers[at(m)].spec.driver;
        if (driver == MoverSpec::Driver::Operator || driver == MoverSpec::Driver::Protection)
            cone.movers.push_back(m);
    }
    for (int k = 0; k < static_cast<int>(plant.knobs.size()); ++k)
        cone.knobs.push_back(k);
    return cone;
}

class Director {
public:
    Director(const Dossier& dossier, Plant plant, Limits::Ties ties, const RunsListener& listener, std::stop_token stop)
        : m_dossier(dossier)
        , m_ties(ties)
        , m_plant(std::move(plant))
        , m_operations(m_plant, everything(m_plant), {})
        , m_listener(listener)
        , m_stop(std::move(stop))
    {
    }

    Expected<Directed> run()
    {
        switchOn();
        for (const Scenario& s : m_dossier.scenarios)
            readScenario(s);
        searchForStarts();
        m_result.situations = m_situations.size();
        for (std::size_t k = 0; k < m_situations.size() && !m_stop.stop_requested(); ++k) {
            const Situation& here = m_situations[k];
            if (!drivenIn(here.state).empty())
                tryRunning(here, isAnythingHeld(here.state));
            else if (!isAnythingHeld(here.state))
                tryRest(here);
            if (!isAnythingHeld(here.state))
                tryTogether(here);
            if (m_listener)
                m_listener(k + 1, m_situations.size());
        }
        loseLines();
        if (m_stop.stop_requested())
            return cancelled();
        for (std::size_t m = 0; m < m_plant.actuators.size(); ++m)
            if (!m_hasRun.contains(m))
                m_result.neverRan.push_back(motorId(m));
        finishStops();
        return std::move(m_result);
    }

private:
    DeviceId motorId(std::size_t m) const { return m_plant.deviceOfActuator(static_cast<int>(m)).id; }

    /// The supply comes for the first time: that alone starts nothing.
    void switchOn()
    {
        Situation on{initialState(m_plant), {}};
        const State before = on.state;
        const Pause pause = advance(
            m_plant, on.state, {}, {2 * kSecondNs, m_stop, {}, false, m_ties}, m_trace, m_workspace);
        ++m_result.runs;
        m_result.undecided += pause == Pause::Chatter;
        if (pause != Pause::Reached)
            return;
        StartSeen seen;
        seen.departure = Departure::SupplyLost;
        noteStarts(before, on, seen);
        addSituation(std::move(on));
    }

    /// An operation and all that follows: until nothing but steady running is left. Brief: as long as a hand takes.
    Settled course(const State& before, const Operation& operation, bool isBrief = false)
    {
        ++m_result.runs;
        Settled r = isBrief ? settledAfter(m_plant, before, operation, m_workspace, m_stop, m_ties)
                            : steadyAfter(m_plant, before, operation, m_workspace, m_stop, m_ties);
        m_result.undecided += r.pause == Pause::Chatter;
        return r;
    }

    void addSituation(Situation s)
    {
        if (std::any_of(s.state.pushed.begin(), s.state.pushed.end(), [](std::uint8_t p) { return p != 0; }))
            return; // an armature pushed by hand is no operation of the machine
        for (std::size_t m : drivenIn(s.state))
            m_hasRun.insert(m);
        if (!m_known.insert(situationOf(m_plant, s.state)).second)
            return;
        if (m_situations.size() < kMostSituations)
            m_situations.push_back(std::move(s));
        else
            ++m_result.leftOut;
    }

    /// Before each step of a scenario, and at its end.
    void readScenario(const Scenario& scenario)
    {
        const auto stimuli = stimuliOf(m_plant, scenario);
        if (!stimuli)
            return;
        State state = initialState(m_plant);
        std::vector<Done> order;
        std::size_t applied = 0; // stimuli
        for (std::size_t k = 0; k <= stimuli->size() && !m_stop.stop_requested(); ++k) {
            const TimeNs until = k < stimuli->size() ? (*stimuli)[k].at : timeNs(seconds(scenario.lengthS));
            if (until - 1 > state.now) {
                Trace trace;
                const std::span due(stimuli->begin() + static_cast<std::ptrdiff_t>(applied), k - applied);
                if (advance(m_plant, state, due, {until - 1, m_stop, {}, false, m_ties}, trace, m_workspace)
                    != Pause::Reached)
                    return;
                applied = k;
                addSituation({state, order});
            }
            if (k == stimuli->size() || isFault((*stimuli)[k]))
                return;
            order.push_back({{Kind::Hand, {(*stimuli)[k]}}, until});
        }
    }

    static bool isFault(const Stimulus& s)
    {
        return s.kind == Stimulus::Kind::PutFault || s.kind == Stimulus::Kind::ClearFault;
    }

    /// Presses, one after the other, until every motor has run or the bound is reached.
    void searchForStarts()
    {
        if (m_situations.empty())
            return;
        std::vector<Situation> queue{m_situations.front()};
        std::set<std::string> seen{situationOf(m_plant, queue.front().state)};
        for (std::size_t k = 0; k < queue.size() && seen.size() < kMostSearched; ++k) {
            if (m_hasRun.size() == m_plant.actuators.size() || m_stop.stop_requested())
                return;
            for (const Operation& o : m_operations.all()) {
                if (o.kind != Kind::Hand || !m_operations.isGivenByHand(o.stimuli.front())
                    || protects(m_plant, o.stimuli.front()) != Protects::Nothing
                    || !m_operations.isPossible(queue[k].state, o, m_free))
                    continue;
                Situation next = queue[k];
                if (!doAndLetGo(next, o))
                    continue;
                if (seen.insert(situationOf(m_plant, next.state)).second) {
                    if (!drivenIn(next.state).empty())
                        addSituation(next);
                    queue.push_back(std::move(next));
                }
            }
        }
    }

    /// Done, with its course; false if the circuit chatters.
    bool perform(Situation& s, const Operation& o, bool isBrief = false)
    {
        Settled r = course(s.state, o, isBrief);
        noteRaces(r.trace, s, o);
        if (r.pause != Pause::Reached) {
            m_result.undecidedFreely += r.pause == Pause::Chatter && !isAnythingHeld(s.state);
            std::string said = wordsOf(s.order) + (s.order.empty() ? "" : ", ") + wordsOf(o);
            if (m_result.undecidedSaid.empty() || said.size() < m_result.undecidedSaid.size())
                m_result.undecidedSaid = std::move(said);
            return false;
        }
        s.order.push_back({o, s.state.now});
        s.state = std::move(r.state);
        m_trace = std::move(r.trace);
        return true;
    }

    /// Lets what was done briefly run its course.
    bool runOn(Situation& s)
    {
        Trace done = std::move(m_trace);
        Settled r = course(s.state, {Kind::Wait, {}});
        s.state = std::move(r.state);
        m_trace = std::move(r.trace);
        m_trace.events.insert(m_trace.events.begin(), done.events.begin(), done.events.end());
        return r.pause == Pause::Reached;
    }

    /// What springs back is let go after it.
    bool doAndLetGo(Situation& s, const Operation& o)
    {
        if (!perform(s, o, true)) // a reset that is held too long is none
            return false;
        const int mover = o.stimuli.front().slot;
        if (o.kind != Kind::Hand || !m_operations.isHeld(s.state, mover))
            return runOn(s);
        const auto back = faults::wayBack(m_plant, o.stimuli.front());
        Trace pressed = std::move(m_trace);
        const bool isDone = back && perform(s, {Kind::Hand, {*back}});
        m_trace.events.insert(m_trace.events.begin(), pressed.events.begin(), pressed.events.end());
        return isDone;
    }

    /// Motors that were not driven before, and have turned or are driven now.
    void noteStarts(const State& before, const Situation& after, const StartSeen& seen)
    {
        for (std::size_t m = 0; m < m_plant.actuators.size(); ++m) {
            if (isDriven(before, m))
                continue;
            const bool turned = std::any_of(m_trace.events.begin(), m_trace.events.end(),
                [&](const Event& e) { return e.why == Why::Turning && e.slot == static_cast<int>(m); });
            if (!turned && !isDriven(after.state, m))
                continue;
            StartSeen s = seen;
            s.motor = motorId(m);
            s.isTwitch = !isDriven(after.state, m);
            s.order = after.order;
            s.said = wordsOf(after.order);
            keep(std::move(s));
        }
    }

    void noteRaces(const Trace& trace, const Situation& before, const Operation& o)
    {
        for (const Event& e : trace.events) {
            if (e.why != Why::Race)
                continue;
            const auto idOf = [&](int mover) { return m_plant.devices[at(m_plant.movers[at(mover)].device)].id; };
            const auto [first, second] = std::minmax({idOf(e.slot), idOf(e.from)});
            std::string said = wordsOf(before.order) + (before.order.empty() ? "" : ", ") + wordsOf(o);
            const auto same = std::find_if(m_result.races.begin(), m_result.races.end(),
                [&](const RaceSeen& r) { return r.first == first && r.second == second; });
            if (same == m_result.races.end())
                m_result.races.push_back({first, second, std::move(said)});
            else if (said.size() < same->said.size())
                same->said = std::move(said);
        }
    }

    std::string wordsOf(const std::vector<Done>& order) const
    {
        std::string words;
        for (const Done& d : order)
            words += (words.empty() ? "" : ", ") + wordsOf(d.operation);
        return words;
    }

    std::string wordsOf(const Operation& o) const { return exploration::wordsOf(m_plant, o); }

    void keep(StartSeen s)
    {
        const auto same = std::find_if(m_result.starts.begin(), m_result.starts.end(), [&](const StartSeen& o) {
            return o.motor == s.motor && o.what == s.what && o.departure == s.departure && o.by == s.by;
        });
        if (same == m_result.starts.end())
            m_result.starts.push_back(std::move(s));
        else if (s.order.size() < same->order.size())
            *same = std::move(s);
    }

    bool isReset(const Stimulus& s) const
    {
        if (s.kind != Stimulus::Kind::Drive)
            return false;
        const Device* device = m_dossier.circuit.device(deviceOf(m_plant, s).id);
        if (!device)
            return false;
        const auto& functions = m_dossier.functions;
        if (std::any_of(
                functions.begin(), functions.end(), [&](const SafetyFunction& f) { return f.resetBy == device->id; }))
            return true;
        const DeviceKind* kind = deviceKind(device->kind);
        const bool hasPurpose = std::any_of(kind->parameters.begin(), kind->parameters.end(),
            [](const ParameterSpec& p) { return p.name == "purpose"; });
        const auto parameters = hasPurpose ? parametersOf(m_dossier.circuit, *device)
                                           : Expected<Parameters>(Unexpected{Error{}});
        return parameters && parameters->word("purpose") == "reset";
    }

    /// A hand that may start a machine: it operates something that neither protects nor resets.
    bool isAsked(const Operation& o) const
    {
        return std::any_of(o.stimuli.begin(), o.stimuli.end(), [&](const Stimulus& s) {
            return m_operations.isGivenByHand(s) && protects(m_plant, s) == Protects::Nothing && !isReset(s);
        });
    }

    /// At rest: what is not asked for starts nothing. Starts that are asked for are remembered.
    void tryRest(const Situation& rest)
    {
        for (const Operation& o : m_operations.all()) {
            if (o.kind == Kind::TwoHands || o.kind == Kind::Wait || m_stop.stop_requested()
                || !m_operations.isPossible(rest.state, o, m_free))
                continue;
            Situation next = rest;
            if (!doAndLetGo(next, o))
                continue;
            if (isAsked(o)) {
                if (o.kind == Kind::Hand && !drivenIn(next.state).empty())
                    rememberStart(o.stimuli.front(), m_starts);
                if (o.kind == Kind::Hand && hasTurned())
                    rememberStart(o.stimuli.front(), m_turning);
                continue;
            }
            StartSeen seen;
            seen.departure = returnOf(o);
            seen.what = o.kind == Kind::Hand ? deviceOf(m_plant, o.stimuli.front()).id : DeviceId{};
            seen.by = o.kind == Kind::Hand && isReset(o.stimuli.front()) ? StartedBy::Reset : StartedBy::Return;
            noteStarts(rest.state, next, seen);
        }
    }

    /// Two hands press at once; and one presses a stop while the other gives a start: the stop wins.
    void tryTogether(const Situation& here)
    {
        std::vector<Operation> pairs;
        for (const Operation& o : m_operations.all()) {
            if (o.kind == Kind::TwoHands && m_operations.isGivenByHand(o.stimuli.front()))
                pairs.push_back(o);
            if (o.kind != Kind::Hand || protects(m_plant, o.stimuli.front()) == Protects::Nothing
                || !isDepartureFromHere(o, here.state))
                continue;
            for (const Stimulus& start : m_starts)
                pairs.push_back({Kind::TwoHands, {o.stimuli.front(), start}});
        }
        for (const Operation& pair : pairs) {
            if (m_stop.stop_requested() || !m_operations.isPossible(here.state, pair, m_free))
                continue;
            Situation after = here;
            if (perform(after, pair))
                noteStop(pair, here.state, after);
        }
    }

    void rememberStart(const Stimulus& s, std::vector<Stimulus>& starts) const
    {
        const bool isKnown = std::any_of(
            starts.begin(), starts.end(), [&](const Stimulus& o) { return o.slot == s.slot; });
        if (!isKnown && m_operations.isGivenByHand(s))
            starts.push_back(s);
    }

    bool hasTurned() const
    {
        return std::any_of(
            m_trace.events.begin(), m_trace.events.end(), [](const Event& e) { return e.why == Why::Turning; });
    }

    /// What an operation takes back, if anything.
    Departure returnOf(const Operation& o) const
    {
        switch (o.kind) {
        case Kind::SupplyBack:
            return Departure::SupplyLost;
        case Kind::PhaseBack:
            return Departure::PhaseLost;
        case Kind::Hand:
            return m_operations.isGivenByHand(o.stimuli.front()) ? Departure::None : departureOf(m_plant, o);
        default:
            return Departure::None;
        }
    }

    std::optional<Operation> backOf(const Operation& o) const
    {
        const auto isBack = [&](const Operation& b) {
            return (o.kind == Kind::SupplyLost && b.kind == Kind::SupplyBack)
                || (o.kind == Kind::PhaseLost && b.kind == Kind::PhaseBack
                    && b.stimuli.front().slot == o.stimuli.front().slot);
        };
        if (o.kind != Kind::Hand) {
            const auto& all = m_operations.all();
            const auto found = std::find_if(all.begin(), all.end(), isBack);
            return found == all.end() ? std::nullopt : std::optional(*found);
        }
        const auto back = faults::wayBack(m_plant, o.stimuli.front());
        return back ? std::optional(Operation{Kind::Hand, {*back}}) : std::nullopt;
    }

    /// Something that is not as it should be: the supply gone, a stop pressed, a guard opened, a switch off, a trip.
    bool isDepartureFromHere(const Operation& o, const State& state) const
    {
        if (o.kind == Kind::TwoHands || o.kind == Kind::Wait || o.kind == Kind::SupplyBack || o.kind == Kind::PhaseBack
            || !m_operations.isPossible(state, o, m_free))
            return false;
        return o.kind != Kind::Hand
            || o.stimuli.front().target != m_plant.movers[at(o.stimuli.front().slot)].spec.initial;
    }

    bool isAnythingHeld(const State& state) const
    {
        for (int m = 0; m < static_cast<int>(m_plant.movers.size()); ++m)
            if (m_operations.isHeld(state, m))
                return true;
        return false;
    }

    void tryRunning(const Situation& running, bool isHeld)
    {
        for (const Operation& o : m_operations.all()) {
            if (m_stop.stop_requested() || !isDepartureFromHere(o, running.state))
                continue;
            Situation gone = running;
            if (!perform(gone, o))
                continue;
            noteStop(o, running.state, gone);
            noteReleases(o, running.state, gone);
            if (drivenIn(gone.state).size() >= drivenIn(running.state).size())
                continue; // nothing was stopped by it
            takeBack(o, gone, isHeld ? StartedBy::HeldAtReturn : StartedBy::Return,
                isHeld ? StartedBy::HeldAtReset : StartedBy::Reset);
            for (const Stimulus& start : isHeld ? std::vector<Stimulus>{} : m_starts)
                tryHeld(o, running, start);
        }
    }

    /// The same with a start held from before.
    void tryHeld(const Operation& o, const Situation& running, const Stimulus& start)
    {
        const Operation press{Kind::Hand, {start}};
        if (start.slot == o.stimuli.front().slot || !m_operations.isPossible(running.state, press, m_free))
            return;
        Situation held = running;
        if (!perform(held, press) || !m_operations.isHeld(held.state, start.slot)
            || !m_operations.isPossible(held.state, o, m_free) || !perform(held, o))
            return;
        takeBack(o, held, StartedBy::HeldAtReturn, StartedBy::HeldAtReset);
    }

    void takeBack(const Operation& o, Situation gone, StartedBy atReturn, StartedBy atReset)
    {
        const auto back = backOf(o);
        if (!back)
            return;
        StartSeen seen;
        seen.departure = departureOf(m_plant, o);
        seen.what = o.kind == Kind::Hand ? deviceOf(m_plant, o.stimuli.front()).id : DeviceId{};
        const State before = gone.state;
        if (!perform(gone, *back))
            return;
        seen.by = atReturn;
        noteStarts(before, gone, seen);
        for (const Operation& reset : m_operations.all()) {
            if (reset.kind != Kind::Hand || !isReset(reset.stimuli.front())
                || !m_operations.isGivenByHand(reset.stimuli.front())
                || !m_operations.isPossible(gone.state, reset, m_free))
                continue;
            Situation after = gone;
            if (!doAndLetGo(after, reset))
                continue;
            seen.by = atReset;
            noteStarts(gone.state, after, seen);
        }
    }

    void noteStop(const Operation& o, const State& before, const Situation& after)
    {
        if ((o.kind != Kind::Hand && o.kind != Kind::TwoHands)
            || protects(m_plant, o.stimuli.front()) == Protects::Nothing)
            return;
        Tried& t = m_tried[deviceOf(m_plant, o.stimuli.front()).id];
        const auto mover = at(o.stimuli.front().slot);
        if (after.state.travel[mover] == before.travel[mover]) {
            t.isHeld = t.isHeld || !drivenIn(before).empty();
            return; // nobody operated it
        }
        for (std::size_t m : drivenIn(before)) {
            if (m_plant.actuators[m].holds)
                continue;
            (isDriven(after.state, m) ? t.kept : t.stopped).insert(motorId(m));
            if (isDriven(after.state, m) && (t.shortest == 0 || after.order.size() < t.shortest)) {
                t.shortest = after.order.size();
                t.said = wordsOf(after.order);
            }
        }
    }

    void noteReleases(const Operation& o, const State& before, const Situation& after)
    {
        for (std::size_t m : drivenIn(before)) {
            if (!m_plant.actuators[m].holds || isDriven(after.state, m))
                continue;
            const Departure departure = departureOf(m_plant, o);
            if (departure == Departure::None || departure == Departure::Other)
                continue; // it is let go on purpose
            ReleaseSeen seen{motorId(m), {}, departure, wordsOf(after.order)};
            if (departure != Departure::SupplyLost && departure != Departure::PhaseLost)
                seen.what = deviceOf(m_plant, o.stimuli.front()).id;
            keepShortest(m_result.releases, std::move(seen));
        }
    }

    void loseLines()
    {
        std::vector<State> free; // hands
        for (const Situation& s : m_situations)
            if (!isAnythingHeld(s.state))
                free.push_back(s.state);
        LostLines lost = lostLines(m_plant, m_operations, free, m_turning, m_ties, m_workspace, m_stop);
        m_result.lines = std::move(lost.seen);
        m_result.runs += lost.runs;
        m_result.undecided += lost.undecided;
        m_result.undecidedFreely += lost.undecided;
    }

    void finishStops()
    {
        for (const PlantDevice& d : m_plant.devices) {
            if (deviceKind(d.kind)->traits.protects == Protects::Nothing)
                continue;
            const Tried& t = m_tried[d.id];
            StopSeen seen{d.id, {}, {t.kept.begin(), t.kept.end()}, t.said};
            for (DeviceId m : t.stopped)
                if (!t.kept.contains(m))
                    seen.stopped.push_back(m);
            seen.isLocked = t.isHeld && t.kept.empty() && t.stopped.empty();
            m_result.stops.push_back(std::move(seen));
        }
    }

    const Dossier& m_dossier;
    const Limits::Ties m_ties;
    const Plant m_plant;
    const Operations m_operations;
    const RunsListener& m_listener;
    std::stop_token m_stop;
    const Restraint m_free{};
    Workspace m_workspace;
    Trace m_trace; ///< of what was performed last
    std::vector<Situation> m_situations;
    std::set<std::string> m_known;
    std::set<std::size_t> m_hasRun;
    std::vector<Stimulus> m_starts, m_turning; ///< what starts for good; and what turns a motor while it is held
    struct Tried {
        std::set<DeviceId> stopped, kept;
        std::size_t shortest = 0; ///< operations of `said`; 0: none
        std::string said;
        bool isHeld = false;
    };
    std::map<DeviceId, Tried> m_tried; ///< protective devices
    Directed m_result;
};

} // namespace

Expected<Directed> directedRuns(const Dossier& dossier, const RunsListener& listener, std::stop_token stop)
{
    auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    auto seen = Director(dossier, *plant, Limits::Ties::FirstIdFirst, listener, stop).run();
    if (!seen || seen->races.empty())
        return seen;
    const auto other = Director(dossier, std::move(*plant), Limits::Ties::LastIdFirst, listener, std::move(stop)).run();
    if (!other)
        return other;
    return merged(std::move(*seen), *other);
}

} // namespace ts::exploration
