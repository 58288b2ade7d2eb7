#pragma once
// The towers of the skyline in words and numbers, from what is claimed and from what was found.

#include "core/figures/skyline.h"
#include "core/model/dossier.h"
#include "core/results/results.h"

namespace ts::wording {

/// By function in the dossier's order, with what is known of each; empty before levels are there.
std::vector<figures::Tower> towersOf(const Dossier& dossier, const Results& results);
figures::SkylineWords skylineWords();
/// Both together. Pure.
figures::Figure skylineFigure(const Dossier& dossier, const Results& results, double width, double height);

} // namespace ts::wording
