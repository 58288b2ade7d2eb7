#pragma once
// Declared against built: what the fault sweep found, held against the function's claim, each difference a finding with
// its fault.

#include "core/analysis/fault_analysis.h"
#include "core/model/finding.h"

namespace ts::checks {

/// Each with the id of its check: "single_faults", "second_faults" or "limits". Source: ISO 13849-1 clause 6.2 (what
/// each category demands), ISO 13849-2 clause 9 (fault analysis). Pure.
std::vector<Finding> asBuiltFindings(
    const Circuit& circuit, const SafetyFunction& function, const FaultAnalysis& analysis);

/// Whether a structure is what the category demands: 3 a single fault tolerated, 4 an accumulation too. Categories B, 1
/// and 2 ask for no more than one channel.
bool isEnoughFor(faults::Structure structure, std::optional<safety::Category> category);

} // namespace ts::checks
