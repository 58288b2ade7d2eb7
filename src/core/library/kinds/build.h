#pragma once
// Small steps that every kind's body is made of.

#include "core/library/kind.h"
#include "core/library/table.h"

#include <functional>

namespace ts::kinds {

/// Of pilot contacts, by designation (IEC 60947-5-1 annex A), and the largest fuse that they survive.
constexpr ParameterSpec kContactAc{
    "contact_rating_ac", ParameterSpec::Type::Word, 0, 0, {}, "A600", "A600 A300 B300 C300 D300", "assumed"};
constexpr ParameterSpec kContactDc{
    "contact_rating_dc", ParameterSpec::Type::Word, 0, 0, {}, "Q300", "N300 P300 Q300 R300", "assumed"};
constexpr ParameterSpec kSmallContactAc{
    "contact_rating_ac", ParameterSpec::Type::Word, 0, 0, {}, "B300", "A600 A300 B300 C300 D300", "assumed"};
constexpr ParameterSpec kSmallContactDc{
    "contact_rating_dc", ParameterSpec::Type::Word, 0, 0, {}, "R300", "N300 P300 Q300 R300", "assumed"};
/// The same from a sheet, each at a voltage: "3@230 1.5@400" (library/contact_rating.h). They win over the designation.
constexpr ParameterSpec kContactAc15{"contact_rating_ac15_a", ParameterSpec::Type::WordList, 0, 0, {}, "", {}, "sheet"};
constexpr ParameterSpec kContactDc13{"contact_rating_dc13_a", ParameterSpec::Type::WordList, 0, 0, {}, "", {}, "sheet"};
constexpr ParameterSpec kContactFuse{
    "contact_largest_fuse_a", ParameterSpec::Type::Number, 0.1, 100, 10, {}, {}, "assumed"};

/// Adds a terminal and returns its index.
int addTerminal(Body& body, std::string marking, bool inner = false);
/// The terminal of that marking, added where there is none yet.
int sharedTerminal(Body& body, std::string_view marking);
/// Adds a contact between two new or existing terminals named in "13-14".
int addContact(Body& body, std::string_view pair, ContactElement contact);
/// The two markings of "13-14". Fails with Refused if it is not two markings joined by a dash.
Expected<std::pair<std::string, std::string>> markingsOf(std::string_view pair, std::string_view tag);
/// Contacts by the numbering rule: last digits 1-2 opening, 3-4 closing; delayed ones 5-6 and 7-8 (IEC 60947-1 annex).
/// Fails with Refused for a pair that follows neither or stands twice.
Expected<ContactKind> contactKindOf(std::string_view pair, std::string_view tag);
/// Contacts by their names: "13-14" by the numbering rule, "11-12-14" a change-over contact (common, opening, closing);
/// delayed contacts of timers end in 5-6, 7-8 and 5-6-8; "1-4-3/co" changes over whatever its numbers; "5-6/closes" or
/// "5-6/no", "5-6/opens" or "5-6/nc" where a sheet numbers otherwise, by what it does when the device is actuated;
/// "5-6/unknown" where nobody has found out. `made` gives the contact for its kind. Fails with Refused for a name that
/// follows none of these, that stands twice, or for more than 24 contacts.
Expected<void> addContacts(Body& body, const std::vector<std::string>& names, std::string_view tag,
    const std::function<ContactElement(ContactKind)>& made);
/// A contact of a mover: closing ones when it is actuated, opening ones at rest.
ContactElement contactOf(int mover, ContactKind kind, bool linked = false);
/// An element between two terminals; returns its index.
int addTwoPole(Body& body, std::string role, int p, int q, decltype(Element::what) what);
/// A link inside the device that no fault reaches and nothing opens.
void joinInside(Body& body, int p, int q);
/// Supply terminals "A1-A2" as a load that a logic watches; returns the element's index.
int addSupply(
    Body& body, double voltageV, double powerW, std::string_view first = "A1", std::string_view second = "A2");
/// "3-4" of the second pole, counted from 0.
std::string poleName(int pole);
int terminalOf(const Body& body, std::string_view marking);

/// A row's value at the timing asked for.
double timed(const DefaultRow& row, Timing timing);
/// The device's own parameter if written, else the row's value at the timing.
double timedParameter(const Parameters& p, std::string_view name, const DefaultRow& row, Timing timing);

} // namespace ts::kinds
