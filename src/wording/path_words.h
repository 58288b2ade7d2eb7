#pragma once
// A function's path in words and numbers: what each knot brings, what its faults do, what is missing and where.

#include "core/analysis/analysis.h"
#include "core/analysis/fault_analysis.h"
#include "core/figures/path_figure.h"
#include "core/ways/function_path.h"

namespace ts::wording {

/// `built`: null before faults were tried; `stops`: null before the stop was read from a run. Knots in the path's
/// order. Pure.
figures::PathContent pathContent(const Dossier& dossier, const SafetyFunction& function,
    const safety::FunctionLevel& level, const FunctionPath& path, const FaultAnalysis* built,
    const FunctionResult* stops);
figures::PathWords pathWords();

} // namespace ts::wording
