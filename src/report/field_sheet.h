#pragma once
// The plan of tests as one file for a phone: a step at a time, its reading judged at once, results out as text or file.
// It runs on its own (content policy: nothing is fetched), and what it gives back is not trusted (readings.h).

#include "core/base/expected.h"
#include "core/measuring/readings.h"
#include "core/model/dossier.h"

namespace ts::report {

/// HTML of at most kLargestSheetBytes. Steps that are proved by the record are left out, those of proving it dead are
/// not. Fails with OutOfRange.
Expected<std::string> fieldSheet(const DossierFile& file, const measuring::TestPlan& plan);
inline constexpr std::size_t kLargestSheetBytes = 1024u * 1024u;

/// Its script and its style, for the policy that names them by their hashes.
std::string_view fieldSheetScript();
std::string_view fieldSheetStyle();

} // namespace ts::report
