#pragma once
// Voltages and currents of a plant in one state: alternating (supply frequency) and direct current are solved
// separately on the same graph. A topology is prepared once and remembered in the Workspace; remembering
// changes speed only, never a result.

#include "core/network/network.h"
#include "core/simulation/memory.h"
#include "core/simulation/reach.h"
#include "core/simulation/state.h"

#include <atomic>
#include <map>
#include <memory>

namespace ts::network {
class MotorView;
struct RowMemory;
} // namespace ts::network

namespace ts {

// In circuits.h: who only runs a plant needs none of their matrices.
struct AlternatingCircuit;
struct AlternatingState;
struct DirectCircuit;
struct JoinedTerminals;

/// A topology with the sources and loads as they are.
struct Electrics {
    std::shared_ptr<const AlternatingCircuit> alternating;
    std::shared_ptr<const DirectCircuit> direct;
};

/// Speeds of all motors after a step.
struct Integrated {
    std::vector<double> speed; ///< rad/s
    bool isAccurate = true;
};
/// As long a step as is accurate.
struct SpeedStep {
    TimeNs length = 0;
    std::vector<double> speed; ///< rad/s
    std::shared_ptr<const AlternatingState> after; ///< null: not known, or it depends on more than the step
};

/// What the closed links come to, for each kind of current.
struct BothJoined {
    std::shared_ptr<const JoinedTerminals> alternating, direct;
};

/// Circuits of one kind of current: who has the same number can be told from the other by nobody.
template <class Circuit> struct CircuitsOf {
    SharedMap<std::uint64_t> numbers{16384}; ///< by joints and elements
    SharedMap<std::shared_ptr<const Circuit>> made{4096}; ///< by number
};
/// One thread's way to them.
template <class Circuit> struct OwnCircuits {
    explicit OwnCircuits(const CircuitsOf<Circuit>& shared)
        : numbers(shared.numbers)
        , made(shared.made)
    {
    }
    void limitAs(const CircuitsOf<Circuit>& shared)
    {
        numbers.limitAs(shared.numbers);
        made.limitAs(shared.made);
    }
    OwnMap<std::uint64_t> numbers;
    OwnMap<std::shared_ptr<const Circuit>> made;
};

/// What was worked out of one circuit, whatever its times, for several threads together.
struct CircuitMemory {
    /// What is as long as the circuit is kept for fewer positions the larger it is: within some hundred megabytes
    /// together.
    void fit(const Plant& plant);

