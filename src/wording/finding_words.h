#pragma once
// Where the search for what is the matter stands, in words.

#include "core/finding/finder.h"

namespace ts::wording {

/// "closed: 4 of 12 that are left, among them wire 34 is missing".
std::string outcomeText(const Circuit& circuit, const finding::Proposal& proposal, const finding::Outcome& outcome);
/// What is left, what it comes to, or what to look at next; several lines.
std::string findingText(const Circuit& circuit, const finding::Finding& finding);

} // namespace ts::wording
