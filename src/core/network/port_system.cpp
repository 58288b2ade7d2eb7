#include "core/network/port_system.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/dense.h"
#include "core/network/motor_circuit.h"

#include <algorithm>
#include <bit>

namespace ts::network {
namespace {

using Rows = std::vector<Eigen::Index>;

constexpr std::size_t kOneBlock = 12; ///< rows that are solved at once as soon as apart

void stamp(Eigen::MatrixXcd& y, const MotorPort& port, double slip)
{
    const MotorMatrix ym = motorAdmittance(port.motor, slip);
    const int count = terminalCount(port.motor);
    for (int a = 0; a < count; ++a)
        for (int b = 0; b < count; ++b)
            if (port.row[at(a)] >= 0 && port.row[at(b)] >= 0)
                y(port.row[at(a)], port.row[at(b)]) += ym(a, b);
}

/// What is left for the rows `keep` once the rows `drop` are solved for: Ykk - Ykd Ydd^-1 Ydk, Jk - Ykd Ydd^-1 Jd.
void condense(Eigen::MatrixXcd& y, Eigen::VectorXcd& j, const Rows& keep, const Rows& drop)
{
    const auto nk = static_cast<Eigen::Index>(keep.size()), nd = static_cast<Eigen::Index>(drop.size());
    Eigen::MatrixXcd kept = y(keep, keep);
    Eigen::VectorXcd keptJ = j(keep);
    if (nd > 0) {
        Eigen::MatrixXcd ydd = y(drop, drop), right(nd, nk + 1);
        right.leftCols(nk) = y(drop, keep);
        right.col(nk) = j(drop);
        solveDense(ydd, right);
        const Eigen::MatrixXcd ykd = y(keep, drop);
        kept -= ykd * right.leftCols(nk);
        keptJ -= ykd * right.col(nk);
    }
    y = std::move(kept);
    j = std::move(keptJ);
}

/// Rows that motors touch, and the others.
struct Sides {
    Rows seen, behind;
};
Sides sidesOf(const std::vector<MotorPort>& motors, std::size_t rows)
{
    std::vector<bool> isSeen(rows, false);
    for (const MotorPort& port : motors)
        for (int row : port.row)
            if (row >= 0 && at(row) < rows)
                isSeen[at(row)] = true;
    Sides sides;
    for (std::size_t i = 0; i < rows; ++i)
        (isSeen[i] ? sides.seen : sides.behind).push_back(static_cast<Eigen::Index>(i));
    return sides;
}

/// The motors where their rows have come to be the places in `kept`.
void renumber(std::vector<MotorPort>& motors, const Rows& kept)
{
    for (MotorPort& port : motors)
        for (int& row : port.row)
            if (row >= 0)
                row = static_cast<int>(std::find(kept.begin(), kept.end(), row) - kept.begin());
}

/// Moves those that do not move into the matrix.
std::vector<MotorPort> heldIn(Eigen::MatrixXcd& y, const std::vector<MotorPort>& motors, std::span<const double> slips,
    const std::vector<bool>& moves)
{
    std::vector<MotorPort> moving;
    for (const MotorPort& port : motors)
        if (moves[port.slip])
            moving.push_back(port);
        else
            stamp(y, port, slips[port.slip]);
    return moving;
}

void eliminate(const PortBlock& b, std::span<const double> slips, PortMemory::OfBlock& known)
{
    const auto isSame = [&, k = std::size_t{}](
                            const MotorPort& port) mutable { return known.slips[k++] == slips[port.slip]; };
    if (known.slips.size() == b.motors.size() && std::all_of(b.motors.begin(), b.motors.end(), isSame))
        return;
    thread_local Eigen::MatrixXcd whole, own;
    const auto n = static_cast<Eigen::Index>(b.nodes.size()), h = static_cast<Eigen::Index>(b.hubs.size());
    whole = b.y;
    known.slips.clear();
    for (const MotorPort& port : b.motors) {
        stamp(whole, port, slips[port.slip]);
        known.slips.push_back(slips[port.slip]);
    }
    known.inner.resize(n, h + 1);
    known.inner.leftCols(h) = -whole.topRightCorner(n, h);
    known.inner.col(h) = b.j.head(n);
    if (h == 0) {
        solveDense(whole, known.inner);
        return;
    }
    own = whole.topLeftCorner(n, n);
    solveDense(own, known.inner);
    known.added = whole.bottomLeftCorner(h, n) * known.inner;
    known.added.leftCols(h) += whole.bottomRightCorner(h, h);
    known.added.col(h) = b.j.tail(h) - known.added.col(h);
}

PortBlock seenBlock(const PortBlock& block, std::span<const double> slips, const std::vector<bool>& moves)
{
    PortBlock seen{{}, block.hubs, block.y, block.j, {}};
    seen.motors = heldIn(seen.y, block.motors, slips, moves);
    auto [keep, drop] = sidesOf(seen.motors, block.nodes.size());
    for (Eigen::Index row : keep)
        seen.nodes.push_back(block.nodes[static_cast<std::size_t>(row)]);
    for (std::size_t h = 0; h < block.hubs.size(); ++h)
        keep.push_back(static_cast<Eigen::Index>(block.nodes.size() + h));
    condense(seen.y, seen.j, keep, drop);
    renumber(seen.motors, keep);
    return seen;
}

/// All blocks and hubs in one matrix, without the hubs that no motor touches.
PortBlock inOneBlock(const PortSystem& system)
{
    PortBlock one;
    for (const PortBlock& b : system.blocks)
        one.nodes.insert(one.nodes.end(), b.nodes.begin(), b.nodes.end());
    const auto hubRow = static_cast<int>(one.nodes.size());
    one.nodes.insert(one.nodes.end(), system.hubs.begin(), system.hubs.end());
    const auto rows = static_cast<Eigen::Index>(one.nodes.size());
    one.y = Eigen::MatrixXcd::Zero(rows, rows);
    one.j = Eigen::VectorXcd::Zero(rows);
    const auto add = [&one](const Rows& places, const Eigen::MatrixXcd& y, const Eigen::VectorXcd& j,
                         std::vector<MotorPort> motors) {
        one.y(places, places) += y;
        one.j(places) += j;
        for (MotorPort& port : motors)
            for (int& row : port.row)
                if (row >= 0)
                    row = static_cast<int>(places[at(row)]);
        one.motors.insert(one.motors.end(), motors.begin(), motors.end());
    };
    Eigen::Index next = 0;
    for (const PortBlock& b : system.blocks) {
        Rows places;
        for (std::size_t i = 0; i < b.nodes.size(); ++i)
            places.push_back(next++);
        for (int hub : b.hubs)
            places.push_back(hubRow + hub);
        add(places, b.y, b.j, b.motors);
    }
    Rows ofHubs;
    for (std::size_t h = 0; h < system.hubs.size(); ++h)
        ofHubs.push_back(hubRow + static_cast<int>(h));
    add(ofHubs, system.y, system.j, system.motors);
    const auto [keep, drop] = sidesOf(one.motors, one.nodes.size());
    condense(one.y, one.j, keep, drop);
    renumber(one.motors, keep);
    std::vector<int> nodes;
    for (Eigen::Index row : keep)
        nodes.push_back(one.nodes[static_cast<std::size_t>(row)]);
    one.nodes = std::move(nodes);
    return one;
}

void putAll(std::vector<std::uint64_t>& words, const Eigen::MatrixXcd& y, const Eigen::VectorXcd& j,
    const std::vector<MotorPort>& motors)
{
    const auto put = [&words](Complex c) {
        words.push_back(std::bit_cast<std::uint64_t>(c.real()));
        words.push_back(std::bit_cast<std::uint64_t>(c.imag()));
    };
    for (Complex c : y.reshaped())
        put(c);
    for (Complex c : j)
        put(c);
    for (const MotorPort& port : motors) {
        words.push_back(port.slip);
        for (int row : port.row)
            words.push_back(static_cast<std::uint64_t>(row + 1));
    }
}

} // namespace

int terminalCount(const Motor& motor)
{
    return motor.sixTerminal ? 6 : 3;
}

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

void addToHubs(const PortBlock& block, Eigen::MatrixXcd& y, Eigen::VectorXcd& j)
{
    const auto own = static_cast<Eigen::Index>(block.nodes.size());
    for (std::size_t a = 0; a < block.hubs.size(); ++a) {
        const auto row = own + static_cast<Eigen::Index>(a);
        j(block.hubs[a]) += block.j(row);
        for (std::size_t b = 0; b < block.hubs.size(); ++b)
            y(block.hubs[a], block.hubs[b]) += block.y(row, own + static_cast<Eigen::Index>(b));
    }
}

bool PortSystem::hasMotors() const
{
    return !motors.empty()
        || std::any_of(blocks.begin(), blocks.end(), [](const PortBlock& b) { return !b.motors.empty(); });
}

void PortSystem::solve(std::span<const double> slips, Solution& solution, PortMemory& memory) const
{
    thread_local Eigen::MatrixXcd ofHubs; // thousands of times the same size: its memory is used again
    thread_local Eigen::VectorXcd hubV;
    memory.blocks.resize(blocks.size());
    ofHubs = y;
    hubV = j;
    for (const MotorPort& port : motors)
        stamp(ofHubs, port, slips[port.slip]);
    for (std::size_t k = 0; k < blocks.size(); ++k) {
        const std::vector<int>& touched = blocks[k].hubs;
        eliminate(blocks[k], slips, memory.blocks[k]);
        for (std::size_t row = 0; row < touched.size(); ++row) {
            const auto added = memory.blocks[k].added.row(static_cast<Eigen::Index>(row));
            for (std::size_t column = 0; column < touched.size(); ++column)
                ofHubs(touched[row], touched[column]) += added(static_cast<Eigen::Index>(column));
            hubV(touched[row]) += added(added.cols() - 1);
        }
    }
    solveDense(ofHubs, hubV);
    for (std::size_t h = 0; h < hubs.size(); ++h)
        solution.voltage[at(hubs[h])] = hubV(static_cast<Eigen::Index>(h));
    for (std::size_t k = 0; k < blocks.size(); ++k) {
        const Eigen::MatrixXcd& inner = memory.blocks[k].inner;
        for (std::size_t i = 0; i < blocks[k].nodes.size(); ++i) {
            const auto row = static_cast<Eigen::Index>(i);
            Complex v = inner(row, inner.cols() - 1);
            Eigen::Index column = 0;
            for (int hub : blocks[k].hubs)
                v += inner(row, column++) * hubV(hub);
            solution.voltage[at(blocks[k].nodes[i])] = v;
        }
    }
}

PortSystem PortSystem::seenFrom(std::span<const double> slips, const std::vector<bool>& moves) const
{
    PortSystem seen{{}, hubs, y, j, {}};
    seen.motors = heldIn(seen.y, motors, slips, moves);
    std::size_t rows = seen.hubs.size();
    for (const PortBlock& b : blocks) {
        PortBlock block = seenBlock(b, slips, moves);
        if (block.motors.empty()) {
            addToHubs(block, seen.y, seen.j);
            continue;
        }
        rows += block.nodes.size();
        seen.blocks.push_back(std::move(block));
    }
    if (!seen.hasMotors())
        return {};
    if (seen.hubs.empty() || rows > kOneBlock)
        return seen;
    PortSystem one;
    one.blocks.push_back(inOneBlock(seen));
    return one;
}

void PortSystem::content(std::vector<std::uint64_t>& words) const
{
    words.push_back(blocks.size());
    for (const PortBlock& b : blocks) {
        words.push_back(b.nodes.size());
        for (int hub : b.hubs)
            words.push_back(static_cast<std::uint64_t>(hub));
        putAll(words, b.y, b.j, b.motors);
    }
    putAll(words, y, j, motors);
}

} // namespace ts::network
