#pragma once
// Faults left out with a reason. Whether a table of ISO 13849-2 allows it is decided where faults are listed (faults/).

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// The dossier with a fault excluded; a second reason for the same fault replaces the first. Refused without a reason.
Expected<Dossier> withExclusion(const Dossier& dossier, FaultExclusion exclusion);

/// NotFound if it is not excluded.
Expected<Dossier> withoutExclusion(const Dossier& dossier, std::string_view fault);

} // namespace ts::edit
