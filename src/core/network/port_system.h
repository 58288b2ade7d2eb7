#pragma once
// A solved-for network reduced to the terminals of its motors and to a few hubs, with the motors still outside: blocks
// of terminals that touch one another only through the hubs. A new speed needs the small systems of the blocks and the
// one of the hubs, so that its cost grows with the number of motors and not as its cube (tearing.h).

#include "core/network/network.h"

#include <Eigen/Core>

#include <cstdint>
#include <span>
#include <vector>

namespace ts::network {

/// Voltages of super-nodes, in the order of Prepared::superNode.
struct Solution {
    std::vector<Complex> voltage;
};

/// At most six by six: it needs no memory of its own.
using MotorMatrix = Eigen::Matrix<Complex, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, 6, 6>;
using MotorVector = Eigen::Matrix<Complex, Eigen::Dynamic, 1, Eigen::ColMajor, 6, 1>;

/// Terminals that count: 3 or 6.
int terminalCount(const Motor& motor);
/// Admittance of the motor between all its terminals, siemens.
MotorMatrix motorAdmittance(const Motor& motor, double slip);

/// A motor and where its terminals are.
struct MotorPort {
    Motor motor;
    std::size_t slip = 0; ///< index of its slip
    std::array<int, 6> row{-1, -1, -1, -1, -1, -1}; ///< of each terminal; -1: at the reference
};

/// What hangs together between the hubs: rows of its own nodes, then those of the hubs that it touches.
struct PortBlock {
    std::vector<int> nodes; ///< super-nodes
    std::vector<int> hubs; ///< places in PortSystem::hubs
    Eigen::MatrixXcd y;
    Eigen::VectorXcd j;
    std::vector<MotorPort> motors; ///< each with a terminal in this block
};

/// What one system's last solve found out about its blocks: those of which no slip has changed are not eliminated
/// again. Good for one system; changes speed only.
struct PortMemory {
    struct OfBlock {
        std::vector<double> slips;
        Eigen::MatrixXcd inner; ///< own rows by hub, and alone in the last column
        Eigen::MatrixXcd added; ///< hubs x the same: what the hubs get
    };
    std::vector<OfBlock> blocks;
};

struct PortSystem {
    std::vector<PortBlock> blocks;
    std::vector<int> hubs; ///< super-nodes
    Eigen::MatrixXcd y; ///< of the hubs, without what the blocks add
    Eigen::VectorXcd j;
    std::vector<MotorPort> motors; ///< those with all terminals at hubs or at the reference

    bool hasMotors() const;
    /// Writes the super-nodes of blocks and hubs. A singular system gives values that are not finite.
    void solve(std::span<const double> slips, Solution& solution, PortMemory& memory) const;
    /// The same with the motors that move only, the others' slips held; nothing if none moves. A few of them come out
    /// as one block without hubs.
    PortSystem seenFrom(std::span<const double> slips, const std::vector<bool>& moves) const;
    /// Appends all numbers that decide about the voltages besides the slips.
    void content(std::vector<std::uint64_t>& words) const;
};

/// What rows give the hubs is added to their matrix.
void addToHubs(const PortBlock& block, Eigen::MatrixXcd& y, Eigen::VectorXcd& j);

} // namespace ts::network
