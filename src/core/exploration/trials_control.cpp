// Control circuit: stops, earth faults, monitors, shorts, lamps, quick and double hands, idle parts.

#include "core/exploration/trier.h"
#include "core/faults/cycle.h"

#include <algorithm>
#include <array>

namespace ts::exploration {
namespace {

constexpr double kShortTimes = 10.0; ///< what a load takes at its rated voltage: less is no short circuit
/// As quick as a thumb can, to a short push.
constexpr std::array<TimeNs, 6> kTaps{5'000'000, 10'000'000, 20'000'000, 40'000'000, 80'000'000, 160'000'000};

} // namespace

std::vector<Trier::Stop> Trier::stopsOf(const Running& r)
{
    std::vector<Stop> stops;
    for (const Deed* d : m_stops)
        if (d->actuator == r.deed->actuator)
            if (const auto s = handOf(d->hand, d->action); s && !staysDriven(r.state, *s, r.actuator))
                stops.push_back({d->hand, *s});
    for (const int p : carriersOf(r))
        if (const Stimulus s = tripOf(p); !staysDriven(r.state, s, r.actuator))
            stops.push_back({idOf(m_plant.protections[at(p)].device), s});
    return stops;
}

Fault Trier::broken(const PlantWire& w) const
{
    return w.link >= 0 ? Fault{FaultMode::LinkHeldOpen, w.link} : Fault{FaultMode::ImpedanceOpen, w.impedance};
}

bool Trier::touches(const PlantWire& w, int device) const
{
    return std::any_of(m_plant.terminals.begin(), m_plant.terminals.end(),
        [&](const PlantTerminal& t) { return t.device == device && (t.node == w.p || t.node == w.q); });
}

void Trier::tryStopWires(const Running& r)
{
    for (const Deed* d : m_stops) {
        if (d->actuator != r.deed->actuator || m_stop.stop_requested())
            continue;
        const auto stop = handOf(d->hand, d->action);
        if (!stop || staysDriven(r.state, *stop, r.actuator))
            continue;
        for (const PlantWire& w : m_plant.wires) {
            if (!touches(w, deviceSlot(d->hand)))
                continue;
            const auto cut = with(r.state, broken(w));
            if (!cut || !isDriven(*cut, r.actuator) || !staysDriven(*cut, *stop, r.actuator))
                continue;
            TrialSeen t = seenIn(r, What::StopWireDead);
            t.device = d->hand;
            t.wire = w.id;
            then(t, broken(w));
            then(t, *stop);
            keep(std::move(t));
        }
    }
}

void Trier::tryEarth(const Running& r)
{
    const std::vector<Stop> stops = stopsOf(r);
    const Frame frame = observe(m_plant, r.state);
    std::set<int> tried{0};
    for (std::size_t c = 0; c < m_plant.coils.size() && !m_stop.stop_requested(); ++c) {
        const PlantImpedance& coil = m_plant.impedances[at(m_plant.coils[c].impedance)];
        if (frame.coilShare[c] < kPulledShare)
            continue;
        for (int node : {coil.p, coil.q}) {
            if (!tried.insert(node).second)
                continue;
            const auto earthed = with(r.state, {FaultMode::Short, node, 0});
            if (!earthed || !isDriven(*earthed, r.actuator))
                continue; // it stops by that
            for (const Stop& s : stops)
                if (staysDriven(*earthed, s.stimulus, r.actuator)) {
                    TrialSeen t = seenIn(r, What::EarthKept);
                    t.device = idOf(coil.device);
                    t.other = s.device;
                    t.terminal = m_plant.nameOfNode(node);
                    then(t, Fault{FaultMode::Short, node, 0});
                    then(t, s.stimulus);
                    keep(std::move(t));
                }
        }
    }
}

void Trier::tryTwoEarths(const Running& r)
{
    std::set<int> first;
    for (const PlantTransformer& t : m_plant.transformers)
        first.insert({t.s1, t.s2});
    for (const PlantConverter* c : m_plant.supplies())
        first.insert({c->plus, c->minus});
    first.erase(0);
    const std::vector<Stop> stops = stopsOf(r);
    for (int live : first) {
        const auto once = with(r.state, {FaultMode::Short, live, 0});
        if (!once || once->travel != r.state.travel || once->lampLit != r.state.lampLit)
            continue;
        const Frame frame = observe(m_plant, *once);
        for (std::size_t c = 0; c < m_plant.coils.size() && !m_stop.stop_requested(); ++c) {
            const PlantImpedance& coil = m_plant.impedances[at(m_plant.coils[c].impedance)];
            if (frame.coilShare[c] < kPulledShare || coil.p == 0 || coil.p == live)
                continue;
            const auto twice = with(*once, {FaultMode::Short, coil.p, 0});
            if (!twice || !isDriven(*twice, r.actuator))
                continue;
            for (const Stop& s : stops)
                if (staysDriven(*twice, s.stimulus, r.actuator)) {
                    TrialSeen t = seenIn(r, What::TwoEarthsKept);
                    t.device = idOf(coil.device);
                    t.other = s.device;
                    t.terminal = m_plant.nameOfNode(live) + ", " + m_plant.nameOfNode(coil.p);
                    then(t, Fault{FaultMode::Short, live, 0});
                    then(t, Fault{FaultMode::Short, coil.p, 0});
                    then(t, s.stimulus);
                    keep(std::move(t));
                }
        }
    }
}

void Trier::tryMonitors(const Running& r)
{
    for (const PlantLogic& logic : m_plant.logics) {
        if (!std::holds_alternative<PhaseMonitorLogic>(logic.data))
            continue;
        const bool acts = std::any_of(m_plant.links.begin(), m_plant.links.end(), [&](const PlantLink& l) {
            if (l.device != logic.device || l.contact.kind == ContactKind::Pole)
                return false;
            const auto open = with(r.state, {FaultMode::LinkHeldOpen, static_cast<int>(&l - m_plant.links.data())});
            return open && !isDriven(*open, r.actuator);
        });
        if (!acts)
            continue;
        for (const PlantWire& w : m_plant.wires) {
            if (!touches(w, logic.device))
                continue;
            const auto cut = with(r.state, broken(w));
            const auto lost = cut && isDriven(*cut, r.actuator) ? blindTo(r, *cut) : std::nullopt;
            if (!lost)
                continue;
            TrialSeen t = seenIn(r, What::MonitorDead);
            t.device = idOf(logic.device);
            t.wire = w.id;
            then(t, broken(w));
            then(t, *lost);
            keep(std::move(t));
        }
    }
}

std::optional<Stimulus> Trier::blindTo(const Running& r, const State& cut) const
{
    for (std::size_t k = 0; k < m_plant.knobs.size(); ++k) {
        const Stimulus s{0, Stimulus::Kind::SetKnob, static_cast<int>(k), 0, false, 0.0, {}};
        Workspace workspace;
        const Settled a = steadyAfter(m_plant, r.state, {Operation::Kind::PhaseLost, {s}}, workspace, m_stop);
        if (a.pause != Pause::Reached || isDriven(a.state, r.actuator))
            continue; // it does not see this one anyway
        const Settled b = steadyAfter(m_plant, cut, {Operation::Kind::PhaseLost, {s}}, workspace, m_stop);
        if (b.pause == Pause::Reached && isDriven(b.state, r.actuator))
            return s;
    }
    return std::nullopt;
}

void Trier::tryShorts(const Running& r)
{
    const Frame frame = observe(m_plant, r.state);
    for (std::size_t c = 0; c < m_plant.coils.size(); ++c)
        if (frame.coilShare[c] > kPulledShare)
            tryShort(
                r, m_plant.coils[c].impedance, frame.impedancesA[at(m_plant.coils[c].impedance)] / frame.coilShare[c]);
    for (std::size_t l = 0; l < m_plant.lamps.size(); ++l)
        if (frame.lampLit[l] != 0)
            tryShort(
                r, m_plant.lamps[l].impedance, frame.impedancesA[at(m_plant.lamps[l].impedance)] / frame.lampShare[l]);
}

void Trier::tryShort(const Running& r, int impedance, double ratedA)
{
    const PlantImpedance& load = m_plant.impedances[at(impedance)];
    if (load.p == load.q || m_stop.stop_requested() || !m_shorted.insert(load.device).second)
        return;
    const Fault fault{FaultMode::Short, load.p, load.q};
    std::vector<std::optional<State>> shorted{with(r.state, fault)};
    if (const Done* push = pushOf(m_plant, *r.deed)) { // a coil that drops out by it takes its own feed away: held on,
                                                       // then
        State before = replayed(std::span(r.deed->way).first(r.deed->way.size() - 2), push->at - 1);
        before.faults.push_back(fault);
        shorted.push_back(after(before, push->operation.stimuli));
    }
    for (const auto& then : shorted)
        if (then && staysShorted(r.state, *then, load, ratedA))
            keepShort(r, load, *then);
}

bool Trier::staysShorted(const State& before, const State& then, const PlantImpedance& load, double ratedA) const
{
    const bool opened = std::any_of(m_plant.protections.begin(), m_plant.protections.end(),
        [&](const PlantProtection& p) { return then.travel[at(p.data.mover)] != before.travel[at(p.data.mover)]; });
    return !opened && then.converters == before.converters
        && largestInto(observe(m_plant, then), load) > kShortTimes * ratedA;
}

void Trier::keepShort(const Running& r, const PlantImpedance& load, const State& shorted)
{
    TrialSeen t = seenIn(r, What::ShortStays);
    t.device = idOf(load.device);
    t.value = largestInto(observe(m_plant, shorted), load);
    then(t, Fault{FaultMode::Short, load.p, load.q});
    keep(std::move(t));
}

double Trier::largestInto(const Frame& frame, const PlantImpedance& load) const
{
    const int net = m_plant.netOfNode[at(load.p)];
    return net < 0 ? 0.0 : frame.netsA[at(net)];
}

void Trier::tryLamps(const Running& r)
{
    const State rest = replayed({}, 2 * kSecondNs);
    for (std::size_t l = 0; l < m_plant.lamps.size(); ++l) {
        const DeviceId lamp = idOf(m_plant.lamps[l].device);
        const auto seen = std::find_if(
            m_behaviour.lamps.begin(), m_behaviour.lamps.end(), [&](const LampSeen& s) { return s.lamp == lamp; });
        if (seen == m_behaviour.lamps.end() || seen->rule != LampSeen::Rule::WhileDriven
            || seen->actuator != r.deed->actuator)
            continue;
        if (const auto stuck = firstUnseen(r, rest, l)) {
            TrialSeen t = seenIn(r, What::LampLies);
            t.device = lamp;
            t.other = idOf(m_plant.movers[at(stuck->fault.at)].device);
            t.script.insert(t.script.begin(), *stuck);
            keep(std::move(t));
        }
    }
}

std::optional<Stimulus> Trier::firstUnseen(const Running& r, const State& rest, std::size_t lamp)
{
    std::optional<Stimulus> first;
    for (const PlantCoil& coil : m_plant.coils) {
        const bool isMain = std::any_of(m_plant.links.begin(), m_plant.links.end(),
            [&](const PlantLink& k) { return k.contact.mover == coil.mover && k.contact.kind == ContactKind::Main; });
        if (!isMain || r.state.travel[at(coil.mover)] == rest.travel[at(coil.mover)])
            continue;
        Stimulus stuck;
        stuck.kind = Stimulus::Kind::PutFault;
        stuck.fault = {FaultMode::MoverStuckAtRest, coil.mover};
        bool isDrivenStill = false, isLit = false;
        for (TimeNs when : {r.deed->way.back().at - 1, r.deed->after}) { // while the start is held, and after
            const State without = replayed(r.deed->way, when, {stuck});
            isDrivenStill |= isDriven(without, r.actuator);
            isLit |= without.lampLit[lamp] != 0;
        }
        if (isDrivenStill)
            continue;
        if (!isLit)
            return {};
        if (!first)
            first = stuck;
    }
    return first;
}

std::vector<Trier::Push> Trier::pushes(Effect effect)
{
    std::vector<Push> all;
    for (const Deed& d : m_behaviour.deeds) {
        const Done* push = d.effect == effect ? pushOf(m_plant, d) : nullptr;
        if (push)
            all.push_back({&d, slotOf(d.actuator), push->operation.stimuli.front(),
                replayed(std::span(d.way).first(d.way.size() - 2), push->at - 1)});
    }
    return all;
}

void Trier::tryHands()
{
    for (const Push& p : pushes(Effect::Starts))
        for (const Deed* d : m_stops)
            if (d->actuator == p.deed->actuator && isStopCommand(*d) && !m_stop.stop_requested())
                tryBoth(p, *d);
    for (const Push& p : pushes(Effect::RunsWhileHeld))
        for (TimeNs held : kTaps)
            if (!m_stop.stop_requested() && tryTap(p, held))
                break;
}

void Trier::tryBoth(const Push& p, const Deed& stop)
{
    const auto held = after(p.before, {p.push});
    const auto s = handOf(stop.hand, stop.action);
    if (!held || !isDriven(*held, p.actuator) || !s || s->slot == p.push.slot || !staysDriven(*held, *s, p.actuator))
        return;
    // Where it does not stop what runs freely either, it is no stop from here.
    const auto free = after(*held, {*faults::wayBack(m_plant, p.push)});
    if (!free || !isDriven(*free, p.actuator) || staysDriven(*free, *s, p.actuator))
        return;
    TrialSeen t = seenBefore(p, What::StartWins);
    t.device = stop.hand;
    t.other = p.deed->hand;
    then(t, p.push);
    then(t, *s);
    keep(std::move(t));
}

bool Trier::tryTap(const Push& p, TimeNs heldNs)
{
    ++m_found.runs;
    State state = p.before;
    std::array<Stimulus, 2> tap{p.push, *faults::wayBack(m_plant, p.push)};
    tap[0].at = state.now;
    tap[1].at = state.now + heldNs;
    Trace trace;
    if (advance(m_plant, state, tap, {state.now + heldNs + kHandNs, m_stop, {}, false}, trace, m_workspace)
        != Pause::Reached)
        return false;
    const Settled r = steadyAfter(m_plant, state, {}, m_workspace, m_stop);
    if (r.pause != Pause::Reached || !isDriven(r.state, p.actuator))
        return false;
    TrialSeen t = seenBefore(p, What::TapCaught);
    t.device = p.deed->hand;
    t.value = static_cast<double>(heldNs) * 1e-9;
    then(t, tap[0]);
    tap[1].at = t.script.back().at + heldNs;
    t.script.push_back(tap[1]);
    keep(std::move(t));
    return true;
}

void Trier::sayWhatServes()
{
    const auto say = [this](DeviceId device, const char* meaning) {
        TrialSeen t;
        t.what = What::Serves;
        t.device = device;
        t.terminal = meaning;
        keep(std::move(t));
    };
    for (const Deed& d : m_behaviour.deeds)
        if (d.action == "press")
            say(d.hand, d.effect == Effect::Stops || d.effect == Effect::StopsWhileHeld ? "stop" : "start");
    for (const LampSeen& l : m_behaviour.lamps)
        if (l.rule == LampSeen::Rule::WhileDriven || l.rule == LampSeen::Rule::WhileNotDriven)
            say(l.lamp, l.rule == LampSeen::Rule::WhileDriven ? "running" : "stopped");
}

} // namespace ts::exploration
