#pragma once
// What a change of the circuit means, read from both wirings: what comes and goes, which contact now cuts which load
// and which no longer does, what loses its way to a supply, what could be shorted. What it does in time is
// analysis/scenario_outcomes.h.

#include "core/base/expected.h"
#include "core/model/circuit.h"

#include <vector>

namespace ts::offers {

struct Meaning {
    enum class Weight { Note, Change, Loss }; ///< a loss: something is cut no longer, not fed, or can be shorted
    Weight weight = Weight::Note;
    Message text;
    bool operator==(const Meaning&) const = default;
};

/// The gravest first. Empty if nothing differs. Fails with what the device kinds refuse. Pure.
Expected<std::vector<Meaning>> meaningOf(const Circuit& before, const Circuit& after);

} // namespace ts::offers
