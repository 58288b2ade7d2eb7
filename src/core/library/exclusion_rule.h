#pragma once
// Which faults may be left out at all, and on which condition. Source: failure_modes.csv, by ISO 13849-2 tables D.4,
// D.8 and D.9.

#include "core/model/circuit.h"

#include <string>
#include <string_view>

namespace ts {

struct ExclusionRule {
    std::string table, condition; ///< both empty: never excluded
    std::string needs; ///< parameter that the device must say yes to, where its kind has it; empty: none
};

/// Row of failure_modes.csv for an element of a device kind. `isOpener`: the element is an opening contact.
ExclusionRule exclusionRule(std::string_view kind, std::string_view element, std::string_view mode, bool isOpener);

/// The same for a device: no rule where the device lacks what the rule needs ("direct_opening").
ExclusionRule exclusionRule(
    const Circuit& circuit, const Device& device, std::string_view element, std::string_view mode, bool isOpener);

/// ISO 13849-2 table D.4: a short between conductors of this kind of route; to earth only inside an enclosure.
ExclusionRule shortRule(RouteKind kind, bool toEarth);

/// Whether the device's kind has this yes-or-no parameter, and it says no.
bool saysNo(const Circuit& circuit, const Device& device, std::string_view parameter);

} // namespace ts
