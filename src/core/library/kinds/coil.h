#pragma once
// Coils: what contactors, relays, brakes and guard locks have in common.

#include "core/library/kinds/build.h"

namespace ts::kinds {

/// Apparent power and power factor at rated voltage with the armature out and in.
struct CoilPower {
    double openVa = 0, openCosine = 1;
    double sealedVa = 0, sealedCosine = 1;
};
/// Pull-in and drop-out at the nominal values of the coil rows.
CoilElement alternatingCoil(double ratedV, const CoilPower& power);
CoilElement directCoil(double ratedV, double powerW);
/// Coil that works on alternating current through its own rectifier: same impedance in both positions.
CoilElement rectifiedCoil(double ratedV, double powerW);

/// Adds the coil between two terminals, and for alternating current the winding that fails when the armature stays out.
void addCoil(Body& body, const std::string& role, const std::string& first, const std::string& second, CoilElement coil,
    int mover);

} // namespace ts::kinds
