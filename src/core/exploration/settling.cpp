#include "core/exploration/settling.h"

#include "core/base/at.h"

#include <algorithm>

namespace ts::exploration {
namespace {

/// Whether something still travels, or a delay so short that no hand comes between is pending.
bool isRunningItsCourse(const State& state, TimeNs doneAt)
{
    return std::any_of(state.agenda.begin(), state.agenda.end(),
        [doneAt](const Pending& p) { return p.phase == Pending::Move || p.at <= doneAt + kHandNs; });
}

bool isSpeedSteady(const Plant& plant, const State& state)
{
    return std::none_of(plant.motors.begin(), plant.motors.end(), [&](const PlantMotor& m) {
        const Flow::Law law = state.flows[at(m.flow)].law;
        return law == Flow::Law::Driven || law == Flow::Law::Ramped;
    });
}

/// A motor that has just been fed: that it turns, and which way, belongs to what was done.
bool isAboutToTurn(const Plant& plant, const State& state)
{
    for (std::size_t m = 0; m < plant.motors.size(); ++m) {
        const Flow::Law law = state.flows[at(plant.motors[m].flow)].law;
        if (state.actuatorMode[m] == MotorMode::AtRest && (law == Flow::Law::Driven || law == Flow::Law::Ramped))
            return true;
    }
    return false;
}

} // namespace

std::string situationOf(const Plant& plant, const State& s)
{
    // Left out: times, counts, causes, heat and what follows from the rest (lamps, feeding, faults, which are the
    // search's own).
    static_assert(kStateFields == 22, "say whether the new field of State makes another situation");
    std::string key;
    key.reserve(3 * s.travel.size() + 64);
    const auto put = [&key](auto value) { key.push_back(static_cast<char>(value)); };
    for (std::size_t m = 0; m < s.travel.size(); ++m) {
        put(s.travel[m] | s.wish[m] << 3 | s.pushed[m] << 6);
    }
    for (const RelayWord& r : s.relays) {
        put(r.powered | r.channel1 << 1 | r.channel2 << 2 | r.wasOff1 << 3 | r.wasOff2 << 4 | r.lockedOut << 5
            | r.outputs << 6 | r.ready << 7);
        put(r.delayed | (r.delayEnds >= 0) << 1 | (r.differSince >= 0) << 2 | (r.resetSince >= 0) << 3);
    }
    for (const LogicWord& l : s.logics) {
        put(l.mode);
        put(l.flags);
    }
    for (const ConverterOutput& l : s.levels)
        put(l.isActive | (l.share > 0) << 1 | (l.share < 0) << 2 | (l.share == 1 || l.share == -1) << 3);
    for (ConverterMode c : s.converters)
        put(c);
    for (double k : s.knobs)
        put(k > 0.0);
    for (std::size_t m = 0; m < plant.motors.size(); ++m) {
        const Flow& speed = s.flows[at(plant.motors[m].flow)];
        put(static_cast<int>(s.actuatorMode[m]) | (speed.value > 0.0) << 2 | (speed.value < 0.0) << 3);
    }
    for (const Pending& p : s.agenda) {
        put(p.phase);
        put(p.slot);
        put(p.to);
    }
    return key;
}

Settled settledAfter(const Plant& plant, const State& before, const Operation& operation, Workspace& workspace,
    std::stop_token stop, Limits::Ties ties)
{
    Settled r{before, {}, Pause::Reached};
    State& state = r.state;
    const bool waits = operation.kind == Operation::Kind::Wait;
    const std::string situation = waits ? situationOf(plant, before) : std::string();
    std::vector<Stimulus> stimuli = operation.stimuli;
    for (Stimulus& s : stimuli)
        s.at = before.now;
    TimeNs begins = waits ? -1 : before.now; // of what is running its course
    const auto hasRunItsCourse = [&] {
        if (begins < 0 && situationOf(plant, state) != situation)
            begins = state.now;
        return begins >= 0 && !isRunningItsCourse(state, begins) && !isAboutToTurn(plant, state);
    };
    if (!waits) // a hand stays where it is for a moment: a reset that is only brushed is none
        r.pause = advance(plant, state, stimuli, {before.now + kHandNs, stop, {}, false, ties}, r.trace, workspace);
    if (r.pause == Pause::Reached && !hasRunItsCourse())
        r.pause = advance(plant, state, {}, {state.now + kLongestWaitNs, std::move(stop), hasRunItsCourse, false, ties},
            r.trace, workspace);
    if (r.pause == Pause::OutOfBudget)
        r.pause = Pause::Reached;
    return r;
}

Settled steadyAfter(const Plant& plant, const State& before, const Operation& operation, Workspace& workspace,
    std::stop_token stop, Limits::Ties ties)
{
    constexpr int kMostWaits = 12; // delays and run-downs of one operation
    Settled r = settledAfter(plant, before, operation, workspace, stop, ties);
    for (int k = 0; k < kMostWaits && r.pause == Pause::Reached && !stop.stop_requested(); ++k) {
        const std::string was = situationOf(plant, r.state);
        Settled next = settledAfter(plant, r.state, {Operation::Kind::Wait, {}}, workspace, stop, ties);
        r.pause = next.pause;
        r.trace.events.insert(r.trace.events.end(), next.trace.events.begin(), next.trace.events.end());
        r.state = std::move(next.state);
        if (situationOf(plant, r.state) == was)
            break;
    }
    return r;
}

bool runUp(const Plant& plant, Settled& settled, Workspace& workspace, std::stop_token stop)
{
    State state = settled.state;
    const std::string before = situationOf(plant, state);
    Trace more;
    const auto isDone = [&] { return isSpeedSteady(plant, state) || situationOf(plant, state) != before; };
    TimeNs until = state.now + kLongestWaitNs;
    if (!state.agenda.empty())
        until = std::min(until, state.agenda.front().at - 1);
    if (until <= state.now || isSpeedSteady(plant, state))
        return true;
    const Pause pause = advance(plant, state, {}, {until, std::move(stop), isDone, false}, more, workspace);
    if (pause != Pause::OutOfBudget || situationOf(plant, state) != before)
        return false;
    settled.state = std::move(state);
    settled.trace.events.insert(settled.trace.events.end(), more.events.begin(), more.events.end());
    return true;
}

} // namespace ts::exploration
