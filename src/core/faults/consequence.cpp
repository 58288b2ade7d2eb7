#include "core/faults/consequence.h"

#include "core/base/at.h"
#include "core/faults/parallel.h"
#include "core/library/table.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/circuits.h"
#include "core/simulation/frame.h"
#include "core/simulation/motion.h"

#include <algorithm>
#include <array>
#include <limits>
#include <map>
#include <set>
#include <span>

namespace ts::faults {
namespace {

constexpr double kNever = std::numeric_limits<double>::max();

double largestFuseA(const PlantDevice& device)
{
    static const double output = deviceDefault("safety relay", "output_short_circuit_fuse").high;
    static const double contact = deviceDefault("control contact", "largest_fuse").high;
    return device.relays.empty() ? contact : output;
}

/// How long a gG element of this size would stand a current.
double fuseTimeS(double ratedA, double currentA)
{
    if (currentA <= ratedA)
        return kNever;
    return clearingTimeS(ggCurve(ratedA, Timing::Nominal), currentA).value_or(kNever);
}

/// How long the current through a protective pole lasts.
double clearingTimeS(const Protection& p, double currentA)
{
    switch (p.law) {
    case Protection::Law::Melting:
        return clearingTimeS(p.melting, currentA).value_or(kNever);
    case Protection::Law::Magnetic:
        return currentA >= p.limit * p.ratedA ? p.latchS : kNever;
    case Protection::Law::Thermal:
        return kNever; // it opens a contact of the control circuit, not this current
    }
    return kNever;
}

bool letsFlow(const Fault& f)
{
    return f.mode == FaultMode::Short || f.mode == FaultMode::ImpedanceShorted;
}

bool isControlContact(const PlantLink& l)
{
    return !l.role.empty()
        && (l.contact.kind == ContactKind::NormallyOpen || l.contact.kind == ContactKind::NormallyClosed);
}

/// The soonest by which a pole that carries about this current clears it.
double clearedAfterS(const Plant& plant, const Frame& frame, double currentA)
{
    double soonest = kNever;
    for (const PlantProtection& p : plant.protections)
        for (int pole : p.data.poles)
            if (const double i = frame.links[at(pole)].rmsA(); i >= 0.5 * currentA)
                soonest = std::min(soonest, clearingTimeS(p.data, i));
    return soonest;
}

/// A moment later: supplies have gone into their limit, but nothing has moved yet.
State afterFault(const Plant& plant, State state, const std::vector<Fault>& faults, Workspace& workspace)
{
    constexpr TimeNs kMoment = 100'000; // 0.1 ms
    std::vector<Stimulus> put;
    for (const Fault& f : faults) {
        Stimulus s;
        s.at = state.now + 1;
        s.kind = Stimulus::Kind::PutFault;
        s.fault = f;
        put.push_back(s);
    }
    Trace trace;
    Limits limits{state.now + kMoment};
    limits.findsCauses = false;
    advance(plant, state, put, limits, trace, workspace);
    return state;
}

} // namespace

namespace {

/// Adds half of what elements bring to the joined nodes, the most that a link among them can carry.
void addThrough(const network::Network& n, const network::ElementCurrents& currents, network::DisjointSets& joined,
    std::vector<double>& amperes)
{
    std::vector<Complex> injection;
    network::nodeInjections(n, currents, injection);
    for (int node = 0; node < n.nodeCount; ++node)
        amperes[at(joined.find(node))] += 0.5 * network::magnitude(injection[at(node)]);
}

/// Whether so much current comes to a closed control contact that it could be overloaded: told without sharing it among
/// the contacts.
bool mayOverload(const Plant& plant, const State& state, Workspace& workspace)
{
    constexpr double kSurely = 0.99; // what is left out of a workspace's circuit carries nothing of note
    const Overlay overlay = overlayOf(plant, state.faults);
    const std::vector<double> slips = slipsAt(plant, state, state.now);
    const Instant instant = solveInstant(plant, state, overlay, slips, workspace);
    const AlternatingCircuit& ac = *instant.electrics.alternating;
    network::DisjointSets joined(plant.nodeCount);
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (isClosed(plant.links[l], l, state, overlay))
            joined.join(plant.links[l].p, plant.links[l].q);
    for (const auto& [a, b] : overlay.shorts)
        joined.join(a, b);
    network::ElementCurrents currents;
    network::elementCurrents(ac.network, ac.prepared, instant.alternating->solution, slips, currents);
    std::vector<double> amperes(at(plant.nodeCount), 0.0);
    addThrough(ac.network, currents, joined, amperes);
    addThrough(instant.electrics.direct->network, instant.electrics.direct->currents, joined, amperes);
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (isControlContact(plant.links[l]) && isClosed(plant.links[l], l, state, overlay)
            && amperes[at(joined.find(plant.links[l].p))]
                > kSurely * largestFuseA(plant.devices[at(plant.links[l].device)]))
            return true;
    return false;
}

} // namespace

std::vector<int> overloadedContacts(const Plant& plant, const State& state, Workspace& workspace)
{
    std::vector<int> overloaded;
    if (!mayOverload(plant, state, workspace))
        return overloaded;
    const Frame frame = observe(plant, state);
    for (std::size_t l = 0; l < plant.links.size(); ++l) {
        if (!isControlContact(plant.links[l]) || !frame.links[l].closed)
            continue;
        const double current = frame.links[l].rmsA(),
                     stands = fuseTimeS(largestFuseA(plant.devices[at(plant.links[l].device)]), current);
        if (stands < kNever && clearedAfterS(plant, frame, current) > stands)
            overloaded.push_back(static_cast<int>(l));
    }
    return overloaded;
}

namespace {

/// The healthy circuit when a fault comes.
struct Before {
    State state;
    Frame frame;
};

Before beforeOf(const Context& c, Moment moment)
{
    const TimeNs when = c.cycle.at(moment);
    const auto frame = std::find_if(
        c.times.begin(), c.times.end(), [when](const FrameTime& t) { return t.at == when; });
    const State& state = *c.base.frames[static_cast<std::size_t>(frame - c.times.begin())];
    return {state, observe(c.plant, state)};
}

/// A short between nodes of one voltage carries nothing.
bool carriesNothing(const Frame& frame, const Fault& f)
{
    constexpr double kNoV = 1e-6;
    if (f.mode != FaultMode::Short)
        return false;
    const NodeReading &a = frame.nodes[at(f.at)], &b = frame.nodes[at(f.with)];
    return std::abs(a.alternatingV - b.alternatingV) < kNoV && std::abs(a.directV - b.directV) < kNoV;
}

/// Contacts that the fault's current welds.
std::vector<int> weldsOf(
    const Plant& plant, std::span<const Before> moments, const std::vector<Fault>& faults, Workspace& workspace)
{
    std::set<int> welds;
    for (const Before& before : moments) {
        if (std::all_of(faults.begin(), faults.end(), [&](const Fault& f) { return carriesNothing(before.frame, f); }))
            continue;
        const std::vector<int> overloaded = overloadedContacts(
            plant, afterFault(plant, before.state, faults, workspace), workspace);
        welds.insert(overloaded.begin(), overloaded.end());
    }
    return {welds.begin(), welds.end()};
}

} // namespace

bool addConsequences(
    const Context& c, const SameFault& same, std::vector<SweptFault>& faults, int threads, std::stop_token stop)
{
    std::map<std::vector<std::uint64_t>, std::vector<std::size_t>> alike;
    for (std::size_t k = 0; k < faults.size(); ++k)
        if (const SweptFault& f = faults[k]; !f.isExcluded && !f.variants.empty()
            && std::any_of(f.variants.front().begin(), f.variants.front().end(), letsFlow))
            alike[same.essence(f)].push_back(k);
    std::vector<std::vector<std::size_t>> tried;
    tried.reserve(alike.size());
    for (auto& [essence, places] : alike)
        tried.push_back(std::move(places));
    const std::array<Before, 2> moments{beforeOf(c, Moment::AtRest), beforeOf(c, Moment::JustBefore)};
    const auto weld = [](SweptFault& fault) {
        if (fault.welds.empty())
            return;
        fault.variants.push_back(fault.variants.front());
        for (int l : fault.welds)
            fault.variants.back().push_back({FaultMode::LinkHeldClosed, l});
    };
    const auto job = [&](std::size_t k, Workspace& workspace) {
        SweptFault& first = faults[tried[k].front()];
        first.welds = weldsOf(c.plant, moments, first.variants.front(), workspace);
        for (std::size_t other : tried[k])
            if (other != tried[k].front())
                faults[other].welds = same.weldsOf(faults[other], first);
        for (std::size_t each : tried[k])
            weld(faults[each]);
    };
    return forEachIndex(tried.size(), threads, job, std::move(stop), c.memory);
}

} // namespace ts::faults
