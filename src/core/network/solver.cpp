#include "core/network/solver.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/driven.h"

#include <algorithm>
#include <cmath>

namespace ts::network {
namespace {

bool isFinite(Complex z)
{
    return std::isfinite(z.real()) && std::isfinite(z.imag());
}

bool isUsable(Complex z)
{
    return isFinite(z) && z != Complex{};
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
    SuperNodes super = superNodesOf(n);
    m_superCount = super.count();
    m_superOf = std::move(super.of);
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
    auto islands = islandsOf(n, m_superOf, m_floating);
    if (!islands)
        return Unexpected{islands.error()};
    m_fixed.voltage.assign(at(m_superCount), Complex{});
    m_isDriven.assign(n.motors.size(), false);
    for (Island& island : *islands) {
        for (const PortBlock& b : island.ports.blocks)
            for (const MotorPort& port : b.motors)
                m_isDriven[port.slip] = true;
        for (const MotorPort& port : island.ports.motors)
            m_isDriven[port.slip] = true;
        if (island.ports.hasMotors())
            m_islands.push_back(std::move(island));
        else
            island.solve({}, m_fixed);
    }
    if (!std::all_of(m_fixed.voltage.begin(), m_fixed.voltage.end(), isFinite))
        return failure(ErrorCode::NoSolution, message("network.singular"));
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

void Prepared::solve(std::span<const double> slips, Solution& solution) const
{
    TS_CHECK(slips.size() == m_isDriven.size());
    solution = m_fixed;
    for (const Island& island : m_islands)
        island.solve(slips, solution);
    TS_CHECK(std::all_of(solution.voltage.begin(), solution.voltage.end(), isFinite));
}

MotorView Prepared::seenFrom(std::span<const double> slips, const std::vector<bool>& moves) const
{
    TS_CHECK(slips.size() == m_isDriven.size() && moves.size() == m_isDriven.size());
    MotorView view;
    view.m_moves = moves;
    view.m_fixed = m_fixed;
    for (const Island& island : m_islands) {
        PortSystem seen = island.ports.seenFrom(slips, moves);
        if (!seen.hasMotors())
            continue;
        const auto hold = [&](const std::vector<MotorPort>& motors) {
            for (const MotorPort& port : motors)
                if (!moves[port.slip])
                    view.m_held.emplace_back(port.slip, slips[port.slip]);
        };
        for (const PortBlock& b : island.ports.blocks)
            hold(b.motors);
        hold(island.ports.motors);
        view.m_parts.push_back(std::move(seen));
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
    for (const PortSystem& part : m_parts)
        part.content(words);
    return words; // the terminals of moving motors that are in no part are at zero: nothing feeds them
}

void MotorView::solve(std::span<const double> slips, Solution& solution) const
{
    if (solution.voltage.empty())
        solution = m_fixed;
    m_memories.resize(m_parts.size());
    for (std::size_t k = 0; k < m_parts.size(); ++k)
        m_parts[k].solve(slips, solution, m_memories[k]);
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
