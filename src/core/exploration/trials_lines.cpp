// Where power still is after something has opened: returns behind a fuse, lines on earth, lines held off by
// electronics.

#include "core/exploration/departure.h"
#include "core/exploration/trier.h"
#include "core/library/registry.h"

#include <algorithm>

namespace ts::exploration {
namespace {

constexpr double kBondedShare = 0.1; ///< of a coil's voltage: no more between its return side and earth
constexpr double kLetGoShare = 0.2;
constexpr double kTouchableV = 50.0; ///< IEC 60364-4-41; below it an earth fault is the control circuit's own matter
constexpr double kFaultTimes = 10.0; ///< what flowed before: less is no short to earth

} // namespace

void Trier::tryReturns(const Running& r)
{
    const auto volts = [](const Frame& frame, int node) {
        const NodeReading& n = frame.nodes[at(node)];
        return std::abs(n.alternatingV) + std::abs(n.directV);
    };
    const Frame before = observe(m_plant, r.state);
    std::set<int> told;
    for (std::size_t c = 0; c < m_plant.coils.size(); ++c) {
        const PlantImpedance& coil = m_plant.impedances[at(m_plant.coils[c].impedance)];
        if (before.coilShare[c] < kPulledShare)
            continue;
        // Held in, so that a hold of its own does not take the live side away as soon as it drops.
        const Fault stuck{FaultMode::MoverStuckActuated, m_plant.coils[c].mover};
        const auto in = with(r.state, stuck);
        const double across = std::max(volts(before, coil.p), volts(before, coil.q));
        for (std::size_t p = 0; in && p < m_plant.protections.size() && !m_stop.stop_requested(); ++p) {
            const PlantProtection& protection = m_plant.protections[p];
            if (protection.data.law == Protection::Law::Thermal || protection.data.poles.empty()
                || told.contains(protection.device))
                continue; // its auxiliary contact is another matter: an earth fault there is tried by itself
            const auto opened = after(*in, {tripOf(static_cast<int>(p))});
            if (!opened)
                continue;
            const Frame now = observe(m_plant, *opened);
            const auto isReturn = [&](int node) {
                return volts(before, node) < kBondedShare * across && volts(now, node) > kPulledShare * across;
            };
            if (now.coilShare[c] > kLetGoShare || (!isReturn(coil.p) && !isReturn(coil.q)))
                continue;
            told.insert(protection.device);
            TrialSeen t = seenIn(r, What::ReturnLive);
            t.actuator = {}; // one for the device
            t.device = idOf(protection.device);
            t.other = idOf(coil.device);
            t.value = across;
            then(t, stuck);
            then(t, tripOf(static_cast<int>(p)));
            keep(std::move(t));
        }
    }
}

void Trier::tryEarthedLines(const Running& r)
{
    std::vector<std::pair<int, int>> ends; // node, device
    for (const PlantTransformer& t : m_plant.transformers)
        if (t.data.nominalSecondaryV > 0)
            ends.insert(ends.end(), {{t.p1, t.device}, {t.p2, t.device}});
    for (const PlantConverter* c : m_plant.supplies())
        ends.insert(ends.end(), {{c->inputP, c->device}, {c->inputQ, c->device}});
    const Frame before = observe(m_plant, r.state);
    const auto largestAt = [this](const Frame& frame, int node) {
        const int net = m_plant.netOfNode[at(node)];
        return net < 0 ? 0.0 : frame.netsA[at(net)];
    };
    for (const auto& [node, device] : ends) {
        if (std::abs(before.nodes[at(node)].alternatingV) < kTouchableV || m_stop.stop_requested())
            continue;
        const Fault earth{FaultMode::Short, node, 0};
        const auto earthed = with(r.state, earth);
        if (!earthed)
            continue;
        const double flows = largestAt(observe(m_plant, *earthed), node);
        if (flows < kFaultTimes * largestAt(before, node))
            continue;
        TrialSeen t = seenIn(r, What::EarthStays);
        t.actuator = {};
        t.device = idOf(device);
        t.terminal = m_plant.nameOfNode(node);
        t.value = flows;
        then(t, earth);
        keep(std::move(t));
    }
}

void Trier::tryElectronics(const Running& r)
{
    const std::vector<int>& leads = m_plant.actuators[r.actuator].nodes;
    const auto comesTo = [&leads](const std::vector<std::uint8_t>& nodes) {
        return std::any_of(leads.begin(), leads.end(), [&](int n) { return nodes[at(n)] != 0; });
    };
    for (const Deed* d : m_stops) {
        const auto stop = d->actuator == r.deed->actuator ? handOf(d->hand, d->action) : std::nullopt;
        if (!stop || protects(m_plant, *stop) == KindTraits::Protects::Nothing)
            continue;
        const auto stopped = after(r.state, {*stop});
        const auto metal = stopped ? onTheLines(*stopped) : std::vector<std::uint8_t>{};
        if (!stopped || isDriven(*stopped, r.actuator) || comesTo(metal)
            || !comesTo(onTheLines(*stopped, Through::Electronics)))
            continue;
        TrialSeen t = seenIn(r, What::OnlyElectronics);
        t.other = d->hand;
        const auto holdsOff = [&](int p, int q) { return metal[at(p)] != metal[at(q)]; };
        for (const PlantVariable& v : m_plant.variables)
            if (holdsOff(v.p, v.q))
                t.device = idOf(v.device);
        for (const PlantLink& l : m_plant.links)
            if (isSemiconductor(l) && holdsOff(l.p, l.q))
                t.device = idOf(l.device);
        then(t, *stop);
        keep(std::move(t));
    }
}

} // namespace ts::exploration
