#pragma once
// Questions about wiring that edits ask: what is joined, what a terminal bears, what a new wire would be like.

#include "core/base/expected.h"
#include "core/model/circuit.h"

#include <set>
#include <string>
#include <string_view>

namespace ts::edit {

using Net = std::set<TerminalRef>;

/// Terminals joined by wires with one of them, itself included.
Net netOf(const Circuit& circuit, const TerminalRef& start);
/// The same within some terminals only, over wires between them.
Net pieceOf(const Circuit& circuit, const TerminalRef& start, const Net& within);

/// Number of wire ends on a terminal.
int wireCount(const Circuit& circuit, const TerminalRef& terminal);

/// The terminal of a net that bears a further wire best: few wires on it, in the same place as `other`, and otherwise
/// the preferred one. Excludes `other` itself.
TerminalRef bestPlaceIn(const Circuit& circuit, const Net& net, const TerminalRef& preferred, const TerminalRef& other);

/// What a wire between two terminals would be like: number of the net at `from`, else of `to`, else the next one;
/// route, length, area and colour of the wire that already runs between such places, the most alike first.
Wire wireBetween(const Circuit& circuit, const TerminalRef& from, const TerminalRef& to);

/// The number borne by a wire at the terminal, else by one in its net, else empty.
std::string numberAt(const Circuit& circuit, const TerminalRef& terminal);
std::string nextNumber(const Circuit& circuit);

/// A terminal named as "Q1:13". NotFound if it is not there.
Expected<TerminalRef> terminalNamed(const Circuit& circuit, std::string_view name);
/// Fails with NotFound unless the terminal can bear a wire.
Expected<void> mustBeThere(const Circuit& circuit, const TerminalRef& terminal);

} // namespace ts::edit
