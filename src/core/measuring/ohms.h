#pragma once
// Resistances of a circuit of which nothing is fed, as a range: parts have tolerances, and what is behind electronics
// (inputs, lamps, supplies, drives) can read anything from the lowest that a semiconductor allows to open. By
// Rayleigh's law a resistance between two points only grows with each of its parts, so the two ends of the range are
// exact. Each resistance network is solved by Cholesky factors of its conductance matrix (nodal analysis).

#include "core/measuring/bonds.h"

#include <Eigen/Cholesky>

#include <map>

namespace ts::measuring {

/// What lies between two points, without its figure.
enum class Path : std::uint8_t {
    Direct, ///< wires, closed contacts, windings of motors: a continuity tester beeps
    Finite, ///< coils, heaters
    None ///< open, or nothing but electronics
};

/// Ohm, of what a continuity tester takes for joined (assumed, measuring.csv).
double mostThatBeeps();

class Ohms {
public:
    /// `travel`: of every mover. Supplies are isolated upstream, with their neutral and earth left as they are.
    Ohms(const Plant& plant, std::span<const std::uint8_t> travel, const Overlay& overlay,
        std::span<const MovedWire> moved = {});

    Reading between(int nodeA, int nodeB);
    /// Of whichever pair reads least: "to this coil, at whichever of its ends".
    Reading lowest(std::span<const int> a, std::span<const int> b);
    Path pathBetween(int nodeA, int nodeB);
    /// The same number for all that beeps together.
    int partOf(int node);

private:
    struct Network { ///< of the resistors whose greatest value is at most `most`; found when it is first asked for
        double most = kEndless;
        std::vector<int> componentOf, placeOf; ///< by joint
        std::vector<int> sizes; ///< by component: joints in it
        std::map<int, Eigen::LLT<Eigen::MatrixXd>> factors; ///< by component, without its last joint
    };
    void joinLinks(const BuiltSo& built);
    void addResistors(const BuiltSo& built);
    void add(const Bond& bond);
    const std::vector<int>& componentsOf(Network& n) const;
    double solved(Network& n, int a, int b) const;

    std::vector<int> m_jointOf; ///< by node
    std::vector<Bond> m_resistors; ///< between joints
    Network m_low, m_high, m_near;
};

} // namespace ts::measuring
