#include "core/faults/common_cause.h"

#include "core/base/at.h"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>
#include <set>

namespace ts::faults {
namespace {

int rootOf(std::vector<int>& parent, int node)
{
    while (parent[at(node)] != node)
        node = parent[at(node)] = parent[at(parent[at(node)])];
    return node;
}

bool isContactor(const Plant& plant, const PlantLink& l)
{
    return l.contact.kind == ContactKind::Main && l.contact.mover >= 0
        && plant.movers[at(l.contact.mover)].spec.driver == MoverSpec::Driver::Coil;
}

/// Whether two terminals of a motor reach a source when of all contactors only these are in, and everything else is
/// closed.
bool isFedBy(const Plant& plant, int motor, std::initializer_list<int> contactors)
{
    std::vector<int> parent(at(plant.nodeCount));
    std::iota(parent.begin(), parent.end(), 0);
    const auto join = [&](int a, int b) { parent[at(rootOf(parent, a))] = rootOf(parent, b); };
    for (const PlantLink& l : plant.links)
        if (!isContactor(plant, l)
            || std::find(contactors.begin(), contactors.end(), l.contact.mover) != contactors.end())
            join(l.p, l.q);
    for (const PlantImpedance& z : plant.impedances)
        if (z.kind == PlantImpedance::Kind::Wire)
            join(z.p, z.q);
    for (const PlantVariable& v : plant.variables)
        join(v.p, v.q);
    for (const PlantDrive& d : plant.drives)
        for (std::size_t k = 0; k < d.inputs.size(); ++k)
            join(d.inputs[k], d.outputs[k]);
    const auto isLive = [&](int node) {
        return std::any_of(plant.sources.begin(), plant.sources.end(),
            [&](const PlantSource& s) { return s.directV == 0.0 && rootOf(parent, s.p) == rootOf(parent, node); });
    };
    const auto& nodes = plant.motors[at(motor)].nodes;
    return std::count_if(nodes.begin(), nodes.begin() + 3, isLive) >= 2;
}

SweptFault named(std::string id, std::string group, std::string mode)
{
    SweptFault f;
    f.element = id;
    f.mode = mode;
    f.id = std::move(id) + ":" + std::move(mode);
    f.group = std::move(group);
    f.family = Family::CommonCause;
    return f;
}

void addCable(const Plant& plant, const Circuit& circuit, const Route& route, std::vector<SweptFault>& out)
{
    std::vector<Fault> cut;
    std::map<int, int> cores; // net -> a node of it
    std::set<DeviceId> devices;
    for (const PlantWire& w : plant.wires) {
        const Wire& wire = *circuit.wire(w.id);
        if (wire.route != route.id)
            continue;
        cut.push_back(
            w.link >= 0 ? Fault{FaultMode::LinkHeldOpen, w.link} : Fault{FaultMode::ImpedanceOpen, w.impedance});
        cores.try_emplace(plant.netOfNode[at(w.p)], w.p);
        devices.insert({wire.from.device, wire.to.device});
    }
    if (cut.size() < 2)
        return;
    const std::string id = "route/" + std::to_string(route.id.value);
    SweptFault cutThrough = named(id, route.name, "cut"), crushed = named(id, route.name, "crushed");
    cutThrough.variants = {cut};
    std::vector<Fault> touching;
    for (auto core = std::next(cores.begin()); core != cores.end(); ++core)
        touching.push_back({FaultMode::Short, cores.begin()->second, core->second});
    crushed.variants = {touching, touching};
    crushed.variants.back().push_back({FaultMode::Short, cores.begin()->second, network::kReference});
    for (SweptFault* f : {&cutThrough, &crushed})
        f->devices.assign(devices.begin(), devices.end());
    out.push_back(std::move(cutThrough));
    if (!touching.empty())
        out.push_back(std::move(crushed));
}

void addWelded(const Plant& plant, int motor, std::vector<SweptFault>& out)
{
    for (const auto& [first, second] : contactorsInSeries(plant, motor)) {
        const PlantDevice &a = plant.devices[at(plant.movers[at(first)].device)],
                          &b = plant.devices[at(plant.movers[at(second)].device)];
        SweptFault fault = named(
            a.tag + "+" + b.tag, plant.devices[at(plant.motors[at(motor)].device)].tag, "welded_together");
        if (std::any_of(out.begin(), out.end(), [&fault](const SweptFault& f) { return f.id == fault.id; }))
            continue;
        fault.variants = {{{FaultMode::PolesWelded, first}, {FaultMode::PolesWelded, second}}};
        fault.devices = {a.id, b.id};
        out.push_back(std::move(fault));
    }
}

/// Sources: interruption and dips IEC 61000-4-34 table 1, class 3, at 50 Hz (one cycle, 10 and 25 cycles); what a load
/// between phase and neutral sees when the neutral is lost: up to the line voltage, IEC 60364-4-44 clause 442.3. The
/// second interruption is longer than any hold-up of the tables.
struct Disturbance {
    const char* mode;
    double share, lastsS;
};
constexpr std::array kDisturbances{Disturbance{"interrupted_briefly", 0.0, 0.02}, Disturbance{"interrupted", 0.0, 2.0},
    Disturbance{"dip_to_40", 0.4, 0.2}, Disturbance{"dip_to_70", 0.7, 0.5}, Disturbance{"overvoltage", 1.732, 5.0}};

void addDisturbances(const Plant& plant, std::vector<SweptFault>& out)
{
    if (plant.knobs.empty())
        return;
    for (const Disturbance& d : kDisturbances) {
        SweptFault fault = named("supply", "supply", d.mode);
        fault.supply = {{0.0, d.share}, {d.lastsS, 1.0}};
        fault.variants = {{}};
        for (const PlantSource& s : plant.sources)
            if (const DeviceId id = plant.devices[at(s.device)].id; fault.devices.empty() || fault.devices.back() != id)
                fault.devices.push_back(id);
        out.push_back(std::move(fault));
    }
}

} // namespace

std::vector<std::pair<int, int>> contactorsInSeries(const Plant& plant, int motor)
{
    std::set<int> all;
    for (const PlantLink& l : plant.links)
        if (isContactor(plant, l) && !isFedBy(plant, motor, {l.contact.mover}))
            all.insert(l.contact.mover);
    std::vector<std::pair<int, int>> pairs;
    for (auto a = all.begin(); a != all.end(); ++a)
        for (auto b = std::next(a); b != all.end(); ++b)
            if (isFedBy(plant, motor, {*a, *b}))
                pairs.emplace_back(*a, *b);
    return pairs;
}

std::vector<SweptFault> commonCauses(const Plant& plant, const Circuit& circuit)
{
    std::vector<SweptFault> out;
    for (const Route& route : circuit.routes)
        if (route.kind != RouteKind::Enclosure)
            addCable(plant, circuit, route, out);
    for (int m = 0; m < static_cast<int>(plant.motors.size()); ++m)
        addWelded(plant, m, out);
    addDisturbances(plant, out);
    return out;
}

} // namespace ts::faults
