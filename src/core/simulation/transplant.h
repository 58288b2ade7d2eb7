#pragma once
// A running state carried over to a changed circuit: what is in stays in, what turns goes on turning.

#include "core/simulation/plant.h"
#include "core/simulation/state.h"

namespace ts {

/// The state of `from` as a state of `to`, at the same moment: movers, memories, speeds, heat, knobs and faults by
/// device id and by what they are called in it. What is new starts at rest; a fault on something that is gone is gone.
/// Not settled yet: the next advance() lets every device look at its new voltages. Events of the old trace are no
/// causes any more. Pure.
State transplant(const Plant& from, const State& state, const Plant& to);

} // namespace ts
