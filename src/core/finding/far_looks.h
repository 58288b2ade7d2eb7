#pragma once
// Looks from one far end to the other of what is joined in a state: one reading goes through many wires and contacts
// at once; and between the larger of what should be apart. Internal to finding/.

#include "core/measuring/dead_looks.h"

namespace ts::finding {

/// Adds them to `looks`, for each of its states.
void addFarLooks(const Plant& plant, measuring::DeadLooks& looks);

/// Not so of earth, which is one node of several devices: no eye counts its wires at one place.
bool isOneTerminal(const Plant& plant, int node);
/// The wires on each device's terminals, counted with the eye.
void addEyeLooks(const Plant& plant, measuring::DeadLooks& looks);

} // namespace ts::finding
