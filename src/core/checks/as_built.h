#pragma once
// Declared against built: what the fault sweep found, held against the function's claim, each difference a finding with
// its fault. Not in the registry: a sweep takes its time, and its findings come with it (analysis/fault_analysis.h).

#include "core/faults/structure.h"
#include "core/model/finding.h"
#include "core/safety/category.h"

namespace ts::checks {

/// Source: ISO 13849-1 clause 6.2 (what each category demands), ISO 13849-2 clause 9 (fault analysis). Pure.
std::vector<Finding> asBuiltFindings(
    const Circuit& circuit, const SafetyFunction& function, const faults::Sweep& sweep, const faults::AsBuilt& built);

/// The claimed category is not what the wiring has: which conditions are not met, and what it would be good for.
Finding categoryFinding(const SafetyFunction& function, const ClaimedSubsystem& claim,
    const std::vector<safety::Condition>& conditions, std::optional<safety::Category> best,
    std::optional<safety::Level> level);

/// Whether a structure is what the category demands: 3 a single fault tolerated, 4 an accumulation too. Categories B, 1
/// and 2 ask for no more than one channel.
bool isEnoughFor(faults::Structure structure, std::string_view category);

} // namespace ts::checks
