#pragma once
// What can be seen and measured at one instant: the only view of the simulation that window, meter and report get.

#include "core/simulation/electrics.h"
#include "core/simulation/plant.h"
#include "core/simulation/state.h"

namespace ts {

enum class NetLook : std::uint8_t { Dead, Live, Floating };

struct NodeReading {
    Complex alternatingV; ///< against protective earth
    double directV = 0;
    bool floating = false; ///< hangs on leaks only, or on nothing
    int alternatingIsland = -1, directIsland = -1; ///< component for each kind of current, -1: earth
    /// Readings between floating points that nothing joins mean nothing.
    bool isJoinedWith(const NodeReading& other) const
    {
        return (alternatingIsland >= 0 && alternatingIsland == other.alternatingIsland)
            || (directIsland >= 0 && directIsland == other.directIsland);
    }
};

struct LinkReading {
    bool closed = false;
    Complex alternatingA;
    double directA = 0;
    double rmsA() const { return std::sqrt(std::norm(alternatingA) + directA * directA); }
};

struct MotorReading {
    double speedRadPerS = 0;
    std::array<double, 3> currentA{};
    bool isFedByDrive = false; ///< at the drive's own frequency: its current is not computed
    std::uint8_t fedTerminals = 0;
    MotorMode mode = MotorMode::AtRest;
};

struct Frame {
    TimeNs now = 0;
    std::vector<NodeReading> nodes;
    std::vector<NetLook> nets;
    std::vector<double> netsA; ///< largest current that a contact, wire or load brings into each net
    std::vector<LinkReading> links;
    std::vector<double> impedancesA; ///< RMS current through each plant impedance
    std::vector<std::uint8_t> travel;
    std::vector<std::uint8_t> lampLit;
    std::vector<double> lampShare; ///< of rated current
    std::vector<double> coilShare; ///< voltage over rated voltage
    std::vector<MotorReading> motors;
    std::vector<MotorMode> actuators; ///< how each actuator does, motors first
    std::vector<RelayWord> relays;
    std::vector<LogicWord> logics;
    std::vector<ConverterOutput> levels;
    std::vector<ConverterMode> converters;
    std::vector<double> heat; ///< by protection, share of the tripping value
    std::vector<Fault> faults;
};

/// Pure. The state must have been advanced at least once, so that devices have reacted.
Frame observe(const Plant& plant, const State& state);

/// A conductor counts as live from this share of its island's nominal voltage.
constexpr double kLiveShare = 0.05;

} // namespace ts
