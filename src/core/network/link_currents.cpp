// Currents through ideal links, recovered inside each super-node: Kirchhoff's law with equal sharing.

#include "core/base/at.h"
#include "core/network/solver.h"

#include <Eigen/SparseCholesky>

#include <algorithm>
#include <cmath>
#include <memory>
#include <numeric>
#include <optional>

namespace ts::network {
namespace {

using Laplacian = Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>;

constexpr std::size_t kMostSuperNodes = 20'000; ///< then the memory starts afresh

/// One super-node by the ends of its closed links. Currents are counted from its first node, which takes the balance.
class SuperNode {
public:
    explicit SuperNode(const std::vector<int>& ends)
        : m_nodes(ends)
        , m_links(ends.size() / 2)
    {
        std::sort(m_nodes.begin(), m_nodes.end());
        m_nodes.erase(std::unique(m_nodes.begin(), m_nodes.end()), m_nodes.end());
        m_around.resize(m_nodes.size());
        for (std::size_t l = 0; l < m_links.size(); ++l) {
            m_links[l] = {localOf(ends[2 * l]), localOf(ends[2 * l + 1])};
            m_around[at(m_links[l].p)].push_back(static_cast<int>(l));
            m_around[at(m_links[l].q)].push_back(static_cast<int>(l));
        }
        visit();
    }

    LinkCurrentRow rowOf(const std::pair<int, int>& link)
    {
        const int p = localOf(link.first), q = localOf(link.second);
        for (const auto& [far, sign] : {std::pair(q, -1.0), std::pair(p, 1.0)})
            if (const int entry = m_entry[at(far)];
                entry >= 0 && isBetween(entry, p, q) && m_lowest[at(far)] == m_order[at(far)])
                return beyond(far, sign);
        return shared(p, q);
    }

    /// From p to q of each link, from what each node gives away.
    std::vector<Complex> currents(const std::vector<Complex>& injection)
    {
        std::vector<Complex> given;
        for (int node : m_nodes)
            given.push_back(injection[at(node)]);
        if (m_links.size() + 1 != m_nodes.size())
            return sharedCurrents(given);
        std::vector<Complex> current(m_links.size()); // a tree: what a part gives away goes through its only link
        for (std::size_t k = m_visited.size(); k-- > 1;) {
            const int node = m_visited[k];
            const Ends& l = m_links[at(m_entry[at(node)])];
            const int before = l.p == node ? l.q : l.p;
            current[at(m_entry[at(node)])] = l.p == node ? given[at(node)] : -given[at(node)];
            given[at(before)] += given[at(node)];
        }
        return current;
    }
    const std::vector<int>& nodes() const { return m_nodes; }

private:
    struct Ends {
        int p = 0, q = 0; ///< local
    };

    int localOf(int node) const
    {
        return static_cast<int>(std::lower_bound(m_nodes.begin(), m_nodes.end(), node) - m_nodes.begin());
    }
    bool isBetween(int link, int p, int q) const
    {
        return (m_links[at(link)].p == p && m_links[at(link)].q == q)
            || (m_links[at(link)].p == q && m_links[at(link)].q == p);
    }

    /// Once over all nodes in depth: a link to a node from which no other way leads back is the only one there. Source:
    /// R. E. Tarjan, A note on finding the bridges of a graph, 1974.
    void visit()
    {
        const std::size_t count = m_nodes.size();
        m_order.assign(count, -1);
        m_lowest.assign(count, 0);
        m_entry.assign(count, -1);
        m_end.assign(count, 0);
        std::vector<std::pair<int, std::size_t>> way{{0, 0}}; // node, and how many of its links were followed
        enter(0);
        while (!way.empty()) {
            const int node = way.back().first;
            if (way.back().second == m_around[at(node)].size()) {
                m_end[at(node)] = static_cast<int>(m_visited.size());
                way.pop_back();
                if (!way.empty())
                    m_lowest[at(way.back().first)] = std::min(m_lowest[at(way.back().first)], m_lowest[at(node)]);
                continue;
            }
            const int link = m_around[at(node)][way.back().second++];
            if (link == m_entry[at(node)])
                continue;
            const int other = m_links[at(link)].p == node ? m_links[at(link)].q : m_links[at(link)].p;
            if (m_order[at(other)] >= 0) {
                m_lowest[at(node)] = std::min(m_lowest[at(node)], m_order[at(other)]);
                continue;
            }
            m_entry[at(other)] = link;
            enter(other);
            way.emplace_back(other, 0);
        }
    }
    void enter(int node)
    {
        m_order[at(node)] = m_lowest[at(node)] = static_cast<int>(m_visited.size());
        m_visited.push_back(node);
    }

    /// What goes through the only link to a part is what that part gives away.
    LinkCurrentRow beyond(int far, double sign) const
    {
        LinkCurrentRow row;
        for (int k = m_order[at(far)]; k < m_end[at(far)]; ++k)
            row.emplace_back(m_nodes[at(m_visited[at(k)])], sign);
        std::sort(row.begin(), row.end());
        return row;
    }

