#include "core/measuring/mistakes.h"

#include "core/base/at.h"
#include "core/library/registry.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <array>
#include <set>

namespace ts::measuring {
namespace {

constexpr std::array kCoilVolts{24.0, 110.0, 230.0, 400.0};
constexpr std::size_t kManyTerminals = 14; ///< up to so many each pair of a device's ends may be exchanged

struct End {
    std::size_t wire;
    bool isFrom;
    bool operator==(const End&) const = default;
};

class Lister {
public:
    Lister(const Circuit& circuit, const Plant& plant)
        : m_circuit(circuit)
        , m_plant(plant)
        , m_right(netsOf(plant))
    {
        for (std::size_t w = 0; w < circuit.wires.size(); ++w) {
            m_ends[circuit.wires[w].from].push_back({w, true});
            m_ends[circuit.wires[w].to].push_back({w, false});
        }
        for (const PlantTerminal& t : plant.terminals)
            if (!t.inner)
                m_terminals[plant.devices[at(t.device)].id].push_back(t.marking);
    }

    std::vector<Mistake> all()
    {
        for (const Wire& w : m_circuit.wires)
            keep({"missing/" + idOf(w), MistakeKind::Missing, {{w.id, {}}}, {}, {}});
        for (std::size_t w = 0; w < m_circuit.wires.size(); ++w)
            for (bool isFrom : {true, false})
                addMoves({w, isFrom});
        for (const auto& [device, markings] : m_terminals) {
            addExchanges(device, markings);
            addCoils(device);
        }
        for (const PlantLink& l : m_plant.links)
            if (l.contact.kind == ContactKind::NormallyOpen || l.contact.kind == ContactKind::NormallyClosed)
                addContact(l);
        return std::move(m_all);
    }

private:
    static std::string idOf(const Wire& w) { return std::to_string(w.id.value); }
    static std::string endText(const End& e) { return e.isFrom ? "from" : "to"; }
    const Wire& wireOf(const End& e) const { return m_circuit.wires[e.wire]; }
    TerminalRef terminalOf(const End& e) const { return e.isFrom ? wireOf(e).from : wireOf(e).to; }
    std::string nameOf(const TerminalRef& t) const { return m_circuit.nameOf(t); }

    WireChange moved(const End& e, const TerminalRef& where) const
    {
        const Wire& w = wireOf(e);
        return {w.id, std::pair(e.isFrom ? where : w.from, e.isFrom ? w.to : where)};
    }

    void addMoves(const End& e)
    {
        const TerminalRef right = terminalOf(e);
        const auto& markings = m_terminals[right.device];
        const auto place = std::find(markings.begin(), markings.end(), right.marking) - markings.begin();
        for (const std::ptrdiff_t step : {-2, -1, 1, 2}) {
            if (place + step < 0 || place + step >= static_cast<std::ptrdiff_t>(markings.size()))
                continue;
            const TerminalRef wrong{right.device, markings[static_cast<std::size_t>(place + step)]};
            keep({"beside/" + idOf(wireOf(e)) + "/" + endText(e) + "/" + nameOf(wrong), MistakeKind::Beside,
                {moved(e, wrong)}, {}, {}});
        }
        for (const DeviceId other : besideOf(right.device)) {
            const TerminalRef wrong{other, right.marking};
            const auto& its = m_terminals[other];
            if (std::find(its.begin(), its.end(), right.marking) != its.end())
                keep({"other/" + idOf(wireOf(e)) + "/" + endText(e) + "/" + nameOf(wrong), MistakeKind::OtherDevice,
                    {moved(e, wrong)}, {}, {}});
        }
    }

    /// The one before and the one after it among those of its kind.
    std::vector<DeviceId> besideOf(DeviceId id) const
    {
        std::vector<DeviceId> same, beside;
        const Device* device = m_circuit.device(id);
        for (const Device& d : m_circuit.devices)
            if (device && d.kind == device->kind)
                same.push_back(d.id);
        const auto it = std::find(same.begin(), same.end(), id);
        if (it == same.end())
            return beside;
        if (it != same.begin())
            beside.push_back(*(it - 1));
        if (it + 1 != same.end())
            beside.push_back(*(it + 1));
        return beside;
    }

    void addExchanges(DeviceId device, const std::vector<std::string>& markings)
    {
        const std::size_t reach = markings.size() <= kManyTerminals ? markings.size() : 2;
        for (std::size_t a = 0; a < markings.size(); ++a)
            for (std::size_t b = a + 1; b < markings.size() && b - a <= reach; ++b)
                for (const End& x : m_ends[{device, markings[a]}])
                    for (const End& y : m_ends[{device, markings[b]}])
                        exchange(x, y);
    }

    void exchange(const End& x, const End& y)
    {
        if (x.wire == y.wire)
            return;
        keep({"exchanged/" + idOf(wireOf(x)) + "/" + endText(x) + "/" + idOf(wireOf(y)) + "/" + endText(y),
            MistakeKind::Exchanged, {moved(x, terminalOf(y)), moved(y, terminalOf(x))}, {}, {}});
    }

