#include "app/places/bench/scene_binding.h"

#include "core/base/at.h"

#include <algorithm>
#include <map>

namespace ts::app {
namespace {

constexpr double kCarryingA = 1e-3; ///< less is a leak

Tone toneOf(const Frame& frame, int net)
{
    if (net < 0)
        return Tone::Dead;
    switch (frame.nets[at(net)]) {
    case NetLook::Live:
        return Tone::Live;
    case NetLook::Floating:
        return Tone::Floating;
    case NetLook::Dead:
        break;
    }
    return frame.netsA[at(net)] > kCarryingA ? Tone::Carrying : Tone::Dead;
}

} // namespace

SceneBinding::SceneBinding(const diagram::Scene& scene, const Plant& plant)
{
    for (const PlantTerminal& t : plant.terminals)
        if (!t.inner)
            m_netOf[{plant.devices[at(t.device)].id, t.marking}] = t.net;
    const auto net = [this](const TerminalRef& ref) { return netOf(ref); };
    for (const diagram::Conductor& c : scene.conductors)
        m_conductors.push_back(net(c.net));
    for (const diagram::Dot& d : scene.dots)
        m_dots.push_back(net(d.net));
    for (const diagram::Symbol& s : scene.symbols) {
        BoundSymbol b;
        const bool isEarth = s.kind == diagram::SymbolKind::Earth; // what flows in a bonded return does not flow here
        b.upper = isEarth ? -1 : net(s.upper);
        b.lower = net(s.lower);
        b.device = s.device;
        b.role = s.role;
        bindDevice(s, plant, b);
        m_symbols.push_back(std::move(b));
    }
}

int SceneBinding::netOf(const TerminalRef& terminal) const
{
    const auto it = m_netOf.find(terminal);
    return it == m_netOf.end() ? -1 : it->second;
}

void SceneBinding::bindDevice(const diagram::Symbol& s, const Plant& plant, BoundSymbol& b) const
{
    for (const PlantDevice& d : plant.devices) {
        if (d.id != s.device)
            continue;
        for (int l : d.links)
            if (!s.role.empty() && plant.links[at(l)].role == s.role)
                b.links.push_back(l);
        const bool isLoad = s.kind == diagram::SymbolKind::Coil || s.kind == diagram::SymbolKind::BoxLoad
            || s.kind == diagram::SymbolKind::Lamp;
        if (s.kind == diagram::SymbolKind::Coil && !d.movers.empty())
            b.coil = d.movers.front();
        if (s.kind == diagram::SymbolKind::Lamp && !d.lamps.empty())
            b.lamp = d.lamps.front();
        if (s.kind == diagram::SymbolKind::BoxLoad && !d.relays.empty())
            b.relay = d.relays.front();
        if (s.kind == diagram::SymbolKind::Device && !d.motors.empty())
            b.motor = d.motors.front();
        if (s.kind == diagram::SymbolKind::Device && d.motors.empty())
            b.actuator = d.actuator;
        if (s.kind == diagram::SymbolKind::Device && !d.converters.empty())
            b.converter = d.converters.front();
        for (int l : b.links) {
            b.faults.emplace_back(FaultMode::LinkHeldClosed, l);
            b.faults.emplace_back(FaultMode::LinkHeldOpen, l);
        }
        const bool isMain = s.kind == diagram::SymbolKind::MainContact;
        for (int m : d.movers) {
            if (isMain)
                for (FaultMode mode : {FaultMode::PolesWelded, FaultMode::PolesOpen})
                    b.faults.emplace_back(mode, m);
            if (isLoad) // the coil stands for its device: its poles may be drawn elsewhere
                for (FaultMode mode : {FaultMode::PolesWelded, FaultMode::PolesOpen})
                    b.faults.emplace_back(mode, m);
            if (!b.links.empty() && !isMain)
                b.faults.emplace_back(FaultMode::BlockFallenOff, m);
            if (isLoad || plant.movers[at(m)].spec.driver == MoverSpec::Driver::Operator)
                for (FaultMode mode :
                    {FaultMode::MoverStuckAtRest, FaultMode::MoverStuckActuated, FaultMode::LatchFails})
                    b.faults.emplace_back(mode, m);
        }
        if (isLoad)
            for (int l : d.links)
                if (plant.links[at(l)].contact.kind == ContactKind::Main)
                    for (FaultMode mode : {FaultMode::LinkHeldClosed, FaultMode::LinkHeldOpen})
                        b.faults.emplace_back(mode, l);
        if (isLoad)
            for (std::size_t z = 0; z < plant.impedances.size(); ++z)
                if (plant.impedances[z].device >= 0 && plant.devices[at(plant.impedances[z].device)].id == s.device)
                    for (FaultMode mode : {FaultMode::ImpedanceOpen, FaultMode::ImpedanceShorted})
                        b.faults.emplace_back(mode, static_cast<int>(z));
    }
}

SceneLook SceneBinding::look(const Frame& frame, DeviceId selected, const std::string& role) const
{
    SceneLook look;
    for (int net : m_conductors)
        look.conductors.push_back(toneOf(frame, net));
    for (int net : m_dots)
        look.dots.push_back(toneOf(frame, net));
    for (const BoundSymbol& b : m_symbols) {
        SymbolLook s;
        s.upper = toneOf(frame, b.upper);
        s.lower = toneOf(frame, b.lower);
        s.isClosed = !b.links.empty()
            && std::all_of(b.links.begin(), b.links.end(), [&](int l) { return frame.links[at(l)].closed; });
        s.isOn = (b.coil >= 0 && frame.travel[at(b.coil)] == 2) || (b.lamp >= 0 && frame.lampLit[at(b.lamp)])
            || (b.relay >= 0 && frame.relays[at(b.relay)].powered)
            || (b.motor >= 0 && frame.motors[at(b.motor)].mode == MotorMode::Driven)
            || (b.actuator >= 0 && frame.actuators[at(b.actuator)] == MotorMode::Driven)
            || (b.converter >= 0 && frame.converters[at(b.converter)] == ConverterMode::Voltage);
        s.isSelected = selected && b.device == selected && (role.empty() || role == b.role);
        s.hasFault = std::any_of(frame.faults.begin(), frame.faults.end(), [&](const Fault& f) {
            return std::find(b.faults.begin(), b.faults.end(), std::pair{f.mode, f.at}) != b.faults.end();
        });
        look.symbols.push_back(s);
    }
    return look;
}

} // namespace ts::app
