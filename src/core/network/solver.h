#pragma once
// Voltages and currents of a Network. Closed links merge nodes into super-nodes; what is left falls apart
// into islands, each solved on its own by general LU (a motor's matrix is not symmetric).
// Motors stay outside the factored part: a new speed needs only a small system (their terminals).
// Islands without a path to the reference get a leak of 1e-9 S a super-node and are marked floating:
// only differences inside such an island mean anything.

#include "core/base/expected.h"
#include "core/network/network.h"

#include <Eigen/Core>
#include <Eigen/LU>

#include <map>
#include <span>
#include <unordered_map>
#include <utility>
#include <vector>

namespace ts::network {

constexpr double kLeakS = 1e-9;

/// Voltages of super-nodes, in the order of Prepared::superNode.
struct Solution {
    std::vector<Complex> voltage;
};

/// What moving motors see of a network: a small system of their own terminals, for the many steps of a change of speed.
/// The voltages are those of Prepared::solve (tested to 1e-9). Good for one network and one set of held slips.
class MotorView {
public:
    bool isOf(std::span<const double> slips, const std::vector<bool>& moves) const;
    /// Writes the super-nodes of the moving motors' terminals only, enough for their torques.
    void solve(std::span<const double> slips, Solution& solution) const;
    /// All numbers that decide about those voltages besides the slips: views of equal content solve alike.
    std::vector<std::uint64_t> content() const;

private:
    friend class Prepared;
    struct Port {
        Motor motor;
        std::size_t slip; ///< index of its slip
        std::array<int, 6> row{}; ///< of each terminal in its part, -1: at the reference
    };
    struct Part {
        std::vector<int> nodes; ///< super-nodes
        Eigen::MatrixXcd y;
        Eigen::VectorXcd j;
        std::vector<Port> ports;
    };
    std::vector<Part> m_parts;
    std::vector<bool> m_moves;
    std::vector<std::pair<std::size_t, double>> m_held; ///< slips on which the parts rest
    std::vector<Complex> m_fixed; ///< of motors that nothing feeds
};

/// A network with its topology worked out and its factors kept. Independent of the motors' speeds. Immutable.
class Prepared {
public:
    /// Fails with OutOfRange for a source or impedance that is zero or not finite, a node out of range,
    /// and with NoSolution if an island's matrix is singular.
    static Expected<Prepared> make(const Network& network);

    int superNodeCount() const { return m_superCount; }
    int superNode(int node) const { return m_superOf[static_cast<std::size_t>(node)]; }
    std::span<const int> superNodes() const { return m_superOf; } ///< by node
    bool isFloating(int superNode) const { return m_floating[static_cast<std::size_t>(superNode)]; }
    /// Galvanic component: joined by anything but a transformer's two sides and the reference. -1 for the reference.
    int galvanic(int superNode) const { return m_galvanic[static_cast<std::size_t>(superNode)]; }

    /// Whether a source can drive current through the motor.
    bool isDriven(std::size_t motor) const;
    /// All super-node voltages for the given slips (one per motor, 1 at standstill). The reference reads 0.
    /// Every value is finite; cost of a few small products if the topology has motors, else a copy.
    void solve(std::span<const double> slips, Solution& solution) const;
    /// The network as seen from the terminals of the motors that move, the other ones' slips held. `moves` has an entry
    /// a motor.
    MotorView seenFrom(std::span<const double> slips, const std::vector<bool>& moves) const;

private:
    struct Island {
        std::vector<int> boundary; ///< super-nodes of motor terminals
        std::vector<int> interior;
        std::vector<int> motors;
        Eigen::MatrixXcd reducedY; ///< boundary x boundary
        Eigen::VectorXcd reducedJ;
        Eigen::MatrixXcd spread; ///< interior x boundary: interior voltage caused by boundary voltage
        Eigen::VectorXcd interiorOpen; ///< interior voltage with the boundary at zero
    };
    struct MotorStamp {
        Motor motor;
        std::array<int, 6> boundaryIndex{}; ///< -1: at the reference
    };

    Eigen::VectorXcd terminalVoltages(const Island& island, std::span<const double> slips) const;
    static Expected<void> checkElements(const Network& network);
    void merge(const Network& network);
    void findGalvanic(const Network& network);
    Expected<void> factor(const Network& network);

    int m_superCount = 0;
    std::vector<int> m_superOf;
    std::vector<bool> m_floating;
    std::vector<int> m_galvanic;
    std::vector<MotorStamp> m_motors;
    std::vector<Island> m_islands; ///< those with motors
    std::vector<Complex> m_fixed; ///< voltages of all islands without motors
};

/// Currents into the terminals of each element, in the network's own order.
struct ElementCurrents {
    std::vector<Complex> sources; ///< into p
    std::vector<Complex> currentSources; ///< into p
    std::vector<Complex> impedances; ///< into p
    std::vector<std::array<Complex, 2>> transformers; ///< into p1 and s1
    std::vector<std::array<Complex, 6>> motors;
};
/// Overwrites `into`, whose memory is used again.
void elementCurrents(
    const Network&, const Prepared&, const Solution&, std::span<const double> slips, ElementCurrents& into);

using MotorCurrents = std::vector<std::array<Complex, 6>>; ///< into each motor's terminals
MotorCurrents motorCurrents(const Network&, const Prepared&, const Solution&, std::span<const double> slips);

/// Current each node gives into the links of its super-node: minus the sum of the element currents at it.
void nodeInjections(const Network&, const ElementCurrents&, std::vector<Complex>& into);

/// Currents of a few links as sums over node injections (share per node), found once per topology:
/// current = sum of share * injection. Open links and such that bridge one node have no terms.
using LinkCurrentRow = std::vector<std::pair<int, double>>;

/// A current as a sum over what is known of a solved network: for the few currents that are asked again and again.
struct CurrentSum {
    struct OfMotor {
        int motor = 0, terminal = 0;
        double share = 0;
    };
    Complex constant{}; ///< A
    std::vector<std::pair<int, Complex>> voltages; ///< super-node, siemens
    std::vector<OfMotor> motors; ///< of the currents into their terminals
};
/// Of a link, by its row.
CurrentSum sumOf(const Network&, const Prepared&, const LinkCurrentRow&);
/// Into an impedance's p.
CurrentSum sumOf(const Impedance&, const Prepared&);
Complex valueOf(const CurrentSum&, const Solution&, const MotorCurrents&);

/// Rows found before, by the links inside the super-node: most topologies differ elsewhere. Changes speed only.
struct RowMemory {
    struct Hash {
        std::size_t operator()(const std::vector<int>& key) const;
    };
    using Rows = std::map<std::pair<int, int>, LinkCurrentRow>; ///< by the link's ends
    std::unordered_map<std::vector<int>, Rows, Hash> rows;
};
/// `superOf` says of each node in which super-node the closed links bring it, below the number of nodes. An asked link
/// of -1 has no terms.
std::vector<LinkCurrentRow> linkCurrentRows(
    std::span<const Link> links, std::span<const int> superOf, std::span<const int> asked, RowMemory& memory);

/// Currents from p to q of all closed links, recovered inside each super-node by Kirchhoff's law with equal
/// sharing among parallel links. Open links read 0.
std::vector<Complex> linkCurrents(const Network&, const Prepared&, const Solution&, const ElementCurrents&);

} // namespace ts::network
