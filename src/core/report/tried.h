#pragma once
// What was tried on the circuit, for the report: fault sweeps, orders of operation, stops in their worst case. Only what is handed in
// is reported; that nothing was tried is said, too.

#include "core/analysis/fault_analysis.h"
#include "core/analysis/stop_study.h"
#include "core/exploration/explore.h"
#include "core/report/speech.h"

namespace ts::report {

/// Of the dossier as it is: the caller leaves out what is older. Nothing is owned.
struct Tried {
    std::vector<const FaultAnalysis*> sweeps;
    std::vector<const exploration::Explored*> explored;
    std::vector<const StopStudy*> stops;
};

/// A part of the report's body, every text escaped. Fails as compile() does.
Expected<std::string> triedHtml(const Dossier& dossier, const Tried& tried, const Speech& say);

} // namespace ts::report
