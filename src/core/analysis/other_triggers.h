#pragma once
// What else demands a function (SafetyFunction::alsoBy), each tried with every fault as if it were the first trigger:
// the demand scenario operates it instead, and the claim's parts at the first trigger are those of this one. The worst
// trigger counts. Source: ISO 13849-1 clause 6.2 (a single fault does not lead to the loss of the function, whichever
// input demands it), ISO/TR 24119 for one that hides another's (FaultOutcome::forgottenBy).

#include "core/analysis/fault_analysis.h"

namespace ts {

struct TriedTrigger {
    Trigger trigger;
    std::string tag;
    std::optional<FaultAnalysis> analysis; ///< none: it could not be tried
    Message trouble{}; ///< why
};

struct OtherTriggers {
    FunctionId function;
    std::vector<TriedTrigger> tried; ///< in the order of alsoBy
};

/// Something that happens to a supply, of which there are several: a line lost, two exchanged.
bool isOfSupply(const Trigger& trigger);
/// "S10", "G0 lose_l1".
std::string nameOf(const Circuit& circuit, const Trigger& trigger);

/// The function as if its k-th other trigger were its first.
SafetyFunction demandedBy(const SafetyFunction& function, std::size_t k);

/// The dossier with that function, and the scenario that demands it so.
Dossier dossierDemandedBy(const Dossier& dossier, const SafetyFunction& function, std::size_t k);

/// Fails with Cancelled only: a trigger that cannot be tried says why.
Expected<OtherTriggers> otherTriggers(const Dossier& dossier, const SafetyFunction& function,
    const faults::SweepOptions& options, const faults::SweepListener& listener = {}, std::stop_token stop = {});

} // namespace ts
