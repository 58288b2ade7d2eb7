#pragma once
// A function's path in words and numbers: what each knot brings, what its faults do, what is missing and where.

#include "core/analysis/analysis.h"
#include "core/analysis/fault_analysis.h"
#include "core/figures/means_figure.h"
#include "core/figures/path_figure.h"
#include "core/ways/function_path.h"

namespace ts::wording {

/// `built`: null before faults were tried; `stops`: null before the stop was read from a run. Knots in the path's
/// order. Pure.
figures::PathContent pathContent(const Dossier& dossier, const SafetyFunction& function,
    const safety::FunctionLevel& level, const FunctionPath& path, const FaultAnalysis* built,
    const FunctionResult* stops);
figures::PathWords pathWords();
/// Both together, for paper. Pure.
figures::Figure pathFigure(const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result,
    const FunctionPath& path, const FaultAnalysis* built);

/// The part of the path that one subsystem is: its knots, those they hang on and act on, and who looks at them.
struct Strand {
    figures::PathContent content;
    std::vector<int> knots; ///< of each its place in the path
};
Strand strandOf(const figures::PathContent& content, const FunctionPath& path, std::size_t subsystem);

/// What looks at a contact of the device, in the wiring; empty without a path.
std::string watchWords(const Dossier& dossier, const FunctionPath* path, DeviceId device);

/// What the two channels of a subsystem share, as a picture; without rows where there are not two.
std::vector<figures::MeansRow> meansRows(const Circuit& circuit, const ClaimedSubsystem& subsystem);
figures::MeansWords meansWords();

} // namespace ts::wording
