#pragma once
// The sheet of one safety function in the report: what it does, why how much is needed, what each subsystem must show,
// what was answered and where it can be seen, how fast, and where it stands. The calculation itself follows in
// report.cpp.

#include "core/analysis/response.h"

namespace ts::report {

/// HTML, everything escaped. Pure.
/// `single`: its single faults, null if not tried.
std::string functionSheet(
    const Dossier& dossier, const SafetyFunction& function, const FunctionResult& result, const faults::Sweep* single);

} // namespace ts::report
