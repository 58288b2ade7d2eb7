#pragma once
// A motor that some case brings to rest later than the function allows, though it is a stop: each a finding with its
// case. Cases that are no stop are found with the single faults. Source: EN 60204-1 clause 9.2.2.

#include "core/analysis/stop_study.h"
#include "core/model/finding.h"

namespace ts::checks {

/// Pure.
std::vector<Finding> stopFindings(const SafetyFunction& function, const StopStudy& study);

} // namespace ts::checks
