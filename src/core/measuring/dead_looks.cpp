#include "core/measuring/dead_looks.h"

#include "core/base/at.h"
#include "core/simulation/advance.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::measuring {
namespace {

Unexpected notThere(std::string_view what)
{
    return failure(ErrorCode::NotFound, message("test.unknown", {std::string(what)}));
}

constexpr std::size_t kMostFar = 2; ///< of the terminals beyond an element's end
constexpr std::string_view kBondingClause = "EN 60204-1 clause 18.2";

class Finder {
public:
    Finder(const Circuit& circuit, const Plant& plant)
        : m_circuit(circuit)
        , m_plant(plant)
        , m_rest(initialState(plant).travel)
    {
        m_found.states.push_back({{}, {}, m_rest, {}});
        addStates();
        for (const PlantMotor& m : plant.motors)
            for (std::size_t w = 0; w < plant.wires.size(); ++w)
                for (const int node : m.nodes)
                    if (node > 0 && (plant.wires[w].p == node || plant.wires[w].q == node))
                        m_leads.insert(static_cast<int>(w));
        for (std::size_t t = 0; t < plant.terminals.size(); ++t)
            if (!plant.terminals[t].inner)
                m_terminalAt.try_emplace(plant.terminals[t].node, static_cast<int>(t));
    }

    DeadLooks all()
    {
        addBonding();
        addFramesOfMotors();
        for (const PlantWire& w : m_plant.wires) {
            add(terminalAt(w.p), terminalAt(w.q), Stage::Continuity);
            addEitherEnd(w);
            addAcross(w);
        }
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0)
                addElement(l.device, l.p, l.q, Stage::Continuity);
        addContactsInside();
        addNeighbours();
        addWiredPoles();
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.device >= 0 && z.kind != PlantImpedance::Kind::Sense)
                addElement(z.device, z.p, z.q, Stage::Windings);
        for (const PlantTransformer& t : m_plant.transformers) {
            addElement(t.device, t.p1, t.p2, Stage::Windings);
            addElement(t.device, t.s1, t.s2, Stage::Windings);
            addElement(t.device, t.p1, t.s1, Stage::Windings);
        }
        for (const PlantMotor& m : m_plant.motors)
            for (int k = 0; k < 3; ++k) {
                const int other = m.data.sixTerminal ? k + 3 : (k + 1) % 3;
                addElement(m.device, m.nodes[at(k)], m.nodes[at(other)], Stage::Windings);
            }
        return std::move(m_found);
    }

    /// The same looks, to elements at whichever of their ends.
    DeadLooks atEitherEnd()
    {
        DeadLooks found = all();
        std::vector<DeadLook> wider;
        for (DeadLook& look : found.looks) {
            if (look.isForWires() || look.nodesA.size() != 1 || look.nodesB.size() != 1 || !look.serves.empty())
                continue;
            const bool a = widen(look.nodesA, look.a), b = widen(look.nodesB, look.b);
            if (a || b)
                wider.push_back(std::move(look));
        }
        found.looks = std::move(wider);
        return found;
    }

