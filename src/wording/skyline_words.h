#pragma once
// The towers of the skyline in words and numbers, from what is claimed and from what was found.

#include "core/analysis/analysis.h"
#include "core/analysis/fault_analysis.h"
#include "core/figures/skyline.h"

namespace ts::wording {

/// By function in the dossier's order. `swept`: null for what was not tried with faults (or not for this circuit).
std::vector<figures::Tower> towersOf(
    const Dossier& dossier, const Analysis& analysis, const std::vector<const FaultAnalysis*>& swept);
figures::SkylineWords skylineWords();

} // namespace ts::wording