    void addCoils(DeviceId id)
    {
        const Device* device = m_circuit.device(id);
        const auto parameters = device ? parametersOf(m_circuit, *device)
                                       : Expected<Parameters>(failure(ErrorCode::NotFound, {}));
        const DeviceKind* kind = device ? deviceKind(device->kind) : nullptr;
        const bool hasCoil = kind
            && std::any_of(kind->parameters.begin(), kind->parameters.end(),
                [](const ParameterSpec& p) { return p.name == "coil_voltage_v"; });
        if (!parameters || !hasCoil)
            return;
        for (double v : kCoilVolts)
            if (v != parameters->number("coil_voltage_v")) {
                Mistake m{"coil/" + device->tag + "/" + std::to_string(static_cast<int>(v)), MistakeKind::CoilVoltage,
                    {}, id, {}};
                m.coilV = v;
                m_all.push_back(std::move(m));
            }
    }

    void addContact(const PlantLink& l)
    {
        const PlantDevice& device = m_plant.devices[at(l.device)];
        const std::size_t dash = l.role.find('-');
        if (dash == l.role.npos || l.contact.mover < 0 || !m_contacts.insert(device.tag + "/" + l.role).second)
            return;
        const TerminalRef a{device.id, l.role.substr(0, dash)}, b{device.id, l.role.substr(dash + 1)};
        if (!m_ends.contains(a) || !m_ends.contains(b))
            return;
        Mistake leftOut{"left_out/" + device.tag + "/" + l.role, MistakeKind::LeftOut, {}, {}, {}};
        for (const End& e : m_ends[b])
            leftOut.wires.push_back(moved(e, a));
        keep(std::move(leftOut));
        m_all.push_back({"inverted/" + device.tag + "/" + l.role, MistakeKind::Inverted, {}, device.id, l.role});
    }

    void keep(Mistake m)
    {
        const std::vector<int> nets = netsOf(m_plant, movedIn(m_plant, m));
        if (nets == m_right)
            return;
        m.isHarmless = isTurned(m, nets);
        m_all.push_back(std::move(m));
    }

    /// The right nets again, once the two ends of one element change places, or a motor's lines go round.
    bool isTurned(const Mistake& m, const std::vector<int>& nets) const
    {
        std::set<DeviceId> touched;
        for (const WireChange& c : m.wires)
            if (c.ends)
                for (const DeviceId d : {c.ends->first.device, c.ends->second.device})
                    touched.insert(d);
        for (const DeviceId id : touched)
            for (const auto& places : turnsOf(id))
                if (isRightAfter(nets, places))
                    return true;
        return false;
    }

    /// Terminals that change places without anything else: one after the other, the last in the place of the first.
    std::vector<std::vector<int>> turnsOf(DeviceId id) const
    {
        std::vector<std::vector<int>> turns;
        const auto slot = [&](const std::string& marking) {
            const Device* d = m_circuit.device(id);
            return d ? m_plant.terminalIndex(d->tag, marking) : -1;
        };
        const auto isAlone = [&](int terminal) { return elementsAt(m_plant.terminals[at(terminal)].node) < 2; };
        const auto addTerminals = [&](int a, int b) {
            if (a >= 0 && b >= 0 && isAlone(a) && isAlone(b)) // a common contact has another one behind it
                turns.push_back({a, b});
        };
        const auto addPair = [&](int nodeA, int nodeB) { addTerminals(terminalAt(id, nodeA), terminalAt(id, nodeB)); };
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0 && m_plant.devices[at(l.device)].id == id) {
                addPair(l.p, l.q);
                if (const std::size_t dash = l.role.find('-'); dash != l.role.npos)
                    addTerminals(slot(l.role.substr(0, dash)), slot(l.role.substr(dash + 1)));
            }
        for (const PlantImpedance& z : m_plant.impedances)
            if (z.device >= 0 && m_plant.devices[at(z.device)].id == id && z.kind != PlantImpedance::Kind::Sense)
                addPair(z.p, z.q);
        for (const PlantMotor& m : m_plant.motors)
            if (m_plant.devices[at(m.device)].id == id && !m.data.sixTerminal) {
                const std::array<int, 3> t{
                    terminalAt(id, m.nodes[0]), terminalAt(id, m.nodes[1]), terminalAt(id, m.nodes[2])};
                turns.push_back({t[0], t[1], t[2]});
                turns.push_back({t[2], t[1], t[0]});
            }
        return turns;
    }

    /// Of whatever device: each node has but one.
    std::size_t elementsAt(int node) const
    {
        const auto touches = [node](const auto& e) { return e.p == node || e.q == node; };
        const auto isOfDevice = [](const auto& e) { return e.device >= 0; };
        std::size_t count = 0;
        for (const PlantLink& l : m_plant.links)
            count += isOfDevice(l) && touches(l);
        for (const PlantImpedance& z : m_plant.impedances)
            count += isOfDevice(z) && touches(z);
        for (const PlantConverter& c : m_plant.converters)
            count += c.plus == node || c.minus == node || c.inputP == node || c.inputQ == node;
        return count;
    }

