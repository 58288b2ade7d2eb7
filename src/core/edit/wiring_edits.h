#pragma once
// What a person means when wires change: in series, in parallel, taken out, moved, exchanged. Pure functions from an
// old file to a new one; devices are device_edits.h. Numbers follow the nets: of a net that is parted the side with
// fewer wires gets a new number, nets that become one bear the number ahead.

#include "core/edit/wiring.h"
#include "core/model/dossier.h"

#include <vector>

namespace ts::edit {

/// The two ends of what is put in.
struct Ends {
    TerminalRef a, b;
    bool operator==(const Ends&) const = default;
};

/// One wire more, like those that run between such places.
/// NotFound for a terminal that is not there, Refused for a wire to itself.
Expected<DossierFile> withWireAdded(const DossierFile& file, const TerminalRef& from, const TerminalRef& to);
/// A terminal tied to the net of another one, where that net bears it best. Errors as above.
Expected<DossierFile> withTerminalJoined(const DossierFile& file, const TerminalRef& terminal, const TerminalRef& to);

/// One end of a wire on another terminal; it takes the number of what it joins. NotFound for a wire or terminal that is
/// not there, Refused if both ends would be on one terminal.
Expected<DossierFile> withWireEndMoved(const DossierFile& file, WireId wire, WireEnd end, const TerminalRef& to);
/// NotFound for a wire that is not there.
Expected<DossierFile> withoutWire(const DossierFile& file, WireId wire);
/// A wire laid in another route, and a route laid in another way: both decide which shorts can happen and which may be
/// excluded. NotFound for a wire or route that is not there.
Expected<DossierFile> withWireRouted(const DossierFile& file, WireId wire, RouteId route);
Expected<DossierFile> withRouteLaid(const DossierFile& file, RouteId route, RouteKind kind);
/// One field of library/fields.h said of a wire, or of a route. NotFound for no such wire, route or field; else as
/// fields::take() fails.
Expected<DossierFile> withWireField(
    const DossierFile& file, WireId wire, std::string_view field, std::string_view text);
Expected<DossierFile> withRouteField(
    const DossierFile& file, RouteId route, std::string_view field, std::string_view text);
/// Whatever is wired to one goes to the other and back: two phases exchanged. NotFound as above.
Expected<DossierFile> withTerminalsExchanged(const DossierFile& file, const TerminalRef& a, const TerminalRef& b);

/// In series: some terminals of one net are parted from the rest of it by what is put in, `put.a` to the rest and
/// `put.b` to them. Refused if they are not of one net, are all of it, or if what is put in has wires already.
Expected<DossierFile> withNetParted(const DossierFile& file, const std::vector<TerminalRef>& behind, const Ends& put);
/// In parallel: put between the nets of two terminals. Refused if those are one net or what is put in has wires.
Expected<DossierFile> withBridge(
    const DossierFile& file, const TerminalRef& from, const TerminalRef& to, const Ends& put);

/// Terminals without wires; what met on each stays joined without it. NotFound as above.
Expected<DossierFile> withTerminalsFreed(const DossierFile& file, const std::vector<TerminalRef>& terminals);
/// Both terminals without wires, and what met on them joined: what stood in series is gone, its gap closed.
Expected<DossierFile> withGapClosed(const DossierFile& file, const Ends& gap);

} // namespace ts::edit
