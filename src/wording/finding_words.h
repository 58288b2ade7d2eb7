#pragma once
// Where the search for what is the matter stands, in words.

#include "core/finding/finder.h"

namespace ts::wording {

/// "operate S2": "S2 pressed and let go".
std::string handText(std::string_view hand);
/// "S2 pressed and let go: M1 not driven, P1 lit": one line for all that was seen after the same was done.
std::vector<std::string> symptomLines(const std::vector<finding::Symptom>& symptoms);
/// A look at terminals, with the eye.
bool areWiresCounted(const finding::Proposal& proposal);
/// What is read there; of wires that are counted only where it is not as drawn.
std::string answerText(const finding::Outcome& outcome, const finding::Proposal& proposal);
/// Who would answer so: "wire 34 is missing; and 11 more".
std::string outcomeText(const Circuit& circuit, const finding::Outcome& outcome);
/// What is left, what it comes to, or what to look at next; several lines.
std::string findingText(const Circuit& circuit, const finding::Finding& finding);

} // namespace ts::wording