    int terminalAt(DeviceId id, int node) const
    {
        for (std::size_t t = 0; t < m_plant.terminals.size(); ++t) {
            const PlantTerminal& terminal = m_plant.terminals[t];
            if (!terminal.inner && terminal.node == node && m_plant.devices[at(terminal.device)].id == id)
                return static_cast<int>(t);
        }
        return -1;
    }

    bool isRightAfter(const std::vector<int>& nets, const std::vector<int>& places) const
    {
        std::vector<int> turned = nets, smallest(nets.size(), -1);
        for (std::size_t k = 0; k < places.size(); ++k)
            turned[at(places[k])] = nets[at(places[(k + 1) % places.size()])];
        for (std::size_t t = 0; t < turned.size(); ++t) { // named by the smallest again
            int& name = smallest[at(turned[t])];
            if (name < 0)
                name = static_cast<int>(t);
            turned[t] = name;
        }
        return turned == m_right;
    }

    const Circuit& m_circuit;
    const Plant& m_plant;
    std::vector<int> m_right;
    std::map<TerminalRef, std::vector<End>> m_ends;
    std::map<DeviceId, std::vector<std::string>> m_terminals;
    std::set<std::string> m_contacts;
    std::vector<Mistake> m_all;
};

} // namespace

std::string_view wordOf(MistakeKind kind)
{
    constexpr std::array<std::string_view, 9> words{"missing", "beside", "exchanged", "left_out", "other_device",
        "coil_voltage", "inverted", "off_one_end", "broken"};
    return words[static_cast<std::size_t>(kind)];
}

std::vector<int> netsOf(const Plant& plant, std::span<const MovedWire> moved)
{
    const auto count = static_cast<int>(plant.terminals.size());
    std::vector<int> terminalAt(at(plant.nodeCount), -1); // earth is one node of several devices
    network::DisjointSets joined(count);
    for (int t = 0; t < count; ++t) {
        if (plant.terminals[at(t)].inner)
            continue;
        int& first = terminalAt[at(plant.terminals[at(t)].node)];
        if (first < 0)
            first = t;
        else
            joined.join(first, t);
    }
    for (std::size_t w = 0; w < plant.wires.size(); ++w) {
        std::optional<std::pair<int, int>> nodes{{plant.wires[w].p, plant.wires[w].q}};
        for (const MovedWire& m : moved)
            if (m.wire == static_cast<int>(w))
                nodes = m.nodes;
        if (nodes)
            joined.join(terminalAt[at(nodes->first)], terminalAt[at(nodes->second)]);
    }
    std::vector<int> nets(plant.terminals.size());
    for (int t = 0; t < count; ++t)
        nets[at(t)] = joined.find(t);
    return nets;
}

std::vector<MovedWire> movedIn(const Plant& plant, const Mistake& mistake)
{
    const auto nodeOf = [&plant](const TerminalRef& ref) {
        for (const PlantTerminal& t : plant.terminals)
            if (!t.inner && t.marking == ref.marking && plant.devices[at(t.device)].id == ref.device)
                return t.node;
        return -1;
    };
    std::vector<MovedWire> moved;
    for (const WireChange& c : mistake.wires)
        for (std::size_t w = 0; w < plant.wires.size(); ++w)
            if (plant.wires[w].id == c.wire) {
                moved.push_back({static_cast<int>(w), {}});
                if (c.ends)
                    moved.back().nodes = std::pair(nodeOf(c.ends->first), nodeOf(c.ends->second));
            }
    return moved;
}

Expected<Circuit> builtWith(const Circuit& circuit, const Mistake& mistake)
{
    if (mistake.kind == MistakeKind::Inverted)
        return failure(ErrorCode::Refused, message("mistake.not_a_file", {mistake.id}));
    Circuit built = circuit;
    for (const WireChange& c : mistake.wires) {
        const auto it = std::find_if(
            built.wires.begin(), built.wires.end(), [&c](const Wire& w) { return w.id == c.wire; });
        if (it == built.wires.end())
            return failure(ErrorCode::NotFound, message("mistake.no_wire", {mistake.id}));
        if (c.ends)
            std::tie(it->from, it->to) = *c.ends;
        else
            built.wires.erase(it);
    }
    for (Device& d : built.devices)
        if (mistake.coilV > 0 && d.id == mistake.device)
            d.parameters["coil_voltage_v"] = mistake.coilV;
    return built;
}

Expected<Plant> plantWith(const Circuit& circuit, const Mistake& mistake)
{
    if (mistake.kind != MistakeKind::Inverted) {
        const auto built = builtWith(circuit, mistake);
        return built ? compile(*built) : Unexpected{built.error()};
    }
    auto plant = compile(circuit);
    if (plant)
        for (PlantLink& l : plant->links)
            if (l.device >= 0 && l.role == mistake.contact && plant->devices[at(l.device)].id == mistake.device)
                l.contact.closedAt = static_cast<std::uint8_t>(~l.contact.closedAt & (kAtRest | kActuated));
    return plant;
}

Expected<std::vector<Mistake>> mistakesOf(const Circuit& circuit)
{
    const auto plant = compile(circuit);
    if (!plant)
        return Unexpected{plant.error()};
    return Lister(circuit, *plant).all();
}

} // namespace ts::measuring
