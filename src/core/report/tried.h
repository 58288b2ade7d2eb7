#pragma once
// What was tried on the circuit, for the report: fault sweeps, orders of operation, stops in their worst case. Only
// what is handed in is reported; that nothing was tried is said, too.

#include "core/analysis/fault_analysis.h"
#include "core/analysis/stop_study.h"
#include "core/exploration/explore.h"
#include "core/report/speech.h"

#include <memory>

namespace ts::report {

/// Of the dossier as it is: the caller leaves out what is older.
struct Tried {
    std::vector<std::shared_ptr<const FaultAnalysis>> sweeps;
    std::vector<std::shared_ptr<const exploration::Explored>> explored;
    std::vector<std::shared_ptr<const StopStudy>> stops;
};

/// The sweep of each function in the dossier's order; null where none was tried. Not owned.
std::vector<const FaultAnalysis*> sweepsOf(const Dossier& dossier, const Tried& tried);

/// A part of the report's body, every text escaped. Fails as compile() does.
Expected<std::string> triedHtml(const Dossier& dossier, const Tried& tried, const Speech& say);

} // namespace ts::report
