#include "core/diagram/wired_graph.h"

#include "core/base/at.h"
#include "core/library/registry.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <deque>
#include <map>

namespace ts::diagram {
namespace {

bool naturallyLess(const std::string& a, const std::string& b)
{
    return a.size() != b.size() ? a.size() < b.size() : a < b;
}

Operated operatedBy(const Body& body, const ContactElement& c)
{
    if (c.mover < 0)
        return Operated::ByNothing;
    const MoverSpec& mover = body.movers[at(c.mover)];
    switch (mover.driver) {
    case MoverSpec::Driver::Operator:
        return mover.role == "selector" || mover.role == "switch" ? Operated::ByTurn
            : mover.role == "guard"                               ? Operated::ByGuard
            : mover.role == "call"                                ? Operated::ByPlant
            : mover.latches                                       ? Operated::ByEmergencyPush
                                                                  : Operated::ByPush;
    case MoverSpec::Driver::Coil:
        return Operated::ByCoil;
    case MoverSpec::Driver::Protection:
        return Operated::ByHeat;
    case MoverSpec::Driver::Logic:
        return Operated::ByCoil;
    }
    return Operated::ByNothing;
}

bool isByHand(const Body& body, const ContactElement& c)
{
    return c.mover >= 0 && body.movers[at(c.mover)].driver == MoverSpec::Driver::Operator;
}

class GraphBuilder {
public:
    explicit GraphBuilder(const Circuit& circuit)
        : m_circuit(circuit)
    {
    }

    Expected<WiredGraph> built()
    {
        std::vector<const Device*> devices;
        for (const Device& d : m_circuit.devices)
            devices.push_back(&d);
        std::sort(devices.begin(), devices.end(), [](auto* a, auto* b) { return a->id < b->id; });
        for (const Device* d : devices) {
            auto body = bodyOf(m_circuit, *d);
            if (!body)
                return Unexpected{body.error()};
            addDevice(*d, std::move(*body));
        }
        joinNets();
        nameNets();
        findRails();
        return std::move(m_graph);
    }

private:
    void addDevice(const Device& d, Body body)
    {
        const int index = static_cast<int>(m_graph.devices.size());
        m_graph.devices.push_back({&d, std::move(body), {}, false});
        GraphDevice& g = m_graph.devices.back();
        std::vector<int> outer(g.body.terminals.size(), -1);
        for (std::size_t t = 0; t < g.body.terminals.size(); ++t)
            if (!g.body.terminals[t].inner) {
                outer[t] = static_cast<int>(m_graph.terminals.size());
                g.terminals.push_back(outer[t]);
                m_graph.terminals.push_back({{d.id, g.body.terminals[t].marking}, index, 0, false, false});
                m_terminalOf[m_graph.terminals.back().ref] = outer[t];
            }
        for (std::size_t e = 0; e < g.body.elements.size(); ++e)
            addElement(index, g, outer, e);
    }

    /// The inner wiring of a logic, all but its supply and its output contacts: its terminals are inputs, not paths.
    static bool isInside(const Body& body, std::size_t e)
    {
        if (const auto* sense = std::get_if<SenseElement>(&body.elements[e].what))
            return sense->use != SenseElement::Use::Supply;
        const bool hasLogic = !body.safetyRelays.empty() || !body.logics.empty();
        const auto* c = std::get_if<ContactElement>(&body.elements[e].what);
        return hasLogic
            && (c ? c->mover < 0 && body.elements[e].role.empty()
                  : std::holds_alternative<LoadElement>(body.elements[e].what));
    }

    static bool isSupplyTerminal(const Body& body, int t)
    {
        return std::any_of(body.elements.begin(), body.elements.end(), [t](const Element& e) {
            const auto* sense = std::get_if<SenseElement>(&e.what);
            return (sense && sense->use == SenseElement::Use::Supply && (e.terminals[0] == t || e.terminals[1] == t))
                || (std::holds_alternative<DriveElement>(e.what)
                    && std::find(e.terminals.begin(), e.terminals.end(), t) != e.terminals.end());
        });
    }

    void markPorts(GraphDevice& g, const std::vector<int>& outer, const Element& element)
    {
        const auto* sense = std::get_if<SenseElement>(&element.what);
        if (sense && sense->use == SenseElement::Use::Tap) {
            g.isPower = true; // its taps are drawn with the lines they watch
            return;
        }
        for (int k = 0; k < 2; ++k) {
            const int t = element.terminals[at(k)];
            if (outer[at(t)] >= 0 && !isSupplyTerminal(g.body, t))
                m_graph.terminals[at(outer[at(t)])].isPort = true;
        }
    }

