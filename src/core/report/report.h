#pragma once
// The report of a dossier: machine, functions, circuit, level calculation, stop trace, findings, assumptions, caution.
// One self-contained HTML text: no script, nothing to load, fonts and drawings inside, everything escaped.

#include "core/analysis/analysis.h"
#include "core/report/tried.h"

namespace ts::report {

/// Fails with what the drawing refuses (the same as compile()). Pure; same input, same bytes.
Expected<std::string> reportHtml(
    const Dossier& dossier, const Analysis& analysis, const Speech& say, const Tried& tried = {});

} // namespace ts::report
