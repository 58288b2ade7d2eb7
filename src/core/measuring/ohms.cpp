#include "core/measuring/ohms.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>

namespace ts::measuring {

double mostThatBeeps()
{
    static const double ohm = bandOf("beep").high;
    return ohm;
}

Ohms::Ohms(
    const Plant& plant, std::span<const std::uint8_t> travel, const Overlay& overlay, std::span<const MovedWire> moved)
{
    const BuiltSo built{plant, travel, overlay, moved};
    joinLinks(built);
    addResistors(built);
    m_high.most = std::numeric_limits<double>::max(); // no electronics
    m_near.most = mostThatBeeps();
}

void Ohms::joinLinks(const BuiltSo& built)
{
    const int nodes = built.plant.nodeCount;
    network::DisjointSets joined(nodes);
    for (std::size_t l = 0; l < built.plant.links.size(); ++l)
        if (const auto link = linkIn(built, l))
            joined.join(link->p, link->q);
    for (const auto& [a, b] : built.overlay.shorts)
        joined.join(a, b);
    m_jointOf.resize(at(nodes));
    for (int n = 0; n < nodes; ++n)
        m_jointOf[at(n)] = joined.find(n);
}

void Ohms::add(const Bond& bond)
{
    const int p = m_jointOf[at(bond.p)], q = m_jointOf[at(bond.q)];
    if (p != q)
        m_resistors.push_back({p, q, bond.low, bond.high});
}

void Ohms::addResistors(const BuiltSo& built)
{
    for (std::size_t z = 0; z < built.plant.impedances.size(); ++z)
        if (const auto bond = impedanceIn(built, z))
            add(*bond);
    for (std::size_t k = 0; k < built.plant.transformers.size(); ++k) {
        if (const auto primary = primaryIn(built, k))
            add(*primary);
        add(secondaryIn(built.plant, k));
    }
    for (const Bond& bond : machinesIn(built.plant))
        add(bond);
}

const std::vector<int>& Ohms::componentsOf(Network& n) const
{
    if (!n.componentOf.empty())
        return n.componentOf;
    network::DisjointSets parts(static_cast<int>(m_jointOf.size()));
    for (const Bond& r : m_resistors)
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
        for (const Bond& r : m_resistors) {
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
