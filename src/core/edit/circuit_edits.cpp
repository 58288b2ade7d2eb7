#include "core/edit/circuit_edits.h"

#include "core/edit/refused.h"
#include "core/edit/wiring.h"
#include "core/library/registry.h"

#include <algorithm>

namespace ts::edit {
namespace {

Expected<const Device*> deviceTagged(const Circuit& circuit, std::string_view tag)
{
    const Device* device = circuit.device(tag);
    if (!device)
        return refused(ErrorCode::NotFound, "scenario.no_device", {std::string(tag)});
    return device;
}

} // namespace

bool canBeTag(std::string_view tag)
{
    return !tag.empty() && tag.size() <= 24 && tag.find_first_of(":/+. \t\n") == tag.npos;
}

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
        wire.number = numberAt(c, *a);
    if (wire.number.empty())
        wire.number = numberAt(c, *b);
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
