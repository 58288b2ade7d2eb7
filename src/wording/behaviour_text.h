#pragma once
// What a circuit was seen to do (exploration/behaviour.h), in sentences.

#include "core/exploration/behaviour.h"

#include <string>
#include <vector>

namespace ts::wording {

/// "S2 (start), pressed: starts M1 (pump) forwards, and it stays on. Before it: S4 pressed".
std::string deedText(const exploration::Deed& deed, const Circuit& circuit, const Plant& plant);
/// All of it, a sentence each, and what was not looked at.
std::vector<std::string> behaviourLines(
    const exploration::Behaviour& behaviour, const Circuit& circuit, const Plant& plant);

} // namespace ts::wording
