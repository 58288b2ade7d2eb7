#pragma once
// Resistances of a circuit of which nothing is fed, as a range: parts have tolerances, and what is behind electronics
// (inputs, lamps, supplies, drives) can read anything from the lowest that a semiconductor allows to open. By
// Rayleigh's law a resistance between two points only grows with each of its parts, so the two ends of the range are
// exact. Each resistance network is solved by Cholesky factors of its conductance matrix (nodal analysis).

#include "core/measuring/look.h"
#include "core/simulation/fault.h"
#include "core/simulation/plant.h"

#include <Eigen/Cholesky>

#include <map>
#include <span>

namespace ts::measuring {

/// A wire that is not where it should be: by plant slot, its two nodes; none: it is missing.
struct MovedWire {
    int wire = 0;
    std::optional<std::pair<int, int>> nodes;
    bool operator==(const MovedWire&) const = default;
};

/// What lies between two points, without its figure.
enum class Path : std::uint8_t {
    Direct, ///< wires, closed contacts, windings of motors: a continuity tester beeps
    Finite, ///< coils, heaters
    None ///< open, or nothing but electronics
};

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
    struct Resistor {
        int p = 0, q = 0;
        double low = 0, high = 0; ///< high: endless for electronics
    };
    struct Network { ///< of the resistors whose greatest value is at most `most`; found when it is first asked for
        double most = kEndless;
        std::vector<int> componentOf, placeOf; ///< by joint
        std::vector<int> sizes; ///< by component: joints in it
        std::map<int, Eigen::LLT<Eigen::MatrixXd>> factors; ///< by component, without its last joint
    };
    void joinLinks(
        const Plant& plant, std::span<const std::uint8_t> travel, const Overlay& o, std::span<const MovedWire> moved);
    void addResistors(const Plant& plant, const Overlay& o, std::span<const MovedWire> moved);
    void addMachines(const Plant& plant, const Overlay& o);
    void add(int p, int q, double ohm, const Band& band);
    void addElectronics(int p, int q);
    const std::vector<int>& componentsOf(Network& n) const;
    double solved(Network& n, int a, int b) const;

    std::vector<int> m_jointOf; ///< by node
    std::vector<Resistor> m_resistors;
    Network m_low, m_high, m_near;
};

} // namespace ts::measuring
