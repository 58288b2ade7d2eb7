#include "core/suggestions/claim_suggestion.h"

#include "core/analysis/stop_run.h"
#include "core/base/at.h"
#include "core/base/check.h"
#include "core/exploration/cone.h"
#include "core/simulation/fault.h"
#include "core/ways/power_ways.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace ts {
namespace {

bool isEncapsulated(const Circuit& circuit, DeviceId id)
{
    const Device* d = circuit.device(id);
    const Reliability* r = d ? circuit.reliabilityOf(*d) : nullptr;
    return r && r->pfhdPerHour;
}

/// No faults of its inside are known: only its maker can say what it brings.
bool isElectronic(const Circuit& circuit, const PlantDevice& device)
{
    return !device.relays.empty() || !device.logics.empty() || isEncapsulated(circuit, device.id);
}

bool isWired(const Plant& plant, int node)
{
    const int net = plant.netOfNode[at(node)];
    return net >= 0 && plant.nets[at(net)].terminals.size() > 1;
}

/// An auxiliary or operated contact with a wire on both sides.
bool isUsedContact(const Plant& plant, const PlantLink& l)
{
    return l.contact.mover >= 0
        && (l.contact.kind == ContactKind::NormallyOpen || l.contact.kind == ContactKind::NormallyClosed)
        && isWired(plant, l.p) && isWired(plant, l.q);
}

class Suggestion {
public:
    Suggestion(const Dossier& dossier, const SafetyFunction& function, const Plant& plant, const StopRun& run,
        std::vector<Stimulus> stimuli, TimeNs demand, std::stop_token stop)
        : m_dossier(dossier)
        , m_function(function)
        , m_plant(plant)
        , m_stimuli(std::move(stimuli))
        , m_demand(demand)
        , m_stop(std::move(stop))
    {
        for (const Event& e : run.run.trace.events)
            if (e.why == Why::Moved && e.at >= demand && e.at <= demand + kReaction)
                m_moved.insert(m_plant.movers[at(e.slot)].device);
        for (int k : plant.actuatorsOf(function.mustRest)) {
            const exploration::Cone cone = exploration::coneOfMotor(plant, k);
            m_cone.insert(cone.movers.begin(), cone.movers.end());
        }
    }

    std::vector<ClaimedSubsystem> chain()
    {
        addSensing();
        addDeciding();
        addSwitching();
        return std::move(m_chain);
    }

private:
    static constexpr TimeNs kReaction = 1'000'000'000; ///< relays and contactors have dropped long before

    void add(std::string name, std::vector<ClaimedChannel> channels)
    {
        ClaimedSubsystem s;
        s.name = std::move(name);
        s.category = channels.size() >= 2 ? safety::Category::Three : safety::Category::B;
        s.channels = std::move(channels);
        m_chain.push_back(std::move(s));
    }

    std::string nameOf(const PlantDevice& device) const
    {
        const Device* d = m_dossier.circuit.device(device.id);
        return d && !d->label.empty() ? d->tag + " " + d->label : device.tag;
    }

    void addSensing()
    {
        for (const PlantDevice& d : m_plant.devices) {
            if (d.id != m_function.trigger.device)
                continue;
            if (isElectronic(m_dossier.circuit, d))
                return addEncapsulated(d);
            const auto action = std::find_if(d.actions.begin(), d.actions.end(),
                [this](const auto& a) { return a.first == m_function.trigger.action; });
            if (action == d.actions.end())
                return;
            const auto [mover, target] = action->second;
            std::vector<ClaimedChannel> channels;
            for (int l : d.links) {
                const PlantLink& link = m_plant.links[at(l)];
                const auto isClosedAt = [&link](std::uint8_t travel) {
                    return ((link.contact.closedAt >> travel) & 1u) != 0;
                };
                if (link.contact.mover == mover && isUsedContact(m_plant, link)
                    && isClosedAt(m_plant.movers[at(mover)].spec.initial) && !isClosedAt(target))
                    channels.push_back({link.role, {{d.id, link.role, {}, {}, {}, 0.0, {}}}});
            }
            // More than two cut different lines, so each is needed: in series, which claims the least.
            while (channels.size() > 2 || (channels.size() == 2 && channels.front().parts.size() > 1)) {
                auto& first = channels.front().parts;
                first.insert(first.end(), channels[1].parts.begin(), channels[1].parts.end());
                channels.erase(channels.begin() + 1);
            }
            if (!channels.empty())
                add(nameOf(d), std::move(channels));
        }
    }

    void addEncapsulated(const PlantDevice& d)
    {
        ClaimedSubsystem s;
        s.name = nameOf(d);
        s.encapsulated = d.id;
        m_chain.push_back(std::move(s));
    }

