#pragma once
// What of a circuit is for people only.

#include "core/model/circuit.h"

namespace ts {

/// Takes out of a circuit what no run of it reads: labels, ranks, colours, reliabilities, remarks. Returned is what was
/// taken, under the ids of those that had any: both together are the whole.
Circuit takeDecor(Circuit& circuit);

} // namespace ts
