// Currents through ideal links, recovered inside each super-node: Kirchhoff's law with equal sharing.

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/network/solver.h"

#include <Eigen/SparseCholesky>

#include <algorithm>
#include <cmath>
#include <memory>
#include <optional>

namespace ts::network {
namespace {

/// The nodes and closed links inside one super-node, with the factored Laplacian of unit conductances.
/// The first node is the zero of the potential: in the reference's super-node it takes the balance.
struct Inside {
    std::vector<int> nodes, links;
    std::vector<int> local; ///< by node, -1 for the first one
    std::unique_ptr<Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>> laplacian; ///< null for a single node
};

Inside insideOf(std::span<const Link> links, std::span<const int> superOf, int super)
{
    Inside in;
    in.local.assign(superOf.size(), -1);
    for (std::size_t node = 0; node < superOf.size(); ++node)
        if (superOf[node] == super) {
            in.local[node] = static_cast<int>(in.nodes.size()) - 1;
            in.nodes.push_back(static_cast<int>(node));
        }
    const auto size = static_cast<Eigen::Index>(in.nodes.size()) - 1;
    std::vector<Eigen::Triplet<double>> entries;
    for (std::size_t i = 0; i < links.size(); ++i) {
        const Link& l = links[i];
        if (!l.closed || l.p == l.q || superOf[at(l.p)] != super)
            continue;
        in.links.push_back(static_cast<int>(i));
        const int a = in.local[at(l.p)], b = in.local[at(l.q)];
        if (a >= 0)
            entries.emplace_back(a, a, 1.0);
        if (b >= 0)
            entries.emplace_back(b, b, 1.0);
        if (a >= 0 && b >= 0) {
            entries.emplace_back(a, b, -1.0);
            entries.emplace_back(b, a, -1.0);
        }
    }
    if (size > 0) {
        Eigen::SparseMatrix<double> m(size, size);
        m.setFromTriplets(entries.begin(), entries.end());
        in.laplacian = std::make_unique<Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>>(m);
    }
    return in;
}

} // namespace

namespace {

constexpr std::size_t kMostSuperNodes = 20'000; ///< then the memory starts afresh

/// What goes through the only link between two parts of a super-node is what its far side gives away; nothing if there
/// is another way.
std::optional<LinkCurrentRow> rowOfBridge(std::span<const Link> links, std::span<const int> superOf, const Link& link)
{
    const int super = superOf[at(link.p)];
    DisjointSets parts(static_cast<int>(superOf.size()));
    for (const Link& l : links)
        if (l.closed && superOf[at(l.p)] == super && &l != &link)
            parts.join(l.p, l.q);
    if (parts.find(link.p) == parts.find(link.q))
        return std::nullopt;
    const int zero = parts.find(static_cast<int>(std::find(superOf.begin(), superOf.end(), super) - superOf.begin()));
    const bool isZeroBefore = zero == parts.find(link.p);
    const int far = parts.find(isZeroBefore ? link.q : link.p);
    LinkCurrentRow row;
    for (int node = 0; node < static_cast<int>(superOf.size()); ++node)
        if (superOf[at(node)] == super && parts.find(node) == far)
            row.emplace_back(node, isZeroBefore ? -1.0 : 1.0);
    return row;
}

LinkCurrentRow rowOf(std::span<const Link> links, std::span<const int> superOf, const Link& link)
{
    if (auto row = rowOfBridge(links, superOf, link))
        return std::move(*row);
    const Inside in = insideOf(links, superOf, superOf[at(link.p)]);
    // The Laplacian is symmetric: the row of phi(p) - phi(q) is one solve with +1 and -1.
    Eigen::VectorXd rhs = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(in.nodes.size()) - 1);
    if (in.local[at(link.p)] >= 0)
        rhs(in.local[at(link.p)]) += 1.0;
    if (in.local[at(link.q)] >= 0)
        rhs(in.local[at(link.q)]) -= 1.0;
    const Eigen::VectorXd shares = in.laplacian->solve(rhs);
    LinkCurrentRow row;
    for (std::size_t i = 1; i < in.nodes.size(); ++i)
        if (std::abs(shares(static_cast<Eigen::Index>(i) - 1)) > 1e-12)
            row.emplace_back(in.nodes[i], shares(static_cast<Eigen::Index>(i) - 1));
    return row;
}

} // namespace

std::size_t RowMemory::Hash::operator()(const std::vector<int>& key) const
{
    std::size_t h = 0x9E3779B97F4A7C15ull;
    for (int k : key)
        h = (h ^ static_cast<std::size_t>(k)) * 0xBF58476D1CE4E5B9ull ^ (h >> 29);
    return h;
}

std::vector<LinkCurrentRow> linkCurrentRows(
    std::span<const Link> links, std::span<const int> superOf, std::span<const int> asked, RowMemory& memory)
{
    const auto isClosed = [](const Link& l) { return l.closed && l.p != l.q; };
    struct Group { // a super-node whose links are asked for
        std::vector<int> ends; ///< of its closed links, in their order
        RowMemory::Rows* known = nullptr;
    };
    std::vector<Group> groups;
    std::vector<int> groupOf(superOf.size(), -1);
    for (int l : asked)
        if (l >= 0 && isClosed(links[at(l)]))
            if (int& group = groupOf[at(superOf[at(links[at(l)].p)])]; group < 0) {
                group = static_cast<int>(groups.size());
                groups.emplace_back();
            }
    for (const Link& l : links)
        if (isClosed(l))
            if (const int group = groupOf[at(superOf[at(l.p)])]; group >= 0)
                groups[at(group)].ends.insert(groups[at(group)].ends.end(), {l.p, l.q});
    if (memory.rows.size() > kMostSuperNodes)
        memory.rows.clear();
    for (Group& g : groups)
        g.known = &memory.rows[std::move(g.ends)];
    std::vector<LinkCurrentRow> rows(asked.size());
    for (std::size_t k = 0; k < asked.size(); ++k) {
        if (asked[k] < 0 || !isClosed(links[at(asked[k])]))
            continue;
        const Link& link = links[at(asked[k])];
        const auto [row, isNew] = groups[at(groupOf[at(superOf[at(link.p)])])].known->try_emplace({link.p, link.q});
        if (isNew)
            row->second = rowOf(links, superOf, link);
        rows[k] = row->second;
    }
    return rows;
}

