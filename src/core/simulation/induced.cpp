#include "core/simulation/induced.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/circuits.h"
#include "core/simulation/motion.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ts {
namespace {

/// Which drive feeds it decides what is at its leads; without one, its own iron.
double shareOf(const Plant& plant, const State& state, const Electrics& electrics, std::size_t motor)
{
    const int drive = electrics.alternating->driveFeeds[motor].drive;
    const bool isFed = drive >= 0 && state.levels[at(plant.drives[at(drive)].data.level)].isActive;
    return isFed ? 1.0 : plant.motors[motor].data.remanentShare;
}

} // namespace

std::optional<double> inducedV(
    const Plant& plant, const State& state, const Electrics& electrics, const Overlay& overlay, int p, int q)
{
    const network::Prepared& prepared = electrics.alternating->prepared;
    const auto super = [&prepared](int node) { return prepared.superNode(node); };
    network::DisjointSets sets(prepared.superNodeCount());
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire && overlay.impedance[z] >= 0)
            sets.join(super(plant.impedances[z].p), super(plant.impedances[z].q));
    if (sets.find(super(p)) == sets.find(super(q)))
        return 0.0;
    std::optional<double> largest;
    for (std::size_t k = 0; k < plant.motors.size(); ++k) {
        const PlantMotor& m = plant.motors[k];
        network::DisjointSets wound = sets;
        for (std::size_t lead = 0; lead < 3; ++lead)
            wound.join(super(m.nodes[lead]), super(m.nodes[m.data.sixTerminal ? lead + 3 : (lead + 1) % 3]));
        if (wound.find(super(p)) != wound.find(super(q)))
            continue;
        const double share = std::abs(flowValue(plant, state, m.flow, state.now)) / m.data.synchronousRadPerS;
        largest = std::max(largest.value_or(0.0), m.data.voltageV * shareOf(plant, state, electrics, k) * share);
    }
    return largest;
}

double residualV(const MotorElement& motor, double frequencyHz, double speedRadPerS, double afterS)
{
    const network::MotorCircuit& c = motor.circuit;
    const double openS = (c.xm + c.xa) / (2.0 * std::numbers::pi * frequencyHz * c.ra);
    const double share = std::abs(speedRadPerS) / motor.synchronousRadPerS;
    return motor.voltageV * share * std::max(std::exp(-afterS / openS), motor.remanentShare);
}

} // namespace ts
