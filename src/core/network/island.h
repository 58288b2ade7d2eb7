#pragma once
// The parts of a network between which no current can flow, each torn at its hubs and reduced to the terminals of its
// motors. Internal to network/; used through solver.h.

#include "core/base/expected.h"
#include "core/network/port_system.h"

#include <span>
#include <vector>

namespace ts::network {

constexpr double kLeakS = 1e-9;

/// An admittance between two nodes.
struct Stamp {
    int p, q;
    Complex y;
};
/// Sources and impedances.
std::vector<Stamp> twoPoles(const Network& n);

/// Nodes that are neither terminals of motors nor hubs: their voltages follow from those.
struct Interior {
    std::vector<int> nodes; ///< super-nodes
    std::vector<int> outer; ///< super-nodes on which they depend
    Eigen::MatrixXcd spread; ///< nodes x outer
    Eigen::VectorXcd open; ///< with the outer ones at zero

    void solve(Solution& solution) const;
};

struct Island {
    PortSystem ports;
    std::vector<Interior> interiors;

    /// Writes all its super-nodes. A singular system gives values that are not finite.
    void solve(std::span<const double> slips, Solution& solution) const;
};

/// Of the islands that carry a source. `superOf` by node, `isFloating` by super-node. Fails with NoSolution if a matrix
/// is singular.
Expected<std::vector<Island>> islandsOf(
    const Network& network, std::span<const int> superOf, const std::vector<bool>& isFloating);

} // namespace ts::network
