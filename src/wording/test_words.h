#pragma once
// Steps of a test plan, readings and wiring mistakes in words.

#include "core/measuring/suspects.h"

namespace ts::wording {

/// "wire 34 is missing".
std::string mistakeText(const Circuit& circuit, const measuring::Mistake& mistake);
/// What puts it right, if it is that: "swap wires 21 and 22: 21 to Q1:2, 22 to Q1:4".
std::string mendText(const Circuit& circuit, const measuring::Mistake& mistake);
/// What is done before looking, one thing a line: "wires 8, 21 lifted", "meanwhile Q1 push in"; none at rest.
std::vector<std::string> situationLines(const Circuit& circuit, const measuring::Situation& in);
/// "Ohms: (1) Q1:13  [2] S2:14".
std::string lookText(const measuring::Look& look);
/// Both on one line.
std::string lookLine(const Circuit& circuit, const measuring::Situation& in, const measuring::Look& look);
std::string suspectText(const Circuit& circuit, const measuring::Suspect& suspect);
/// "closed (at most 2 ohm)", "360 V to 440 V", "Q1 in, P1 lit".
std::string readingText(const measuring::Reading& reading, measuring::Instrument with);
/// What no step shows, and why.
std::string hiddenText(const Circuit& circuit, const measuring::Unshown& hidden);
/// One a line, so many at most; what else there is is counted.
std::string suspectsText(
    const Circuit& circuit, const std::vector<measuring::Suspect>& suspects, std::size_t most = 12);
/// "wires 12, 13; Q1 13-14".
std::string partsText(const Circuit& circuit, const std::vector<std::string>& parts);
/// "3 h 35 min".
std::string durationText(double seconds);
/// How many steps, how long, what they show.
std::string coverageText(const measuring::TestPlan& plan);

} // namespace ts::wording