private:
    bool widen(std::vector<int>& nodes, std::string& name) const
    {
        const int other = beyond(nodes.front());
        if (other < 0)
            return false;
        nodes.push_back(other);
        name += std::string(kOr) + nameOf(terminalAt(other));
        return true;
    }

    int terminalAt(int node) const
    {
        const auto it = m_terminalAt.find(node);
        return it == m_terminalAt.end() ? -1 : it->second;
    }
    std::string nameOf(int terminal) const
    {
        const PlantTerminal& t = m_plant.terminals[at(terminal)];
        return m_plant.devices[at(t.device)].tag + ":" + t.marking;
    }

    /// One thing operated at a time: a button, an armature pushed in, a breaker opened, a fuse pulled.
    void addStates()
    {
        for (std::size_t d = 0; d < m_plant.devices.size(); ++d) {
            const PlantDevice& device = m_plant.devices[d];
            std::set<std::pair<int, std::uint8_t>> seen;
            for (const auto& [word, what] : device.actions)
                if (m_rest[at(what.first)] != what.second && seen.insert(what).second)
                    operated(static_cast<int>(d), word, {what.first}, what.second);
            const bool isFuse = std::any_of(device.actions.begin(), device.actions.end(),
                [](const auto& action) { return action.first == "replace"; });
            if (isFuse)
                operated(static_cast<int>(d), "pull", device.movers, 2);
        }
    }

    void operated(int device, const std::string& word, const std::vector<int>& movers, std::uint8_t target)
    {
        DeadState state{{m_plant.devices[at(device)].tag + " " + word}, {}, m_rest, {}};
        for (const int m : movers)
            state.travel[at(m)] = target;
        m_statesOf[device].push_back(m_found.states.size());
        m_found.states.push_back(std::move(state));
    }

    void add(int a, int b, Stage stage, int element = -1, std::vector<std::string> serves = {})
    {
        if (a < 0 || b < 0 || a == b)
            return;
        std::set<std::size_t> states{0};
        if (serves.empty())
            for (const int device : {m_plant.terminals[at(a)].device, m_plant.terminals[at(b)].device, element})
                if (const auto it = m_statesOf.find(device); it != m_statesOf.end())
                    states.insert(it->second.begin(), it->second.end());
        for (const std::size_t s : states)
            serves.empty() ? addPower(s, a, b, stage) : addIn(s, a, b, stage, serves);
    }

    /// Where a motor's windings lie beside what is measured they read next to nothing: once more with its leads off.
    void addPower(std::size_t state, int a, int b, Stage stage = Stage::Continuity)
    {
        addIn(state, a, b, stage, {});
        if (stage == Stage::Continuity && isInPower(a) && isInPower(b))
            addIn(leadsOff(state), a, b, stage, {});
    }

    bool isInPower(int terminal) const
    {
        const PlantDevice& d = m_plant.devices[at(m_plant.terminals[at(terminal)].device)];
        return !m_leads.empty() && (!d.motors.empty() || std::any_of(d.links.begin(), d.links.end(), [&](int l) {
            const ContactKind kind = m_plant.links[at(l)].contact.kind;
            return kind == ContactKind::Main || kind == ContactKind::Pole;
        }));
    }

    std::size_t leadsOff(std::size_t state)
    {
        const auto [known, isNew] = m_leadsOff.try_emplace(state, m_found.states.size());
        if (isNew) {
            DeadState off = m_found.states[state];
            for (const int w : m_leads) {
                off.lifted.push_back(m_plant.wires[at(w)].id);
                off.gone.push_back({w, {}});
            }
            m_found.states.push_back(std::move(off));
        }
        return known->second;
    }

    void addIn(std::size_t state, int a, int b, Stage stage, std::vector<std::string> serves)
    {
        if (a < 0 || b < 0 || a == b || !m_taken.insert({state, std::min(a, b), std::max(a, b)}).second)
            return;
        m_found.looks.push_back({state, {m_plant.terminals[at(a)].node}, {m_plant.terminals[at(b)].node}, nameOf(a),
            nameOf(b), stage, std::move(serves)});
        m_found.looks.back().isLow = stage == Stage::Bonding || isAtMotor(a) || isAtMotor(b);
    }

    /// Its windings read next to nothing: a meter with leads of its own would not tell them from a wire.
    bool isAtMotor(int terminal) const
    {
        const PlantTerminal& t = m_plant.terminals[at(terminal)];
        return t.node != 0 && !m_plant.devices[at(t.device)].motors.empty();
    }

    /// A coil, a lamp or an open contact may be turned round: a wire ends at it, at whichever of its ends.
    void addEitherEnd(const PlantWire& w)
    {
        const int beyondP = beyond(w.p), beyondQ = beyond(w.q);
        for (const auto& [p, q] : {std::pair{beyondP, -1}, {-1, beyondQ}, {beyondP, beyondQ}}) {
            if (p < 0 && q < 0)
                continue;
            DeadLook look{0, {w.p}, {w.q}, nameOf(terminalAt(w.p)), nameOf(terminalAt(w.q)), Stage::Continuity, {}};
            if (p >= 0)
                widen(look.nodesA, look.a);
            if (q >= 0)
                widen(look.nodesB, look.b);
            for (const std::size_t s : statesAt({terminalAt(w.p), terminalAt(w.q)})) {
                look.state = s;
                m_found.looks.push_back(look);
            }
        }
    }

    /// At rest, and with each device of these terminals operated.
    std::set<std::size_t> statesAt(std::initializer_list<int> terminals) const
    {
        std::set<std::size_t> states{0};
        for (const int t : terminals)
            if (const auto it = m_statesOf.find(m_plant.terminals[at(t)].device); it != m_statesOf.end())
                states.insert(it->second.begin(), it->second.end());
        return states;
    }

    /// What lies side by side and belongs to different nets is apart.
    void addNeighbours()
    {
        std::vector<std::vector<int>> of(m_plant.devices.size());
        for (std::size_t t = 0; t < m_plant.terminals.size(); ++t)
            if (!m_plant.terminals[t].inner)
                of[at(m_plant.terminals[t].device)].push_back(static_cast<int>(t));
        for (const std::vector<int>& row : of)
            for (std::size_t k = 0; k < row.size(); ++k)
                for (const std::size_t step : {std::size_t{1}, std::size_t{2}, std::size_t{3}})
                    if (k + step < row.size()
                        && m_plant.terminals[at(row[k])].net != m_plant.terminals[at(row[k + step])].net)
                        addPower(0, row[k], row[k + step]);
    }

    /// A pole that nothing opens reads the same with and without a wire on it.
    void addWiredPoles()
    {
        for (const PlantProtection& p : m_plant.protections)
            for (const int pole : p.data.poles) {
                const PlantLink& l = m_plant.links[at(pole)];
                for (const int node : {l.p, l.q}) {
                    const int t = terminalAt(node);
                    if (l.contact.mover >= 0 || t < 0 || wiresAt(m_plant, node, {}) == 0)
                        continue;
                    DeadLook look{0, {node}, {}, nameOf(t), {}, Stage::Continuity, {}};
                    look.seen = {look.a};
                    if (std::none_of(m_found.looks.begin(), m_found.looks.end(),
                            [&](const DeadLook& k) { return k.seen == look.seen; }))
                        m_found.looks.push_back(std::move(look));
                }
            }
    }

    /// The other end of the one element that hangs there; -1 if there are none or several.
    int beyond(int node) const
    {
        int other = -1, count = 0;
        const auto take = [&](int p, int q) {
            if (p != node && q != node)
                return;
            ++count;
            other = p == node ? q : p;
        };
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0)
                take(l.p, l.q);
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.device >= 0 && z.kind != PlantImpedance::Kind::Sense)
                take(z.p, z.q);
        return count == 1 && node != 0 && other != 0 && terminalAt(other) >= 0 ? other : -1;
    }

    /// Terminals of other devices on the same net, those at the other ends of its wires first.
    std::vector<int> farOf(int terminal) const
    {
        if (terminal < 0)
            return {};
        const PlantTerminal& t = m_plant.terminals[at(terminal)];
        std::vector<int> far;
        const auto take = [&](int other) {
            if (far.size() < kMostFar && other >= 0 && m_plant.terminals[at(other)].device != t.device
                && std::find(far.begin(), far.end(), other) == far.end())
                far.push_back(other);
        };
        for (const PlantWire& w : m_plant.wires)
            if (w.p == t.node || w.q == t.node)
                take(terminalAt(w.p == t.node ? w.q : w.p));
        for (const int other : t.net >= 0 ? m_plant.nets[at(t.net)].terminals : std::vector<int>{})
            take(other);
        return far;
    }

    void addElement(int device, int p, int q, Stage stage) { addBetween(device, terminalAt(p), terminalAt(q), stage); }

    void addBetween(int device, int a, int b, Stage stage)
    {
        if (a < 0 || b < 0)
            return;
        std::vector<int> before = farOf(a), behind = farOf(b);
        before.push_back(a);
        behind.push_back(b);
        for (const int x : before)
            for (const int y : behind)
                add(x, y, stage, device);
    }

    /// From before one contact to behind another one that hangs on the same wires, both closed: where turning either
    /// round does not matter, its own ends say too much.
    void addAcross(const PlantWire& w)
    {
        const auto near = nodesNear(w);
        for (const PlantLink& first : m_plant.links)
            for (const PlantLink& second : m_plant.links) {
                if (&first >= &second || first.device < 0 || second.device < 0 || first.device == second.device)
                    continue;
                const int outer1 = outerOf(first, near), outer2 = outerOf(second, near);
                if (outer1 < 0 || outer2 < 0)
                    continue;
                const std::size_t state = stateClosing(first, second);
                if (state >= m_found.states.size())
                    continue;
                for (const int x : farOf(terminalAt(outer1)))
                    for (const int y : farOf(terminalAt(outer2)))
                        addPower(state, x, y);
            }
    }

    /// Its own ends, and those of the wires beside it.
    std::set<int> nodesNear(const PlantWire& w) const
    {
        std::set<int> near{w.p, w.q};
        for (const PlantWire& other : m_plant.wires)
            if (other.p == w.p || other.q == w.p || other.p == w.q || other.q == w.q)
                near.insert({other.p, other.q});
        near.erase(0);
        return near;
    }
    /// The end that is away from there; -1 if it does not hang there.
    static int outerOf(const PlantLink& l, const std::set<int>& near)
    {
        const bool p = near.contains(l.p), q = near.contains(l.q);
        return p == q ? -1 : p ? l.q : l.p;
    }

    bool isClosedIn(const PlantLink& l, const std::vector<std::uint8_t>& travel) const
    {
        return l.contact.mover < 0 || ((l.contact.closedAt >> travel[at(l.contact.mover)]) & 1u);
    }

    /// At rest, with one of their devices operated, or with both; none: the number of states.
    std::size_t stateClosing(const PlantLink& a, const PlantLink& b)
    {
        std::vector<std::size_t> ofA{0}, ofB{0};
        for (const auto& [device, of] : {std::pair{a.device, &ofA}, {b.device, &ofB}})
            if (const auto it = m_statesOf.find(device); it != m_statesOf.end())
                of->insert(of->end(), it->second.begin(), it->second.end());
        for (const std::size_t x : ofA)
            for (const std::size_t y : ofB) {
                if (!isClosedIn(a, m_found.states[x].travel) || !isClosedIn(b, m_found.states[y].travel))
                    continue;
                if (x == 0 || y == 0)
                    return x == 0 ? y : x;
                if (!areLocked(m_found.states[x].travel, m_found.states[y].travel))
                    return both(x, y);
            }
        return m_found.states.size();
    }

    /// A mechanical interlock lets only one in.
    bool areLocked(const std::vector<std::uint8_t>& x, const std::vector<std::uint8_t>& y) const
    {
        for (std::size_t m = 0; m < m_rest.size(); ++m)
            for (const int partner : m_plant.movers[m].partners)
                if (x[m] != m_rest[m] && y[at(partner)] != m_rest[at(partner)])
                    return true;
        return false;
    }

    std::size_t both(std::size_t x, std::size_t y)
    {
        const auto [known, isNew] = m_both.try_emplace({x, y}, m_found.states.size());
        if (isNew) {
            DeadState state = m_found.states[x];
            const DeadState& other = m_found.states[y];
            state.bring.push_back(other.bring.front());
            for (std::size_t m = 0; m < m_rest.size(); ++m)
                if (other.travel[m] != m_rest[m])
                    state.travel[m] = other.travel[m];
            m_found.states.push_back(std::move(state));
        }
        return known->second;
    }

    /// Two contacts in series inside a relay show only their outer ends.
    void addContactsInside()
    {
        for (const PlantLink& l : m_plant.links) {
            const std::size_t dash = l.role.find('-');
            if (l.device < 0 || dash == l.role.npos || (terminalAt(l.p) >= 0 && terminalAt(l.q) >= 0))
                continue;
            const std::string& tag = m_plant.devices[at(l.device)].tag;
            addBetween(l.device, m_plant.terminalIndex(tag, l.role.substr(0, dash)),
                m_plant.terminalIndex(tag, l.role.substr(dash + 1)), Stage::Continuity);
        }
    }

    /// Every terminal for a protective conductor against the one of the supply.
    void addBonding()
    {
        const int earth = terminalAt(0);
        for (std::size_t t = 0; t < m_plant.terminals.size(); ++t)
            if (m_plant.terminals[t].marking == "PE" && static_cast<int>(t) != earth)
                add(earth, static_cast<int>(t), Stage::Bonding, -1, {std::string(kBondingClause)});
    }

    /// Lines and motors against earth: a core on the protective conductor.
    void addFramesOfMotors()
    {
        const int earth = terminalAt(0);
        for (const PlantMotor& m : m_plant.motors)
            for (int k = 0; k < 3; ++k)
                addIn(0, terminalAt(m.nodes[at(k)]), earth, Stage::Continuity, {});
        for (const PlantSource& s : m_plant.sources)
            if (s.nominalV > 0 && s.directV == 0)
                addIn(0, terminalAt(s.p), earth, Stage::Continuity, {});
    }

    const Circuit& m_circuit;
    const Plant& m_plant;
    std::vector<std::uint8_t> m_rest;
    std::map<int, int> m_terminalAt;
    std::map<int, std::vector<std::size_t>> m_statesOf; ///< by device
    std::set<int> m_leads; ///< wires at motors' terminals
    std::map<std::size_t, std::size_t> m_leadsOff; ///< a state, and the same with those off
    std::map<std::pair<std::size_t, std::size_t>, std::size_t> m_both; ///< two states at once
    std::set<std::tuple<std::size_t, int, int>> m_taken;
    DeadLooks m_found;
};

} // namespace

