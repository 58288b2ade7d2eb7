#include "core/exploration/trials.h"

#include "core/exploration/trier.h"
#include "core/faults/cycle.h"

#include <algorithm>
#include <array>
#include <map>

namespace ts::exploration {

Expected<Trials> Trier::run(const std::function<void(std::size_t, std::size_t)>& listener)
{
    gather();
    m_found.neverRan = m_behaviour.neverRan;
    m_found.leftOut = m_behaviour.leftOut;
    m_found.states = m_running.size();
    for (std::size_t k = 0; k < m_running.size() && !m_stop.stop_requested(); ++k) {
        tryRunning(m_running[k]);
        if (listener)
            listener(k + 1, m_running.size() + 1);
    }
    tryHands();
    tryDirections();
    tryResets();
    compareTrips();
    lookForIdle();
    sayWhatServes();
    if (m_stop.stop_requested())
        return cancelled();
    std::stable_sort(m_found.seen.begin(), m_found.seen.end(), [](const TrialSeen& a, const TrialSeen& b) {
        return std::tuple(a.what, a.device, a.actuator) < std::tuple(b.what, b.device, b.actuator);
    });
    return std::move(m_found);
}

std::size_t Trier::slotOf(DeviceId actuator) const
{
    for (std::size_t m = 0; m < m_plant.actuators.size(); ++m)
        if (m_plant.deviceOfActuator(static_cast<int>(m)).id == actuator)
            return m;
    return m_plant.actuators.size();
}

State Trier::replayed(std::span<const Done> way, TimeNs until, std::vector<Stimulus> before)
{
    ++m_found.runs;
    const auto done = stimuliOn(way);
    before.insert(before.end(), done.begin(), done.end());
    State state = initialState(m_plant);
    Trace trace;
    advance(m_plant, state, before, {until, m_stop, {}, false}, trace, m_workspace);
    noteMoved(trace);
    return state;
}

State Trier::stateOf(const Deed& d, std::vector<Stimulus> before)
{
    if (d.effect != Effect::RunsWhileHeld || !pushOf(m_plant, d))
        return replayed(d.way, d.after, std::move(before));
    const Done& push = *pushOf(m_plant, d);
    State ready = replayed(std::span(d.way).first(d.way.size() - 2), push.at - 1, std::move(before));
    auto held = after(ready, push.operation.stimuli);
    return held ? std::move(*held) : std::move(ready);
}

std::optional<State> Trier::after(const State& before, std::vector<Stimulus> stimuli)
{
    ++m_found.runs;
    Settled r = steadyAfter(m_plant, before, {Operation::Kind::Hand, std::move(stimuli)}, m_workspace, m_stop);
    m_found.undecided += r.pause == Pause::Chatter;
    if (r.pause != Pause::Reached)
        return std::nullopt;
    noteMoved(r.trace);
    return std::move(r.state);
}

std::optional<State> Trier::with(const State& before, const Fault& fault)
{
    return after(before, {{0, Stimulus::Kind::PutFault, 0, 0, false, 0, fault}});
}

std::optional<State> Trier::with(const State& before, DeviceId hand, const std::string& action)
{
    const auto stimulus = handOf(hand, action);
    return stimulus ? after(before, {*stimulus}) : std::nullopt;
}

std::optional<Stimulus> Trier::handOf(DeviceId hand, const std::string& action) const
{
    for (const PlantDevice& d : m_plant.devices)
        if (d.id == hand)
            if (auto s = stimulusFor(m_plant, d.tag, action, 0))
                return *s;
    return std::nullopt;
}

void Trier::noteMoved(const Trace& trace)
{
    m_moved.resize(m_plant.movers.size());
    m_lit.resize(m_plant.lamps.size());
    for (const Event& e : trace.events) {
        if (e.why == Why::Moved)
            m_moved[at(e.slot)] = 1;
        if (e.why == Why::Lit)
            m_lit[at(e.slot)] = 1;
    }
}

std::pair<bool, std::size_t> Trier::worth(const Deed& d)
{
    return {d.effect == Effect::RunsWhileHeld, d.way.size()};
}

void Trier::gather()
{
    std::map<std::pair<DeviceId, int>, const Deed*> shortest;
    for (const Deed& d : m_behaviour.deeds) {
        if (d.effect == Effect::Stops)
            m_stops.push_back(&d);
        if (d.effect != Effect::Starts && d.effect != Effect::RunsWhileHeld)
            continue;
        const auto [known, isNew] = shortest.try_emplace({d.actuator, d.direction}, &d);
        if (!isNew && worth(d) < worth(*known->second))
            known->second = &d;
    }
    for (const auto& [key, deed] : shortest) {
        Running r{deed, slotOf(deed->actuator), stateOf(*deed)};
        if (isDriven(r.state, r.actuator))
            m_running.push_back(std::move(r));
    }
}

TrialSeen Trier::seenIn(const Running& r, What what) const
{
    TrialSeen t;
    t.what = what;
    t.actuator = r.deed->actuator;
    t.way = r.deed->way;
    t.said = r.deed->said;
    const bool isHeld = r.deed->effect == Effect::RunsWhileHeld && pushOf(m_plant, *r.deed);
    t.script = stimuliOn(std::span(t.way).first(t.way.size() - (isHeld ? 1 : 0)));
    t.until = std::max(r.deed->after, t.way.empty() ? TimeNs{0} : t.way.back().at);
    return t;
}

TrialSeen Trier::seenBefore(const Push& p, What what) const
{
    TrialSeen t = seenIn({p.deed, p.actuator, {}}, what);
    const Done* push = pushOf(m_plant, *p.deed);
    t.script = stimuliOn(std::span(t.way).first(t.way.size() - 2));
    t.until = push->at - kNextNs;
    return t;
}

void Trier::then(TrialSeen& t, Stimulus s)
{
    s.at = t.until + kNextNs;
    t.until = s.at + kLookNs;
    t.script.push_back(s);
}

void Trier::then(TrialSeen& t, const Fault& fault)
{
    then(t, {0, Stimulus::Kind::PutFault, 0, 0, false, 0, fault});
}

void Trier::keep(TrialSeen t)
{
    if (m_kept.insert({t.what, t.device, t.other, t.actuator, t.wire, t.terminal}).second)
        m_found.seen.push_back(std::move(t));
}

void Trier::tryRunning(const Running& r)
{
    tryOverloads(r);
    tryStopWires(r);
    tryEarth(r);
    tryTwoEarths(r);
    tryMonitors(r);
    tryDisconnectors(r);
    tryFrame(r);
    readVoltage(r);
    tryShorts(r);
    tryLamps(r);
    tryStuck(r);
    tryReturns(r);
    tryEarthedLines(r);
    tryElectronics(r);
    tryUnwatched(r);
    trySignals(r);
    tryReadings(r);
    tryLocks(r);
    readSeparation(r);
}

bool Trier::staysDriven(const State& before, const Stimulus& s, std::size_t actuator)
{
    const auto then = after(before, {s});
    return then && isDriven(*then, actuator);
}

int Trier::deviceSlot(DeviceId id) const
{
    const auto it = std::find_if(
        m_plant.devices.begin(), m_plant.devices.end(), [id](const PlantDevice& d) { return d.id == id; });
    return static_cast<int>(it - m_plant.devices.begin());
}

std::string_view nameOf(TrialSeen::What what)
{
    constexpr std::array<std::string_view, 32> names{"no_overload", "overload_kept", "trip_unseen", "stop_wire_dead",
        "start_wins", "tap_caught", "earth_kept", "two_earths_kept", "frame_live", "monitor_dead", "no_disconnector",
        "lamp_lies", "short_stays", "never_pulls", "same_direction", "motor_voltage", "serves", "held_out",
        "stuck_restarts", "never_lit", "return_live", "earth_stays", "only_electronics", "trips_alike", "loss_unseen",
        "sequence_unseen", "signal_stops", "only_read", "reset_beside", "lock_lifted", "turned_over", "unseparated"};
    return names[static_cast<std::size_t>(what)];
}

Expected<Trials> trialsOf(
    const Circuit& circuit, const std::function<void(std::size_t, std::size_t)>& listener, std::stop_token stop)
{
    auto behaviour = behaviourOf(circuit, {}, stop);
    if (!behaviour)
        return Unexpected{behaviour.error()};
    auto plant = compile(circuit);
    if (!plant)
        return Unexpected{plant.error()};
    return Trier(circuit, std::move(*plant), std::move(*behaviour), std::move(stop)).run(listener);
}

} // namespace ts::exploration
