#pragma once
// Which faults the dossier leaves out. Whether one may be: library/exclusion_rule.h.

#include "core/faults/fault_list.h"

namespace ts::faults {

/// "route/44:short" names a route of the circuit; null if it does not.
const Route* routeOfExclusion(const Circuit& circuit, std::string_view text);

/// Marks the fault as excluded if the dossier names it and a table allows it, and for a short says under which
/// condition it could be. A short is excluded only if it is on all its routes.
void applyExclusions(SweptFault& fault, const Dossier& dossier);

} // namespace ts::faults
