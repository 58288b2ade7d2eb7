#include "core/measuring/ohms.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/network/motor_circuit.h"

#include <algorithm>

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

const MovedWire* movedAt(std::span<const MovedWire> moved, int wire)
{
    const auto it = std::find_if(moved.begin(), moved.end(), [wire](const MovedWire& m) { return m.wire == wire; });
    return it == moved.end() ? nullptr : &*it;
}

} // namespace

Ohms::Ohms(
    const Plant& plant, std::span<const std::uint8_t> travel, const Overlay& overlay, std::span<const MovedWire> moved)
{
    joinLinks(plant, travel, overlay, moved);
    addResistors(plant, overlay, moved);
    addMachines(plant, overlay);
    static const double beep = bandOf("beep").high;
    m_high.most = std::numeric_limits<double>::max(); // no electronics
    m_near.most = beep;
}

void Ohms::joinLinks(
    const Plant& plant, std::span<const std::uint8_t> travel, const Overlay& o, std::span<const MovedWire> moved)
{
    network::DisjointSets joined(plant.nodeCount);
    for (std::size_t l = 0; l < plant.links.size(); ++l) {
        const PlantLink& link = plant.links[l];
        const int mover = link.contact.mover;
        const std::uint8_t where = mover < 0 ? 0
                                             : std::clamp(travel[at(mover)], o.lowest[at(mover)], o.highest[at(mover)]);
        const bool isClosed = o.link[l] != 0 ? o.link[l] > 0 : mover < 0 || ((link.contact.closedAt >> where) & 1u);
        if (!isClosed)
            continue;
        const MovedWire* other = link.wire >= 0 ? movedAt(moved, link.wire) : nullptr;
        if (!other)
            joined.join(link.p, link.q);
        else if (other->nodes)
            joined.join(other->nodes->first, other->nodes->second);
    }
    for (const auto& [a, b] : o.shorts)
        joined.join(a, b);
    m_jointOf.resize(at(plant.nodeCount));
    for (int n = 0; n < plant.nodeCount; ++n)
        m_jointOf[at(n)] = joined.find(n);
}

void Ohms::add(int p, int q, double ohm, const Band& band)
{
    p = m_jointOf[at(p)];
    q = m_jointOf[at(q)];
    if (p != q)
        m_resistors.push_back({p, q, std::max(ohm * band.low, kLeastOhm), std::max(ohm * band.high, kLeastOhm)});
}

void Ohms::addElectronics(int p, int q)
{
    p = m_jointOf[at(p)];
    q = m_jointOf[at(q)];
    if (p != q)
        m_resistors.push_back({p, q, bands().electronics.low, kEndless});
}

void Ohms::addResistors(const Plant& plant, const Overlay& o, std::span<const MovedWire> moved)
{
    using Kind = PlantImpedance::Kind;
    for (std::size_t z = 0; z < plant.impedances.size(); ++z) {
        const PlantImpedance& element = plant.impedances[z];
        int p = element.p, q = element.q;
        if (const MovedWire* other = element.wire >= 0 ? movedAt(moved, element.wire) : nullptr) {
            if (!other->nodes)
                continue;
            std::tie(p, q) = *other->nodes;
        }
        if (o.impedance[z] < 0 || element.kind == Kind::CableCapacitance)
            continue;
        if (o.impedance[z] > 0)
            add(p, q, kLeastOhm, bands().resistor);
        else if (element.kind == Kind::Lamp || element.kind == Kind::Sense)
            addElectronics(p, q);
        else
            add(p, q, element.directOhm,
                element.kind == Kind::Wire       ? bands().copper
                    : element.kind == Kind::Coil ? bands().winding
                                                 : bands().resistor);
    }
}

