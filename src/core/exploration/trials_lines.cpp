// Where power still is after something has opened: returns behind a fuse, lines on earth, lines held off by
// electronics, lines that are lost and nobody watches, stops that a signalling contact carries.

#include "core/exploration/departure.h"
#include "core/exploration/trier.h"
#include "core/library/registry.h"
#include "core/simulation/conductors.h"

#include <algorithm>

namespace ts::exploration {
namespace {

constexpr double kBondedShare = 0.1; ///< of a coil's voltage: no more between its return side and earth
constexpr double kLetGoShare = 0.2;
constexpr double kTouchableV = 50.0; ///< IEC 60364-4-41; below it an earth fault is the control circuit's own matter
constexpr double kFaultTimes = 10.0; ///< what flowed before: less is no short to earth
constexpr TimeNs kOverloadNs = 600 * kSecondNs; ///< by then an overload that sees a lost line at all has tripped

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
            if (isSemiconductor(m_plant, l) && holdsOff(l.p, l.q))
                t.device = idOf(l.device);
        then(t, *stop);
        keep(std::move(t));
    }
}

void Trier::tryUnwatched(const Running& r)
{
    const bool isWatched = std::any_of(m_plant.logics.begin(), m_plant.logics.end(),
        [](const PlantLogic& l) { return std::holds_alternative<PhaseMonitorLogic>(l.data); });
    if (r.actuator >= m_plant.motors.size() || observe(m_plant, r.state).motors[r.actuator].isFedByDrive)
        return; // a drive makes its own lines
    for (const PlantDevice& d : m_plant.devices) {
        const auto words = losses(m_plant, d.tag);
        if (std::find(words.begin(), words.end(), "exchange") == words.end())
            continue;
        if (!isWatched) // what a monitor misses of losses is another matter (lost_lines.h)
            tryLosses(r, d);
        tryExchange(r, d); // not every monitor looks at the sequence
    }
}

void Trier::tryLosses(const Running& r, const PlantDevice& supply)
{
    for (const std::string& word : losses(m_plant, supply.tag)) {
        if (!word.starts_with("lose_") || m_stop.stop_requested())
            continue;
        const Stimulus lost = stimuliFor(m_plant, supply.tag, word, r.state.now)->front();
        State state = r.state;
        Trace trace;
        ++m_found.runs;
        const Pause pause = advance(
            m_plant, state, {&lost, 1}, {state.now + kOverloadNs, m_stop, {}, false}, trace, m_workspace);
        if (pause != Pause::Reached || state.actuatorFed[r.actuator] < 2 || !isDriven(state, r.actuator))
            continue;
        TrialSeen t = seenIn(r, What::LossUnseen);
        t.terminal = m_plant.knobs[at(lost.slot)].name;
        t.value = static_cast<double>(kOverloadNs) * 1e-9;
        then(t, lost);
        keep(std::move(t));
        return; // one of three is enough
    }
}

void Trier::tryExchange(const Running& r, const PlantDevice& supply)
{
    if (r.deed->direction == 0)
        return;
    const Stimulus exchange = stimuliFor(m_plant, supply.tag, "exchange", 0)->front();
    const State state = stateOf(*r.deed, {exchange});
    if (!isDriven(state, r.actuator) || speedOf(state, r.actuator) * r.deed->direction >= 0)
        return;
    TrialSeen t = seenIn(r, What::SequenceUnseen);
    t.script.insert(t.script.begin(), exchange);
    keep(std::move(t));
}

void Trier::trySignals(const Running& r)
{
    const auto stops = stopsOf(r);
    for (const PlantRelay& relay : m_plant.relays) {
        std::vector<Stimulus> held;
        for (std::size_t l = 0; l < m_plant.links.size(); ++l) {
            const PlantLink& link = m_plant.links[l];
            if (link.device != relay.device || link.contact.kind != ContactKind::NormallyClosed)
                continue;
            held.push_back(
                {0, Stimulus::Kind::PutFault, 0, 0, false, 0, {FaultMode::LinkHeldOpen, static_cast<int>(l)}});
        }
        const auto still = held.empty() ? std::nullopt : after(r.state, held);
        if (!still || !isDriven(*still, r.actuator))
            continue;
        for (const Stop& s : stops) {
            if (protects(m_plant, s.stimulus) == KindTraits::Protects::Nothing
                || !staysDriven(*still, s.stimulus, r.actuator))
                continue;
            TrialSeen t = seenIn(r, What::SignalStops);
            t.device = idOf(relay.device);
            t.other = s.device;
            for (const Stimulus& h : held)
                then(t, h.fault);
            then(t, s.stimulus);
            keep(std::move(t));
        }
    }
}

void Trier::tryReadings(const Running& r)
{
    for (const PlantDevice& d : m_plant.devices)
        for (const auto& [word, what] : d.actions) {
            const auto operated = handOf(d.id, word);
            if (!operated || protects(m_plant, *operated) == KindTraits::Protects::Nothing)
                continue;
            const auto pressed = after(r.state, {*operated});
            if (!pressed || pressed->travel[at(what.first)] != what.second || !isDriven(*pressed, r.actuator))
                continue;
            for (std::size_t l = 0; l < m_plant.lamps.size(); ++l) {
                if (m_plant.lamps[l].data.shows != LampElement::Shows::Input
                    || pressed->lampLit[l] == r.state.lampLit[l])
                    continue;
                TrialSeen t = seenIn(r, What::OnlyRead);
                t.device = d.id;
                t.other = idOf(m_plant.lamps[l].device);
                then(t, *operated);
                keep(std::move(t));
            }
        }
}

} // namespace ts::exploration
