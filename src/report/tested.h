#pragma once
// What was proved on the built panel, for the report: each step of the plan with its readings, what is open, and what
// no step shows. That nothing was planned is said, too.

#include "core/model/dossier.h"
#include "core/record/record.h"
#include "core/results/results.h"

namespace ts::report {

/// A part of the report's body, every text escaped.
std::string testedHtml(const Dossier& dossier, const Results& results, record::Entries entries);

} // namespace ts::report
