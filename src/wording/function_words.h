#pragma once
// A safety function as sentences, in the machine's own words.

#include "core/analysis/response.h"
#include "core/model/dossier.h"

namespace ts::wording {

/// "Emergency stop S0", "Stop by B2 (guard door)": the name of a function that was suggested.
std::string suggestedName(const SafetyFunction& function, const Circuit& circuit);

/// What demands it, each device once.
std::vector<DeviceId> triggerDevices(const SafetyFunction& function);
/// "When S0 (emergency stop) is pressed, M1, M2 and M3 come to rest within 40 s by stop category 0. ..."
std::string functionSentence(const SafetyFunction& function, const Circuit& circuit);

/// "S2 F1 P2: PL d" with what raised or lowered it.
std::string riskText(const SafetyFunction& function);

/// What each stop category would mean for these motors, from how they really stop: one line per category.
std::vector<std::string> categoryConsequences(
    const SafetyFunction& function, const Dossier& dossier, const FunctionResult* result);

/// The response time as lines of what and how long.
std::vector<std::pair<std::string, std::string>> responseLines(
    const SafetyFunction& function, const ResponseBudget& budget);

} // namespace ts::wording
