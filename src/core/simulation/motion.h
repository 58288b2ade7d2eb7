#pragma once
// What changes by itself between events: motor speed, heat in protective poles, damage to a fuse.
// Closed forms where they exist; a driven motor is integrated in advance.cpp with the torque from here.

#include "core/simulation/electrics.h"

#include <optional>

namespace ts {

/// What acts on a shaft besides the motor: constant friction with the brakes that are on, and a hanging weight.
struct ShaftTorque {
    double frictionNm = 0; ///< opposes motion, holds at rest
    double fanNms2 = 0; ///< opposes motion with the square of speed
    double hangingNm = 0; ///< pulls backwards always
};
ShaftTorque shaftTorque(const Plant& plant, const PlantMotor& motor, const State& state, const Overlay& overlay);

/// Angular acceleration at a speed under the air-gap torque, rad/s^2. A motor at rest moves only if what drives it
/// exceeds what holds it.
double accelerationRadPerS2(double inertiaKgm2, const ShaftTorque& shaft, double speedRadPerS, double airGapNm);

/// Speed after coasting for a time: constant friction and fan torque, J dw/dt = -(a + c w^2). Closed form; a hanging
/// weight has none and is integrated.
double coastingSpeed(const MotorElement& motor, double frictionNm, double fromRadPerS, double afterS);
/// Time to coast from one speed down to a lower one of the same sign (or zero).
double coastingTimeS(const MotorElement& motor, double frictionNm, double fromRadPerS, double toRadPerS);

/// The speed at which what a motor induces by its own magnetism comes to these volts.
double stillBelowRadPerS(const MotorElement& motor, double volts);

/// The (I/rated)^2 that heats the device: that of the hottest pole, and its weight of the difference to the coolest.
double heatingDrive(const Protection& protection, std::span<const double> polesA);

/// When the flow, left to itself, reaches its limit (trip, melt, standstill, zero); nothing if never.
/// Rounded up to the time grid, later than now.
std::optional<TimeNs> nextCrossing(const Plant& plant, const State& state);

} // namespace ts
