// What another hand can do: reset what waits for its own reset, lift a lock, turn a motor over while it turns.

#include "core/exploration/departure.h"
#include "core/exploration/trier.h"
#include "core/faults/cycle.h"

#include <algorithm>
#include <cmath>

namespace ts::exploration {
namespace {

constexpr TimeNs kLongNs = 10 * kSecondNs; ///< assumed: nobody waits by himself until a motor stands that turns longer
constexpr TimeNs kPressNs = 500'000'000; ///< as a hand does it, not too short and not too long for a monitored reset
constexpr double kTurningShare = 0.5; ///< of its synchronous speed, when it is put on the other direction

} // namespace

bool Trier::isReset(const PlantRelay& relay, const State& s) const
{
    return s.travel[at(relay.data.firstRelay)] == 2 && s.travel[at(relay.data.secondRelay)] == 2;
}

bool Trier::isWaiting(const PlantRelay& relay, const State& s) const
{
    return relay.data.resetKind != SafetyRelayLogic::Reset::Automatic && !isReset(relay, s);
}

std::vector<Stimulus> Trier::tapOf(const Stimulus& push, TimeNs when) const
{
    std::vector<Stimulus> tap{push};
    tap[0].at = when;
    if (const auto back = faults::wayBack(m_plant, push)) {
        tap.push_back(*back);
        tap[1].at = when + kPressNs;
    }
    return tap;
}

std::optional<State> Trier::tapped(const State& before, const Stimulus& push)
{
    ++m_found.runs;
    const std::vector<Stimulus> tap = tapOf(push, before.now);
    State state = before;
    Trace trace;
    const TimeNs until = before.now + kPressNs + kNextNs;
    if (advance(m_plant, state, tap, {until, m_stop, {}, false}, trace, m_workspace) != Pause::Reached)
        return std::nullopt;
    return state;
}

std::vector<std::pair<DeviceId, Stimulus>> Trier::resetHands(
    const PlantRelay& relay, const State& waiting, std::optional<State>& reset)
{
    std::vector<std::pair<DeviceId, Stimulus>> hands;
    for (const PlantDevice& d : m_plant.devices)
        for (const auto& [word, what] : d.actions) {
            const auto push = handOf(d.id, word);
            if (!push || m_plant.movers[at(what.first)].spec.driver != MoverSpec::Driver::Operator
                || waiting.travel[at(what.first)] == what.second || m_stop.stop_requested())
                continue;
            auto then = tapped(waiting, *push);
            if (!then || !isReset(relay, *then))
                continue;
            if (std::none_of(hands.begin(), hands.end(), [&d](const auto& h) { return h.first == d.id; }))
                hands.emplace_back(d.id, *push);
            if (!reset)
                reset = std::move(then);
        }
    return hands;
}

std::string Trier::whatElse(DeviceId hand) const
{
    for (const Deed& d : m_behaviour.deeds)
        if (d.hand == hand && (d.effect == Effect::Starts || d.effect == Effect::RunsWhileHeld))
            return "starts";
    const PlantDevice& device = m_plant.devices[at(deviceSlot(hand))];
    for (const auto& [word, what] : device.actions)
        if (const auto s = handOf(hand, word); s && protects(m_plant, *s) != KindTraits::Protects::Nothing)
            return "protects";
    return {};
}

void Trier::tryResets()
{
    State state = replayed({}, 2 * kSecondNs);
    std::set<const PlantRelay*> seen;
    std::vector<Stimulus> soFar; // resets of those before
    for (bool goesOn = true; goesOn && !m_stop.stop_requested();) {
        goesOn = false; // one relay may wait for another
        for (const PlantRelay& relay : m_plant.relays) {
            if (seen.contains(&relay) || !isWaiting(relay, state))
                continue;
            std::optional<State> reset;
            auto hands = resetHands(relay, state, reset);
            if (!reset)
                continue;
            seen.insert(&relay);
            goesOn = true;
            const std::vector<Stimulus> first = tapOf(hands.front().second, state.now);
            // That which does nothing else is the reset.
            std::stable_sort(hands.begin(), hands.end(),
                [this](const auto& a, const auto& b) { return whatElse(a.first).empty() > whatElse(b.first).empty(); });
            for (std::size_t k = 1; k < hands.size(); ++k) {
                TrialSeen t;
                t.what = What::ResetBeside;
                t.device = idOf(relay.device);
                t.other = hands[k].first;
                t.terminal = whatElse(hands[k].first);
                t.script = soFar;
                const std::vector<Stimulus> tap = tapOf(hands[k].second, state.now);
                t.script.insert(t.script.end(), tap.begin(), tap.end());
                t.until = state.now + kLookNs;
                keep(std::move(t));
            }
            soFar.insert(soFar.end(), first.begin(), first.end());
            state = std::move(*reset);
        }
    }
}

bool Trier::startsLocked(const Running& r, const State& locked, const Stimulus& first, const Stimulus& own)
{
    const auto pushed = after(locked, {first});
    if (pushed && isDriven(*pushed, r.actuator))
        return true;
    const auto back = faults::wayBack(m_plant, first);
    const auto let = pushed && back ? after(*pushed, {*back}) : pushed;
    if (!let || first.slot == own.slot || let->travel == locked.travel)
        return false; // nothing stayed of it
    return staysDriven(*let, own, r.actuator);
}

void Trier::tryLocks(const Running& r)
{
    const auto own = handOf(r.deed->hand, r.deed->action);
    if (!own)
        return;
    std::vector<std::pair<DeviceId, Stimulus>> starts;
    for (const Deed& d : m_behaviour.deeds)
        if (d.effect == Effect::Starts || d.effect == Effect::RunsWhileHeld)
            if (const auto push = handOf(d.hand, d.action);
                push && std::none_of(starts.begin(), starts.end(), [&](const auto& s) { return s.second == *push; }))
                starts.emplace_back(d.hand, *push);
    const auto carriers = carriersOf(r);
    for (const Stop& lock : stopsOf(r)) {
        const bool isTrip = lock.stimulus.kind == Stimulus::Kind::Drive
            && m_plant.movers[at(lock.stimulus.slot)].spec.driver == MoverSpec::Driver::Protection;
        if (!isTrip && protects(m_plant, lock.stimulus) == KindTraits::Protects::Nothing)
            continue; // a button that is let go locks nothing
        const auto locked = after(r.state, {lock.stimulus});
        for (const auto& [hand, push] : starts) {
            if (!locked || isDriven(*locked, r.actuator) || m_stop.stop_requested()
                || !startsLocked(r, *locked, push, *own))
                continue;
            TrialSeen t = seenIn(r, What::LockLifted);
            t.device = lock.device;
            t.other = hand;
            then(t, lock.stimulus);
            then(t, push);
            if (const auto back = faults::wayBack(m_plant, push)) {
                then(t, *back);
                then(t, *own);
            }
            keep(std::move(t));
        }
    }
}

double Trier::speedOf(const State& s, std::size_t motor) const
{
    return flowValue(m_plant, s, m_plant.motors[motor].flow, s.now);
}

std::optional<double> Trier::runDownS(const Running& r, const Stimulus& stop)
{
    State state = r.state;
    Stimulus now = stop;
    now.at = state.now;
    Trace trace;
    ++m_found.runs;
    const auto stands = [&] { return state.now > now.at && state.actuatorMode[r.actuator] == MotorMode::AtRest; };
    advance(m_plant, state, {&now, 1}, {now.at + kLongestWaitNs, m_stop, stands, false}, trace, m_workspace);
    return stands() ? std::optional(static_cast<double>(state.now - now.at) * 1e-9) : std::nullopt;
}

void Trier::tryTurning(const Running& a, const Running& b)
{
    const auto over = handOf(b.deed->hand, b.deed->action);
    if (a.actuator >= m_plant.motors.size() || !over || b.deed->direction == 0 || !pushOf(m_plant, *b.deed))
        return;
    std::vector<std::pair<std::optional<Stimulus>, State>> before{{std::nullopt, a.state}};
    std::optional<double> standsAfterS;
    for (const Stop& s : stopsOf(a)) {
        const auto stands = runDownS(a, s.stimulus);
        const auto back = faults::wayBack(m_plant, s.stimulus);
        if (!stands || !back)
            continue;
        standsAfterS = std::max(standsAfterS.value_or(0), *stands);
        std::array<Stimulus, 2> push{s.stimulus, *back};
        push[0].at = a.state.now;
        push[1].at = a.state.now + kHandNs;
        State quick = a.state;
        Trace trace;
        if (advance(m_plant, quick, push, {push[1].at + kHandNs, m_stop, {}, false}, trace, m_workspace)
            == Pause::Reached)
            before.emplace_back(s.stimulus, std::move(quick));
    }
    if (!standsAfterS || *standsAfterS < static_cast<double>(kLongNs) * 1e-9)
        return;
    for (auto& [stop, state] : before) {
        Trace trace;
        Stimulus push = *over;
        push.at = state.now;
        ++m_found.runs;
        if (advance(m_plant, state, {&push, 1}, {state.now + kHandNs, m_stop, {}, false}, trace, m_workspace)
                != Pause::Reached
            || !isDriven(state, a.actuator) || pulledIn(state) != pulledIn(b.state)
            || speedOf(state, a.actuator) * a.deed->direction
                < kTurningShare * m_plant.motors[a.actuator].data.synchronousRadPerS)
            continue;
        TrialSeen t = seenIn(a, What::TurnedOver);
        t.other = b.deed->hand;
        t.value = *standsAfterS;
        if (stop) {
            then(t, *stop);
            then(t, *faults::wayBack(m_plant, *stop));
        }
        then(t, *over);
        keep(std::move(t));
        return;
    }
}

} // namespace ts::exploration
