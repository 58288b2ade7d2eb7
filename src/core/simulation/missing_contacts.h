#pragma once
// What stands between a point and the voltage it waits for: the fewest open contacts on any way to a live conductor.

#include "core/simulation/frame.h"

namespace ts {

/// Links (plant slots) that would all have to close, in order from the point towards the supply. Empty if the point
/// is live already, or if no way leads to anything live. `reference` is the node against which live is measured,
/// `volts` the voltage wanted there. Pure.
std::vector<int> missingContacts(const Plant& plant, const Frame& frame, int node, int reference, double volts);

/// The same for a relay's reset input while it waits; empty otherwise.
std::vector<int> missingForReset(const Plant& plant, const Frame& frame, int relay);

} // namespace ts
