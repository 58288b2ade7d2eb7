#include "core/simulation/plant.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <map>
#include <numbers>

namespace ts {
namespace {

int sizeOf(const auto& list)
{
    return static_cast<int>(list.size());
}

/// "9" before "10", "31a" after "31": digits compare as numbers.
bool naturallyLess(std::string_view a, std::string_view b)
{
    const auto leading = [](std::string_view s) {
        std::size_t n = 0;
        while (n < s.size() && s[n] >= '0' && s[n] <= '9')
            ++n;
        return n;
    };
    const std::size_t na = leading(a), nb = leading(b);
    if ((na == 0) != (nb == 0))
        return na != 0;
    if (na != nb)
        return na < nb;
    return a < b;
}

/// Puts one device's body into the flat arrays.
class Builder {
public:
    explicit Builder(Plant& plant)
        : m_plant(plant)
    {
    }

    void add(const Device& device, const Body& body)
    {
        m_device = sizeOf(m_plant.devices);
        m_plant.devices.push_back({device.id, device.tag, device.kind, {}, {}, {}, {}, {}, {}, {}, {}, {}});
        m_nodes.clear();
        for (const TerminalSpec& t : body.terminals) {
            const int node = t.protectiveEarth ? network::kReference : m_plant.nodeCount++;
            m_nodes.push_back(node);
            m_plant.terminals.push_back({m_device, t.marking, t.inner, node, -1});
        }
        m_firstMover = sizeOf(m_plant.movers);
        for (MoverSpec spec : body.movers) {
            owner().movers.push_back(sizeOf(m_plant.movers));
            if (spec.freedBy >= 0)
                spec.freedBy += m_firstMover;
            m_plant.movers.push_back({m_device, spec, {}, {}});
        }
        for (int m : owner().movers)
            if (const int lock = m_plant.movers[at(m)].spec.freedBy; lock >= 0)
                m_plant.movers[at(lock)].frees.push_back(m);
        m_firstLevel = m_plant.levelCount;
        m_plant.levelCount += body.levelCount;
        m_slot.clear();
        for (const Element& e : body.elements) {
            m_element = &e;
            m_slot.push_back(std::visit([this](const auto& what) { return addElement(what); }, e.what));
        }
        addProtections(body);
        for (const SafetyRelayLogic& relay : body.safetyRelays)
            addRelay(relay);
        for (const DeviceLogic& logic : body.logics) {
            owner().logics.push_back(sizeOf(m_plant.logics));
            m_plant.logics.push_back(
                {std::visit([this](auto l) { return DeviceLogic(placed(std::move(l))); }, logic), m_device});
        }
        for (const ActionSpec& a : body.actions)
            owner().actions.push_back({a.word, {m_firstMover + a.mover, a.target}});
    }

private:
    PlantDevice& owner() { return m_plant.devices[at(m_device)]; }
    int node(int k) const { return m_nodes[at(m_element->terminals[at(k)])]; }