    void addElement(int index, GraphDevice& g, const std::vector<int>& outer, std::size_t e)
    {
        const Element& element = g.body.elements[e];
        if (isInside(g.body, e)) {
            markPorts(g, outer, element);
            return;
        }
        GraphEdge edge{index, element.role, outer[at(element.terminals[0])], outer[at(element.terminals[1])]};
        if (const auto* c = std::get_if<ContactElement>(&element.what)) {
            const bool control = c->kind == ContactKind::NormallyOpen || c->kind == ContactKind::NormallyClosed;
            if (control && edge.a >= 0 && edge.b < 0) { // first of two contacts in series inside: take the other end
                                                        // from the second
                const Element& next = g.body.elements[e + 1];
                edge.b = outer[at(next.terminals[1])];
            } else if (edge.a < 0 || edge.b < 0) {
                return;
            }
            edge.isPole = !control;
            edge.operated = operatedBy(g.body, *c);
            edge.kind = c->kind == ContactKind::NormallyClosed ? SymbolKind::NormallyClosed
                : control                                      ? SymbolKind::NormallyOpen
                : c->kind == ContactKind::Main                 ? SymbolKind::MainContact
                : c->mover < 0         ? g.body.logics.empty() ? SymbolKind::HeatedPole : SymbolKind::MeasuredPole
                : isByHand(g.body, *c) ? SymbolKind::SwitchPole
                : g.body.movers[at(c->mover)].initial == 2 ? SymbolKind::BreakerPole
                                                           : SymbolKind::FusePole;
            g.isPower |= edge.isPole;
        } else if (const auto* t = std::get_if<TransformerElement>(&element.what); t && t->nominalSecondaryV <= 0.0) {
            edge.kind = SymbolKind::MeasuredPole; // a line led through a current transformer
            edge.isPole = g.isPower = true;
        } else if (isTimedLoad(g.body, element)) {
            g.isPower = true;
            return;
        } else if (std::holds_alternative<CoilElement>(element.what)) {
            edge.kind = SymbolKind::Coil;
        } else if (const auto* lamp = std::get_if<LampElement>(&element.what)) {
            edge.kind = lamp->shows == LampElement::Shows::Light ? SymbolKind::Lamp
                : lamp->shows == LampElement::Shows::Sound       ? SymbolKind::Horn
                                                                 : SymbolKind::BoxLoad;
        } else if (std::holds_alternative<SenseElement>(element.what)) {
            edge.kind = SymbolKind::BoxLoad;
        } else if (std::holds_alternative<LoadElement>(element.what)
            || std::holds_alternative<VariableElement>(element.what)) {
            return;
        } else {
            g.isPower = true;
            return;
        }
        m_graph.edges.push_back(std::move(edge));
    }

    void joinNets()
    {
        network::DisjointSets sets(static_cast<int>(m_graph.terminals.size()));
        for (const Wire& w : m_circuit.wires) {
            const int a = m_terminalOf.at(w.from), b = m_terminalOf.at(w.to);
            sets.join(a, b);
            m_graph.terminals[at(a)].isWired = m_graph.terminals[at(b)].isWired = true;
        }
        std::vector<int> netOfRoot(m_graph.terminals.size(), -1);
        for (std::size_t t = 0; t < m_graph.terminals.size(); ++t) {
            int& net = netOfRoot[at(sets.find(static_cast<int>(t)))];
            if (net < 0) {
                net = static_cast<int>(m_graph.nets.size());
                m_graph.nets.push_back({});
            }
            m_graph.terminals[t].net = net;
            m_graph.nets[at(net)].terminals.push_back(static_cast<int>(t));
        }
        // A block of nothing but terminals belongs to the power circuit if it joins something of it.
        for (bool again = true; again;) {
            again = false;
            for (GraphDevice& g : m_graph.devices)
                if (!g.isPower && g.body.elements.empty() && touchesPower(g)) {
                    g.isPower = true;
                    again = true;
                }
        }
    }

    bool touchesPower(const GraphDevice& g) const
    {
        for (int t : g.terminals)
            for (int other : m_graph.nets[at(m_graph.netOf(t))].terminals)
                if (m_graph.devices[at(m_graph.terminals[at(other)].device)].isPower)
                    return true;
        return false;
    }

    void nameNets()
    {
        for (const Wire& w : m_circuit.wires) {
            std::string& name = m_graph.nets[at(m_graph.netOf(m_terminalOf.at(w.from)))].name;
            if (!w.number.empty() && (name.empty() || naturallyLess(w.number, name)))
                name = w.number;
        }
        for (GraphNet& net : m_graph.nets)
            if (net.name.empty())
                net.name = m_circuit.nameOf(m_graph.terminals[at(net.terminals.front())].ref);
    }

    /// Where each supply begins: net and whether it is the return.
    std::vector<std::pair<int, bool>> supplyPoles()
    {
        std::vector<std::pair<int, bool>> poles;
        for (const GraphDevice& g : m_graph.devices)
            for (const Element& e : g.body.elements) {
                const auto net = [&](int k) { return m_graph.netOf(outerOf(g, e.terminals[at(k)])); };
                if (const auto* source = std::get_if<SourceElement>(&e.what)) {
                    poles.emplace_back(net(0), false);
                    if (source->directV > 0.0)
                        poles.emplace_back(net(1), true);
                } else if (isConverter(e)) {
                    poles.emplace_back(net(2), false);
                    poles.emplace_back(net(3), true);
                } else if (const auto* t = std::get_if<TransformerElement>(&e.what); t && t->nominalSecondaryV > 0.0) {
                    const bool firstIsBonded = m_graph.nets[at(net(2))].isEarth;
                    poles.emplace_back(net(2), firstIsBonded);
                    poles.emplace_back(net(3), !firstIsBonded);
                }
            }
        return poles;
    }

