#pragma once
// Equivalent circuit from a motor's plate. The reverse check (plate values from the circuit) is part of the result.
// Source: double-cage equivalent circuit (machine textbooks); per-unit starting values from two reference motors.

#include "core/base/expected.h"
#include "core/library/parameters.h"
#include "core/network/network.h"

namespace ts {

struct MotorPlate {
    double powerW = 0; ///< at the shaft
    double voltageV = 0; ///< line to line
    double currentA = 0;
    double cosPhi = 0;
    double speedPerMin = 0;
    double frequencyHz = 50;
    double lockedRotorRatio = 5.5; ///< starting current over rated current
    double frictionW = 0;
};

struct FittedMotor {
    network::MotorCircuit circuit;
    int polePairs = 0;
    double synchronousRadPerS = 0;
    double ratedSlip = 0;
    double currentDeviation = 0; ///< (circuit - plate) / plate
    double powerDeviation = 0;
    double cosPhiDeviation = 0;
    double lockedRotorDeviation = 0;
};

/// The plate written in a motor's parameters. They must be those of the kind "motor".
MotorPlate plateOf(const Parameters& parameters);
bool isMotor(const Device& device);

/// Least squares on current, power, power factor and locked-rotor ratio.
/// Fails with OutOfRange if the plate contradicts itself (efficiency above 100 % or below 20 %, speed not just
/// below a synchronous speed) or if no circuit comes within 10 % of it. Pure.
Expected<FittedMotor> fittedMotor(const MotorPlate& plate);

} // namespace ts
