#pragma once
// What the exploration of all orders of operation showed wrong without any fault, as findings.

#include "core/exploration/explore.h"
#include "core/model/finding.h"

namespace ts::checks {

/// Source: EN 60204-1 clauses 7.5 (return of the supply), 9.2.3 (start, stop), 9.3.3 (interlocks of opposed motions).
/// That only a lever keeps a finger from joining lines is told, not found fault with. Pure.
std::vector<Finding> exploredFindings(const Dossier& dossier, const exploration::Explored& explored);

} // namespace ts::checks
