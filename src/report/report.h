#pragma once
// The report of a dossier: machine, functions, circuit, level calculation, stop trace, findings, assumptions, caution.
// One self-contained HTML text: no script, nothing to load, fonts and drawings inside, everything escaped.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/record/record.h"
#include "core/results/results.h"

namespace ts::report {

/// Of what has been worked out; what has not is said. Fails with what the drawing refuses (the same as compile()), and
/// as the study of levels did. Pure; same input, same bytes.
Expected<std::string> reportHtml(const Dossier& dossier, const Results& results, record::Entries record = {});

} // namespace ts::report
