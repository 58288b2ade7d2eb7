#pragma once
// Voltages and currents of a plant in one state: alternating (supply frequency) and direct current are solved
// separately on the same graph. A topology is prepared once and remembered in the Workspace; remembering
// changes speed only, never a result.

#include "core/network/solver.h"
#include "core/simulation/memory.h"
#include "core/simulation/plant.h"
#include "core/simulation/state.h"

#include <atomic>
#include <memory>

namespace ts {

/// The drive on which a motor's leads hang, and the direction its outputs give.
struct DriveFeed {
    int drive = -1;
    int direction = 1;
};

/// One prepared topology with the sources and loads as they are. Independent of the motors' speeds.
struct Electrics {
    network::Network alternating, direct;
    network::Prepared alternatingPrepared, directPrepared;
    network::Solution directSolution;
    network::ElementCurrents directCurrents;
    std::vector<std::uint8_t> motorFed; ///< terminals of each motor with a path to a source

    /// Current through a protective pole as a sum over node injections.
    struct PoleRow {
        std::vector<std::pair<int, double>> terms; ///< node, share
    };
    std::vector<std::vector<PoleRow>> poleRows; ///< by protection, by pole
    std::vector<std::vector<double>> polesDirectA2; ///< square of the direct current in the same poles
    std::vector<std::vector<PoleRow>> logicRows; ///< by logic, by pole in line
    std::vector<DriveFeed> driveFeeds; ///< by motor
    std::size_t directFirst = 0; ///< where the plant's impedances begin in `direct`
};

/// Speeds of all motors after a step by RK4.
struct Integrated {
    std::vector<double> speed; ///< rad/s
    bool isAccurate = true;
};

/// What was worked out of one circuit, whatever its times, for several threads together.
struct CircuitMemory {
    SharedMap<std::shared_ptr<const Electrics>> topologies{4096};
    SharedMap<std::uint64_t> views{4096}; ///< numbers by MotorView::content
    SharedMap<Integrated> steps{262144}; ///< the runs of a sweep start the same motors again and again: almost nine steps in ten are there
    std::atomic<std::uint64_t> lastView = 0; ///< no number is given twice
};

/// One thread's memory. What it remembers is of one circuit.
class Workspace {
public:
    explicit Workspace(std::shared_ptr<CircuitMemory> shared = std::make_shared<CircuitMemory>())
        : m_shared(std::move(shared))
    {
    }
    const std::shared_ptr<CircuitMemory>& shared() const { return m_shared; }
    /// Never null. Our own mistake if the plant's elements cannot be solved: kinds refuse such values before.
    std::shared_ptr<const Electrics> electrics(const Plant& plant, const State& state, const Overlay& overlay);
    /// Equal for views that give equal voltages at equal slips, and for no others.
    std::uint64_t numberOf(const network::MotorView& view);
    /// Null if nobody remembers it. Good until the next step.
    const Integrated* step(const MemoryKey& key) { return m_steps.find(key, m_shared->steps); }
    void keepStep(const MemoryKey& key, const Integrated& result) { m_steps.keep(key, result, m_shared->steps); }

private:
    std::shared_ptr<CircuitMemory> m_shared;
    OwnMap<std::shared_ptr<const Electrics>> m_topologies;
    OwnMap<std::uint64_t> m_views;
    OwnMap<Integrated> m_steps;
    network::RowMemory m_rows;
};

/// Value of a flow at a time not before its `since`. Pure.
double flowValue(const Plant& plant, const State& state, int flow, TimeNs at);

/// Slip of each motor at its speed now.
std::vector<double> slipsAt(const Plant& plant, const State& state, TimeNs at);

/// Everything solved at one instant.
struct Instant {
    std::shared_ptr<const Electrics> electrics;
    network::Solution alternating;

    Complex alternatingV(int p, int q) const;
    double directV(int p, int q) const;
};
Instant solveInstant(const Plant& plant, const State& state, const Overlay& overlay, std::span<const double> slips, Workspace& workspace);

/// Written again and again: its memory is used again.
struct PoleCurrents {
    std::vector<std::vector<double>> protections; ///< RMS, alternating and direct part together, by pole or winding
    std::vector<std::vector<Complex>> logics; ///< alternating part, through the poles that a logic watches
    network::ElementCurrents elements; ///< alternating part
    std::vector<Complex> injections; ///< by node, alternating part
};
void fillPoleCurrents(const Plant& plant, const Instant& instant, std::span<const double> slips, PoleCurrents& result);

/// True if the contact or wire is closed in this state with its faults.
bool isClosed(const PlantLink& link, std::size_t index, const State& state, const Overlay& overlay);

} // namespace ts