    int addElement(const ContactElement& c)
    {
        PlantLink link{node(0), node(1), m_device, -1, m_element->role, c};
        if (c.mover >= 0)
            link.contact.mover = m_firstMover + c.mover;
        owner().links.push_back(sizeOf(m_plant.links));
        m_plant.links.push_back(link);
        return sizeOf(m_plant.links) - 1;
    }
    int addImpedance(PlantImpedance::Kind kind, Complex open, Complex sealed, double direct, int mover = -1)
    {
        m_plant.impedances.push_back(
            {kind, node(0), node(1), m_device, -1, m_element->role, open, sealed, direct, 0.0, mover});
        return sizeOf(m_plant.impedances) - 1;
    }
    int addElement(const CoilElement& c)
    {
        const int mover = m_firstMover + c.mover;
        const int slot = addImpedance(PlantImpedance::Kind::Coil, c.openOhm, c.sealedOhm, c.resistanceOhm, mover);
        m_plant.impedances[at(slot)].sealedDirectOhm = c.sealedResistanceOhm;
        m_plant.coils.push_back({slot, mover, c});
        if (c.burnt >= 0)
            m_plant.impedances[at(slot)].burnt = m_plant.coils.back().data.burnt = m_firstMover + c.burnt;
        return slot;
    }
    int addElement(const LoadElement& l)
    {
        return addImpedance(PlantImpedance::Kind::Load, l.alternatingOhm, l.alternatingOhm, l.directOhm);
    }
    int addElement(const LampElement& l)
    {
        const int slot = addImpedance(PlantImpedance::Kind::Lamp, l.ohm, l.ohm, l.ohm);
        owner().lamps.push_back(sizeOf(m_plant.lamps));
        m_plant.lamps.push_back({slot, m_device, l});
        return slot;
    }
    int addElement(const SenseElement& s) { return addImpedance(PlantImpedance::Kind::Sense, s.ohm, s.ohm, s.ohm); }
    int addElement(const SourceElement& s)
    {
        int knob = -1;
        if (!s.knob.empty()) {
            knob = sizeOf(m_plant.knobs);
            m_plant.knobs.push_back({owner().tag + "." + s.knob, 1.0});
        }
        m_plant.sources.push_back({node(0), node(1), m_device, m_element->role,
            std::polar(s.emfV, s.angleDeg * std::numbers::pi / 180.0), s.ohm, knob, s.nominalV, s.directV});
        return sizeOf(m_plant.sources) - 1;
    }
    int addElement(const TransformerElement& t)
    {
        m_plant.transformers.push_back({node(0), node(1), node(2), node(3), m_device, t});
        return sizeOf(m_plant.transformers) - 1;
    }
    int addElement(const MotorElement& m)
    {
        PlantMotor motor{{}, m_device, m, m_plant.flowCount++, {}};
        for (int k = 0; k < (m.sixTerminal ? 6 : 3); ++k)
            motor.nodes[at(k)] = node(k);
        owner().motors.push_back(sizeOf(m_plant.motors));
        m_plant.motors.push_back(motor);
        return sizeOf(m_plant.motors) - 1;
    }
    int addElement(const ConverterElement& c)
    {
        owner().converters.push_back(sizeOf(m_plant.converters));
        m_plant.converters.push_back({node(0), node(1), node(2), node(3), m_device, c});
        return sizeOf(m_plant.converters) - 1;
    }
    int addElement(const VariableElement& v)
    {
        m_plant.variables.push_back({node(0), node(1), m_device, v});
        m_plant.variables.back().data.level += m_firstLevel;
        return sizeOf(m_plant.variables) - 1;
    }
    int addElement(const DriveElement& d)
    {
        m_plant.drives.push_back({{node(0), node(1), node(2)}, {node(3), node(4), node(5)}, m_device, d});
        m_plant.drives.back().data.level += m_firstLevel;
        return sizeOf(m_plant.drives) - 1;
    }
    void addProtections(const Body& body)
    {
        for (Protection p : body.protections) {
            p.mover += m_firstMover;
            for (int& pole : p.poles)
                pole = m_slot[at(pole)];
            if (p.winding >= 0)
                p.winding = m_slot[at(p.winding)];
            owner().protections.push_back(sizeOf(m_plant.protections));
            m_plant.protections.push_back({p, m_device, m_plant.flowCount++});
        }
    }
    void addRelay(SafetyRelayLogic logic)
    {
        for (int* sense : {&logic.supply, &logic.channel1, &logic.channel2, &logic.reset})
            if (*sense >= 0)
                *sense = m_slot[at(*sense)];
        for (int* mover : {&logic.firstRelay, &logic.secondRelay, &logic.firstDelayed, &logic.secondDelayed})
            toMover(*mover);
        owner().relays.push_back(sizeOf(m_plant.relays));
        m_plant.relays.push_back({logic, m_device});
    }

    void toSlot(int& element) const
    {
        if (element >= 0)
            element = m_slot[at(element)];
    }
    void toMover(int& mover) const
    {
        if (mover >= 0)
            mover += m_firstMover;
    }
    TimerLogic placed(TimerLogic l) const
    {
        toSlot(l.supply);
        toSlot(l.control);
        toMover(l.first);
        toMover(l.second);
        return l;
    }
    PhaseMonitorLogic placed(PhaseMonitorLogic l) const
    {
        toSlot(l.supply);
        for (int& tap : l.taps)
            toSlot(tap);
        for (int& pole : l.poles)
            toSlot(pole);
        toMover(l.mover);
        toMover(l.resetButton);
        return l;
    }
    StandstillLogic placed(StandstillLogic l) const
    {
        toSlot(l.supply);
        for (int& tap : l.taps)
            toSlot(tap);
        toMover(l.mover);
        return l;
    }
    GateLogic placed(GateLogic l) const
    {
        toSlot(l.supply);
        toMover(l.obstacle);
        for (int& mover : l.outputs)
            toMover(mover);
        return l;
    }
    SoftStarterLogic placed(SoftStarterLogic l) const
    {
        toSlot(l.supply);
        toSlot(l.start);
        toMover(l.bypass);
        l.level += m_firstLevel;
        return l;
    }
    DriveLogic placed(DriveLogic l) const
    {
        for (int* sense : {&l.supply, &l.run, &l.reverse, &l.torqueOff1, &l.torqueOff2})
            toSlot(*sense);
        toMover(l.running);
        toMover(l.ready);
        l.level += m_firstLevel;
        return l;
    }

