#pragma once
// What is not as it should be while a machine is used: the supply gone, a stop pressed, a guard open, a trip.

#include "core/exploration/operation.h"
#include "core/library/kind.h"

namespace ts::exploration {

/// What happened and was taken back before a motor started. Source: EN 60204-1 clauses 7.3, 7.5, 9.2.3; ISO 13850.
enum class Departure : std::uint8_t {
    None, ///< nothing: a reset, a letting go or time alone
    SupplyLost,
    PhaseLost,
    SwitchOpened, ///< a switch or breaker in the power circuit
    Overload, ///< a protective device tripped
    EmergencyStop,
    Guard,
    Other ///< anything else that is operated and goes back
};
std::string_view nameOf(Departure); ///< "none", "supply_lost" ...

/// The device whose mover is driven.
const PlantDevice& deviceOf(const Plant& plant, const Stimulus& s);
/// What a person relies on when this is operated.
KindTraits::Protects protects(const Plant& plant, const Stimulus& s);
/// What this operation takes out of order; of a hand, a loss or a trip.
Departure departureOf(const Plant& plant, const Operation& o);

} // namespace ts::exploration