    /// Unit conductances; the first node is the zero of the potential.
    const Laplacian& laplacian()
    {
        if (m_laplacian)
            return *m_laplacian;
        const auto size = static_cast<Eigen::Index>(m_nodes.size()) - 1;
        std::vector<Eigen::Triplet<double>> entries;
        for (const Ends& l : m_links) {
            for (int end : {l.p, l.q})
                if (end > 0)
                    entries.emplace_back(end - 1, end - 1, 1.0);
            if (l.p > 0 && l.q > 0) {
                entries.emplace_back(l.p - 1, l.q - 1, -1.0);
                entries.emplace_back(l.q - 1, l.p - 1, -1.0);
            }
        }
        Eigen::SparseMatrix<double> m(size, size);
        m.setFromTriplets(entries.begin(), entries.end());
        m_laplacian = std::make_unique<Laplacian>(m);
        return *m_laplacian;
    }

    std::vector<Complex> sharedCurrents(const std::vector<Complex>& given)
    {
        Eigen::MatrixXd rhs(static_cast<Eigen::Index>(m_nodes.size()) - 1, 2);
        for (std::size_t i = 1; i < m_nodes.size(); ++i) {
            rhs(static_cast<Eigen::Index>(i) - 1, 0) = given[i].real();
            rhs(static_cast<Eigen::Index>(i) - 1, 1) = given[i].imag();
        }
        const Eigen::MatrixXd potential = laplacian().solve(rhs);
        const auto phi = [&](int i) { return i == 0 ? Complex{} : Complex(potential(i - 1, 0), potential(i - 1, 1)); };
        std::vector<Complex> current;
        for (const Ends& l : m_links)
            current.push_back(phi(l.p) - phi(l.q));
        return current;
    }

    /// The Laplacian is symmetric: the row of phi(p) - phi(q) is one solve with +1 and -1.
    LinkCurrentRow shared(int p, int q)
    {
        const auto size = static_cast<Eigen::Index>(m_nodes.size()) - 1;
        Eigen::VectorXd rhs = Eigen::VectorXd::Zero(size);
        if (p > 0)
            rhs(p - 1) += 1.0;
        if (q > 0)
            rhs(q - 1) -= 1.0;
        const Eigen::VectorXd shares = laplacian().solve(rhs);
        LinkCurrentRow row;
        for (Eigen::Index i = 0; i < size; ++i)
            if (std::abs(shares(i)) > 1e-12)
                row.emplace_back(m_nodes[static_cast<std::size_t>(i) + 1], shares(i));
        return row;
    }

