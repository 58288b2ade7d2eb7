#include "core/edit/circuit_edits.h"

#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <set>

namespace ts::edit {
namespace {

Unexpected refused(ErrorCode code, const char* id, std::vector<Argument> arguments)
{
    return failure(code, message(id, std::move(arguments)));
}

bool canBeTag(std::string_view tag)
{
    return !tag.empty() && tag.size() <= 24 && tag.find_first_of(":/+. \t\n") == tag.npos;
}

Expected<TerminalRef> terminalNamed(const Circuit& circuit, std::string_view name)
{
    const std::size_t colon = name.find(':');
    const Device* device = colon == name.npos ? nullptr : circuit.device(name.substr(0, colon));
    if (!device)
        return refused(ErrorCode::NotFound, "edit.no_terminal", {std::string(name)});
    const auto body = bodyOf(circuit, *device);
    if (!body)
        return Unexpected{body.error()};
    const std::string marking(name.substr(colon + 1));
    const bool isThere = std::any_of(body->terminals.begin(), body->terminals.end(), [&](const TerminalSpec& t) { return !t.inner && t.marking == marking; });
    if (!isThere)
        return refused(ErrorCode::NotFound, "edit.no_terminal", {std::string(name)});
    return TerminalRef{device->id, marking};
}

/// Terminals joined by wires with one of them, itself included.
std::set<TerminalRef> netOf(const Circuit& circuit, const TerminalRef& start)
{
    std::set<TerminalRef> net{start};
    for (bool grows = true; grows;) {
        grows = false;
        for (const Wire& w : circuit.wires)
            if (net.contains(w.from) != net.contains(w.to)) {
                net.insert(w.from);
                net.insert(w.to);
                grows = true;
            }
    }
    return net;
}

std::string numberOfNet(const Circuit& circuit, const TerminalRef& terminal)
{
    const std::set<TerminalRef> net = netOf(circuit, terminal);
    for (const Wire& w : circuit.wires)
        if (net.contains(w.from) && !w.number.empty())
            return w.number;
    return {};
}

std::string nextNumber(const Circuit& circuit)
{
    double highest = 0;
    for (const Wire& w : circuit.wires)
        if (const auto n = numberFrom(w.number))
            highest = std::max(highest, *n);
    return std::to_string(static_cast<long long>(highest) + 1);
}

Expected<const Device*> deviceTagged(const Circuit& circuit, std::string_view tag)
{
    const Device* device = circuit.device(tag);
    if (!device)
        return refused(ErrorCode::NotFound, "scenario.no_device", {std::string(tag)});
    return device;
}

} // namespace

std::string nextTag(const Circuit& circuit, std::string_view letter)
{
    for (int k = 1;; ++k) {
        const std::string tag = std::string(letter) + std::to_string(k);
        if (!circuit.device(tag))
            return tag;
    }
}

Expected<DossierFile> withDevice(const DossierFile& file, Device device)
{
    const DeviceKind* kind = deviceKind(device.kind);
    if (!kind)
        return refused(ErrorCode::NotFound, "kind.unknown", {device.tag, device.kind});
    if (device.tag.empty())
        device.tag = nextTag(file.dossier.circuit, kind->letter);
    if (!canBeTag(device.tag))
        return refused(ErrorCode::Refused, "file.bad_tag", {device.tag});
    if (file.dossier.circuit.device(device.tag))
        return refused(ErrorCode::Refused, "file.duplicate_tag", {device.tag});
    DossierFile changed = file;
    device.id = {changed.nextId++};
    changed.dossier.circuit.devices.push_back(std::move(device));
    if (const auto body = bodyOf(changed.dossier.circuit, changed.dossier.circuit.devices.back()); !body)
        return Unexpected{body.error()};
    return changed;
}

Expected<DossierFile> withWire(const DossierFile& file, std::string_view from, std::string_view to, Wire wire)
{
    const auto a = terminalNamed(file.dossier.circuit, from), b = terminalNamed(file.dossier.circuit, to);
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    if (*a == *b)
        return refused(ErrorCode::Refused, "edit.wire_to_itself", {std::string(from)});
    if (!(wire.areaMm2 > 0.0 && wire.lengthM > 0.0))
        return refused(ErrorCode::OutOfRange, "edit.wire_size", {std::string(from), std::string(to)});
    DossierFile changed = file;
    Circuit& c = changed.dossier.circuit;
    if (wire.number.empty())
        wire.number = numberOfNet(c, *a);
    if (wire.number.empty())
        wire.number = numberOfNet(c, *b);
    if (wire.number.empty())
        wire.number = nextNumber(c);
    wire.id = {changed.nextId++};
    wire.from = *a;
    wire.to = *b;
    c.wires.push_back(std::move(wire));
    return changed;
}

RouteId routeNamed(const Circuit& circuit, std::string_view name)
{
    for (const Route& r : circuit.routes)
        if (r.name == name)
            return r.id;
    return {};
}

DossierFile withRoute(const DossierFile& file, std::string_view name, RouteKind kind)
{
    DossierFile changed = file;
    if (!routeNamed(file.dossier.circuit, name))
        changed.dossier.circuit.routes.push_back({{changed.nextId++}, std::string(name), kind});
    return changed;
}

Expected<DossierFile> withMechanicalInterlock(const DossierFile& file, std::string_view first, std::string_view second)
{
    const auto a = deviceTagged(file.dossier.circuit, first), b = deviceTagged(file.dossier.circuit, second);
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    DossierFile changed = file;
    changed.dossier.circuit.interlocks.push_back({(*a)->id, (*b)->id});
    return changed;
}

Expected<DossierFile> withBrakeOnShaft(const DossierFile& file, std::string_view brake, std::string_view motor)
{
    const auto a = deviceTagged(file.dossier.circuit, brake), b = deviceTagged(file.dossier.circuit, motor);
    if (!a || !b)
        return Unexpected{a ? b.error() : a.error()};
    DossierFile changed = file;
    changed.dossier.circuit.shafts.push_back({(*a)->id, (*b)->id});
    return changed;
}

DossierFile withScenario(const DossierFile& file, Scenario scenario)
{
    DossierFile changed = file;
    scenario.id = {changed.nextId++};
    changed.dossier.scenarios.push_back(std::move(scenario));
    return changed;
}

Expected<Dossier> withParts(const Dossier& dossier, const std::vector<Part>& parts)
{
    Dossier changed = dossier;
    Circuit& c = changed.circuit;
    for (const Part& part : parts) {
        std::erase_if(c.parts, [&](const Part& old) { return old.id == part.id; });
        c.parts.push_back(part);
    }
    for (const Device& d : c.devices)
        if (!d.part.empty())
            if (const auto body = bodyOf(c, d); !body)
                return Unexpected{body.error()};
    return changed;
}

} // namespace ts::edit
