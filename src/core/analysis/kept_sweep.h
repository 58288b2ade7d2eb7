#pragma once
// A sweep as text and back, to be remembered by what it depends on: the circuit, the exclusions, the function's demand
// and the program itself. Claims, answers and labels do not change it.

#include "core/faults/sweep.h"

#include <optional>
#include <string>

namespace ts {

/// The same for two dossiers if, and only if, their sweeps are the same to the byte. Pure.
std::string sweepKey(const Dossier& dossier, const SafetyFunction& function, const faults::SweepOptions& options = {});

std::string keptText(const faults::Sweep& sweep);
/// None if the text is not one of a sweep of this circuit.
std::optional<faults::Sweep> sweepFrom(std::string_view text, const Dossier& dossier, const SafetyFunction& function);

} // namespace ts
