#pragma once
// Small steps that every kind's body is made of.

#include "core/library/kind.h"
#include "core/library/table.h"

namespace ts::kinds {

/// Adds a terminal and returns its index.
int addTerminal(Body& body, std::string marking, bool inner = false);
/// Adds a contact between two new or existing terminals named in "13-14".
int addContact(Body& body, std::string_view pair, ContactElement contact);
/// The two markings of "13-14". Fails with Refused if it is not two markings joined by a dash.
Expected<std::pair<std::string, std::string>> markingsOf(std::string_view pair, std::string_view tag);
/// Contacts by the numbering rule: last digits 1-2 opening, 3-4 closing (IEC 60947-1 annex; 5-6, 7-8 special).
/// Fails with Refused for a pair that follows neither or stands twice.
Expected<ContactKind> contactKindOf(std::string_view pair, std::string_view tag);
int terminalOf(const Body& body, std::string_view marking);

/// A row's value at the timing asked for.
double timed(const DefaultRow& row, Timing timing);
/// The device's own parameter if written, else the row's value at the timing.
double timedParameter(const Parameters& p, std::string_view name, const DefaultRow& row, Timing timing);

} // namespace ts::kinds
