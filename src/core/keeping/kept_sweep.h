#pragma once
// A sweep as text and back, to be remembered by what it depends on: the circuit, the exclusions, the function's demand
// and the program itself. Claims, answers and labels do not change it.

#include "core/analysis/other_triggers.h"

#include <optional>
#include <string>

namespace ts {

/// Of everything that a run of the circuit depends on, and of the exclusions; what takeDecor() takes (model/decor.h) is
/// left out.
std::string circuitKey(const Dossier& dossier);
/// The same for two dossiers if, and only if, their sweeps are the same to the byte. Pure. `circuit`: of circuitKey().
std::string sweepKey(std::string_view circuit, const Dossier& dossier, const SafetyFunction& function,
    const faults::SweepOptions& options = {});
std::string sweepKey(const Dossier& dossier, const SafetyFunction& function, const faults::SweepOptions& options = {});
/// Of the circuit, all scenarios and the demand of one function, or of all of them.
std::string demandKey(std::string_view circuit, const Dossier& dossier, const SafetyFunction& function);
std::string demandKey(std::string_view circuit, const Dossier& dossier);

/// The name under which a result of this key is kept: another build of the engine does not find it.
std::string keptName(std::string_view study, std::string_view key);

/// Every field by its name.
std::string keptText(const faults::Sweep& sweep);
/// None if the text is not one of a sweep of this circuit.
std::optional<faults::Sweep> sweepFrom(std::string_view text, const Dossier& dossier, const SafetyFunction& function);

/// The sweeps of each other trigger, or why there is none; what follows from them is worked out anew.
std::string keptText(const OtherTriggers& tried);
std::optional<OtherTriggers> otherTriggersFrom(
    std::string_view text, const Dossier& dossier, const SafetyFunction& function);

} // namespace ts