    SharedMap<BothJoined> positions{8192}; ///< by the position of every contact, and what faults do to links
    SharedMap<std::shared_ptr<const JoinedTerminals>> joints{8192}; ///< of either kind of current, by links
    CircuitsOf<AlternatingCircuit> alternating;
    CircuitsOf<DirectCircuit> direct;
    SharedMap<std::shared_ptr<const AlternatingState>> solved{8192}; ///< by circuit and slips
    SharedMap<std::uint64_t> numbers{16384}; ///< of what is equal by content
    SharedMap<SpeedStep> steps{16384}; ///< by circuit, and by what the moving motors see of it: a sweep starts the same
                                       ///< motors again and again
    std::atomic<std::uint64_t> lastNumber = 0; ///< none is given twice
    std::atomic<std::uint64_t> circuit = 0; ///< whose it is (Plant::circuitNumber); 0: nobody's yet
};

/// One thread's memory. What it remembers is of one circuit.
class Workspace {
public:
    explicit Workspace(std::shared_ptr<CircuitMemory> shared = std::make_shared<CircuitMemory>());
    ~Workspace();
    Workspace(Workspace&&) noexcept;
    Workspace& operator=(Workspace&&) noexcept;
    const std::shared_ptr<CircuitMemory>& shared() const { return m_shared; }
    /// Never null; only voltages of elements' terminals may be read. Our own mistake if the plant's elements cannot be
    /// solved: kinds refuse such values before.
    Electrics electrics(const Plant& plant, const State& state, const Overlay& overlay);
    /// Never null.
    std::shared_ptr<const AlternatingState> solved(
        const std::shared_ptr<const AlternatingCircuit>& circuit, std::span<const double> slips);
    /// Equal for views that give equal voltages at equal slips, and for no others.
    std::uint64_t numberOf(const network::MotorView& view);
    /// Null if nobody remembers it. Good until the next step.
    const SpeedStep* step(const MemoryKey& key) { return m_steps.find(key, m_shared->steps); }
    void keepStep(const MemoryKey& key, const SpeedStep& result) { m_steps.keep(key, result, m_shared->steps); }

private:
    /// Where each kind of current comes, and the links there whose currents are asked for.
    struct Reached {
        Reaches reaches;
        std::vector<int> alternatingPoles, directPoles;
    };
    /// From now on it is of this plant's circuit. Our own mistake if it was another's.
    void claim(const Plant& plant);
    const Reached& reached(const Plant& plant, const std::vector<std::pair<int, int>>& shorts);
    /// The same number for overlays that do the same to links.
    std::uint64_t numberOf(const Overlay& overlay);
    const BothJoined& joints(const Plant& plant, const State& state, const Overlay& overlay);
    std::shared_ptr<const JoinedTerminals> joints(const Plant& plant, const State& state, const Overlay& overlay,
        const Reach& reach, const std::vector<int>& poles);
    /// By what decides about it (m_key), or by its content, or made.
    template <class Circuit, class ContentOf, class Make>
    std::shared_ptr<const Circuit> found(
        OwnCircuits<Circuit>& mine, CircuitsOf<Circuit>& all, ContentOf contentOf, Make make);
    /// Of content that ends with what it is of.
    std::uint64_t numberOf(MemoryKey content);

    std::shared_ptr<CircuitMemory> m_shared;
    std::uint64_t m_circuit = 0; ///< whose circuits are remembered; 0: none yet
    std::map<std::vector<std::pair<int, int>>, Reached> m_reached; ///< by shorts
    OwnMap<BothJoined> m_positions;
    OwnMap<std::shared_ptr<const JoinedTerminals>> m_joints;
    OwnCircuits<AlternatingCircuit> m_alternating;
    OwnCircuits<DirectCircuit> m_direct;
    OwnMap<std::shared_ptr<const AlternatingState>> m_solved;
    OwnMap<std::uint64_t> m_numbers;
    OwnMap<SpeedStep> m_steps;
    std::unique_ptr<network::RowMemory> m_rows;
    MemoryKey m_key; ///< its memory is used again
    MemoryKey m_positionKey, m_alternatingKey, m_directKey;
    Overlay m_overlay; ///< of m_overlayNumber
    std::uint64_t m_overlayNumber = 0;
    BothJoined m_lastJoints; ///< of these keys
    Electrics m_last;
};

/// The circuits with all their nodes, for who reads every voltage and link: those of a Workspace know the terminals of
/// elements only. Nothing of it is remembered, and its poles' currents are not worked out.
Electrics wholeElectrics(const Plant& plant, const State& state, const Overlay& overlay);

/// Value of a flow at a time not before its `since`. Pure.
double flowValue(const Plant& plant, const State& state, int flow, TimeNs at);

/// Slip of each motor at its speed now.
std::vector<double> slipsAt(const Plant& plant, const State& state, TimeNs at);

/// The drive on which a motor's leads hang, -1 if on none.
int driveOf(const Electrics& electrics, int motor);

/// Everything solved at one instant.
struct Instant {
    Electrics electrics;
    std::shared_ptr<const AlternatingState> alternating;

    Complex alternatingV(int p, int q) const;
    double directV(int p, int q) const;
};
Instant solveInstant(const Plant& plant, const State& state, const Overlay& overlay, std::span<const double> slips,
    Workspace& workspace);

/// True if the contact or wire is closed in this state with its faults.
bool isClosed(const PlantLink& link, std::size_t index, const State& state, const Overlay& overlay);

} // namespace ts
