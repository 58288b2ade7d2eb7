#include "core/network/island.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/dense.h"
#include "core/network/driven.h"
#include "core/network/tearing.h"

#include <Eigen/SparseLU>

#include <algorithm>

namespace ts::network {
namespace {

constexpr Eigen::Index kDenseLimit = 20; ///< larger groups are mostly zeros: factored sparse

/// By super-node; the reference is not among them.
using Neighbours = std::vector<std::vector<int>>;

Neighbours neighboursIn(const Network& n, std::span<const int> superOf, std::size_t count)
{
    Neighbours beside(count);
    const auto join = [&](int a, int b) {
        const int sa = superOf[at(a)], sb = superOf[at(b)];
        if (sa == 0 || sb == 0 || sa == sb)
            return;
        beside[at(sa)].push_back(sb);
        beside[at(sb)].push_back(sa);
    };
    const auto joinAll = [&](std::span<const int> nodes) {
        for (std::size_t a = 0; a < nodes.size(); ++a)
            for (std::size_t b = a + 1; b < nodes.size(); ++b)
                join(nodes[a], nodes[b]);
    };
    for (const Stamp& s : twoPoles(n))
        join(s.p, s.q);
    for (const CurrentSource& s : n.currentSources)
        join(s.p, s.q);
    for (const Transformer& t : n.transformers)
        joinAll(std::array{t.p1, t.p2, t.s1, t.s2});
    for (const Motor& m : n.motors)
        joinAll(std::span(m.terminals).first(at(terminalCount(m))));
    for (std::vector<int>& list : beside) {
        std::sort(list.begin(), list.end());
        list.erase(std::unique(list.begin(), list.end()), list.end());
    }
    return beside;
}

/// Each ascending, by their first nodes.
std::vector<std::vector<int>> drivenIslands(const Network& n, std::span<const int> superOf, int count)
{
    Islands all = islandsByElements(n, superOf, count);
    std::vector<std::vector<int>> byRoot(at(count)), islands;
    for (int s = 1; s < count; ++s)
        if (const int root = all.sets.find(s); all.isDriven[at(root)])
            byRoot[at(root)].push_back(s);
    for (std::vector<int>& nodes : byRoot)
        if (!nodes.empty())
            islands.push_back(std::move(nodes));
    return islands;
}

/// Matrices of one island: rows of a group are its interior, its motors' terminals, the hubs that it touches.
struct GroupMatrix {
    std::vector<int> interior, ports; ///< super-nodes
    std::vector<int> hubs; ///< places among the island's, ascending
    Eigen::MatrixXcd y;
    Eigen::VectorXcd j;
    std::vector<MotorPort> motors; ///< rows counted from the first port
};

class IslandMatrix {
public:
    IslandMatrix(const std::vector<int>& nodes, const Neighbours& neighbours, const std::vector<bool>& isPort)
    {
        Torn parts = torn(nodes, neighbours);
        hubs = std::move(parts.hubs);
        const auto count = static_cast<Eigen::Index>(hubs.size());
        y = Eigen::MatrixXcd::Zero(count, count);
        j = Eigen::VectorXcd::Zero(count);
        for (const std::vector<int>& members : parts.groups)
            groups.push_back(groupOf(members, neighbours, isPort));
    }

    std::vector<int> hubs; ///< super-nodes, ascending
    std::vector<GroupMatrix> groups;
    Eigen::MatrixXcd y;
    Eigen::VectorXcd j;
    std::vector<MotorPort> motors; ///< with all terminals at hubs

    Expected<Island> reduced();

private:
    GroupMatrix groupOf(
        const std::vector<int>& members, const Neighbours& neighbours, const std::vector<bool>& isPort) const
    {
        GroupMatrix g;
        for (int s : members) {
            (isPort[at(s)] ? g.ports : g.interior).push_back(s);
            for (int other : neighbours[at(s)])
                if (const auto hub = std::lower_bound(hubs.begin(), hubs.end(), other);
                    hub != hubs.end() && *hub == other)
                    g.hubs.push_back(static_cast<int>(hub - hubs.begin()));
        }
        std::sort(g.hubs.begin(), g.hubs.end());
        g.hubs.erase(std::unique(g.hubs.begin(), g.hubs.end()), g.hubs.end());
        const auto rows = static_cast<Eigen::Index>(members.size() + g.hubs.size());
        g.y = Eigen::MatrixXcd::Zero(rows, rows);
        g.j = Eigen::VectorXcd::Zero(rows);
        return g;
    }
};

/// Where a super-node is: in which island's which group and row, or as which hub.
struct Seat {
    int island = -1; ///< -1: the reference, or not driven
    int group = -1; ///< -1: a hub
    int row = -1;
};

/// All islands of a network while they are filled.
class Assembly {
public:
    Assembly(const Network& network, std::span<const int> superOf, const std::vector<bool>& isFloating)
        : m_network(network)
        , m_superOf(superOf)
        , m_seats(isFloating.size())
    {
        const Neighbours neighbours = neighboursIn(network, superOf, isFloating.size());
        std::vector<bool> isPort(isFloating.size(), false);
        for (const Motor& m : network.motors)
            for (int k = 0; k < terminalCount(m); ++k)
                isPort[at(superOf[at(m.terminals[at(k)])])] = true;
        for (const std::vector<int>& nodes : drivenIslands(network, superOf, static_cast<int>(isFloating.size()))) {
            m_islands.emplace_back(nodes, neighbours, isPort);
            seatAll();
        }
        for (int s = 1; s < static_cast<int>(isFloating.size()); ++s)
            if (isFloating[at(s)])
                couple(s, s, kLeakS);
    }

