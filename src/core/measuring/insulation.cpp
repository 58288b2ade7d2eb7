#include "core/measuring/insulation.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/advance.h"

#include <algorithm>
#include <deque>
#include <map>
#include <set>

namespace ts::measuring {
namespace {

constexpr std::string_view kClause = "EN 60204-1 clause 18.3";

bool isPower(const PlantLink& l)
{
    return l.device >= 0 && (l.contact.kind == ContactKind::Main || l.contact.kind == ContactKind::Pole);
}

/// Two points that conduct what 500 V drive through, and the wire between them if it is one.
struct Conductor {
    int p = 0, q = 0;
    int wire = -1;
};

/// A device that such a voltage destroys, and where it is connected.
struct Electronics {
    int device = -1;
    std::vector<int> nodes;
};

class Tester {
public:
    explicit Tester(const Plant& plant)
        : m_plant(plant)
        , m_rest(initialState(plant).travel)
    {
        for (std::size_t t = 0; t < plant.terminals.size(); ++t) {
            const PlantTerminal& terminal = plant.terminals[t];
            if (terminal.inner)
                continue;
            m_terminalAt.try_emplace(terminal.node, static_cast<int>(t));
            if (terminal.marking == "PE")
                m_earthed.insert(terminal.node);
        }
        m_earthed.insert(0);
        findElectronics();
        findPower();
    }

    InsulationLooks all()
    {
        std::set<int> covered;
        for (const int node : startsInOrder())
            if (!covered.contains(node))
                addLook(node, covered);
        for (const int node : m_power)
            if (!covered.contains(node) && m_terminalAt.contains(node))
                m_looks.notReached.push_back(nameOf(node));
        proveLifted();
        return std::move(m_looks);
    }

private:
    std::string nameOf(int node) const
    {
        const PlantTerminal& t = m_plant.terminals[at(m_terminalAt.at(node))];
        return m_plant.devices[at(t.device)].tag + ":" + t.marking;
    }

    /// Nodes that the lines reach, or motors, with every power contact closed.
    void findPower()
    {
        network::DisjointSets sets(m_plant.nodeCount);
        const auto join = [&](int p, int q) {
            if (!m_earthed.contains(p) && !m_earthed.contains(q)) // a bond makes no power circuit of the earth
                sets.join(p, q);
        };
        for (const PlantLink& l : m_plant.links)
            if (isPower(l) || l.wire >= 0)
                join(l.p, l.q);
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.kind == PlantImpedance::Kind::Wire)
                join(z.p, z.q);
        std::set<int> roots;
        for (const PlantSource& s : m_plant.sources)
            if (s.nominalV > 0 && s.directV == 0)
                roots.insert(sets.find(s.p));
        for (const PlantMotor& m : m_plant.motors)
            for (int k = 0; k < (m.data.sixTerminal ? 6 : 3); ++k)
                roots.insert(sets.find(m.nodes[at(k)]));
        for (const auto& [node, terminal] : m_terminalAt)
            if (roots.contains(sets.find(node)) && !m_earthed.contains(node) && !isElectronics(node))
                m_power.insert(node);
    }

    /// What is disconnected is not tried itself.
    bool isElectronics(int node) const
    {
        const int device = m_plant.terminals[at(m_terminalAt.at(node))].device;
        return std::any_of(
            m_electronics.begin(), m_electronics.end(), [device](const Electronics& e) { return e.device == device; });
    }

    void findElectronics()
    {
        std::map<int, std::set<int>> nodes;
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.kind == PlantImpedance::Kind::Sense || z.kind == PlantImpedance::Kind::Lamp)
                nodes[z.device].insert({z.p, z.q});
        for (const PlantConverter& c : m_plant.converters)
            nodes[c.device].insert({c.inputP, c.inputQ, c.plus, c.minus});
        for (const PlantVariable& v : m_plant.variables)
            nodes[v.device].insert({v.p, v.q});
        for (const PlantDrive& d : m_plant.drives) {
            nodes[d.device].insert(d.inputs.begin(), d.inputs.end());
            nodes[d.device].insert(d.outputs.begin(), d.outputs.end());
        }
        for (const auto& [device, at] : nodes)
            m_electronics.push_back({device, outerOf({at.begin(), at.end()})});
    }

    /// Where wires reach the device, for nodes that may lie inside it behind a lead of its own.
    std::vector<int> outerOf(const std::vector<int>& nodes) const
    {
        std::set<int> outer;
        for (const int node : nodes) {
            if (m_terminalAt.contains(node))
                outer.insert(node);
            for (const PlantLink& l : m_plant.links)
                if (l.device >= 0 && (l.p == node || l.q == node))
                    if (const int other = l.p == node ? l.q : l.p; m_terminalAt.contains(other))
                        outer.insert(other);
        }
        outer.erase(0);
        return {outer.begin(), outer.end()};
    }

