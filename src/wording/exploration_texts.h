#pragma once
// Texts of the exploration: what is claimed, how it was answered, what was done in which order.

#include "core/exploration/explore.h"
#include "wording/wording.h"

#include <span>

namespace ts::wording {

std::span<const Entry> explorationEntries();

/// "S1 pressed", "S1 pressed and S2 pressed at once", "supply lost", "L2 lost", "wait".
std::string operationText(const Plant& plant, const exploration::Operation& operation);

/// What was to be shown, as a statement: "M1 stays stopped while S0 is operated (Emergency stop)".
std::string claimText(const exploration::Proof& proof, DeviceId motor, const Dossier& dossier);

/// "proved", "shown wrong by 3 operations", "nothing found, but the search ended at its bound".
std::string answerText(const exploration::Proof& proof);

} // namespace ts::wording