    void fill()
    {
        for (const Stamp& s : twoPoles(m_network))
            stampPair(s.p, s.q, s.y);
        for (const Source& s : m_network.sources)
            inject(s.p, s.q, s.emf / s.impedance);
        for (const CurrentSource& s : m_network.currentSources)
            inject(s.p, s.q, s.current);
        for (const Transformer& t : m_network.transformers)
            stampTransformer(t);
        for (std::size_t m = 0; m < m_network.motors.size(); ++m)
            place(m_network.motors[m], m);
    }

    Expected<std::vector<Island>> reduced()
    {
        std::vector<Island> islands;
        for (IslandMatrix& matrix : m_islands) {
            auto island = matrix.reduced();
            if (!island)
                return Unexpected{island.error()};
            islands.push_back(std::move(*island));
        }
        return islands;
    }

private:
    void seatAll()
    {
        const auto number = static_cast<int>(m_islands.size()) - 1;
        const IslandMatrix& island = m_islands.back();
        for (std::size_t h = 0; h < island.hubs.size(); ++h)
            m_seats[at(island.hubs[h])] = {number, -1, static_cast<int>(h)};
        for (std::size_t g = 0; g < island.groups.size(); ++g) {
            int row = 0;
            for (const auto* nodes : {&island.groups[g].interior, &island.groups[g].ports})
                for (int s : *nodes)
                    m_seats[at(s)] = {number, static_cast<int>(g), row++};
        }
    }

    /// The row in a group of one of its own nodes, or of a hub that it touches.
    static int rowIn(const GroupMatrix& group, const Seat& seat)
    {
        if (seat.group >= 0)
            return seat.row;
        const auto hub = std::lower_bound(group.hubs.begin(), group.hubs.end(), seat.row);
        TS_CHECK(hub != group.hubs.end() && *hub == seat.row);
        return static_cast<int>(group.interior.size() + group.ports.size())
            + static_cast<int>(hub - group.hubs.begin());
    }

    void couple(int superA, int superB, Complex y)
    {
        const Seat a = m_seats[at(superA)], b = m_seats[at(superB)];
        if (a.island < 0 || b.island < 0)
            return;
        IslandMatrix& island = m_islands[at(a.island)];
        if (a.group < 0 && b.group < 0) {
            island.y(a.row, b.row) += y;
            return;
        }
        GroupMatrix& group = island.groups[at(std::max(a.group, b.group))];
        group.y(rowIn(group, a), rowIn(group, b)) += y;
    }

    void stampPair(int p, int q, Complex y)
    {
        const int sp = m_superOf[at(p)], sq = m_superOf[at(q)];
        couple(sp, sp, y);
        couple(sq, sq, y);
        couple(sp, sq, -y);
        couple(sq, sp, -y);
    }

    void stampTransformer(const Transformer& t)
    {
        const PortMatrix m = portMatrix(t);
        stampPair(t.p1, t.p2, m.y11);
        stampPair(t.s1, t.s2, m.y22);
        const std::array<std::pair<int, double>, 2> primary{{{t.p1, 1.0}, {t.p2, -1.0}}};
        const std::array<std::pair<int, double>, 2> secondary{{{t.s1, 1.0}, {t.s2, -1.0}}};
        for (const auto& [a, sa] : primary)
            for (const auto& [b, sb] : secondary) {
                couple(m_superOf[at(a)], m_superOf[at(b)], m.y12 * sa * sb);
                couple(m_superOf[at(b)], m_superOf[at(a)], m.y12 * sa * sb);
            }
    }

    void inject(int p, int q, Complex current)
    {
        for (const auto& [node, into] : {std::pair(p, current), std::pair(q, -current)})
            if (const Seat seat = m_seats[at(m_superOf[at(node)])]; seat.island >= 0) {
                IslandMatrix& island = m_islands[at(seat.island)];
                (seat.group < 0 ? island.j(seat.row) : island.groups[at(seat.group)].j(seat.row)) += into;
            }
    }

