#pragma once
// Where the work can hurt somebody: one table of cautions, each with where it stands and what it rests on. They are
// shown where the hand is, and no setting takes them away.

#include "core/analysis/analysis.h"
#include "core/measuring/test_plan.h"
#include "core/ways/function_path.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace ts::wording {

struct Caution {
    std::string_view id; ///< of its text
    std::string_view where; ///< object names of the labels that show it, parted by blanks
    std::string_view source; ///< standard and clause, or the practice it defers to
};
std::span<const Caution> allCautions();

/// Wherever a stop is shown: what stays live after it, by a run, and how long parts go on moving. `path`, `stops`: null
/// before they are known, and then that is said. What holds a charge or can fall stands in the circuit.
std::vector<std::string> stopCautions(const Dossier& dossier, const FunctionPath* path, const FunctionResult* stops);

/// At a step of a test plan: what somebody must know with the probes in hand.
std::vector<std::string> testCautions(const measuring::TestStep& step, const Circuit& circuit);

/// At what trips or melts: before it is closed again.
std::string tripCaution();

} // namespace ts::wording
