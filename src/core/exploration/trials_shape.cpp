// Shape of the circuit: holds that a contactor stuck in defeats, control on the lines themselves, idle parts.

#include "core/exploration/trier.h"
#include "core/faults/cycle.h"
#include "core/library/registry.h"
#include "core/simulation/conductors.h"

#include <algorithm>

namespace ts::exploration {
namespace {

constexpr std::size_t kMotorsOnTheLines = 1, kDevicesOnTheLines = 2; ///< EN 60204-1 clause 9.1.1

} // namespace

std::vector<int> Trier::contactorsIn(const State& s) const
{
    std::vector<int> in;
    for (const PlantCoil& coil : m_plant.coils)
        if (s.travel[at(coil.mover)] == 2
            && std::any_of(m_plant.links.begin(), m_plant.links.end(), [&](const PlantLink& k) {
                   return k.contact.mover == coil.mover && k.contact.kind == ContactKind::Main;
               }))
            in.push_back(coil.mover);
    return in;
}

void Trier::tryStuck(const Running& r)
{
    const std::vector<int> running = contactorsIn(r.state);
    for (const int mover : running) {
        if (running.size() < 2 || m_stop.stop_requested())
            break;
        const Fault stuck{FaultMode::MoverStuckActuated, mover};
        const auto in = with(r.state, stuck);
        if (!in || !isDriven(*in, r.actuator))
            continue;
        for (const Deed* d : m_stops) {
            const auto push = d->actuator == r.deed->actuator ? handOf(d->hand, d->action) : std::nullopt;
            const auto release = push ? faults::wayBack(m_plant, *push) : std::nullopt;
            const auto stopped = release ? after(*in, {*push}) : std::nullopt;
            // Another contactor takes the power from it: two are there so that one may stay in.
            if (!stopped || isDriven(*stopped, r.actuator) || stopped->actuatorFed[r.actuator] != 0
                || contactorsIn(*stopped).size() == running.size() || !staysDriven(*stopped, *release, r.actuator))
                continue;
            TrialSeen t = seenIn(r, What::StuckRestarts);
            t.device = idOf(m_plant.movers[at(mover)].device);
            t.other = d->hand;
            then(t, stuck);
            then(t, *push);
            then(t, *release);
            keep(std::move(t));
        }
    }
}

std::vector<std::uint8_t> Trier::onTheLines(const State& s, Through through) const
{
    std::vector<int> lines;
    for (const PlantSource& source : m_plant.sources)
        if (source.nominalV > 0)
            lines.push_back(source.p);
    const bool isAcross = through == Through::Electronics;
    return joinedNodes(m_plant, observe(m_plant, s), lines, {isAcross, isAcross, false, false});
}

/// Push buttons are one station.
std::size_t Trier::controlDevicesAmong(const std::vector<std::uint8_t>& nodes) const
{
    std::set<int> devices;
    bool hasStation = false;
    for (const PlantLink& l : m_plant.links) {
        const bool isByHand = l.device >= 0 && l.contact.mover >= 0 && l.contact.kind != ContactKind::Main
            && l.contact.kind != ContactKind::Pole
            && m_plant.movers[at(l.contact.mover)].spec.driver == MoverSpec::Driver::Operator
            && !m_plant.devices[at(l.device)].actions.empty();
        if (!isByHand || (nodes[at(l.p)] == 0 && nodes[at(l.q)] == 0))
            continue;
        const PlantDevice& device = m_plant.devices[at(l.device)];
        const bool isButton = deviceKind(device.kind)->traits.protects == KindTraits::Protects::Nothing
            && stimulusFor(m_plant, device.tag, "press", 0);
        hasStation |= isButton;
        if (!isButton)
            devices.insert(l.device);
    }
    return devices.size() + (hasStation ? 1 : 0);
}

void Trier::readSeparation(const Running& r)
{
    const auto reached = onTheLines(r.state);
    const auto coil = std::find_if(m_plant.coils.begin(), m_plant.coils.end(), [&](const PlantCoil& c) {
        const PlantImpedance& z = m_plant.impedances[at(c.impedance)];
        return c.data.hasBand && r.state.travel[at(c.mover)] == 2 && (reached[at(z.p)] != 0 || reached[at(z.q)] != 0);
    });
    if (coil == m_plant.coils.end())
        return;
    const std::size_t motors = m_plant.motors.size(), devices = controlDevicesAmong(reached);
    if (motors <= kMotorsOnTheLines && devices <= kDevicesOnTheLines)
        return;
    TrialSeen t = seenIn(r, What::Unseparated);
    t.actuator = {}; // of the machine, once
    t.device = idOf(m_plant.movers[at(coil->mover)].device);
    t.terminal = motors > kMotorsOnTheLines ? "motors" : "devices";
    t.value = static_cast<double>(motors > kMotorsOnTheLines ? motors : devices);
    if (std::none_of(
            m_found.seen.begin(), m_found.seen.end(), [](const TrialSeen& s) { return s.what == What::Unseparated; }))
        keep(std::move(t));
}

void Trier::lookForIdle()
{
    if (m_found.leftOut > 0 || m_running.empty())
        return;
    for (const PlantCoil& coil : m_plant.coils) {
        if (m_moved.empty() || m_moved[at(coil.mover)] != 0)
            continue;
        TrialSeen t;
        t.what = What::NeverPulls;
        t.device = idOf(m_plant.movers[at(coil.mover)].device);
        keep(std::move(t));
    }
    for (std::size_t l = 0; l < m_lit.size(); ++l) {
        if (m_lit[l] != 0 || m_plant.lamps[l].data.shows == LampElement::Shows::Input)
            continue;
        TrialSeen t;
        t.what = What::NeverLit;
        t.device = idOf(m_plant.lamps[l].device);
        keep(std::move(t));
    }
}

} // namespace ts::exploration
