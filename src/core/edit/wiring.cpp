#include "core/edit/wiring.h"

#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <tuple>

namespace ts::edit {
namespace {

template <class Allowed> Net grown(const Circuit& circuit, const TerminalRef& start, const Allowed& isAllowed)
{
    Net net{start};
    for (bool grows = true; grows;) {
        grows = false;
        for (const Wire& w : circuit.wires)
            if (net.contains(w.from) != net.contains(w.to) && isAllowed(w.from) && isAllowed(w.to)) {
                net.insert(w.from);
                net.insert(w.to);
                grows = true;
            }
    }
    return net;
}

/// Door, plate or field: written, or where its kind usually stands.
std::string placeOf(const Circuit& circuit, DeviceId id)
{
    const Device* d = circuit.device(id);
    if (!d)
        return {};
    return d->place.empty() ? (standsOnDoor(*d) ? "door" : "plate") : d->place;
}

bool isPower(const Circuit& circuit, const TerminalRef& t)
{
    const Device* d = circuit.device(t.device);
    return d && (d->kind == "motor" || t.marking.size() == 1 || t.marking.starts_with("L"));
}

} // namespace

Net netOf(const Circuit& circuit, const TerminalRef& start)
{
    return grown(circuit, start, [](const TerminalRef&) { return true; });
}

Net pieceOf(const Circuit& circuit, const TerminalRef& start, const Net& within)
{
    return grown(circuit, start, [&](const TerminalRef& t) { return within.contains(t); });
}

int wireCount(const Circuit& circuit, const TerminalRef& terminal)
{
    int count = 0;
    for (const Wire& w : circuit.wires)
        count += (w.from == terminal) + (w.to == terminal);
    return count;
}

TerminalRef bestPlaceIn(const Circuit& circuit, const Net& net, const TerminalRef& preferred, const TerminalRef& other)
{
    const std::string place = placeOf(circuit, other.device);
    const auto worth = [&](const TerminalRef& t) {
        return std::tuple(
            wireCount(circuit, t) >= 2, placeOf(circuit, t.device) != place, t != preferred, wireCount(circuit, t), t);
    };
    TerminalRef best = preferred;
    for (const TerminalRef& t : net)
        if (t != other && (best == other || worth(t) < worth(best)))
            best = t;
    return best;
}

Wire wireBetween(const Circuit& circuit, const TerminalRef& from, const TerminalRef& to)
{
    const auto ends = [&](const TerminalRef& a, const TerminalRef& b) {
        std::string p = placeOf(circuit, a.device), q = placeOf(circuit, b.device);
        return p < q ? std::pair(p, q) : std::pair(q, p);
    };
    const auto wanted = ends(from, to);
    const bool power = isPower(circuit, from) && isPower(circuit, to);
    const auto touches = [&](const Wire& w) { return w.from == from || w.to == from || w.from == to || w.to == to; };
    Wire wire;
    const Wire* like = nullptr;
    for (const Wire& w : circuit.wires)
        if (ends(w.from, w.to) == wanted && (isPower(circuit, w.from) && isPower(circuit, w.to)) == power
            && (!like || (touches(w) && !touches(*like))))
            like = &w;
    if (like)
        wire = *like;
    wire.id = {};
    wire.remark.clear();
    wire.number = numberAt(circuit, from);
    if (wire.number.empty())
        wire.number = numberAt(circuit, to);
    if (wire.number.empty())
        wire.number = nextNumber(circuit);
    wire.from = from;
    wire.to = to;
    return wire;
}

std::string numberAt(const Circuit& circuit, const TerminalRef& terminal)
{
    for (const Wire& w : circuit.wires)
        if ((w.from == terminal || w.to == terminal) && !w.number.empty())
            return w.number;
    const Net net = netOf(circuit, terminal);
    for (const Wire& w : circuit.wires)
        if (net.contains(w.from) && !w.number.empty())
            return w.number;
    return {};
}

std::string nextNumber(const Circuit& circuit)
{
    double highest = 0;
    for (const Wire& w : circuit.wires)
        if (const auto n = numberFrom(w.number); n && *n < 1e9)
            highest = std::max(highest, *n);
    return std::to_string(static_cast<long long>(highest) + 1);
}

Expected<void> mustBeThere(const Circuit& circuit, const TerminalRef& terminal)
{
    const Device* device = circuit.device(terminal.device);
    if (!device)
        return failure(ErrorCode::NotFound, message("edit.no_terminal", {circuit.nameOf(terminal)}));
    const auto body = bodyOf(circuit, *device);
    if (!body)
        return Unexpected{body.error()};
    const bool isThere = std::any_of(body->terminals.begin(), body->terminals.end(),
        [&](const TerminalSpec& t) { return !t.inner && t.marking == terminal.marking; });
    if (!isThere)
        return failure(ErrorCode::NotFound, message("edit.no_terminal", {circuit.nameOf(terminal)}));
    return {};
}

Expected<TerminalRef> terminalNamed(const Circuit& circuit, std::string_view name)
{
    const std::size_t colon = name.find(':');
    const Device* device = colon == name.npos ? nullptr : circuit.device(name.substr(0, colon));
    if (!device)
        return failure(ErrorCode::NotFound, message("edit.no_terminal", {std::string(name)}));
    const TerminalRef terminal{device->id, std::string(name.substr(colon + 1))};
    if (const auto there = mustBeThere(circuit, terminal); !there)
        return Unexpected{there.error()};
    return terminal;
}

} // namespace ts::edit