    /// Into the group in which it has a terminal, or among the hubs.
    void place(const Motor& motor, std::size_t slip)
    {
        std::array<Seat, 6> seats;
        int island = -1, group = -1;
        for (int k = 0; k < terminalCount(motor); ++k) {
            seats[at(k)] = m_seats[at(m_superOf[at(motor.terminals[at(k)])])];
            island = std::max(island, seats[at(k)].island);
            group = std::max(group, seats[at(k)].group);
        }
        if (island < 0)
            return; // nothing feeds it
        MotorPort port{motor, slip, {-1, -1, -1, -1, -1, -1}};
        IslandMatrix& matrix = m_islands[at(island)];
        for (std::size_t k = 0; k < seats.size(); ++k)
            if (seats[k].island >= 0)
                port.row[k] = group < 0 ? seats[k].row
                                        : rowIn(matrix.groups[at(group)], seats[k])
                        - static_cast<int>(matrix.groups[at(group)].interior.size());
        (group < 0 ? matrix.motors : matrix.groups[at(group)].motors).push_back(port);
    }

    const Network& m_network;
    std::span<const int> m_superOf;
    std::vector<Seat> m_seats; ///< by super-node
    std::vector<IslandMatrix> m_islands;
};

Unexpected singular()
{
    return failure(ErrorCode::NoSolution, message("network.singular"));
}

/// The interior's voltages by outer row, and alone in the last column.
Expected<Eigen::MatrixXcd> interiorOf(const GroupMatrix& g, Eigen::Index ni, Eigen::Index no)
{
    Eigen::MatrixXcd rhs(ni, no + 1);
    rhs.leftCols(no) = -g.y.topRightCorner(ni, no);
    rhs.col(no) = g.j.head(ni);
    if (ni > kDenseLimit) {
        Eigen::SparseLU<Eigen::SparseMatrix<Complex>> lu(g.y.topLeftCorner(ni, ni).sparseView());
        if (lu.info() != Eigen::Success)
            return singular();
        rhs = lu.solve(rhs).eval();
    } else if (ni > 0) {
        Eigen::MatrixXcd y = g.y.topLeftCorner(ni, ni);
        solveDense(y, rhs);
    }
    if (!rhs.allFinite())
        return singular();
    return rhs;
}

Expected<Island> IslandMatrix::reduced()
{
    Island island;
    island.ports = {{}, hubs, std::move(y), std::move(j), std::move(motors)};
    for (GroupMatrix& g : groups) {
        const auto ni = static_cast<Eigen::Index>(g.interior.size());
        const Eigen::Index no = g.y.rows() - ni;
        auto inner = interiorOf(g, ni, no);
        if (!inner)
            return Unexpected{inner.error()};
        Interior interior{std::move(g.interior), g.ports, inner->leftCols(no), inner->col(no)};
        PortBlock block{std::move(g.ports), std::move(g.hubs), {}, {}, std::move(g.motors)};
        const auto back = g.y.bottomLeftCorner(no, ni);
        block.y = g.y.bottomRightCorner(no, no) + back * interior.spread;
        block.j = g.j.tail(no) - back * interior.open;
        for (int hub : block.hubs)
            interior.outer.push_back(hubs[at(hub)]);
        if (ni > 0)
            island.interiors.push_back(std::move(interior));
        if (block.nodes.empty())
            addToHubs(block, island.ports.y, island.ports.j);
        else
            island.ports.blocks.push_back(std::move(block));
    }
    return island;
}

} // namespace

std::vector<Stamp> twoPoles(const Network& n)
{
    std::vector<Stamp> result;
    for (const Source& s : n.sources)
        result.push_back({s.p, s.q, 1.0 / s.impedance});
    for (const Impedance& z : n.impedances)
        result.push_back({z.p, z.q, 1.0 / z.impedance});
    return result;
}

void Interior::solve(Solution& solution) const
{
    Eigen::VectorXcd around(static_cast<Eigen::Index>(outer.size()));
    for (std::size_t i = 0; i < outer.size(); ++i)
        around(static_cast<Eigen::Index>(i)) = solution.voltage[at(outer[i])];
    const Eigen::VectorXcd inner = spread * around + open;
    for (std::size_t i = 0; i < nodes.size(); ++i)
        solution.voltage[at(nodes[i])] = inner(static_cast<Eigen::Index>(i));
}

void Island::solve(std::span<const double> slips, Solution& solution) const
{
    PortMemory none;
    ports.solve(slips, solution, none);
    for (const Interior& interior : interiors)
        interior.solve(solution);
}

Expected<std::vector<Island>> islandsOf(
    const Network& network, std::span<const int> superOf, const std::vector<bool>& isFloating)
{
    Assembly assembly(network, superOf, isFloating);
    assembly.fill();
    return assembly.reduced();
}

} // namespace ts::network
