#pragma once
// What was tried on the circuit, for the report: fault sweeps, orders of operation, stops in their worst case. Only
// what is handed in is reported; that nothing was tried is said, too.

#include "core/analysis/fault_analysis.h"
#include "core/analysis/stop_study.h"
#include "core/exploration/explore.h"
#include "core/results/results.h"

namespace ts::report {

/// A part of the report's body, every text escaped. Fails as compile() does.
Expected<std::string> triedHtml(const Dossier& dossier, const Results& results);

} // namespace ts::report
