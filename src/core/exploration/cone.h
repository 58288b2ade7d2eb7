#pragma once
// What decides whether a motor is fed: the contacts on the paths to it, what moves those contacts, what feeds and
// switches that, back to the hands that operate it. Found from the wiring alone. Orders of operation are explored
// within this cone.

#include "core/simulation/plant.h"

namespace ts::exploration {

/// Slots of the plant, each list sorted. Paths lead through contacts, wires, plain loads, lamps and soft starters; not
/// through other coils, motors and inputs of electronics.
struct Cone {
    std::vector<int> links; ///< contacts, poles and wires
    std::vector<int> movers; ///< what moves them
    std::vector<int> contactors; ///< movers of coils whose main poles are on the motor's own paths
    std::vector<int> knobs; ///< of the supplies it hangs on
    bool has(int mover) const;
};

/// Of everything that must be fed for this motor to turn.
Cone coneOfMotor(const Plant& plant, int motor); ///< or of another actuator, by its slot

/// Contacts and wires on some path from one of the nodes to a source, and between the nodes themselves.
std::vector<int> linksOnPaths(const Plant& plant, const std::vector<int>& nodes);

} // namespace ts::exploration