void Ohms::addMachines(const Plant& plant, const Overlay& o)
{
    for (std::size_t k = 0; k < plant.transformers.size(); ++k) {
        const PlantTransformer& t = plant.transformers[k];
        if (!o.transformerOpen[k])
            add(t.p1, t.p2, t.data.primaryOhm, bands().winding);
        add(t.s1, t.s2, t.data.secondaryOhm, bands().winding);
    }
    for (const PlantMotor& m : plant.motors)
        for (int k = 0; k < 3; ++k) {
            const double r1 = statorOhm(m.data.circuit);
            if (m.data.sixTerminal) // as in simulation/direct_circuit.cpp
                add(m.nodes[at(k)], m.nodes[at(k + 3)], m.data.starWindings ? r1 : 3.0 * r1, bands().motor);
            else
                add(m.nodes[at(k)], m.nodes[at((k + 1) % 3)], 3.0 * r1, bands().motor);
        }
    for (const PlantConverter& c : plant.converters) {
        addElectronics(c.inputP, c.inputQ);
        addElectronics(c.plus, c.minus);
    }
    for (const PlantVariable& v : plant.variables)
        addElectronics(v.p, v.q);
    for (const PlantDrive& d : plant.drives)
        for (int k = 0; k < 3; ++k) {
            addElectronics(d.inputs[at(k)], d.inputs[at((k + 1) % 3)]);
            addElectronics(d.outputs[at(k)], d.outputs[at((k + 1) % 3)]);
            addElectronics(d.inputs[at(k)], d.outputs[at(k)]);
        }
}

const std::vector<int>& Ohms::componentsOf(Network& n) const
{
    if (!n.componentOf.empty())
        return n.componentOf;
    network::DisjointSets parts(static_cast<int>(m_jointOf.size()));
    for (const Resistor& r : m_resistors)
        if (r.high <= n.most)
            parts.join(r.p, r.q);
    n.componentOf.resize(m_jointOf.size());
    n.placeOf.assign(m_jointOf.size(), -1);
    n.sizes.assign(m_jointOf.size(), 0);
    for (std::size_t j = 0; j < m_jointOf.size(); ++j) {
        n.componentOf[j] = parts.find(static_cast<int>(j));
        if (m_jointOf[j] == static_cast<int>(j))
            n.placeOf[j] = n.sizes[at(n.componentOf[j])]++;
    }
    return n.componentOf;
}

double Ohms::solved(Network& n, int a, int b) const
{
    const int component = n.componentOf[at(a)];
    const Eigen::Index rest = n.sizes[at(component)] - 1; // the last joint is the reference: else no full rank
    auto known = n.factors.find(component);
    if (known == n.factors.end()) {
        Eigen::MatrixXd g = Eigen::MatrixXd::Zero(rest + 1, rest + 1);
        for (const Resistor& r : m_resistors) {
            if (n.componentOf[at(r.p)] != component || r.high > n.most)
                continue;
            const double siemens = 1.0 / (n.most < kEndless ? r.high : r.low);
            const int p = n.placeOf[at(r.p)], q = n.placeOf[at(r.q)];
            g(p, p) += siemens;
            g(q, q) += siemens;
            g(p, q) -= siemens;
            g(q, p) -= siemens;
        }
        known = n.factors.emplace(component, g.topLeftCorner(rest, rest).llt()).first;
    }
    Eigen::VectorXd current = Eigen::VectorXd::Zero(rest); // one ampere in at a, out at b
    const int p = n.placeOf[at(a)], q = n.placeOf[at(b)];
    if (p < rest)
        current[p] += 1.0;
    if (q < rest)
        current[q] -= 1.0;
    const Eigen::VectorXd volts = known->second.solve(current);
    return (p < rest ? volts[p] : 0.0) - (q < rest ? volts[q] : 0.0);
}

Reading Ohms::lowest(std::span<const int> a, std::span<const int> b)
{
    Reading r{kEndless, kEndless, {}};
    for (const int x : a)
        for (const int y : b) {
            const Reading one = between(x, y);
            r.low = std::min(r.low, one.low);
            r.high = std::min(r.high, one.high);
        }
    return r;
}

int Ohms::partOf(int node)
{
    return componentsOf(m_near)[at(m_jointOf[at(node)])];
}

Path Ohms::pathBetween(int nodeA, int nodeB)
{
    if (partOf(nodeA) == partOf(nodeB))
        return Path::Direct;
    const std::size_t a = at(m_jointOf[at(nodeA)]), b = at(m_jointOf[at(nodeB)]);
    const auto& parts = componentsOf(m_high);
    return parts[a] == parts[b] ? Path::Finite : Path::None;
}

Reading Ohms::between(int nodeA, int nodeB)
{
    const int a = m_jointOf[at(nodeA)], b = m_jointOf[at(nodeB)];
    if (a == b)
        return figure(0.0);
    Reading r{kEndless, kEndless, {}};
    if (const auto& parts = componentsOf(m_low); parts[at(a)] == parts[at(b)])
        r.low = solved(m_low, a, b);
    if (const auto& parts = componentsOf(m_high); parts[at(a)] == parts[at(b)])
        r.high = solved(m_high, a, b);
    return r;
}

} // namespace ts::measuring