    std::vector<int> m_nodes; ///< ascending
    std::vector<Ends> m_links;
    std::vector<std::vector<int>> m_around; ///< links of each node
    std::vector<int> m_visited; ///< nodes in depth
    std::vector<int> m_order, m_end; ///< by node: its place among the visited, and behind what was entered through it
    std::vector<int> m_lowest; ///< by node: the first place to which another way leads from it or from behind it
    std::vector<int> m_entry; ///< by node: the link through which it was entered; -1: the first
    std::unique_ptr<Laplacian> m_laplacian;
};

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
        std::optional<SuperNode> whole; ///< made when a row is not known
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
        g.known = &memory.rows[g.ends];
    std::vector<LinkCurrentRow> rows(asked.size());
    for (std::size_t k = 0; k < asked.size(); ++k) {
        if (asked[k] < 0 || !isClosed(links[at(asked[k])]))
            continue;
        const Link& link = links[at(asked[k])];
        Group& group = groups[at(groupOf[at(superOf[at(link.p)])])];
        const auto [row, isNew] = group.known->try_emplace({link.p, link.q});
        if (isNew) {
            if (!group.whole)
                group.whole.emplace(group.ends);
            row->second = group.whole->rowOf(row->first);
        }
        rows[k] = row->second;
    }
    return rows;
}

CurrentSums::CurrentSums(const Network& n, const Prepared& p)
    : m_network(n)
    , m_prepared(p)
    , m_shares(at(n.nodeCount), 0.0)
    , m_siemens(at(p.superNodeCount()))
    , m_isTouched(at(p.superNodeCount()), false)
    , m_first(at(n.nodeCount) + 1, 0)
{
    std::vector<std::pair<int, Element>> list;
    const auto put = [&list](Element e, std::initializer_list<int> nodes) {
        for (int node : nodes)
            list.emplace_back(node, e);
    };
    for (int k = 0; k < static_cast<int>(n.sources.size()); ++k)
        put({Element::Source, k}, {n.sources[at(k)].p, n.sources[at(k)].q});
    for (int k = 0; k < static_cast<int>(n.currentSources.size()); ++k)
        put({Element::CurrentSource, k}, {n.currentSources[at(k)].p, n.currentSources[at(k)].q});
    for (int k = 0; k < static_cast<int>(n.impedances.size()); ++k)
        put({Element::Impedance, k}, {n.impedances[at(k)].p, n.impedances[at(k)].q});
    for (int k = 0; k < static_cast<int>(n.transformers.size()); ++k) {
        const Transformer& t = n.transformers[at(k)];
        put({Element::Transformer, k}, {t.p1, t.p2, t.s1, t.s2});
    }
    for (int k = 0; k < static_cast<int>(n.motors.size()); ++k)
        for (int t = 0; t < terminalCount(n.motors[at(k)]); ++t)
            put({Element::Motor, k}, {n.motors[at(k)].terminals[at(t)]});
    std::sort(list.begin(), list.end());
    for (const auto& [node, element] : list) {
        ++m_first[at(node) + 1];
        m_elements.push_back(element);
    }
    std::partial_sum(m_first.begin(), m_first.end(), m_first.begin());
}

/// An element gives its current away at its terminals: injection = -(current into it).
void CurrentSums::take(double share, Complex y, int plus, int minus)
{
    for (const auto& [node, siemens] : {std::pair(plus, -share * y), std::pair(minus, share * y)}) {
        const int super = m_prepared.superNode(node);
        m_siemens[at(super)] += siemens;
        if (!m_isTouched[at(super)])
            m_touched.push_back(super);
        m_isTouched[at(super)] = true;
    }
}

void CurrentSums::add(const Element& element, CurrentSum& sum)
{
    const auto difference = [this](int p, int q) { return m_shares[at(p)] - m_shares[at(q)]; };
    switch (element.kind) {
    case Element::Source: {
        const Source& e = m_network.sources[at(element.index)];
        if (const double share = difference(e.p, e.q); share != 0.0) {
            take(share, 1.0 / e.impedance, e.p, e.q);
            sum.constant += share * e.emf / e.impedance;
        }
        return;
    }
    case Element::CurrentSource: {
        const CurrentSource& e = m_network.currentSources[at(element.index)];
        sum.constant += difference(e.p, e.q) * e.current;
        return;
    }
    case Element::Impedance: {
        const Impedance& e = m_network.impedances[at(element.index)];
        if (const double share = difference(e.p, e.q); share != 0.0)
            take(share, 1.0 / e.impedance, e.p, e.q);
        return;
    }
    case Element::Transformer: {
        const Transformer& t = m_network.transformers[at(element.index)];
        const double primary = difference(t.p1, t.p2), secondary = difference(t.s1, t.s2);
        if (primary == 0.0 && secondary == 0.0)
            return;
        const PortMatrix m = portMatrix(t);
        take(primary, m.y11, t.p1, t.p2);
        take(primary, m.y12, t.s1, t.s2);
        take(secondary, m.y12, t.p1, t.p2);
        take(secondary, m.y22, t.s1, t.s2);
        return;
    }
    case Element::Motor: {
        const Motor& m = m_network.motors[at(element.index)];
        for (int k = 0; k < terminalCount(m); ++k)
            if (const double share = m_shares[at(m.terminals[at(k)])]; share != 0.0)
                sum.motors.push_back({element.index, k, -share});
        return;
    }
    }
}

CurrentSum CurrentSums::of(const LinkCurrentRow& row)
{
    CurrentSum sum;
    std::vector<Element> elements;
    for (const auto& [node, share] : row) {
        m_shares[at(node)] = share;
        elements.insert(
            elements.end(), m_elements.begin() + m_first[at(node)], m_elements.begin() + m_first[at(node) + 1]);
    }
    std::sort(elements.begin(), elements.end());
    elements.erase(std::unique(elements.begin(), elements.end()), elements.end());
    for (const Element& e : elements)
        add(e, sum);
    for (const auto& [node, share] : row)
        m_shares[at(node)] = 0.0;
    std::sort(m_touched.begin(), m_touched.end());
    for (int s : m_touched) {
        if (s != 0 && m_siemens[at(s)] != Complex{}) // the reference is at zero
            sum.voltages.emplace_back(s, m_siemens[at(s)]);
        m_siemens[at(s)] = {};
        m_isTouched[at(s)] = false;
    }
    m_touched.clear();
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
    struct Inside {
        std::vector<int> links, ends;
    };
    std::vector<Inside> byNode(at(p.superNodeCount()));
    for (std::size_t l = 0; l < n.links.size(); ++l)
        if (const Link& link = n.links[l]; link.closed && link.p != link.q) {
            Inside& inside = byNode[at(p.superNode(link.p))];
            inside.links.push_back(static_cast<int>(l));
            inside.ends.insert(inside.ends.end(), {link.p, link.q});
        }
    std::vector<Complex> current(n.links.size(), Complex{});
    for (int s = 0; s < p.superNodeCount(); ++s) {
        const Inside& inside = byNode[at(s)];
        if (inside.links.empty())
            continue;
        SuperNode whole(inside.ends);
        if (s != 0) { // what leaks away is spread equally
            Complex sum{};
            for (int node : whole.nodes())
                sum += injection[at(node)];
            for (int node : whole.nodes())
                injection[at(node)] -= sum / static_cast<double>(whole.nodes().size());
        }
        const std::vector<Complex> ofLinks = whole.currents(injection);
        for (std::size_t k = 0; k < inside.links.size(); ++k)
            current[at(inside.links[k])] = ofLinks[k];
    }
    return current;
}

} // namespace ts::network