Situation situationOf(const DeadState& state)
{
    return {Power::LockedOff, state.bring, {}, state.lifted};
}

Look lookOf(const DeadLook& look)
{
    if (look.isForWires())
        return {Instrument::Eye, look.seen};
    return {look.isInsulation ? Instrument::Insulation
            : look.isLow      ? Instrument::LowOhms
                              : Instrument::Ohms,
        {look.a, look.b}};
}

double secondsOf(const DeadState& state, const DeadLook& look)
{
    constexpr std::size_t kLiftedForOne = 1; // more are taken off once, for many looks
    static const double read = bandOf("read").low, count = bandOf("count").low, operate = bandOf("operate").low,
                        lift = bandOf("lift").low;
    return (look.isForWires() ? count * static_cast<double>(look.seen.size()) : read)
        + static_cast<double>(state.bring.size()) * operate
        + static_cast<double>(std::min(state.lifted.size(), kLiftedForOne)) * lift;
}

std::vector<MovedWire> movedIn(const DeadState& state, const Deviation& built)
{
    std::vector<MovedWire> moved = state.gone;
    for (const MovedWire& m : built.moved)
        if (std::none_of(moved.begin(), moved.end(), [&m](const MovedWire& g) { return g.wire == m.wire; }))
            moved.push_back(m);
    return moved;
}

