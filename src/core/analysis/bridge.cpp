#include "core/analysis/bridge.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/frame.h"

#include <algorithm>
#include <set>

namespace ts {
namespace {

constexpr TimeNs kSwitchedOnNs = 2'000'000'000, kWatchedNs = 10'000'000'000;

class Bridge {
public:
    Bridge(const Dossier& dossier, const Plant& plant, int p, int q)
        : m_dossier(dossier)
        , m_plant(plant)
        , m_p(p)
        , m_q(q)
    {
    }

    BridgeCost cost()
    {
        BridgeCost cost;
        cost.isJoined = areJoined({});
        if (cost.isJoined)
            return cost;
        findContacts(cost);
        runOnce(cost);
        return cost;
    }

private:
    static bool isPole(const PlantLink& l) { return l.contact.kind == ContactKind::Pole && l.contact.mover >= 0; }
    DeviceId idOf(int device) const { return m_plant.devices[at(device)].id; }

    /// Over wires, and over these contacts.
    bool areJoined(const std::set<int>& contacts) const
    {
        network::DisjointSets sets(m_plant.nodeCount);
        joinWires(sets);
        for (const int l : contacts)
            sets.join(m_plant.links[at(l)].p, m_plant.links[at(l)].q);
        return sets.find(m_p) == sets.find(m_q);
    }

    void joinWires(network::DisjointSets& sets) const
    {
        for (const PlantWire& w : m_plant.wires)
            sets.join(w.p, w.q);
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0 && l.contact.mover < 0)
                sets.join(l.p, l.q); // nothing opens it
    }

    /// Contacts without which the others do not join the two: they stand in series between them.
    void findContacts(BridgeCost& cost) const
    {
        std::set<int> all;
        for (std::size_t l = 0; l < m_plant.links.size(); ++l)
            if (m_plant.links[l].device >= 0 && m_plant.links[l].contact.mover >= 0)
                all.insert(static_cast<int>(l));
        if (!areJoined(all))
            return;
        for (const int l : all) {
            std::set<int> others = all;
            others.erase(l);
            if (areJoined(others))
                continue;
            const PlantLink& link = m_plant.links[at(l)];
            cost.contacts.emplace_back(idOf(link.device), link.role);
            if (isPole(link) && isProtective(link.device))
                cost.protections.push_back(protectionOf(link));
        }
    }

    bool isProtective(int device) const { return !m_plant.devices[at(device)].protections.empty(); }

    /// What hangs on its side away from the supply. Which side that is, the lines say.
    BridgedProtection protectionOf(const PlantLink& pole) const
    {
        network::DisjointSets sets(m_plant.nodeCount);
        joinWires(sets);
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0 && l.contact.mover >= 0 && !(isPole(l) && isProtective(l.device)))
                sets.join(l.p, l.q);
        const auto isAtSource = [&](int node) {
            return std::any_of(m_plant.sources.begin(), m_plant.sources.end(),
                [&](const PlantSource& s) { return sets.find(s.p) == sets.find(node); });
        };
        const int behind = sets.find(isAtSource(pole.p) || !isAtSource(pole.q) ? pole.q : pole.p);
        BridgedProtection b{idOf(pole.device), pole.role, {}, {}, 0};
        std::set<DeviceId> devices;
        for (const PlantWire& w : m_plant.wires)
            if (sets.find(w.p) == behind) {
                b.wires.push_back(w.id);
                if (const Wire* wire = m_dossier.circuit.wire(w.id);
                    wire && (b.thinnestMm2 == 0 || wire->areaMm2 < b.thinnestMm2))
                    b.thinnestMm2 = wire->areaMm2;
            }
        for (const PlantTerminal& t : m_plant.terminals)
            if (!t.inner && sets.find(t.node) == behind && t.device != pole.device)
                devices.insert(idOf(t.device));
        b.devices.assign(devices.begin(), devices.end());
        return b;
    }

    /// Switched on, and then the bridge put in.
    void runOnce(BridgeCost& cost) const
    {
        State state = initialState(m_plant);
        Trace trace;
        Workspace workspace;
        if (advance(m_plant, state, {}, {kSwitchedOnNs}, trace, workspace) != Pause::Reached)
            return;
        const Frame frame = observe(m_plant, state);
        const NodeReading &p = frame.nodes[at(m_p)], &q = frame.nodes[at(m_q)];
        if ((!p.floating && !q.floating) || p.isJoinedWith(q))
            cost.volts = std::max(std::abs(p.alternatingV - q.alternatingV), std::abs(p.directV - q.directV));
        const std::vector<std::uint8_t> before = state.travel;
        Stimulus bridge;
        bridge.at = state.now;
        bridge.kind = Stimulus::Kind::PutFault;
        bridge.fault = {FaultMode::Short, m_p, m_q};
        advance(m_plant, state, std::vector{bridge}, {kSwitchedOnNs + kWatchedNs}, trace, workspace);
        std::set<DeviceId> tripped;
        for (const PlantProtection& x : m_plant.protections)
            if (x.data.winding < 0 && state.travel[at(x.data.mover)] == x.data.trippedTravel
                && before[at(x.data.mover)] != x.data.trippedTravel)
                tripped.insert(idOf(x.device));
        cost.givesWay.assign(tripped.begin(), tripped.end());
    }

