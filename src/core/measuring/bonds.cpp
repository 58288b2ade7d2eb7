#include "core/measuring/bonds.h"

#include "core/base/at.h"
#include "core/network/motor_circuit.h"

#include <algorithm>
#include <map>

namespace ts::measuring {
namespace {

constexpr double kLeastOhm = 1e-6; ///< what a short-circuited element has: a matrix wants a number

struct Bands {
    Band copper = bandOf("copper"), winding = bandOf("winding"), motor = bandOf("winding_of_motor"),
         resistor = bandOf("resistor"), electronics = bandOf("electronics");
};
const Bands& bands()
{
    static const Bands all;
    return all;
}

double statorOhm(const network::MotorCircuit& motor)
{
    static const double share = bandOf("stator").low;
    return std::max(motor.r1, share * std::abs(network::sequenceImpedance(motor, 1.0)));
}

Bond resistance(int p, int q, double ohm, const Band& band)
{
    return {p, q, std::max(ohm * band.low, kLeastOhm), std::max(ohm * band.high, kLeastOhm)};
}

Bond electronics(int p, int q)
{
    return {p, q, bands().electronics.low, kEndless};
}

/// What a wire joins; none: nothing.
std::optional<std::pair<int, int>> endsOf(std::span<const MovedWire> moved, int wire, int p, int q)
{
    if (wire >= 0)
        for (const MovedWire& m : moved)
            if (m.wire == wire)
                return !m.isBroken && m.nodes && m.nodes->first != kNowhere && m.nodes->second != kNowhere
                    ? m.nodes
                    : std::nullopt;
    return std::pair(p, q);
}

} // namespace

std::optional<Bond> linkIn(const BuiltSo& built, std::size_t l)
{
    const PlantLink& link = built.plant.links[l];
    const Overlay& o = built.overlay;
    const int mover = link.contact.mover;
    const std::uint8_t where = mover < 0
        ? 0
        : std::clamp(built.travel[at(mover)], o.lowest[at(mover)], o.highest[at(mover)]);
    const bool isClosed = o.link[l] != 0 ? o.link[l] > 0 : mover < 0 || ((link.contact.closedAt >> where) & 1u);
    const auto ends = endsOf(built.moved, link.wire, link.p, link.q);
    return isClosed && ends ? std::optional(Bond{ends->first, ends->second, 0, 0}) : std::nullopt;
}

std::optional<Bond> impedanceIn(const BuiltSo& built, std::size_t z)
{
    using Kind = PlantImpedance::Kind;
    const PlantImpedance& element = built.plant.impedances[z];
    const int fault = built.overlay.impedance[z];
    const auto ends = endsOf(built.moved, element.wire, element.p, element.q);
    if (!ends || fault < 0 || element.kind == Kind::CableCapacitance)
        return std::nullopt;
    const auto [p, q] = *ends;
    if (fault > 0)
        return resistance(p, q, kLeastOhm, bands().resistor);
    switch (element.kind) {
    case Kind::Lamp:
    case Kind::Sense:
        return electronics(p, q);
    case Kind::Wire:
        return resistance(p, q, element.directOhm, bands().copper);
    case Kind::Coil:
        return resistance(p, q, element.directOhm, bands().winding);
    default:
        return resistance(p, q, element.directOhm, bands().resistor);
    }
}

std::optional<Bond> primaryIn(const BuiltSo& built, std::size_t k)
{
    const PlantTransformer& t = built.plant.transformers[k];
    return built.overlay.transformerOpen[k] ? std::nullopt
                                            : std::optional(resistance(t.p1, t.p2, t.data.primaryOhm, bands().winding));
}

Bond secondaryIn(const Plant& plant, std::size_t k)
{
    const PlantTransformer& t = plant.transformers[k];
    return resistance(t.s1, t.s2, t.data.secondaryOhm, bands().winding);
}

std::vector<Bond> machinesIn(const Plant& plant)
{
    std::vector<Bond> all;
    for (const PlantMotor& m : plant.motors)
        for (int k = 0; k < 3; ++k) {
            const double r1 = statorOhm(m.data.circuit);
            if (m.data.sixTerminal) // as in simulation/direct_circuit.cpp
                all.push_back(
                    resistance(m.nodes[at(k)], m.nodes[at(k + 3)], m.data.starWindings ? r1 : 3.0 * r1, bands().motor));
            else
                all.push_back(resistance(m.nodes[at(k)], m.nodes[at((k + 1) % 3)], 3.0 * r1, bands().motor));
        }
    for (const PlantConverter& c : plant.converters) {
        all.push_back(electronics(c.inputP, c.inputQ));
        all.push_back(electronics(c.plus, c.minus));
    }
    for (const PlantVariable& v : plant.variables)
        all.push_back(electronics(v.p, v.q));
    for (const PlantDrive& d : plant.drives)
        for (int k = 0; k < 3; ++k) {
            all.push_back(electronics(d.inputs[at(k)], d.inputs[at((k + 1) % 3)]));
            all.push_back(electronics(d.outputs[at(k)], d.outputs[at((k + 1) % 3)]));
            all.push_back(electronics(d.inputs[at(k)], d.outputs[at(k)]));
        }
    return all;
}

int wiresAt(const Plant& plant, int node, std::span<const MovedWire> moved)
{
    int count = 0;
    for (std::size_t w = 0; w < plant.wires.size(); ++w) {
        std::optional<std::pair<int, int>> nodes{{plant.wires[w].p, plant.wires[w].q}};
        for (const MovedWire& m : moved)
            if (m.wire == static_cast<int>(w))
                nodes = m.nodes;
        count += nodes ? (nodes->first == node) + (nodes->second == node) : 0;
    }
    return count;
}

std::vector<std::pair<int, int>> moreWires(const Plant& plant, std::span<const MovedWire> moved)
{
    std::map<int, int> more;
    for (const MovedWire& m : moved) {
        const PlantWire& w = plant.wires[at(m.wire)];
        --more[w.p];
        --more[w.q];
        if (m.nodes) {
            ++more[m.nodes->first];
            ++more[m.nodes->second];
        }
    }
    std::vector<std::pair<int, int>> all;
    for (const auto& [node, count] : more)
        if (node != kNowhere && count != 0)
            all.emplace_back(node, count);
    return all;
}

Reading wiresSeen(const Plant& plant, const std::vector<std::string>& terminals, const std::vector<int>& nodes,
    std::span<const MovedWire> moved)
{
    Reading r{0, 0, {}};
    for (std::size_t k = 0; k < nodes.size(); ++k) {
        const int count = wiresAt(plant, nodes[k], moved);
        r.word += (k == 0 ? "" : ", ") + terminals[k]
            + (count == 0       ? " empty"
                    : count > 1 ? " " + std::to_string(count) + " wires"
                                : " 1 wire");
    }
    return r;
}

} // namespace ts::measuring
