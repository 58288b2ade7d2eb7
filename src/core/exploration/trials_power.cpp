// Power circuit: overloads, disconnection, frames, voltage, directions.

#include "core/exploration/trier.h"
#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <cmath>

namespace ts::exploration {
namespace {

constexpr double kTouchV = 50.0; ///< IEC 60364-4-41: what a person may touch for long
constexpr TimeNs kDisconnectedNs = 5 * kSecondNs; ///< IEC 60364-4-41 clause 411.3.2: machines that stand fixed
constexpr double kCarriesShare = 0.2; ///< of the motor's current: a protection in its lines, or inside its delta
constexpr double kVoltageBand = 0.1; ///< IEC 60034-1 clause 7.3, zone B

} // namespace

Stimulus Trier::tripOf(int protection) const
{
    const Protection& p = m_plant.protections[at(protection)].data;
    return {0, Stimulus::Kind::Drive, p.mover, p.trippedTravel, false, 0, {}};
}

std::vector<int> Trier::carriersOf(const Running& r) const
{
    std::vector<int> carriers;
    if (r.actuator >= m_plant.motors.size())
        return carriers;
    const Frame frame = observe(m_plant, r.state);
    const auto& currents = frame.motors[r.actuator].currentA;
    const double least = kCarriesShare * *std::max_element(currents.begin(), currents.end());
    std::set<int> devices;
    for (std::size_t p = 0; p < m_plant.protections.size(); ++p) {
        const PlantProtection& protection = m_plant.protections[p];
        const auto& poles = protection.data.poles;
        const bool carries = protection.data.law == Protection::Law::Thermal && !poles.empty()
            && std::all_of(poles.begin(), poles.end(), [&](int l) { return frame.links[at(l)].rmsA() > least; });
        if (carries && least > 0 && devices.insert(protection.device).second)
            carriers.push_back(static_cast<int>(p));
    }
    return carriers;
}

void Trier::tryOverloads(const Running& r)
{
    if (r.actuator >= m_plant.motors.size() || observe(m_plant, r.state).motors[r.actuator].isFedByDrive)
        return; // a drive watches its motor itself
    const std::vector<int> carriers = carriersOf(r);
    if (carriers.empty())
        keep(seenIn(r, What::NoOverload));
    for (int p : carriers) {
        const auto tripped = after(r.state, {tripOf(p)});
        if (!tripped)
            continue;
        TrialSeen t = seenIn(r, What::OverloadKept);
        t.device = idOf(m_plant.protections[at(p)].device);
        then(t, tripOf(p));
        if (isDriven(*tripped, r.actuator)) {
            keep(t);
            continue;
        }
        t.what = What::TripUnseen;
        std::vector<State> ordinary{replayed({}, 2 * kSecondNs)}; // never yet started, and stopped by hand
        for (const Deed* d : m_stops)
            if (d->actuator == r.deed->actuator)
                if (auto stopped = with(r.state, d->hand, d->action))
                    ordinary.push_back(std::move(*stopped));
        const bool isShown = std::all_of(
            ordinary.begin(), ordinary.end(), [&](const State& o) { return o.lampLit != tripped->lampLit; });
        if (!m_plant.lamps.empty() && !isShown)
            keep(t);
        std::set<std::size_t> changed;
        for (std::size_t l = 0; l < m_plant.lamps.size(); ++l)
            if (tripped->lampLit[l] != ordinary.back().lampLit[l])
                changed.insert(l);
        if (!changed.empty())
            m_trips.push_back({std::move(changed), t});
    }
}

void Trier::compareTrips()
{
    for (auto a = m_trips.begin(); a != m_trips.end(); ++a)
        for (auto b = m_trips.begin(); b != a; ++b) {
            if (a->lamps != b->lamps || a->seen.device == b->seen.device)
                continue;
            a->seen.what = What::TripsAlike;
            a->seen.other = b->seen.device;
            keep(a->seen);
            break; // one of those before it is enough
        }
}

void Trier::tryDisconnectors(const Running& r)
{
    for (const PlantDevice& d : m_plant.devices)
        for (const auto& [word, what] : d.actions) {
            const int mover = what.first;
            const bool isSwitch = std::any_of(d.links.begin(), d.links.end(), [&](int l) {
                const ContactElement& c = m_plant.links[at(l)].contact;
                return c.mover == mover && (c.kind == ContactKind::Main || c.kind == ContactKind::Pole);
            });
            if (!isSwitch || m_plant.movers[at(mover)].spec.driver == MoverSpec::Driver::Coil)
                continue;
            const auto off = with(r.state, d.id, word);
            if (off && off->actuatorFed[r.actuator] == 0)
                return;
        }
    keep(seenIn(r, What::NoDisconnector));
}

void Trier::tryFrame(const Running& r)
{
    if (r.actuator >= m_plant.motors.size())
        return;
    const PlantMotor& motor = m_plant.motors[r.actuator];
    const int frame = m_plant.terminalIndex(m_plant.devices[at(motor.device)].tag, "PE");
    if (frame < 0)
        return;
    const int node = m_plant.terminals[at(frame)].node;
    State state = r.state;
    Trace trace;
    ++m_found.runs;
    const Stimulus touch{state.now, Stimulus::Kind::PutFault, 0, 0, false, 0, {FaultMode::Short, motor.nodes[0], node}};
    if (advance(m_plant, state, {&touch, 1}, {state.now + kDisconnectedNs, m_stop, {}, false}, trace, m_workspace)
        != Pause::Reached)
        return;
    const double volts = std::abs(observe(m_plant, state).nodes[at(node)].alternatingV);
    if (volts <= kTouchV)
        return;
    TrialSeen t = seenIn(r, What::FrameLive);
    t.value = volts;
    then(t, touch.fault);
    keep(std::move(t));
}

void Trier::readVoltage(const Running& r)
{
    if (r.actuator >= m_plant.motors.size())
        return;
    const PlantMotor& motor = m_plant.motors[r.actuator];
    const Device* device = m_circuit.device(r.deed->actuator);
    const auto parameters = parametersOf(m_circuit, *device);
    const Frame frame = observe(m_plant, r.state);
    if (!parameters || frame.motors[r.actuator].isFedByDrive)
        return;
    const bool six = motor.data.sixTerminal;
    const double rated = parameters->number("voltage_v") / (six && motor.data.starWindings ? std::sqrt(3.0) : 1.0);
    const auto at3 = [&](int k) { return frame.nodes[at(motor.nodes[at(k)])].alternatingV; };
    const double volts = std::abs(at3(0) - at3(six ? 3 : 1));
    if (std::abs(volts / rated - 1.0) <= kVoltageBand)
        return;
    TrialSeen t = seenIn(r, What::MotorVoltage);
    t.value = volts;
    t.terminal = shortestText(std::round(rated));
    keep(std::move(t));
}

std::set<int> Trier::pulledIn(const State& s) const
{
    std::set<int> in;
    for (const PlantLink& l : m_plant.links)
        if (l.contact.kind == ContactKind::Main && l.contact.mover >= 0
            && m_plant.movers[at(l.contact.mover)].spec.driver == MoverSpec::Driver::Coil
            && s.travel[at(l.contact.mover)] == 2)
            in.insert(l.contact.mover);
    return in;
}

DeviceId Trier::firstBeyond(const std::set<int>& a, const std::set<int>& b) const
{
    for (int mover : a)
        if (!b.contains(mover))
            return idOf(m_plant.movers[at(mover)].device);
    return {};
}

void Trier::tryDirections()
{
    std::vector<Running> all;
    for (const Deed& d : m_behaviour.deeds)
        if (d.effect == Effect::Starts || d.effect == Effect::RunsWhileHeld)
            if (Running r{&d, slotOf(d.actuator), stateOf(d)}; isDriven(r.state, r.actuator))
                all.push_back(std::move(r));
    for (std::size_t a = 0; a < all.size(); ++a)
        for (std::size_t b = a + 1; b < all.size() && !m_stop.stop_requested(); ++b) {
            if (all[a].actuator != all[b].actuator)
                continue;
            if (all[a].deed->direction == all[b].deed->direction) {
                compareDirections(all[a], all[b]);
            } else {
                tryTogether(all[a], all[b]);
                tryTurning(all[a], all[b]);
                tryTurning(all[b], all[a]);
            }
        }
}

void Trier::compareDirections(const Running& a, const Running& b)
{
    const auto inA = pulledIn(a.state), inB = pulledIn(b.state);
    TrialSeen t = seenIn(b, What::SameDirection);
    t.device = firstBeyond(inA, inB);
    t.other = firstBeyond(inB, inA);
    if (t.device && t.other && a.deed->direction != 0)
        keep(std::move(t));
}

void Trier::tryTogether(const Running& a, const Running& b)
{
    const auto first = handOf(a.deed->hand, a.deed->action), second = handOf(b.deed->hand, b.deed->action);
    if (!first || !second || first->slot == second->slot)
        return;
    const Done* push = pushOf(m_plant, *a.deed);
    if (!push)
        return;
    const State before = replayed(std::span(a.deed->way).first(a.deed->way.size() - 2), push->at - 1);
    const auto one = after(before, {*first});
    const auto both = one ? after(*one, {*second}) : std::nullopt;
    if (!both)
        return;
    const Frame frame = observe(m_plant, *both);
    for (std::size_t c = 0; c < m_plant.coils.size(); ++c) {
        const int mover = m_plant.coils[c].mover;
        const bool isKept = both->travel[at(mover)] != 2 && !m_plant.movers[at(mover)].partners.empty();
        if (frame.coilShare[c] < kPulledShare || !isKept)
            continue;
        TrialSeen t = seenBefore({a.deed, a.actuator, *first, {}}, What::HeldOut);
        then(t, *first);
        then(t, *second);
        t.device = idOf(m_plant.movers[at(mover)].device);
        keep(std::move(t));
    }
}

} // namespace ts::exploration
