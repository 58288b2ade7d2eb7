#pragma once
// What a motor that is off still induces in its leads: its iron keeps a little magnetism, and what that induces grows
// with the speed (textbook; how much is assumed, device_defaults.csv). What is left of the field right after it was
// switched off comes on top and decays: it is not added here, without it a monitor calls a motor still the sooner.

#include "core/simulation/electrics.h"
#include "core/simulation/fault.h"

#include <optional>

namespace ts {

/// Volts between two nodes. None: no winding joins them, over wires and closed contacts.
std::optional<double> inducedV(
    const Plant& plant, const State& state, const Electrics& electrics, const Overlay& overlay, int p, int q);

/// What is left between two leads of a motor some seconds after it was switched off, the decaying field included: its
/// rated voltage, by speed, falling with the rotor's open-circuit time constant (Xm + Xr) / (w Rr).
/// Source: textbook (induction machine, open stator); IEC 60204-1 clause 6.2.4 asks for it.
double residualV(const MotorElement& motor, double frequencyHz, double speedRadPerS, double afterS);

} // namespace ts
