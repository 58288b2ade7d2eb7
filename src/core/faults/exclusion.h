#pragma once
// Which faults may be left out, under which table of ISO 13849-2, and which ones the dossier leaves out.

#include "core/faults/fault_list.h"

namespace ts::faults {

struct ExclusionRule {
    std::string table, condition; ///< both empty: never excluded
};

/// Row of failure_modes.csv for an element of a device kind. `isOpener`: the element is an opening contact.
ExclusionRule exclusionRule(std::string_view kind, std::string_view element, std::string_view mode, bool isOpener);

/// ISO 13849-2 table D.4: a short between conductors of this kind of route.
ExclusionRule shortRule(RouteKind kind);

/// "route/44:short" names a route of the circuit; null if it does not.
const Route* routeOfExclusion(const Circuit& circuit, std::string_view text);

/// Marks the fault as excluded if the dossier names it and a table allows it, and for a short says under which
/// condition it could be. A short is excluded only if it is on all its routes.
void applyExclusions(SweptFault& fault, const Dossier& dossier);

} // namespace ts::faults
