#pragma once
// The words of verdicts, studies and checks. Entries of the catalogue (wording.h).

#include "core/analysis/function_verdict.h"
#include "core/results/subject.h"
#include "wording/wording.h"

namespace ts::wording {

std::span<const Entry> verdictEntries();

/// "At most PL b: second faults were not tried; claimed PL d; needed PL d: not reached".
std::string verdictText(const FunctionVerdict& verdict);
/// What is not known of it, as one sentence; empty if nothing is missing.
std::string notKnownText(const FunctionVerdict& verdict);
/// "Second faults: Emergency stop": a study with what it is about.
std::string studyText(std::string_view study, const Subject& subject, const Dossier& dossier);

} // namespace ts::wording
