#pragma once
// Texts of the fault sweep: outcomes, losses, who noticed, structure, findings; and a swept fault in words.

#include "core/faults/sweep.h"
#include "wording/wording.h"

#include <span>

namespace ts::wording {

std::span<const Entry> faultEntries();

/// "Q1 main poles: welded", "wire 46 between K0:1.S11 and S0:11: open", "Q1:A1 touches Q9:A1".
QString sweptFaultText(const faults::SweptFault& fault, const Circuit& circuit);
/// The same without its group, as it stands under the group's heading.
QString sweptFaultLabel(const faults::SweptFault& fault, const Circuit& circuit);

/// One line on what a run came to: "lost: M1 runs on", "noticed at the reset by K0 (grade A)".
QString runText(const faults::RunResult& run, const Plant& plant);

} // namespace ts::wording