    Plant& m_plant;
    int m_device = 0, m_firstMover = 0, m_firstLevel = 0;
    std::vector<int> m_nodes, m_slot;
    const Element* m_element = nullptr;
};

Expected<void> addWires(const Circuit& circuit, Plant& plant, Wires which)
{
    std::map<std::pair<int, std::string>, int> terminalOf;
    for (std::size_t i = 0; i < plant.terminals.size(); ++i)
        if (!plant.terminals[i].inner)
            terminalOf[{plant.devices[at(plant.terminals[i].device)].id.value,
                plant.terminals[i].marking}] = static_cast<int>(i);
    std::vector<const Wire*> wires;
    for (const Wire& w : circuit.wires)
        wires.push_back(&w);
    std::sort(wires.begin(), wires.end(), [](auto* a, auto* b) { return a->id < b->id; });

    network::DisjointSets joined(sizeOf(plant.terminals));
    for (const Wire* w : wires) {
        std::array<int, 2> ends{};
        for (std::size_t k = 0; k < 2; ++k) {
            const TerminalRef& ref = k == 0 ? w->from : w->to;
            const auto found = terminalOf.find({ref.device.value, ref.marking});
            if (found == terminalOf.end())
                return failure(ErrorCode::NotFound, message("wire.no_terminal", {w->number, circuit.nameOf(ref)}));
            ends[k] = found->second;
        }
        joined.join(ends[0], ends[1]);
        PlantWire wire{w->id, w->number, plant.terminals[at(ends[0])].node, plant.terminals[at(ends[1])].node};
        const Route* route = circuit.route(w->route);
        const double ohm = wireOhm(*w);
        constexpr double kNoOhm = 1e-7; // less than any joint: as good as ideal, and a network cannot be solved with it
        const bool isResistance = ohm > kNoOhm
            && (which == Wires::EachAResistance || w->lengthM > kIdealWireLengthM
                || (route && route->kind != RouteKind::Enclosure));
        const int index = sizeOf(plant.wires);
        if (isResistance) {
            wire.impedance = sizeOf(plant.impedances);
            plant.impedances.push_back(
                {PlantImpedance::Kind::Wire, wire.p, wire.q, -1, index, w->number, ohm, ohm, ohm, 0.0, -1});
        } else {
            wire.link = sizeOf(plant.links);
            plant.links.push_back({wire.p, wire.q, -1, index, w->number, ContactElement{ContactKind::Pole}});
            plant.largestNeglectedOhm = std::max(plant.largestNeglectedOhm, ohm);
        }
        plant.wires.push_back(wire);
    }

    // Nets, named by their smallest wire number.
    std::vector<int> netOfRoot(plant.terminals.size(), -1);
    for (std::size_t i = 0; i < plant.terminals.size(); ++i) {
        PlantTerminal& t = plant.terminals[i];
        if (t.inner)
            continue;
        int& net = netOfRoot[at(joined.find(static_cast<int>(i)))];
        if (net < 0) {
            net = sizeOf(plant.nets);
            plant.nets.push_back({});
        }
        t.net = net;
        plant.nets[at(net)].terminals.push_back(static_cast<int>(i));
    }
    plant.netOfNode.assign(at(plant.nodeCount), -1);
    for (const PlantTerminal& t : plant.terminals)
        if (!t.inner && plant.netOfNode[at(t.node)] < 0)
            plant.netOfNode[at(t.node)] = t.net;
    for (const PlantWire& w : plant.wires) {
        std::string& name = plant.nets[at(plant.netOfNode[at(w.p)])].name;
        if (!w.number.empty() && (name.empty() || naturallyLess(w.number, name)))
            name = w.number;
    }
    for (PlantNet& net : plant.nets)
        if (net.name.empty()) {
            const PlantTerminal& t = plant.terminals[at(net.terminals.front())];
            net.name = plant.devices[at(t.device)].tag + ":" + t.marking;
        }
    return {};
}

/// Between every two cores of a long cable: over it a coil can be held although its contact has opened.
void addCableCapacitance(const Circuit& circuit, Plant& plant)
{
    const double faradPerM = deviceDefault("control cable", "core_to_core_capacitance").nominal * 1e-6 / 1e3; // row in
                                                                                                              // uF/km
    std::map<int, std::vector<std::pair<int, double>>> cores; // route -> node, length
    for (const PlantWire& w : plant.wires) {
        const Wire& wire = *circuit.wire(w.id);
        const Route* route = circuit.route(wire.route);
        if (route && route->kind != RouteKind::Enclosure && wire.lengthM > kCapacitiveLengthM)
            cores[route->id.value].emplace_back(w.p, wire.lengthM);
    }
    for (const auto& [route, list] : cores)
        for (std::size_t a = 0; a < list.size(); ++a)
            for (std::size_t b = a + 1; b < list.size(); ++b) {
                const double farad = faradPerM * std::min(list[a].second, list[b].second);
                const Complex ohm(0.0, -1.0 / (2.0 * std::numbers::pi * plant.frequencyHz * farad));
                plant.impedances.push_back({PlantImpedance::Kind::CableCapacitance, list[a].first, list[b].first, -1,
                    -1, "", ohm, ohm, 1e9, 0.0, -1});
            }
}

Expected<void> addLinkages(const Circuit& circuit, Plant& plant)
{
    const auto deviceOf = [&](DeviceId id) -> const PlantDevice* {
        for (const PlantDevice& d : plant.devices)
            if (d.id == id)
                return &d;
        return nullptr;
    };
    for (const MechanicalInterlock& lock : circuit.interlocks) {
        const PlantDevice *first = deviceOf(lock.first), *second = deviceOf(lock.second);
        if (!first || !second || first->movers.empty() || second->movers.empty())
            return failure(ErrorCode::NotFound, message("interlock.no_armature"));
        const int a = first->movers.front(), b = second->movers.front();
        plant.movers[at(a)].partners.push_back(b);
        plant.movers[at(b)].partners.push_back(a);
    }
    for (const Shaft& shaft : circuit.shafts) {
        const PlantDevice *brake = deviceOf(shaft.brake), *motor = deviceOf(shaft.motor);
        if (!brake || !motor || motor->motors.empty() || brake->movers.empty()
            || plant.movers[at(brake->movers.front())].spec.brakesNm <= 0.0)
            return failure(ErrorCode::NotFound, message("shaft.no_brake"));
        plant.motors[at(motor->motors.front())].brakes.push_back(brake->movers.front());
    }
    return {};
}

void addActuators(Plant& plant)
{
    for (const PlantMotor& m : plant.motors)
        plant.actuators.push_back({m.device, {}, {m.nodes.begin(), m.nodes.begin() + (m.data.sixTerminal ? 6 : 3)}});
    for (std::size_t c = 0; c < plant.coils.size(); ++c) {
        const PlantMover& mover = plant.movers[at(plant.coils[c].mover)];
        const PlantImpedance& z = plant.impedances[at(plant.coils[c].impedance)];
        if (!mover.spec.isOutput)
            continue;
        if (c == 0 || plant.coils[c - 1].mover != plant.coils[c].mover)
            plant.actuators.push_back({mover.device, {}, {}, mover.spec.holds});
        PlantActuator& actuator = plant.actuators.back();
        actuator.coils.push_back(static_cast<int>(c));
        for (int node : {z.p, z.q})
            if (std::find(actuator.nodes.begin(), actuator.nodes.end(), node) == actuator.nodes.end())
                actuator.nodes.push_back(node);
    }
    for (std::size_t k = 0; k < plant.actuators.size(); ++k)
        plant.devices[at(plant.actuators[k].device)].actuator = static_cast<int>(k);
}

} // namespace

double wireOhm(const Wire& wire)
{
    static const double resistivity = deviceDefault("copper", "resistivity_20c").nominal; // ohm mm2/m
    return resistivity * wire.lengthM / wire.areaMm2;
}

const PlantDevice& Plant::deviceOfActuator(int slot) const
{
    return devices[at(actuators[at(slot)].device)];
}

std::vector<int> Plant::actuatorsOf(const std::vector<DeviceId>& ids) const
{
    std::vector<int> slots;
    for (DeviceId id : ids)
        for (const PlantDevice& d : devices)
            if (d.id == id && d.actuator >= 0)
                slots.push_back(d.actuator);
    return slots;
}

std::vector<const PlantConverter*> Plant::supplies() const
{
    std::vector<const PlantConverter*> list;
    for (const PlantConverter& c : converters)
        if (!c.data.isInner)
            list.push_back(&c);
    return list;
}

int Plant::deviceIndex(std::string_view tag) const
{
    for (std::size_t i = 0; i < devices.size(); ++i)
        if (devices[i].tag == tag)
            return static_cast<int>(i);
    return -1;
}

int Plant::terminalIndex(std::string_view tag, std::string_view marking) const
{
    for (std::size_t i = 0; i < terminals.size(); ++i)
        if (terminals[i].marking == marking && devices[at(terminals[i].device)].tag == tag)
            return static_cast<int>(i);
    return -1;
}

std::string Plant::nameOfNode(int node) const
{
    for (const PlantTerminal& t : terminals)
        if (t.node == node)
            return devices[at(t.device)].tag + ":" + t.marking;
    return "?";
}

namespace {

/// Of all that decides about voltages: who remembers solved circuits by numbers of slots must not meet another circuit.
std::uint64_t circuitNumberOf(const Circuit& circuit)
{
    std::uint64_t number = 0x9E3779B97F4A7C15ull;
    const auto mix = [&number](
                         std::uint64_t part) { number = (number ^ part) * 0xBF58476D1CE4E5B9ull ^ (number >> 29); };
    const auto mixText = [&mix](std::string_view text) { mix(std::hash<std::string_view>{}(text)); };
    const auto mixAll = [&](const ParameterMap& parameters) {
        for (const auto& [name, value] : parameters) {
            mixText(name);
            if (const auto* words = std::get_if<std::vector<std::string>>(&value))
                std::for_each(words->begin(), words->end(), mixText);
            else if (const auto* word = std::get_if<std::string>(&value))
                mixText(*word);
            else if (const auto* figure = std::get_if<double>(&value))
                mix(std::hash<double>{}(*figure));
            else
                mix(std::get<bool>(value));
        }
    };
    const auto mixTerminal = [&](const TerminalRef& t) {
        mix(static_cast<std::uint64_t>(t.device.value));
        mixText(t.marking);
    };
    for (const Part& p : circuit.parts) {
        mixText(p.id);
        mixAll(p.parameters);
    }
    for (const Device& d : circuit.devices) {
        mix(static_cast<std::uint64_t>(d.id.value));
        mixText(d.kind);
        mixText(d.part);
        mixAll(d.parameters);
    }
    for (const Wire& w : circuit.wires) {
        mix(static_cast<std::uint64_t>(w.id.value));
        mixTerminal(w.from);
        mixTerminal(w.to);
        mix(std::hash<double>{}(w.areaMm2));
        mix(std::hash<double>{}(w.lengthM));
        mix(static_cast<std::uint64_t>(w.route.value));
    }
    for (const Route& r : circuit.routes)
        mix(static_cast<std::uint64_t>(r.id.value * 8 + static_cast<int>(r.kind)));
    return number == 0 ? 1 : number;
}

} // namespace

namespace {

Expected<Plant> devicesOf(const Circuit& circuit, Timing timing)
{
    Plant plant;
    std::vector<const Device*> devices;
    for (const Device& d : circuit.devices)
        devices.push_back(&d);
    std::sort(devices.begin(), devices.end(), [](auto* a, auto* b) { return a->id < b->id; });
    Builder builder(plant);
    for (const Device* d : devices) {
        const auto body = bodyOf(circuit, *d, timing);
        if (!body)
            return Unexpected{body.error()};
        builder.add(*d, *body);
        if (body->frequencyHz > 0.0) // the only frequency there is
            plant.frequencyHz = body->frequencyHz;
    }
    return plant;
}

/// A plant without its wires, and what it was made of.
struct BarePlant {
    std::vector<Device> devices;
    std::vector<Part> parts;
    Timing timing = Timing::Nominal;
    Plant plant;
    bool isOf(const Circuit& circuit, Timing t) const
    {
        return t == timing && devices == circuit.devices && parts == circuit.parts;
    }
};

/// Who tries wiring mistakes compiles the same devices a thousand times: each thread keeps its last ones.
Expected<Plant> keptDevicesOf(const Circuit& circuit, Timing timing)
{
    thread_local BarePlant last;
    if (!last.isOf(circuit, timing)) {
        auto plant = devicesOf(circuit, timing);
        if (!plant)
            return plant;
        last = {circuit.devices, circuit.parts, timing, *std::move(plant)};
    }
    return last.plant;
}

} // namespace

Expected<Plant> compile(const Circuit& circuit, Timing timing, Wires wires)
{
    auto plant = keptDevicesOf(circuit, timing);
    if (!plant)
        return plant;
    plant->circuitNumber = circuitNumberOf(circuit) ^ (static_cast<std::uint64_t>(wires) << 63);
    if (auto ok = addWires(circuit, *plant, wires); !ok)
        return Unexpected{ok.error()};
    addCableCapacitance(circuit, *plant);
    if (auto ok = addLinkages(circuit, *plant); !ok)
        return Unexpected{ok.error()};
    addActuators(*plant);
    return plant;
}

} // namespace ts
