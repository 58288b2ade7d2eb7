#pragma once
// Voltages and currents of a Network. Closed links merge nodes into super-nodes; what is left falls apart
// into islands, each solved on its own by general LU (a motor's matrix is not symmetric), large ones torn at their
// hubs. Motors stay outside the factored part: a new speed needs only small systems (their terminals). Islands without
// a path to the reference get a leak of 1e-9 S a super-node and are marked floating: only differences inside such an
// island mean anything.

#include "core/base/expected.h"
#include "core/network/island.h"

#include <map>
#include <span>
#include <unordered_map>
#include <utility>
#include <vector>

namespace ts::network {

/// What moving motors see of a network: a small system of their own terminals, for the many steps of a change of speed.
/// The voltages are those of Prepared::solve (tested to 1e-9). Good for one network and one set of held slips,
/// for one thread at a time.
class MotorView {
public:
    bool isOf(std::span<const double> slips, const std::vector<bool>& moves) const;
    /// Writes the super-nodes of the moving motors' terminals only, enough for their torques.
    void solve(std::span<const double> slips, Solution& solution) const;
    /// All numbers that decide about those voltages besides the slips: views of equal content solve alike.
    std::vector<std::uint64_t> content() const;

private:
    friend class Prepared;
    std::vector<PortSystem> m_parts;
    mutable std::vector<PortMemory> m_memories; ///< by part
    std::vector<bool> m_moves;
    std::vector<std::pair<std::size_t, double>> m_held; ///< slips on which the parts rest
    Solution m_fixed; ///< of motors that nothing feeds
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
    bool isDriven(std::size_t motor) const { return m_isDriven[motor]; }
    /// All super-node voltages for the given slips (one per motor, 1 at standstill). The reference reads 0.
    /// Every value is finite; cost of a few small products if the topology has motors, else a copy.
    void solve(std::span<const double> slips, Solution& solution) const;
    /// The network as seen from the terminals of the motors that move, the other ones' slips held. `moves` has an entry
    /// a motor.
    MotorView seenFrom(std::span<const double> slips, const std::vector<bool>& moves) const;

private:
    static Expected<void> checkElements(const Network& network);
    void merge(const Network& network);
    void findGalvanic(const Network& network);
    Expected<void> factor(const Network& network);

    int m_superCount = 0;
    std::vector<int> m_superOf;
    std::vector<bool> m_floating;
    std::vector<int> m_galvanic;
    std::vector<bool> m_isDriven; ///< by motor
    std::vector<Island> m_islands; ///< those with motors
    Solution m_fixed; ///< voltages of all islands without motors
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
/// Makes the sums of links from their rows; each looks only at the elements that its row touches. Both the network and
/// what is prepared must outlive it.
class CurrentSums {
public:
    CurrentSums(const Network& network, const Prepared& prepared);
    CurrentSum of(const LinkCurrentRow& row);

private:
    struct Element {
        enum Kind { Source, CurrentSource, Impedance, Transformer, Motor } kind = Source;
        int index = 0;
        auto operator<=>(const Element&) const = default;
    };
    void take(double share, Complex y, int plus, int minus);
    void add(const Element& element, CurrentSum& sum);

    const Network& m_network;
    const Prepared& m_prepared;
    std::vector<double> m_shares; ///< by node; zero between two calls, as are those that follow
    std::vector<Complex> m_siemens; ///< by super-node
    std::vector<bool> m_isTouched; ///< by super-node
    std::vector<int> m_touched;
    std::vector<int> m_first; ///< by node: where its elements begin in m_elements
    std::vector<Element> m_elements;
};
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