CurrentSum sumOf(const Network& n, const Prepared& p, const LinkCurrentRow& row)
{
    CurrentSum sum;
    if (row.empty())
        return sum;
    std::vector<double> shares(at(n.nodeCount), 0.0);
    for (const auto& [node, share] : row)
        shares[at(node)] = share;
    std::vector<Complex> siemens(at(p.superNodeCount()));
    // An element gives its current away at its terminals: injection = -(current into it).
    const auto takes = [&](double share, Complex y, int plus, int minus) {
        siemens[at(p.superNode(plus))] -= share * y;
        siemens[at(p.superNode(minus))] += share * y;
    };
    for (const Source& e : n.sources)
        if (const double share = shares[at(e.p)] - shares[at(e.q)]; share != 0.0) {
            takes(share, 1.0 / e.impedance, e.p, e.q);
            sum.constant += share * e.emf / e.impedance;
        }
    for (const CurrentSource& e : n.currentSources)
        sum.constant += (shares[at(e.p)] - shares[at(e.q)]) * e.current;
    for (const Impedance& e : n.impedances)
        if (const double share = shares[at(e.p)] - shares[at(e.q)]; share != 0.0)
            takes(share, 1.0 / e.impedance, e.p, e.q);
    for (const Transformer& t : n.transformers) {
        const double primary = shares[at(t.p1)] - shares[at(t.p2)], secondary = shares[at(t.s1)] - shares[at(t.s2)];
        if (primary == 0.0 && secondary == 0.0)
            continue;
        const PortMatrix m = portMatrix(t);
        takes(primary, m.y11, t.p1, t.p2);
        takes(primary, m.y12, t.s1, t.s2);
        takes(secondary, m.y12, t.p1, t.p2);
        takes(secondary, m.y22, t.s1, t.s2);
    }
    for (std::size_t m = 0; m < n.motors.size(); ++m)
        for (int k = 0; k < (n.motors[m].sixTerminal ? 6 : 3); ++k)
            if (const double share = shares[at(n.motors[m].terminals[at(k)])]; share != 0.0)
                sum.motors.push_back({static_cast<int>(m), k, -share});
    for (int s = 1; s < p.superNodeCount(); ++s) // the reference is at zero
        if (siemens[at(s)] != Complex{})
            sum.voltages.emplace_back(s, siemens[at(s)]);
    return sum;
}

CurrentSum sumOf(const Impedance& z, const Prepared& p)
{
    return {{}, {{p.superNode(z.p), 1.0 / z.impedance}, {p.superNode(z.q), -1.0 / z.impedance}}, {}};
}

Complex valueOf(const CurrentSum& sum, const Solution& solution, const MotorCurrents& motors)
{
    Complex value = sum.constant;
    for (const auto& [node, siemens] : sum.voltages)
        value += siemens * solution.voltage[at(node)];
    for (const CurrentSum::OfMotor& m : sum.motors)
        value += m.share * motors[at(m.motor)][at(m.terminal)];
    return value;
}

std::vector<Complex> linkCurrents(const Network& n, const Prepared& p, const Solution&, const ElementCurrents& elements)
{
    std::vector<Complex> injection;
    nodeInjections(n, elements, injection);
    std::vector<Complex> current(n.links.size(), Complex{});
    std::vector<bool> wanted(at(p.superNodeCount()), false);
    for (const Link& l : n.links)
        if (l.closed && l.p != l.q)
            wanted[at(p.superNode(l.p))] = true;
    for (int s = 0; s < p.superNodeCount(); ++s) {
        if (!wanted[at(s)])
            continue;
        const Inside in = insideOf(n.links, p.superNodes(), s);
        if (s != 0) { // what leaks away is spread equally
            Complex sum{};
            for (int node : in.nodes)
                sum += injection[at(node)];
            for (int node : in.nodes)
                injection[at(node)] -= sum / static_cast<double>(in.nodes.size());
        }
        if (!in.laplacian)
            continue;
        Eigen::MatrixXd rhs(static_cast<Eigen::Index>(in.nodes.size()) - 1, 2);
        for (std::size_t i = 1; i < in.nodes.size(); ++i) {
            rhs(static_cast<Eigen::Index>(i) - 1, 0) = injection[at(in.nodes[i])].real();
            rhs(static_cast<Eigen::Index>(i) - 1, 1) = injection[at(in.nodes[i])].imag();
        }
        const Eigen::MatrixXd potential = in.laplacian->solve(rhs);
        const auto phi = [&](int node) {
            const int i = in.local[at(node)];
            return i < 0 ? Complex{} : Complex(potential(i, 0), potential(i, 1));
        };
        for (int l : in.links)
            current[at(l)] = phi(n.links[at(l)].p) - phi(n.links[at(l)].q);
    }
    return current;
}

} // namespace ts::network