Ohms ohmsIn(const Plant& right, const DeadState& state, const Deviation& built, const Overlay& overlay)
{
    return Ohms(built.other ? *built.other : right, state.travel, overlay, movedIn(state, built));
}

Expected<DeadState> deadStateOf(const Plant& plant, const Situation& in)
{
    DeadState state{in.bring, in.lifted, initialState(plant).travel, {}};
    for (std::size_t w = 0; w < plant.wires.size(); ++w)
        if (std::find(in.lifted.begin(), in.lifted.end(), plant.wires[w].id) != in.lifted.end())
            state.gone.push_back({static_cast<int>(w), {}});
    for (const std::string& operation : in.bring) {
        const std::size_t space = std::min(operation.find(' '), operation.size());
        const std::string tag = operation.substr(0, space),
                          word = operation.substr(std::min(space + 1, operation.size()));
        const int device = plant.deviceIndex(tag);
        if (device < 0)
            return notThere(tag);
        if (word == "pull") {
            for (const int m : plant.devices[at(device)].movers)
                state.travel[at(m)] = 2;
            continue;
        }
        const auto stimulus = stimulusFor(plant, tag, word, 0);
        if (!stimulus)
            return Unexpected{stimulus.error()};
        state.travel[at(stimulus->slot)] = stimulus->target;
    }
    return state;
}

