#pragma once
// Sequence impedances and torque of an induction motor, quasi-steady.
// Source: symmetrical components (Fortescue), double-cage equivalent circuit of machine textbooks. Pure functions.

#include "core/network/network.h"

#include <Eigen/Core>

namespace ts::network {

/// Rotor admittance seen from the air gap at the given slip: both cages in parallel, siemens.
Complex rotorAdmittance(const MotorCircuit& motor, double slip);

/// Impedance per phase at the given slip, ohm. Use 2 - slip for the negative sequence.
Complex sequenceImpedance(const MotorCircuit& motor, double slip);

/// Admittance matrix of the three terminals: A diag(0, 1/Z1, 1/Z2) A^-1. Circulant, not symmetric.
Eigen::Matrix3cd terminalAdmittance(const MotorCircuit& motor, double slip);

/// Positive and negative sequence components of three phase values (phase b lags a by 120 degrees).
struct Sequences {
    Complex positive, negative;
};
Sequences sequencesOf(Complex a, Complex b, Complex c);

/// Air-gap torque in N m from the terminal voltages; positive in the direction of the positive sequence.
/// synchronousRadPerS is the mechanical synchronous speed, above zero.
double airGapTorque(const MotorCircuit& motor, double slip, Sequences voltages, double synchronousRadPerS);

} // namespace ts::network