    const Dossier& m_dossier;
    const Plant& m_plant;
    int m_p, m_q;
};

/// A terminal by "S10:21".
Expected<TerminalRef> terminalIn(const Circuit& circuit, const Plant& plant, const std::string& text)
{
    const std::size_t colon = std::min(text.find(':'), text.size());
    const std::string tag = text.substr(0, colon), marking = text.substr(std::min(colon + 1, text.size()));
    const Device* device = circuit.device(tag);
    if (!device || plant.terminalIndex(tag, marking) < 0)
        return failure(ErrorCode::NotFound, message("test.unknown", {text}));
    return TerminalRef{device->id, marking};
}

std::set<std::string> losingOf(const faults::Sweep& sweep)
{
    std::set<std::string> losing;
    for (std::size_t k = 0; k < sweep.faults.size(); ++k)
        if (const faults::Outcome o = sweep.outcomes[k].overall;
            !sweep.faults[k].isExcluded && (o == faults::Outcome::Lost || o == faults::Outcome::Undecided))
            losing.insert(sweep.faults[k].id);
    return losing;
}

BridgedFunction compared(
    const Dossier& before, const Dossier& after, const SafetyFunction& function, const std::stop_token& stop)
{
    faults::SweepOptions options;
    options.withPairs = options.withLimits = options.withExcluded = false;
    BridgedFunction b;
    b.function = function.id;
    const auto without = faultAnalysis(before, function, options, {}, stop);
    if (!without) {
        b.why = without.error().message;
        return b;
    }
    b.before = without->atMost;
    const auto with = faultAnalysis(after, function, options, {}, stop);
    if (!with) {
        b.isLost = true; // it was not without
        b.why = with.error().message;
        return b;
    }
    b.after = with->atMost;
    const auto were = losingOf(without->sweep), are = losingOf(with->sweep);
    const std::string itself = "wire/" + std::to_string(after.circuit.wires.back().id.value) + ":open";
    for (const bool isShort : {false, true})
        for (const faults::SweptFault& f : with->sweep.faults)
            if (f.id != itself && are.contains(f.id) && !were.contains(f.id)
                && (f.family == faults::Family::Short) == isShort)
                b.losing.push_back({f.id, faults::messageOf(f, after.circuit)});
    return b;
}

} // namespace

Expected<Dossier> withBridge(const Dossier& dossier, const std::string& from, const std::string& to)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    const auto a = terminalIn(dossier.circuit, *plant, from), b = terminalIn(dossier.circuit, *plant, to);
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    if (*a == *b)
        return failure(ErrorCode::Refused, message("bridge.same", {from}));
    Dossier bridged = dossier;
    Wire wire;
    for (const Wire& w : dossier.circuit.wires)
        wire.id = std::max(wire.id, WireId{w.id.value + 1});
    wire.number = "bridge";
    wire.from = *a;
    wire.to = *b;
    bridged.circuit.wires.push_back(std::move(wire));
    return bridged;
}

Expected<BridgeCost> bridgeCost(
    const Dossier& dossier, const std::string& from, const std::string& to, std::stop_token stop)
{
    const auto bridged = withBridge(dossier, from, to);
    if (!bridged)
        return Unexpected{bridged.error()};
    const auto plant = compile(dossier.circuit);
    const auto nodeOf = [&plant](const std::string& text) {
        const std::size_t colon = text.find(':');
        return plant->terminals[at(plant->terminalIndex(text.substr(0, colon), text.substr(colon + 1)))].node;
    };
    BridgeCost cost = Bridge(dossier, *plant, nodeOf(from), nodeOf(to)).cost();
    if (cost.isJoined)
        return cost;
    for (const SafetyFunction& f : dossier.functions) {
        BridgedFunction b = compared(dossier, *bridged, f, stop);
        if (stop.stop_requested())
            return cancelled();
        if (b.isLost || b.why || !b.losing.empty() || b.after != b.before)
            cost.functions.push_back(std::move(b));
        else
            ++cost.held;
    }
    return cost;
}

} // namespace ts