Expected<std::vector<int>> nodesOf(const Plant& plant, std::string_view terminals)
{
    std::vector<int> nodes;
    for (const std::string& terminal : alternativesOf(terminals)) {
        const std::size_t colon = std::min(terminal.find(':'), terminal.size());
        const int t = plant.terminalIndex(
            terminal.substr(0, colon), terminal.substr(std::min(colon + 1, terminal.size())));
        if (t < 0)
            return notThere(terminal);
        nodes.push_back(plant.terminals[at(t)].node);
    }
    return nodes;
}

Expected<DeadLook> deadLookOf(const Plant& plant, const Look& look)
{
    DeadLook dead;
    dead.isLow = look.with == Instrument::LowOhms;
    dead.isInsulation = look.with == Instrument::Insulation;
    if (look.with == Instrument::Eye) {
        for (const std::string& terminal : look.at) {
            const auto nodes = nodesOf(plant, terminal);
            if (!nodes)
                return Unexpected{nodes.error()};
            dead.nodesA.push_back(nodes->front());
        }
        dead.seen = look.at;
        return look.at.empty() ? notThere(wordOf(look.with)) : Expected<DeadLook>(std::move(dead));
    }
    if (look.at.size() != 2)
        return notThere(wordOf(look.with));
    dead.a = look.at.front();
    dead.b = look.at.back();
    auto a = nodesOf(plant, dead.a), b = nodesOf(plant, dead.b);
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    dead.nodesA = *std::move(a);
    dead.nodesB = *std::move(b);
    return dead;
}