    /// What stays in takes the stop away: alone, or with one other that stays in too.
    void addDeciding()
    {
        std::vector<int> candidates, redundant;
        for (int device : m_moved) {
            const PlantDevice& d = m_plant.devices[at(device)];
            const bool isInCone = std::any_of(
                d.movers.begin(), d.movers.end(), [this](int m) { return m_cone.contains(m); });
            if (d.id != m_function.trigger.device && isInCone && !hasMainPoles(m_plant, d))
                candidates.push_back(device);
        }
        for (int device : candidates) {
            const PlantDevice& d = m_plant.devices[at(device)];
            if (stopsWithout({device}))
                redundant.push_back(device);
            else if (isElectronic(m_dossier.circuit, d))
                addEncapsulated(d);
            else
                add(nameOf(d), {relayChannel(d)});
        }
        for (std::size_t a = 0; a < redundant.size(); ++a)
            for (std::size_t b = a + 1; b < redundant.size(); ++b) {
                const PlantDevice &first = m_plant.devices[at(redundant[a])],
                                  &second = m_plant.devices[at(redundant[b])];
                if (!isElectronic(m_dossier.circuit, first) && !isElectronic(m_dossier.circuit, second)
                    && !stopsWithout({redundant[a], redundant[b]}))
                    add(first.tag + ", " + second.tag, {relayChannel(first), relayChannel(second)});
            }
    }

    static ClaimedChannel relayChannel(const PlantDevice& d)
    {
        return {d.tag, {{d.id, "armature", {}, {}, {}, 0.0, {}}}};
    }

    /// The demand taken again, with whatever of these devices was in staying in.
    bool stopsWithout(const std::vector<int>& stuck) const
    {
        Workspace workspace;
        Trace trace;
        State state = initialState(m_plant);
        const TimeNs before = std::max<TimeNs>(0, m_demand - 1);
        advance(m_plant, state, m_stimuli, {before, m_stop}, trace, workspace);
        for (std::size_t m = 0; m < m_plant.movers.size(); ++m)
            if (state.travel[m] == 2 && std::find(stuck.begin(), stuck.end(), m_plant.movers[m].device) != stuck.end())
                state.faults.push_back({FaultMode::MoverStuckActuated, static_cast<int>(m)});
        const auto rest = std::find_if(
            m_stimuli.begin(), m_stimuli.end(), [before](const Stimulus& s) { return s.at > before; });
        const auto later = std::find_if(rest, m_stimuli.end(), [this](const Stimulus& s) { return s.at > m_demand; });
        advance(m_plant, state, std::span(rest, later), {m_demand + kReaction, m_stop}, trace, workspace);
        const std::vector<int> resting = m_plant.actuatorsOf(m_function.mustRest);
        return std::none_of(
            resting.begin(), resting.end(), [&](int k) { return state.actuatorMode[at(k)] == MotorMode::Driven; });
    }

    /// Terminals of the motor that still reach a supply with every contactor pulled in but these.
    int fedTerminals(const PlantActuator& motor, const std::set<int>& open) const
    {
        const std::vector<bool> live = liveNodes(m_plant, open);
        return static_cast<int>(
            std::count_if(motor.nodes.begin(), motor.nodes.end(), [&live](int node) { return live[at(node)]; }));
    }

    struct Cut {
        std::vector<int> alone; ///< devices, each of which takes the power
        std::vector<int> together; ///< that do so only with each other
        bool operator<(const Cut& o) const { return std::tie(alone, together) < std::tie(o.alone, o.together); }
    };

    /// What drops with the demand and has a contact in the way of a coil that moves or heats: each takes its power.
    Cut contactsOf(const PlantActuator& output) const
    {
        Cut cut;
        for (int l : exploration::linksOnPaths(m_plant, output.nodes)) {
            const PlantLink& link = m_plant.links[at(l)];
            const bool drops = link.contact.mover >= 0 && dropsWithDemand(link.device)
                && m_plant.movers[at(link.contact.mover)].spec.driver == MoverSpec::Driver::Coil;
            if (drops && std::find(cut.alone.begin(), cut.alone.end(), link.device) == cut.alone.end())
                cut.alone.push_back(link.device);
        }
        std::sort(cut.alone.begin(), cut.alone.end());
        return cut;
    }

    Cut cutOf(const PlantActuator& motor) const
    {
        if (!motor.coils.empty())
            return contactsOf(motor);
        Cut cut;
        std::set<int> others;
        for (std::size_t k = 0; k < m_plant.devices.size(); ++k) {
            const int device = static_cast<int>(k);
            if (!hasMainPoles(m_plant, m_plant.devices[k]))
                continue;
            if (fedTerminals(motor, {device}) < 2)
                cut.alone.push_back(device);
            else
                others.insert(device);
        }
        if (fedTerminals(motor, others) < 2)
            for (int device : others) { // whoever is not needed for it feeds something else
                std::set<int> less = others;
                less.erase(device);
                if (fedTerminals(motor, less) >= 2)
                    cut.together.push_back(device);
            }
        return cut;
    }

