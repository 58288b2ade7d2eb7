#include "core/edit/wiring_edits.h"

#include "core/library/fields.h"

#include <algorithm>

namespace ts::edit {
namespace {

Expected<void> mustBeThere(const Circuit& c, std::initializer_list<const TerminalRef*> terminals)
{
    for (const TerminalRef* t : terminals)
        if (auto there = edit::mustBeThere(c, *t); !there)
            return there;
    return {};
}

Expected<void> mustBeFree(const Circuit& c, const Ends& put)
{
    if (auto there = mustBeThere(c, {&put.a, &put.b}); !there)
        return there;
    for (const TerminalRef* t : {&put.a, &put.b})
        if (wireCount(c, *t) > 0)
            return failure(ErrorCode::Refused, message("edit.in_use", {c.nameOf(*t)}));
    return {};
}

Wire* wireOf(Circuit& c, WireId id)
{
    const auto it = std::find_if(c.wires.begin(), c.wires.end(), [id](const Wire& w) { return w.id == id; });
    return it == c.wires.end() ? nullptr : &*it;
}

/// Puts the end on another terminal. Where it then runs differs, so do route and length.
void moveEnd(const Circuit& c, Wire& wire, WireEnd end, const TerminalRef& to)
{
    TerminalRef& moved = end == WireEnd::From ? wire.from : wire.to;
    if (moved == to)
        return;
    const Wire before = wireBetween(c, wire.from, wire.to);
    moved = to;
    const Wire after = wireBetween(c, wire.from, wire.to);
    if (after.route != before.route) {
        wire.route = after.route;
        wire.lengthM = after.lengthM;
    }
}

void add(DossierFile& file, Wire wire)
{
    wire.id = {file.nextId++};
    file.dossier.circuit.wires.push_back(std::move(wire));
}

/// Every wire of the net that bears the old number bears the new one.
void renumber(Circuit& c, const Net& net, const std::string& from, const std::string& to)
{
    for (Wire& w : c.wires)
        if ((net.contains(w.from) || net.contains(w.to)) && w.number == from)
            w.number = to;
}

void eraseWires(Circuit& c, const std::vector<WireId>& gone)
{
    std::erase_if(c.wires, [&](const Wire& w) { return std::find(gone.begin(), gone.end(), w.id) != gone.end(); });
}

/// Ties the pieces of a parted net to one end of what is put in: the first piece to the end itself, each further one to
/// the piece before it, so that no terminal bears a bundle.
struct Tie {
    TerminalRef last;
    std::vector<Net> tied;
    bool has(const TerminalRef& t) const
    {
        return std::any_of(tied.begin(), tied.end(), [&](const Net& piece) { return piece.contains(t); });
    }
};

void tieByCrossingWires(Circuit& c, const Net& front, const Net& back, Tie& ahead, Tie& behind)
{
    std::vector<WireId> gone;
    for (Wire& w : c.wires) {
        if (front.contains(w.from) == front.contains(w.to) || !(back.contains(w.from) || back.contains(w.to)))
            continue;
        const bool fromIsFront = front.contains(w.from);
        const TerminalRef f = fromIsFront ? w.from : w.to, g = fromIsFront ? w.to : w.from;
        if (!ahead.has(f)) {
            ahead.tied.push_back(pieceOf(c, f, front));
            moveEnd(c, w, fromIsFront ? WireEnd::To : WireEnd::From, ahead.last);
            ahead.last = f;
        } else if (!behind.has(g)) {
            behind.tied.push_back(pieceOf(c, g, back));
            moveEnd(c, w, fromIsFront ? WireEnd::From : WireEnd::To, behind.last);
            behind.last = g;
        } else {
            gone.push_back(w.id);
        }
    }
    eraseWires(c, gone);
}

/// The wires' far ends stay joined to one another, as a chain that uses the same wires, one fewer.
void chainFarEnds(Circuit& c, const Net& hub)
{
    std::vector<WireId> gone, kept;
    for (const Wire& w : c.wires)
        if (hub.contains(w.from) && hub.contains(w.to))
            gone.push_back(w.id);
        else if (hub.contains(w.from) || hub.contains(w.to))
            kept.push_back(w.id);
    for (std::size_t k = 0; k < kept.size(); ++k) {
        Wire& w = *wireOf(c, kept[k]);
        if (k + 1 == kept.size()) {
            gone.push_back(w.id);
            break;
        }
        const Wire& next = *wireOf(c, kept[k + 1]);
        const TerminalRef far = hub.contains(next.from) ? next.to : next.from;
        const TerminalRef own = hub.contains(w.from) ? w.to : w.from;
        if (far == own)
            gone.push_back(w.id);
        else
            moveEnd(c, w, hub.contains(w.from) ? WireEnd::From : WireEnd::To, far);
    }
    eraseWires(c, gone);
}

} // namespace

Expected<DossierFile> withWireAdded(const DossierFile& file, const TerminalRef& from, const TerminalRef& to)
{
    const Circuit& c = file.dossier.circuit;
    if (auto there = mustBeThere(c, {&from, &to}); !there)
        return Unexpected{there.error()};
    if (from == to)
        return failure(ErrorCode::Refused, message("edit.wire_to_itself", {c.nameOf(from)}));
    DossierFile changed = file;
    add(changed, wireBetween(c, from, to));
    return changed;
}

Expected<DossierFile> withTerminalJoined(const DossierFile& file, const TerminalRef& terminal, const TerminalRef& to)
{
    const Circuit& c = file.dossier.circuit;
    if (auto there = mustBeThere(c, {&terminal, &to}); !there)
        return Unexpected{there.error()};
    return withWireAdded(file, bestPlaceIn(c, netOf(c, to), to, terminal), terminal);
}

Expected<DossierFile> withWireEndMoved(const DossierFile& file, WireId id, WireEnd end, const TerminalRef& to)
{
    DossierFile changed = file;
    Circuit& c = changed.dossier.circuit;
    Wire* wire = wireOf(c, id);
    if (!wire)
        return failure(ErrorCode::NotFound, message("edit.no_wire"));
    if (auto there = mustBeThere(c, {&to}); !there)
        return Unexpected{there.error()};
    if ((end == WireEnd::From ? wire->to : wire->from) == to)
        return failure(ErrorCode::Refused, message("edit.wire_to_itself", {c.nameOf(to)}));
    const std::string number = numberAt(c, to);
    moveEnd(c, *wire, end, to);
    if (!number.empty())
        wire->number = number;
    return changed;
}

Expected<DossierFile> withoutWire(const DossierFile& file, WireId id)
{
    DossierFile changed = file;
    if (std::erase_if(changed.dossier.circuit.wires, [id](const Wire& w) { return w.id == id; }) == 0)
        return failure(ErrorCode::NotFound, message("edit.no_wire"));
    return changed;
}

Expected<DossierFile> withWireRouted(const DossierFile& file, WireId id, RouteId route)
{
    DossierFile changed = file;
    Circuit& c = changed.dossier.circuit;
    const auto wire = std::find_if(c.wires.begin(), c.wires.end(), [id](const Wire& w) { return w.id == id; });
    if (wire == c.wires.end())
        return failure(ErrorCode::NotFound, message("edit.no_wire"));
    if (!c.route(route))
        return failure(ErrorCode::NotFound, message("edit.no_route"));
    wire->route = route;
    return changed;
}

Expected<DossierFile> withRouteLaid(const DossierFile& file, RouteId id, RouteKind kind)
{
    DossierFile changed = file;
    auto& routes = changed.dossier.circuit.routes;
    const auto route = std::find_if(routes.begin(), routes.end(), [id](const Route& r) { return r.id == id; });
    if (route == routes.end())
        return failure(ErrorCode::NotFound, message("edit.no_route"));
    route->kind = kind;
    return changed;
}

namespace {

template <class Record, std::size_t n>
Expected<void> taken(std::vector<Record>& all, const std::array<Field<Record>, n>& known, int id,
    std::string_view field, std::string_view text)
{
    const auto record = std::find_if(all.begin(), all.end(), [id](const Record& r) { return r.id.value == id; });
    const auto f = std::find_if(known.begin(), known.end(), [field](const auto& k) { return k.name == field; });
    if (record == all.end() || f == known.end())
        return failure(ErrorCode::NotFound, message(std::is_same_v<Record, Wire> ? "edit.no_wire" : "edit.no_route"));
    return fields::take(*f, text, *record);
}

} // namespace

Expected<DossierFile> withWireField(const DossierFile& file, WireId id, std::string_view field, std::string_view text)
{
    DossierFile changed = file;
    if (auto ok = taken(changed.dossier.circuit.wires, kWireFields, id.value, field, text); !ok)
        return Unexpected{ok.error()};
    const Wire& wire = *changed.dossier.circuit.wire(id);
    if (field == "length_m" && !(wire.lengthM > 0.0))
        return failure(ErrorCode::Refused,
            message("edit.wire_size",
                {changed.dossier.circuit.nameOf(wire.from), changed.dossier.circuit.nameOf(wire.to)}));
    return changed;
}

Expected<DossierFile> withRouteField(const DossierFile& file, RouteId id, std::string_view field, std::string_view text)
{
    DossierFile changed = file;
    if (auto ok = taken(changed.dossier.circuit.routes, kRouteFields, id.value, field, text); !ok)
        return Unexpected{ok.error()};
    return changed;
}

Expected<DossierFile> withTerminalsExchanged(const DossierFile& file, const TerminalRef& a, const TerminalRef& b)
{
    if (auto there = mustBeThere(file.dossier.circuit, {&a, &b}); !there)
        return Unexpected{there.error()};
    DossierFile changed = file;
    for (Wire& w : changed.dossier.circuit.wires)
        for (TerminalRef* end : {&w.from, &w.to})
            *end = *end == a ? b : *end == b ? a : *end;
    return changed;
}

Expected<DossierFile> withNetParted(const DossierFile& file, const std::vector<TerminalRef>& behind, const Ends& put)
{
    DossierFile changed = file;
    Circuit& c = changed.dossier.circuit;
    if (auto isFree = mustBeFree(c, put); !isFree)
        return Unexpected{isFree.error()};
    if (behind.empty())
        return failure(ErrorCode::Refused, message("edit.nothing_behind"));
    const Net net = netOf(c, behind.front()), back(behind.begin(), behind.end());
    Net front;
    std::set_difference(net.begin(), net.end(), back.begin(), back.end(), std::inserter(front, front.end()));
    if (!std::includes(net.begin(), net.end(), back.begin(), back.end()))
        return failure(ErrorCode::Refused, message("edit.several_nets", {c.nameOf(behind.front())}));
    if (front.empty())
        return failure(ErrorCode::Refused, message("edit.nothing_ahead", {c.nameOf(behind.front())}));
    const std::string number = numberAt(c, behind.front()), next = nextNumber(c);
    Tie ahead{put.a, {}}, after{put.b, {}};
    tieByCrossingWires(c, front, back, ahead, after);
    for (const TerminalRef& t : back)
        if (!after.has(t)) {
            after.tied.push_back(pieceOf(c, t, back));
            Wire w = wireBetween(c, after.last, t);
            w.number = number;
            add(changed, std::move(w));
            after.last = t;
        }
    const Net left = netOf(c, put.a), right = netOf(c, put.b);
    const auto wires = [&c](const Net& n) {
        return std::count_if(c.wires.begin(), c.wires.end(), [&](const Wire& w) { return n.contains(w.from); });
    };
    renumber(c, wires(right) > wires(left) ? left : right, number, next); // the fewer wires to print anew
    return changed;
}

Expected<DossierFile> withBridge(
    const DossierFile& file, const TerminalRef& from, const TerminalRef& to, const Ends& put)
{
    const Circuit& c = file.dossier.circuit;
    if (auto isFree = mustBeFree(c, put); !isFree)
        return Unexpected{isFree.error()};
    if (auto there = mustBeThere(c, {&from, &to}); !there)
        return Unexpected{there.error()};
    if (netOf(c, from).contains(to))
        return failure(ErrorCode::Refused, message("edit.same_net", {c.nameOf(from), c.nameOf(to)}));
    const auto first = withTerminalJoined(file, put.a, from);
    if (!first)
        return first;
    return withTerminalJoined(*first, put.b, to);
}

Expected<DossierFile> withTerminalsFreed(const DossierFile& file, const std::vector<TerminalRef>& terminals)
{
    DossierFile changed = file;
    for (const TerminalRef& t : terminals) {
        if (auto there = mustBeThere(changed.dossier.circuit, {&t}); !there)
            return Unexpected{there.error()};
        chainFarEnds(changed.dossier.circuit, {t});
    }
    return changed;
}

Expected<DossierFile> withGapClosed(const DossierFile& file, const Ends& gap)
{
    DossierFile changed = file;
    Circuit& c = changed.dossier.circuit;
    if (auto there = mustBeThere(c, {&gap.a, &gap.b}); !there)
        return Unexpected{there.error()};
    const std::string number = numberAt(c, gap.a), other = numberAt(c, gap.b);
    Net behind = netOf(c, gap.b);
    chainFarEnds(c, {gap.a, gap.b});
    if (!number.empty() && !other.empty())
        renumber(c, behind, other, number);
    return changed;
}

} // namespace ts::edit