    /// Lines first, then motors, then what lies between contactors. What is behind a fuse alone is looked at with its
    /// line, or is a control circuit.
    std::vector<int> startsInOrder() const
    {
        std::vector<int> starts;
        const auto take = [&](int node) {
            if (m_power.contains(node))
                starts.push_back(node);
        };
        for (const PlantSource& s : m_plant.sources)
            if (s.nominalV > 0 && s.directV == 0)
                take(s.p);
        for (const PlantMotor& m : m_plant.motors)
            for (const int node : m.nodes)
                take(node);
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0 && l.contact.kind == ContactKind::Main)
                for (const int node : {l.p, l.q})
                    take(node);
        return starts;
    }

    std::vector<Conductor> conductorsIn(const DeadState& state) const
    {
        std::vector<Conductor> all;
        const auto isGone = [&state](int wire) {
            return std::any_of(
                state.gone.begin(), state.gone.end(), [wire](const MovedWire& m) { return m.wire == wire; });
        };
        for (const PlantLink& l : m_plant.links) {
            const int mover = l.contact.mover;
            const bool isClosed = mover < 0 || ((l.contact.closedAt >> state.travel[at(mover)]) & 1u);
            if (l.wire >= 0 ? !isGone(l.wire) : isClosed)
                all.push_back({l.p, l.q, l.wire});
        }
        using Kind = PlantImpedance::Kind;
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.kind == Kind::Wire
                    ? !isGone(z.wire)
                    : z.kind != Kind::Sense && z.kind != Kind::Lamp && z.kind != Kind::CableCapacitance)
                all.push_back({z.p, z.q, z.kind == Kind::Wire ? z.wire : -1});
        for (const PlantTransformer& t : m_plant.transformers) {
            all.push_back({t.p1, t.p2});
            all.push_back({t.s1, t.s2});
        }
        for (const PlantMotor& m : m_plant.motors)
            for (int k = 0; k < 3; ++k)
                all.push_back({m.nodes[at(k)], m.nodes[at(m.data.sixTerminal ? k + 3 : (k + 1) % 3)]});
        return all;
    }

    /// All that conducts together with a node.
    std::set<int> partOf(int node, const DeadState& state) const
    {
        network::DisjointSets sets(m_plant.nodeCount);
        for (const Conductor& c : conductorsIn(state))
            sets.join(c.p, c.q);
        std::set<int> part;
        for (int n = 0; n < m_plant.nodeCount; ++n)
            if (sets.find(n) == sets.find(node))
                part.insert(n);
        return part;
    }

    void lift(int wire, DeadState& state) const
    {
        state.gone.push_back({wire, {}});
        state.lifted.push_back(m_plant.wires[at(wire)].id);
    }

    /// The last wire on the way from there to earth; -1: there is no way, or none with a wire.
    int lastWireToEarth(int from, const DeadState& state) const
    {
        std::vector<std::vector<Conductor>> beside(at(m_plant.nodeCount));
        for (const Conductor& c : conductorsIn(state)) {
            beside[at(c.p)].push_back(c);
            beside[at(c.q)].push_back({c.q, c.p, c.wire});
        }
        std::vector<int> last(at(m_plant.nodeCount), -2); // the wire on the way there
        std::deque<int> next{from};
        last[at(from)] = -1;
        while (!next.empty()) {
            const int node = next.front();
            next.pop_front();
            if (m_earthed.contains(node))
                return last[at(node)];
            for (const Conductor& c : beside[at(node)])
                if (last[at(c.q)] == -2) {
                    last[at(c.q)] = c.wire >= 0 ? c.wire : last[at(node)];
                    next.push_back(c.q);
                }
        }
        return -1;
    }

    bool isEarthed(const std::set<int>& part) const
    {
        return std::any_of(part.begin(), part.end(), [this](int n) { return m_earthed.contains(n); });
    }

    /// A fuse pulled or a breaker opened that takes it off, and nothing of the power circuit with it.
    std::optional<DeadState> switchedOff(int node, const Electronics& e, const DeadState& state) const
    {
        const std::set<int> before = partOf(node, state);
        for (const PlantProtection& p : m_plant.protections) {
            const PlantDevice& device = m_plant.devices[at(p.device)];
            DeadState off = state;
            for (const auto& [word, what] : device.actions) {
                const bool isFuse = word == "replace";
                if (!isFuse && word != "switch_off")
                    continue;
                off.bring.push_back(device.tag + (isFuse ? " pull" : " switch_off"));
                if (isFuse)
                    for (const int m : device.movers)
                        off.travel[at(m)] = 2;
                else
                    off.travel[at(what.first)] = what.second;
                break;
            }
            if (off.bring.size() == state.bring.size())
                continue;
            const std::set<int> after = partOf(node, off);
            const bool isOff = std::none_of(e.nodes.begin(), e.nodes.end(), [&](int n) { return after.contains(n); });
            const bool losesPower = std::any_of(
                before.begin(), before.end(), [&](int n) { return !after.contains(n) && isAtContactorOrMotor(n); });
            if (isOff && !losesPower)
                return off;
        }
        return std::nullopt;
    }

    bool isAtContactorOrMotor(int node) const
    {
        const auto isMain = [node](const PlantLink& l) {
            return l.device >= 0 && l.contact.kind == ContactKind::Main && (l.p == node || l.q == node);
        };
        return std::any_of(m_plant.links.begin(), m_plant.links.end(), isMain)
            || std::any_of(m_plant.motors.begin(), m_plant.motors.end(), [node](const PlantMotor& m) {
                   return std::find(m.nodes.begin(), m.nodes.end(), node) != m.nodes.end();
               });
    }

    /// Takes off what does not bear the voltage: by a fuse where one does it, else by its wires.
    void disconnect(int node, DeadState& state) const
    {
        for (const Electronics& e : m_electronics) {
            const std::set<int> part = partOf(node, state);
            if (std::none_of(e.nodes.begin(), e.nodes.end(), [&](int n) { return part.contains(n); }))
                continue;
            if (auto off = switchedOff(node, e, state)) {
                state = *std::move(off);
                continue;
            }
            for (std::size_t w = 0; w < m_plant.wires.size(); ++w)
                for (const int n : e.nodes)
                    if (part.contains(n) && n != node && (m_plant.wires[w].p == n || m_plant.wires[w].q == n))
                        if (std::none_of(state.gone.begin(), state.gone.end(),
                                [w](const MovedWire& m) { return m.wire == static_cast<int>(w); }))
                            lift(static_cast<int>(w), state);
        }
    }

    bool isTested(const std::set<int>& part) const
    {
        return !isEarthed(part) && std::none_of(m_electronics.begin(), m_electronics.end(), [&](const Electronics& e) {
            return std::any_of(e.nodes.begin(), e.nodes.end(), [&](int n) { return part.contains(n); });
        });
    }

    /// What need not be off, now that the rest is.
    void putBack(int node, DeadState& state) const
    {
        for (std::size_t k = state.gone.size(); k-- > 0;) {
            DeadState on = state;
            on.gone.erase(on.gone.begin() + static_cast<std::ptrdiff_t>(k));
            on.lifted.erase(on.lifted.begin() + static_cast<std::ptrdiff_t>(k));
            if (isTested(partOf(node, on)))
                state = std::move(on);
        }
    }

    void addLook(int node, std::set<int>& covered)
    {
        DeadState state{{}, {}, m_rest, {}};
        while (isEarthed(partOf(node, state))) {
            const int wire = lastWireToEarth(node, state);
            if (wire < 0)
                return; // joined to earth inside a device
            lift(wire, state);
        }
        disconnect(node, state);
        putBack(node, state);
        const std::set<int> part = partOf(node, state);
        covered.insert(part.begin(), part.end());
        m_lifted.insert(state.lifted.begin(), state.lifted.end());
        DeadLook look{m_looks.found.states.size(), {node}, {0}, nameOf(node), nameOf(0), Stage::Insulation,
            {std::string(kClause)}};
        look.isInsulation = true;
        m_looks.found.looks.push_back(std::move(look));
        m_looks.found.states.push_back(std::move(state));
    }

    /// A lifted end is a new chance of a mistake.
    void proveLifted()
    {
        const std::size_t rest = m_looks.found.states.size();
        m_looks.found.states.push_back({{}, {}, m_rest, {}});
        for (const PlantWire& w : m_plant.wires)
            if (m_lifted.contains(w.id)) {
                DeadLook look{rest, {w.p}, {w.q}, nameOf(w.p), nameOf(w.q), Stage::Continuity, {std::string(kClause)}};
                look.isLow = m_earthed.contains(w.p) || m_earthed.contains(w.q);
                m_looks.found.looks.push_back(std::move(look));
            }
    }

    const Plant& m_plant;
    std::vector<std::uint8_t> m_rest;
    std::map<int, int> m_terminalAt;
    std::set<int> m_earthed; ///< nodes of terminals for protective conductors
    std::set<int> m_power;
    std::vector<Electronics> m_electronics;
    std::set<WireId> m_lifted;
    InsulationLooks m_looks;
};

} // namespace

InsulationLooks insulationLooksOf(const Plant& plant)
{
    return Tester(plant).all();
}

} // namespace ts::measuring