    ClaimedChannel channelOf(const std::vector<int>& devices) const
    {
        ClaimedChannel c;
        for (int device : devices) {
            const PlantDevice& d = m_plant.devices[at(device)];
            c.name += (c.name.empty() ? "" : ", ") + d.tag;
            c.parts.push_back({d.id, "main", {}, {}, {}, 0.0, {}});
        }
        return c;
    }

    void addSwitching()
    {
        std::map<Cut, std::vector<std::string>> groups;
        std::vector<Cut> order;
        std::map<int, int> motorsOf; // of a contactor that takes the power alone
        for (int k : m_plant.actuatorsOf(m_function.mustRest)) {
            const PlantActuator& m = m_plant.actuators[at(k)];
            Cut cut = cutOf(m);
            for (int device : cut.alone)
                ++motorsOf[device];
            if (groups[cut].empty())
                order.push_back(cut);
            groups[cut].push_back(m_plant.devices[at(m.device)].tag);
        }
        for (Cut cut : order) {
            // A motor's own contactor before the one that stands before several.
            std::stable_sort(
                cut.alone.begin(), cut.alone.end(), [&motorsOf](int a, int b) { return motorsOf[a] < motorsOf[b]; });
            std::string name;
            for (const std::string& tag : groups[cut])
                name += (name.empty() ? "" : ", ") + tag;
            std::vector<ClaimedChannel> channels;
            for (int device : cut.alone)
                if (channels.size() < 2 && dropsWithDemand(device))
                    channels.push_back(channelOf({device}));
            if (!cut.together.empty() && channels.size() < 2)
                channels.insert(channels.begin(), channelOf(cut.together));
            if (!channels.empty())
                add("contactors of " + name, std::move(channels));
        }
        for (int k : m_plant.actuatorsOf(m_function.mustRest))
            addOutput(m_plant.actuators[at(k)]);
    }

    /// A valve or magnet has a part in the stop itself: its armature must return.
    void addOutput(const PlantActuator& output)
    {
        if (output.coils.empty())
            return;
        const std::string& role = m_plant.movers[at(m_plant.coils[at(output.coils.front())].mover)].spec.role;
        const PlantDevice& d = m_plant.devices[at(output.device)];
        if (role == "armature")
            add(nameOf(d), {{d.tag, {{d.id, role, {}, {}, {}, 0.0, {}}}}});
    }

    /// Those that stay in are no part of the stop.
    bool dropsWithDemand(int device) const { return m_moved.contains(device); }

    const Dossier& m_dossier;
    const SafetyFunction& m_function;
    const Plant& m_plant;
    std::vector<Stimulus> m_stimuli;
    TimeNs m_demand;
    std::stop_token m_stop;
    std::set<int> m_cone; ///< movers that decide whether one of the motors is fed
    std::set<int> m_moved; ///< devices that moved with the demand
    std::vector<ClaimedSubsystem> m_chain;
};

} // namespace

Expected<std::vector<ClaimedSubsystem>> suggestedClaim(
    const Dossier& dossier, const SafetyFunction& function, std::stop_token stop)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    const auto run = stopRun(dossier, function, Timing::Nominal, stop);
    if (!run)
        return Unexpected{run.error()};
    const auto demand = demandTime(
        *plant, run->run.trace, dossier.circuit.device(function.trigger.device)->tag, function.trigger.action);
    TS_CHECK(demand.has_value()); // else there is no run
    auto stimuli = stimuliOf(*plant, *dossier.scenario(std::to_string(function.demandScenario.value)));
    if (!stimuli)
        return Unexpected{stimuli.error()};
    auto chain = Suggestion(dossier, function, *plant, *run, std::move(*stimuli), *demand, stop).chain();
    if (stop.stop_requested())
        return cancelled();
    return chain;
}

std::vector<ClaimedPart> claimableParts(const Circuit& circuit, const Plant& plant)
{
    std::vector<ClaimedPart> parts;
    for (const PlantDevice& d : plant.devices) {
        if (isElectronic(circuit, d))
            continue;
        if (hasMainPoles(plant, d)) {
            parts.push_back({d.id, "main", {}, {}, {}, 0.0, {}});
            continue;
        }
        const bool isRelay = std::any_of(d.movers.begin(), d.movers.end(),
            [&](int m) { return plant.movers[at(m)].spec.driver == MoverSpec::Driver::Coil; });
        if (isRelay)
            parts.push_back({d.id, "armature", {}, {}, {}, 0.0, {}});
        else
            for (int l : d.links)
                if (isUsedContact(plant, plant.links[at(l)]))
                    parts.push_back({d.id, plant.links[at(l)].role, {}, {}, {}, 0.0, {}});
    }
    return parts;
}

std::vector<DeviceId> encapsulatedDevices(const Circuit& circuit, const Plant& plant)
{
    std::vector<DeviceId> devices;
    for (const PlantDevice& d : plant.devices)
        if (isElectronic(circuit, d))
            devices.push_back(d.id);
    return devices;
}

} // namespace ts
