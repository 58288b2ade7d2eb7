#include "core/network/solver.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/disjoint_sets.h"
#include "core/network/motor_circuit.h"

#include <Eigen/SparseLU>

#include <algorithm>
#include <bit>
#include <cmath>

namespace ts::network {
namespace {

constexpr Eigen::Index kDenseLimit = 20; ///< larger islands are mostly zeros: factored sparse

int terminalCount(const Motor& motor)
{
    return motor.sixTerminal ? 6 : 3;
}

/// At most six by six: it needs no memory of its own.
using MotorMatrix = Eigen::Matrix<Complex, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, 6, 6>;
using MotorVector = Eigen::Matrix<Complex, Eigen::Dynamic, 1, Eigen::ColMajor, 6, 1>;

/// Admittance of the motor between all its terminals (3 or 6).
MotorMatrix motorAdmittance(const Motor& motor, double slip)
{
    const Eigen::Matrix3cd star = terminalAdmittance(motor.circuit, slip);
    if (!motor.sixTerminal)
        return star;
    // Open windings have a zero sequence too: what the leakage lets through. Without a neutral it carries nothing, but
    // it ties the voltage of ends that are not joined.
    const Complex zero = 1.0 / Complex(motor.circuit.r1, motor.circuit.x1) / 3.0;
    const Eigen::Matrix3cd open = star + Eigen::Matrix3cd::Constant(zero);
    // A winding that is meant for delta has three times the star impedance.
    const Eigen::Matrix3cd winding = motor.starWindings ? open : Eigen::Matrix3cd(open / 3.0);
    MotorMatrix y(6, 6);
    y << winding, -winding, -winding, winding;
    return y;
}

void stampMotor(Eigen::MatrixXcd& y, const Motor& motor, double slip, const std::array<int, 6>& rows)
{
    const MotorMatrix ym = motorAdmittance(motor, slip);
    const int count = terminalCount(motor);
    for (int a = 0; a < count; ++a)
        for (int b = 0; b < count; ++b)
            if (rows[at(a)] >= 0 && rows[at(b)] >= 0)
                y(rows[at(a)], rows[at(b)]) += ym(a, b);
}

/// column[i] -= lead[i] * factor
void subtract(Complex* column, const Complex* lead, Complex factor, Eigen::Index count)
{
    if (factor == Complex{})
        return;
    for (Eigen::Index i = 0; i < count; ++i)
        column[i] -= lead[i] * factor;
}

/// b becomes a^-1 b by elimination with row pivots; a is used up. For the small dense systems of motors and islands, of
/// which a run needs thousands: Eigen's own takes half of its time for magnitudes that are not wanted here. A singular
/// matrix gives values that are not finite.
template <class Right> void solveDense(Eigen::MatrixXcd& a, Right& b)
{
    const Eigen::Index n = a.rows(), rights = b.cols();
    for (Eigen::Index k = 0; k < n; ++k) {
        Complex* const lead = a.data() + k * n;
        Eigen::Index pivot = k;
        double largest = std::norm(lead[k]);
        for (Eigen::Index i = k + 1; i < n; ++i)
            if (const double size = std::norm(lead[i]); size > largest) {
                pivot = i;
                largest = size;
            }
        if (pivot != k) {
            for (Eigen::Index j = k; j < n; ++j)
                std::swap(a(k, j), a(pivot, j));
            for (Eigen::Index j = 0; j < rights; ++j)
                std::swap(b(k, j), b(pivot, j));
        }
        const Complex inverse = 1.0 / lead[k];
        for (Eigen::Index i = k + 1; i < n; ++i)
            lead[i] *= inverse;
        for (Eigen::Index j = k + 1; j < n; ++j)
            subtract(a.data() + j * n + k + 1, lead + k + 1, a(k, j), n - k - 1);
        for (Eigen::Index j = 0; j < rights; ++j)
            subtract(b.data() + j * n + k + 1, lead + k + 1, b(k, j), n - k - 1);
        lead[k] = inverse; // for the way back
    }
    for (Eigen::Index j = 0; j < rights; ++j)
        for (Eigen::Index k = n - 1; k >= 0; --k) {
            b(k, j) *= a(k, k);
            subtract(b.data() + j * n, a.data() + k * n, b(k, j), k);
        }
}

bool isFinite(Complex z)
{
    return std::isfinite(z.real()) && std::isfinite(z.imag());
}

bool isUsable(Complex z)
{
    return isFinite(z) && z != Complex{};
}

/// Calls visit(nodeA, nodeB, admittance) for the two-pole view and couple(...) for transformers.
struct Stamp {
    int p, q;
    Complex y;
};

std::vector<Stamp> twoPoles(const Network& n)
{
    std::vector<Stamp> result;
    for (const Source& s : n.sources)
        result.push_back({s.p, s.q, 1.0 / s.impedance});
    for (const Impedance& z : n.impedances)
        result.push_back({z.p, z.q, 1.0 / z.impedance});
    return result;
}

Unexpected outOfRange(const char* what)
{
    return failure(ErrorCode::OutOfRange, message("network.element_unusable", {std::string(what)}));
}

} // namespace

Expected<void> Prepared::checkElements(const Network& n)
{
    const auto inside = [&](int node) { return node >= 0 && node < n.nodeCount; };
    for (const Source& s : n.sources)
        if (!inside(s.p) || !inside(s.q) || !isUsable(s.impedance) || !isFinite(s.emf))
            return outOfRange("source");
    for (const CurrentSource& s : n.currentSources)
        if (!inside(s.p) || !inside(s.q) || !isFinite(s.current))
            return outOfRange("current source");
    for (const Impedance& z : n.impedances)
        if (!inside(z.p) || !inside(z.q) || !isUsable(z.impedance))
            return outOfRange("impedance");
    for (const Transformer& t : n.transformers)
        if (!inside(t.p1) || !inside(t.p2) || !inside(t.s1) || !inside(t.s2) || !isUsable(t.shortCircuitSecondary)
            || !isUsable(t.magnetisingPrimary) || !(t.ratio > 0.0))
            return outOfRange("transformer");
    for (const Motor& m : n.motors)
        for (int k = 0; k < terminalCount(m); ++k)
            if (!inside(m.terminals[at(k)]))
                return outOfRange("motor");
    for (const Link& l : n.links)
        if (!inside(l.p) || !inside(l.q))
            return outOfRange("link");
    return {};
}

void Prepared::merge(const Network& n)
{
    DisjointSets sets(n.nodeCount);
    for (const Link& l : n.links)
        if (l.closed)
            sets.join(l.p, l.q);
    m_superOf.assign(at(n.nodeCount), -1);
    for (int node = 0; node < n.nodeCount; ++node) {
        const int root = sets.find(node);
        if (root == node)
            m_superOf[at(node)] = m_superCount++;
        else
            m_superOf[at(node)] = m_superOf[at(root)];
    }
    TS_CHECK(m_superOf[kReference] == 0);
}

void Prepared::findGalvanic(const Network& n)
{
    DisjointSets sets(m_superCount);
    const auto join = [&](int a, int b) {
        const int sa = superNode(a), sb = superNode(b);
        if (sa != 0 && sb != 0)
            sets.join(sa, sb);
    };
    std::vector<bool> touchesReference(at(m_superCount), false);
    const auto connect = [&](int a, int b) {
        join(a, b);
        if (superNode(a) == 0)
            touchesReference[at(superNode(b))] = true;
        if (superNode(b) == 0)
            touchesReference[at(superNode(a))] = true;
    };
    for (const Stamp& s : twoPoles(n))
        connect(s.p, s.q);
    for (const CurrentSource& s : n.currentSources)
        connect(s.p, s.q);
    for (const Transformer& t : n.transformers) {
        connect(t.p1, t.p2);
        connect(t.s1, t.s2);
    }
    for (const Motor& m : n.motors)
        for (int k = 0; k < 3; ++k) // six ends: three windings that only their iron couples
            connect(m.terminals[at(k)], m.terminals[at(m.sixTerminal ? k + 3 : (k + 1) % 3)]);
    std::vector<bool> grounded(at(m_superCount), false);
    for (int s = 1; s < m_superCount; ++s)
        if (touchesReference[at(s)])
            grounded[at(sets.find(s))] = true;
    m_floating.assign(at(m_superCount), false);
    m_galvanic.assign(at(m_superCount), -1);
    for (int s = 1; s < m_superCount; ++s) {
        m_galvanic[at(s)] = sets.find(s);
        m_floating[at(s)] = !grounded[at(sets.find(s))];
    }
}

Expected<void> Prepared::factor(const Network& n)
{
    DisjointSets islands(m_superCount);
    const auto join = [&](int a, int b) {
        if (superNode(a) != 0 && superNode(b) != 0)
            islands.join(superNode(a), superNode(b));
    };
    const std::vector<Stamp> stamps = twoPoles(n);
    for (const Stamp& s : stamps)
        join(s.p, s.q);
    for (const CurrentSource& s : n.currentSources)
        join(s.p, s.q);
    for (const Transformer& t : n.transformers) {
        join(t.p1, t.p2);
        join(t.p1, t.s1);
        join(t.p2, t.s1);
        join(t.s1, t.s2);
        join(t.p1, t.s2);
        join(t.p2, t.s2);
    }
    for (const Motor& m : n.motors)
        for (int a = 0; a < terminalCount(m); ++a)
            for (int b = a + 1; b < terminalCount(m); ++b)
                join(m.terminals[at(a)], m.terminals[at(b)]);

    // Which islands carry a source, and which super-nodes are motor terminals.
    std::vector<bool> driven(at(m_superCount), false), isBoundary(at(m_superCount), false);
    const auto drive = [&](int node) {
        if (superNode(node) != 0)
            driven[at(islands.find(superNode(node)))] = true;
    };
    for (const Source& s : n.sources)
        if (s.emf != Complex{}) {
            drive(s.p);
            drive(s.q);
        }
    for (const CurrentSource& s : n.currentSources) {
        drive(s.p);
        drive(s.q);
    }
    for (const Motor& m : n.motors)
        for (int k = 0; k < terminalCount(m); ++k)
            if (superNode(m.terminals[at(k)]) != 0)
                isBoundary[at(superNode(m.terminals[at(k)]))] = true;

    // Local numbering: interior first, then boundary.
    std::vector<std::vector<int>> members(at(m_superCount));
    for (int s = 1; s < m_superCount; ++s)
        if (driven[at(islands.find(s))])
            members[at(islands.find(s))].push_back(s);
    std::vector<int> local(at(m_superCount), -1);
    m_fixed.assign(at(m_superCount), Complex{});
    m_motors.clear();
    for (const Motor& m : n.motors)
        m_motors.push_back({m, {-1, -1, -1, -1, -1, -1}});

    std::vector<int> islandOf(at(m_superCount), -1); // index into work
    struct Work {
        std::vector<int> interior, boundary;
        Eigen::MatrixXcd y;
        Eigen::VectorXcd j;
    };
    std::vector<Work> work;
    for (int root = 1; root < m_superCount; ++root) {
        if (members[at(root)].empty())
            continue;
        Work w;
        for (int s : members[at(root)])
            (isBoundary[at(s)] ? w.boundary : w.interior).push_back(s);
        int next = 0;
        for (const auto* list : {&w.interior, &w.boundary})
            for (int s : *list) {
                local[at(s)] = next++;
                islandOf[at(s)] = static_cast<int>(work.size());
            }
        w.y = Eigen::MatrixXcd::Zero(next, next);
        w.j = Eigen::VectorXcd::Zero(next);
        for (int s : members[at(root)])
            if (m_floating[at(s)])
                w.y(local[at(s)], local[at(s)]) += kLeakS;
        work.push_back(std::move(w));
    }
    const auto stampY = [&](int a, int b, Complex y) {
        const int sa = superNode(a), sb = superNode(b);
        if (sa != 0 && sb != 0 && islandOf[at(sa)] >= 0)
            work[at(islandOf[at(sa)])].y(local[at(sa)], local[at(sb)]) += y;
    };
    const auto stampPair = [&](int p, int q, Complex y) {
        stampY(p, p, y);
        stampY(q, q, y);
        stampY(p, q, -y);
        stampY(q, p, -y);
    };
    const auto inject = [&](int node, Complex current) {
        const int s = superNode(node);
        if (s != 0 && islandOf[at(s)] >= 0)
            work[at(islandOf[at(s)])].j(local[at(s)]) += current;
    };
    for (const Stamp& s : stamps)
        stampPair(s.p, s.q, s.y);
    for (const Source& s : n.sources) {
        inject(s.p, s.emf / s.impedance);
        inject(s.q, -s.emf / s.impedance);
    }
    for (const CurrentSource& s : n.currentSources) {
        inject(s.p, s.current);
        inject(s.q, -s.current);
    }
    for (const Transformer& t : n.transformers) {
        const PortMatrix m = portMatrix(t);
        stampPair(t.p1, t.p2, m.y11);
        stampPair(t.s1, t.s2, m.y22);
        const std::array<std::pair<int, double>, 2> primary{{{t.p1, 1.0}, {t.p2, -1.0}}};
        const std::array<std::pair<int, double>, 2> secondary{{{t.s1, 1.0}, {t.s2, -1.0}}};
        for (const auto& [a, sa] : primary)
            for (const auto& [b, sb] : secondary) {
                stampY(a, b, m.y12 * sa * sb);
                stampY(b, a, m.y12 * sa * sb);
            }
    }

    for (Work& w : work) {
        const auto ni = static_cast<Eigen::Index>(w.interior.size());
        const auto nb = static_cast<Eigen::Index>(w.boundary.size());
        Eigen::MatrixXcd rhs(ni, nb + 1);
        rhs.leftCols(nb) = -w.y.topRightCorner(ni, nb);
        rhs.col(nb) = w.j.head(ni);
        Eigen::MatrixXcd x(ni, nb + 1);
        if (ni > kDenseLimit) {
            Eigen::SparseLU<Eigen::SparseMatrix<Complex>> lu(w.y.topLeftCorner(ni, ni).sparseView());
            if (lu.info() != Eigen::Success)
                return failure(ErrorCode::NoSolution, message("network.singular"));
            x = lu.solve(rhs);
        } else if (ni > 0) {
            Eigen::MatrixXcd y = w.y.topLeftCorner(ni, ni);
            x = rhs;
            solveDense(y, x);
        }
        if (!x.allFinite())
            return failure(ErrorCode::NoSolution, message("network.singular"));
        if (nb == 0) {
            for (Eigen::Index i = 0; i < ni; ++i)
                m_fixed[at(w.interior[static_cast<std::size_t>(i)])] = x(i, 0);
            continue;
        }
        Island island;
        island.spread = x.leftCols(nb);
        island.interiorOpen = x.col(nb);
        const auto yBi = w.y.bottomLeftCorner(nb, ni);
        island.reducedY = w.y.bottomRightCorner(nb, nb) + yBi * island.spread;
        island.reducedJ = w.j.tail(nb) - yBi * island.interiorOpen;
        for (std::size_t m = 0; m < m_motors.size(); ++m) {
            MotorStamp& stamp = m_motors[m];
            for (int k = 0; k < terminalCount(stamp.motor); ++k) {
                const int s = superNode(stamp.motor.terminals[at(k)]);
                const auto found = std::find(w.boundary.begin(), w.boundary.end(), s);
                if (s == 0 || found == w.boundary.end())
                    continue;
                stamp.boundaryIndex[at(k)] = static_cast<int>(found - w.boundary.begin());
                if (island.motors.empty() || island.motors.back() != static_cast<int>(m))
                    island.motors.push_back(static_cast<int>(m));
            }
        }
        island.boundary = std::move(w.boundary);
        island.interior = std::move(w.interior);
        m_islands.push_back(std::move(island));
    }
    return {};
}

Expected<Prepared> Prepared::make(const Network& network)
{
    if (auto ok = checkElements(network); !ok)
        return Unexpected{ok.error()};
    Prepared p;
    p.merge(network);
    p.findGalvanic(network);
    if (auto ok = p.factor(network); !ok)
        return Unexpected{ok.error()};
    return p;
}

bool Prepared::isDriven(std::size_t motor) const
{
    return std::any_of(m_islands.begin(), m_islands.end(), [motor](const Island& i) {
        return std::find(i.motors.begin(), i.motors.end(), static_cast<int>(motor)) != i.motors.end();
    });
}

Eigen::VectorXcd Prepared::terminalVoltages(const Island& island, std::span<const double> slips) const
{
    Eigen::MatrixXcd y = island.reducedY;
    for (int m : island.motors) {
        const MotorStamp& stamp = m_motors[at(m)];
        stampMotor(y, stamp.motor, slips[at(m)], stamp.boundaryIndex);
    }
    Eigen::VectorXcd boundary = island.reducedJ;
    solveDense(y, boundary);
    TS_CHECK(boundary.allFinite());
    return boundary;
}

void Prepared::solve(std::span<const double> slips, Solution& solution) const
{
    TS_CHECK(slips.size() == m_motors.size());
    solution.voltage = m_fixed;
    for (const Island& island : m_islands) {
        const Eigen::VectorXcd boundary = terminalVoltages(island, slips);
        const Eigen::VectorXcd interior = island.spread * boundary + island.interiorOpen;
        for (std::size_t i = 0; i < island.boundary.size(); ++i)
            solution.voltage[at(island.boundary[i])] = boundary(static_cast<Eigen::Index>(i));
        for (std::size_t i = 0; i < island.interior.size(); ++i)
            solution.voltage[at(island.interior[i])] = interior(static_cast<Eigen::Index>(i));
    }
}

MotorView Prepared::seenFrom(std::span<const double> slips, const std::vector<bool>& moves) const
{
    TS_CHECK(slips.size() == m_motors.size() && moves.size() == m_motors.size());
    MotorView view;
    view.m_moves = moves;
    view.m_fixed = m_fixed;
    for (const Island& island : m_islands) {
        Eigen::MatrixXcd y = island.reducedY;
        std::vector<bool> isSeen(island.boundary.size(), false);
        std::vector<std::pair<std::size_t, double>> held;
        for (int m : island.motors) {
            const MotorStamp& stamp = m_motors[at(m)];
            if (!moves[at(m)]) {
                stampMotor(y, stamp.motor, slips[at(m)], stamp.boundaryIndex);
                held.emplace_back(at(m), slips[at(m)]);
                continue;
            }
            for (int row : stamp.boundaryIndex)
                if (row >= 0)
                    isSeen[at(row)] = true;
        }
        std::vector<Eigen::Index> seen, behind;
        for (std::size_t i = 0; i < isSeen.size(); ++i)
            (isSeen[i] ? seen : behind).push_back(static_cast<Eigen::Index>(i));
        if (seen.empty())
            continue;
        view.m_held.insert(view.m_held.end(), held.begin(), held.end());
        // Y = [Yss Ysb; Ybs Ybb]: what lies behind becomes Yss - Ysb Ybb^-1 Ybs and Js - Ysb Ybb^-1 Jb.
        const auto ns = static_cast<Eigen::Index>(seen.size()), nb = static_cast<Eigen::Index>(behind.size());
        MotorView::Part part;
        part.y = y(seen, seen);
        part.j = island.reducedJ(seen);
        if (nb > 0) {
            Eigen::MatrixXcd ybb = y(behind, behind), right(nb, ns + 1);
            right.leftCols(ns) = y(behind, seen);
            right.col(ns) = island.reducedJ(behind);
            solveDense(ybb, right);
            const Eigen::MatrixXcd ysb = y(seen, behind);
            part.y -= ysb * right.leftCols(ns);
            part.j -= ysb * right.col(ns);
        }
        for (Eigen::Index i : seen)
            part.nodes.push_back(island.boundary[static_cast<std::size_t>(i)]);
        for (int m : island.motors) {
            if (!moves[at(m)])
                continue;
            MotorView::Port port{m_motors[at(m)].motor, at(m), {-1, -1, -1, -1, -1, -1}};
            for (std::size_t k = 0; k < port.row.size(); ++k)
                if (const int row = m_motors[at(m)].boundaryIndex[k]; row >= 0)
                    port.row[k] = static_cast<int>(std::find(seen.begin(), seen.end(), row) - seen.begin());
            part.ports.push_back(port);
        }
        view.m_parts.push_back(std::move(part));
    }
    return view;
}

bool MotorView::isOf(std::span<const double> slips, const std::vector<bool>& moves) const
{
    return moves == m_moves && std::all_of(m_held.begin(), m_held.end(), [&](const auto& held) {
        return slips[held.first] == held.second;
    });
}

std::vector<std::uint64_t> MotorView::content() const
{
    std::vector<std::uint64_t> words;
    const auto put = [&words](Complex c) {
        words.push_back(std::bit_cast<std::uint64_t>(c.real()));
        words.push_back(std::bit_cast<std::uint64_t>(c.imag()));
    };
    for (const Part& part : m_parts) {
        words.push_back(part.nodes.size());
        for (Complex c : part.y.reshaped())
            put(c);
        for (Complex c : part.j)
            put(c);
        for (const Port& port : part.ports) {
            words.push_back(port.slip);
            for (int row : port.row)
                words.push_back(static_cast<std::uint64_t>(row + 1));
        }
    }
    return words; // the terminals of moving motors that are in no part are at zero: nothing feeds them
}

void MotorView::solve(std::span<const double> slips, Solution& solution) const
{
    if (solution.voltage.empty())
        solution.voltage = m_fixed;
    thread_local Eigen::MatrixXcd y; // thousands of times the same size: its memory is used again
    thread_local Eigen::VectorXcd v;
    for (const Part& part : m_parts) {
        y = part.y;
        for (const Port& port : part.ports)
            stampMotor(y, port.motor, slips[port.slip], port.row);
        v = part.j;
        solveDense(y, v);
        TS_CHECK(v.allFinite());
        for (std::size_t i = 0; i < part.nodes.size(); ++i)
            solution.voltage[at(part.nodes[i])] = v(static_cast<Eigen::Index>(i));
    }
}

MotorCurrents motorCurrents(const Network& n, const Prepared& p, const Solution& s, std::span<const double> slips)
{
    const auto v = [&](int node) { return s.voltage[at(p.superNode(node))]; };
    MotorCurrents currents(n.motors.size());
    for (std::size_t k = 0; k < n.motors.size(); ++k) {
        if (!p.isDriven(k))
            continue;
        const Motor& motor = n.motors[k];
        const int count = terminalCount(motor);
        MotorVector u(count);
        for (int t = 0; t < count; ++t)
            u(t) = v(motor.terminals[at(t)]);
        const MotorVector i = motorAdmittance(motor, slips[k]) * u;
        for (int t = 0; t < count; ++t)
            currents[k][at(t)] = i(t);
    }
    return currents;
}

void elementCurrents(
    const Network& n, const Prepared& p, const Solution& s, std::span<const double> slips, ElementCurrents& c)
{
    const auto v = [&](int node) { return s.voltage[at(p.superNode(node))]; };
    c.sources.clear();
    c.currentSources.clear();
    c.impedances.clear();
    c.transformers.clear();
    for (const Source& e : n.sources)
        c.sources.push_back((v(e.p) - v(e.q) - e.emf) / e.impedance);
    for (const CurrentSource& e : n.currentSources)
        c.currentSources.push_back(-e.current);
    for (const Impedance& e : n.impedances)
        c.impedances.push_back((v(e.p) - v(e.q)) / e.impedance);
    for (const Transformer& t : n.transformers) {
        const PortMatrix m = portMatrix(t);
        const Complex u1 = v(t.p1) - v(t.p2), u2 = v(t.s1) - v(t.s2);
        c.transformers.push_back({m.y11 * u1 + m.y12 * u2, m.y12 * u1 + m.y22 * u2});
    }
    c.motors = motorCurrents(n, p, s, slips);
}

void nodeInjections(const Network& n, const ElementCurrents& c, std::vector<Complex>& injection)
{
    injection.assign(at(n.nodeCount), Complex{});
    const auto pair = [&](int p, int q, Complex intoP) {
        injection[at(p)] -= intoP;
        injection[at(q)] += intoP;
    };
    for (std::size_t i = 0; i < n.sources.size(); ++i)
        pair(n.sources[i].p, n.sources[i].q, c.sources[i]);
    for (std::size_t i = 0; i < n.currentSources.size(); ++i)
        pair(n.currentSources[i].p, n.currentSources[i].q, c.currentSources[i]);
    for (std::size_t i = 0; i < n.impedances.size(); ++i)
        pair(n.impedances[i].p, n.impedances[i].q, c.impedances[i]);
    for (std::size_t i = 0; i < n.transformers.size(); ++i) {
        pair(n.transformers[i].p1, n.transformers[i].p2, c.transformers[i][0]);
        pair(n.transformers[i].s1, n.transformers[i].s2, c.transformers[i][1]);
    }
    for (std::size_t i = 0; i < n.motors.size(); ++i)
        for (int k = 0; k < terminalCount(n.motors[i]); ++k)
            injection[at(n.motors[i].terminals[at(k)])] -= c.motors[i][at(k)];
}

} // namespace ts::network