DeadLooks deadLooksOf(const Circuit& circuit, const Plant& plant)
{
    return Finder(circuit, plant).all();
}

DeadLooks eitherEndLooksOf(const Circuit& circuit, const Plant& plant)
{
    return Finder(circuit, plant).atEitherEnd();
}

DeadLooks liftedLooksOf(const Circuit&, const Plant& plant, const std::vector<const Deviation*>& hidden)
{
    DeadLooks found;
    const auto rest = initialState(plant).travel;
    std::set<std::pair<int, int>> seen;
    for (const Deviation* d : hidden)
        for (const MovedWire& m : d->moved) {
            const PlantWire& w = plant.wires[at(m.wire)];
            for (std::size_t k = 0; k < plant.wires.size(); ++k) {
                const PlantWire& other = plant.wires[k];
                const bool isBeside = static_cast<int>(k) != m.wire
                    && (other.p == w.p || other.q == w.p || other.p == w.q || other.q == w.q);
                if (!isBeside || !seen.insert({m.wire, static_cast<int>(k)}).second)
                    continue;
                found.looks.push_back({found.states.size(), {w.p}, {w.q}, plant.nameOfNode(w.p), plant.nameOfNode(w.q),
                    Stage::Continuity, {}});
                found.states.push_back({{}, {other.id}, rest, {{static_cast<int>(k), {}}}});
            }
        }
    return found;
}

} // namespace ts::measuring
