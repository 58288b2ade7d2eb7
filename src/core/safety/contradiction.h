#pragma once
// A claim held against the file's own data: what it says of a part that the part's own entries deny, what it leaves
// out, what it adds up twice. Nothing is run here. What ends a level stands in `unmet` of the subsystem as well; all of
// them become findings (checks/claim_data.cpp). Where an entry can be read two ways, the worse one is taken.

#include "core/base/message.h"
#include "core/model/dossier.h"

#include <optional>
#include <string>
#include <vector>

namespace ts::safety {

struct Contradiction {
    enum class Weight : std::uint8_t {
        EndsLevel, ///< no level for the subsystem: forbids operation
        Correct, ///< to be corrected; where a level is limited by it, the level already is
        Remark ///< to be known
    };
    Weight weight = Weight::EndsLevel;
    Message what, mend;
    std::string clause;
    std::optional<std::size_t> subsystem; ///< place in the claim; none: of the function
    DeviceId device{};
    bool operator==(const Contradiction&) const = default;
};

/// In the order of the claim; what concerns the function as a whole first. Pure.
std::vector<Contradiction> contradictionsOf(const Dossier& dossier, const SafetyFunction& function);

/// Whether the element's failure to open, or to let go, may be excluded on this device at all (exclusion_rule.h).
bool mayBeExcluded(const Circuit& circuit, const Device& device, std::string_view element);

/// Two elements that one movement carries, or one and the same: they cannot be two channels. Contacts that a hand opens
/// directly count as two.
bool isOnePart(const Circuit& circuit, const ClaimedPart& a, const ClaimedPart& b);

/// A claim for detection by the process alone gives PL d at most (ISO 13849-1 annex E, note to table E.1).
bool restsOnProcess(const ClaimedSubsystem& subsystem);

/// The least PL that follows from the risk answers; none if there are none.
std::optional<Level> levelByRisk(const SafetyFunction& function);

} // namespace ts::safety