    int outerOf(const GraphDevice& g, int bodyTerminal) const
    {
        return m_terminalOf.at({g.device->id, g.body.terminals[at(bodyTerminal)].marking});
    }

    void markEarthAndNeutral(std::vector<std::pair<int, bool>>& poles)
    {
        for (const GraphDevice& g : m_graph.devices) {
            const bool isSupply = std::any_of(g.body.elements.begin(), g.body.elements.end(),
                [](const Element& e) { return std::holds_alternative<SourceElement>(e.what); });
            for (std::size_t t = 0; t < g.body.terminals.size(); ++t) {
                if (g.body.terminals[t].inner)
                    continue;
                const int net = m_graph.netOf(outerOf(g, static_cast<int>(t)));
                if (g.body.terminals[t].protectiveEarth)
                    m_graph.nets[at(net)].isEarth = true;
                else if (isSupply
                    && std::none_of(g.body.elements.begin(), g.body.elements.end(), [&](const Element& e) {
                           return std::holds_alternative<SourceElement>(e.what)
                               && e.terminals[0] == static_cast<int>(t);
                       }))
                    poles.emplace_back(net, true); // the neutral
            }
        }
    }

    void findRails()
    {
        std::vector<std::pair<int, bool>> poles;
        markEarthAndNeutral(poles);
        for (auto& p : supplyPoles())
            poles.push_back(p);
        // From each pole over main and protective poles to the nets behind.
        std::vector<int> reached(m_graph.nets.size(), -1); // -1 no, 0 live, 1 return
        std::deque<int> queue;
        std::stable_sort(poles.begin(), poles.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
        for (const auto& [net, isReturn] : poles)
            if (reached[at(net)] < 0) {
                reached[at(net)] = isReturn;
                queue.push_back(net);
            }
        std::vector<std::vector<int>> overPoles(m_graph.nets.size()); // nets behind a pole
        std::vector<bool> isControl(m_graph.terminals.size(), false), controls(m_graph.nets.size(), false);
        for (const GraphEdge& e : m_graph.edges)
            if (e.isPole) {
                overPoles[at(m_graph.netOf(e.a))].push_back(m_graph.netOf(e.b));
                overPoles[at(m_graph.netOf(e.b))].push_back(m_graph.netOf(e.a));
            } else {
                for (int end : {e.a, e.b})
                    isControl[at(end)] = controls[at(m_graph.netOf(end))] = true;
            }
        while (!queue.empty()) {
            const int net = queue.front();
            queue.pop_front();
            for (int to : overPoles[at(net)])
                if (reached[at(to)] < 0) {
                    reached[at(to)] = reached[at(net)];
                    queue.push_back(to);
                }
        }
        const std::vector<std::string> names = railNames(isControl);
        int order = 0;
        for (std::size_t n = 0; n < m_graph.nets.size(); ++n) {
            GraphNet& net = m_graph.nets[n];
            net.isRail = reached[n] >= 0 && controls[n];
            net.isReturn = net.isRail && (reached[n] == 1 || net.isEarth);
            net.order = order++;
            if (net.isRail)
                net.railName = names[n].empty() ? net.name : names[n];
        }
    }

    /// By net, the smallest number among the wires that end at a control element: earth and supply wires bear other
    /// numbers.
    std::vector<std::string> railNames(const std::vector<bool>& isControl) const
    {
        std::vector<std::string> names(m_graph.nets.size());
        for (const Wire& w : m_circuit.wires)
            for (const TerminalRef& end : {w.from, w.to}) {
                const int t = m_terminalOf.at(end);
                std::string& name = names[at(m_graph.netOf(t))];
                if (!w.number.empty() && isControl[at(t)] && (name.empty() || naturallyLess(w.number, name)))
                    name = w.number;
            }
        return names;
    }

    const Circuit& m_circuit;
    WiredGraph m_graph;
    std::map<TerminalRef, int> m_terminalOf;
};

} // namespace

Expected<WiredGraph> wiredGraph(const Circuit& circuit)
{
    return GraphBuilder(circuit).built();
}

bool hasSameDevices(const Circuit& a, const Circuit& b)
{
    return a.devices == b.devices && a.parts == b.parts && a.interlocks == b.interlocks && a.shafts == b.shafts;
}

bool isDrawnAlike(const Circuit& a, const Circuit& b)
{
    return hasSameDevices(a, b)
        && std::equal(a.wires.begin(), a.wires.end(), b.wires.begin(), b.wires.end(), [](const Wire& v, const Wire& w) {
               return v.id == w.id && v.from == w.from && v.to == w.to && v.number == w.number;
           });
}

} // namespace ts::diagram
