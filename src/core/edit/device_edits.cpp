#include "core/edit/device_edits.h"

#include "core/edit/circuit_edits.h"
#include "core/edit/refused.h"
#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>

namespace ts::edit {
namespace {

Device* deviceIn(Circuit& c, DeviceId id)
{
    const auto it = std::find_if(c.devices.begin(), c.devices.end(), [id](const Device& d) { return d.id == id; });
    return it == c.devices.end() ? nullptr : &*it;
}

Unexpected noDevice()
{
    return refused(ErrorCode::NotFound, "edit.no_device", {});
}

/// The device with its change, if its kind takes it and every wire still finds its terminal.
Expected<DossierFile> checked(DossierFile changed, DeviceId id)
{
    const Circuit& c = changed.dossier.circuit;
    const Device& device = *c.device(id);
    const auto body = bodyOf(c, device);
    if (!body)
        return Unexpected{body.error()};
    for (const Wire& w : c.wires)
        for (const TerminalRef& end : {w.from, w.to})
            if (end.device == id && !mustBeThere(c, end))
                return refused(ErrorCode::Refused, "edit.terminal_goes", {c.nameOf(end), w.number});
    return changed;
}

bool isControlContact(const Element& e)
{
    const auto* contact = std::get_if<ContactElement>(&e.what);
    return contact && (contact->kind == ContactKind::NormallyOpen || contact->kind == ContactKind::NormallyClosed)
        && !e.role.empty();
}

/// "Q1", "Q1.L1", "Q1/main:welded", "Q1:13:to_earth": the tag ends where one of these marks begins.
std::string withTagIn(const std::string& target, const std::string& from, const std::string& to)
{
    if (!target.starts_with(from))
        return target;
    const std::string rest = target.substr(from.size());
    return rest.empty() || rest.find_first_of("./:") == 0 ? to + rest : target;
}

bool speaksOf(const Dossier& dossier, const Device& device)
{
    for (const SafetyFunction& f : dossier.functions) {
        if (f.isTriggeredBy(device.id)
            || std::find(f.mustRest.begin(), f.mustRest.end(), device.id) != f.mustRest.end())
            return true;
        for (const ClaimedSubsystem& s : f.claim) {
            if (s.encapsulated == device.id)
                return true;
            for (const ClaimedChannel& channel : s.channels)
                for (const ClaimedPart& part : channel.parts)
                    if (part.device == device.id)
                        return true;
        }
    }
    const auto isOf = [&](const std::string& target) { return withTagIn(target, device.tag, "?") != target; };
    for (const Scenario& s : dossier.scenarios)
        if (std::any_of(s.steps.begin(), s.steps.end(), [&](const Step& step) { return isOf(step.target); })
            || std::any_of(
                s.expectations.begin(), s.expectations.end(), [&](const Expectation& e) { return isOf(e.subject); }))
            return true;
    return false;
}

} // namespace

Expected<ContactBudget> contactBudget(const Circuit& circuit, DeviceId id)
{
    const Device* device = circuit.device(id);
    if (!device)
        return noDevice();
    const auto body = bodyOf(circuit, *device);
    if (!body)
        return Unexpected{body.error()};
    ContactBudget budget;
    budget.takesBlocks = !deviceKind(device->kind)->blocks.empty();
    for (std::size_t e = 0; e < body->elements.size(); ++e) {
        const Element& element = body->elements[e];
        if (!isControlContact(element))
            continue;
        int end = element.terminals[1];
        if (body->terminals[static_cast<std::size_t>(end)].inner && e + 1 < body->elements.size()) // two contacts in
                                                                                                   // series inside
            end = body->elements[e + 1].terminals[1];
        ContactUse use{element.role, std::get<ContactElement>(element.what).kind, {}, false};
        use.ends = {{id, body->terminals[static_cast<std::size_t>(element.terminals[0])].marking},
            {id, body->terminals[static_cast<std::size_t>(end)].marking}};
        if (body->terminals[static_cast<std::size_t>(element.terminals[0])].inner)
            continue;
        use.isUsed = wireCount(circuit, use.ends.a) + wireCount(circuit, use.ends.b) > 0;
        budget.contacts.push_back(std::move(use));
    }
    return budget;
}

Expected<DossierFile> withEnclosure(const DossierFile& file, std::string_view size)
{
    Device box;
    box.kind = "exposed_part";
    box.tag = nextTag(file.dossier.circuit, deviceKind(box.kind)->letter);
    box.place = "plate";
    std::string_view rest = size;
    for (const char* name : {"width_m", "height_m", "depth_m"}) {
        rest.remove_prefix(std::min(rest.find_first_not_of(' '), rest.size()));
        const std::size_t end = std::min(rest.find(' '), rest.size());
        const auto metres = numberFrom(rest.substr(0, end));
        if (!metres)
            return failure(ErrorCode::OutOfRange, message("edit.enclosure", {std::string(size)}));
        box.parameters[name] = *metres;
        rest.remove_prefix(end);
    }
    if (rest.find_first_not_of(' ') != rest.npos)
        return failure(ErrorCode::OutOfRange, message("edit.enclosure", {std::string(size)}));
    return withDevice(file, std::move(box));
}

Expected<AddedContact> withContactAdded(const DossierFile& file, DeviceId id, ContactKind kind)
{
    DossierFile changed = file;
    Device* device = deviceIn(changed.dossier.circuit, id);
    if (!device)
        return noDevice();
    const std::string_view list = deviceKind(device->kind)->blocks;
    if (list.empty())
        return refused(ErrorCode::Refused, "edit.no_block", {device->tag});
    const auto parameters = parametersOf(changed.dossier.circuit, *device);
    if (!parameters)
        return Unexpected{parameters.error()};
    std::vector<std::string> names = parameters->words(list);
    const auto isTaken = [&](const std::string& n) {
        return std::any_of(names.begin(), names.end(),
            [&](const std::string& name) { return name.starts_with(n) && name.find('-') == n.size() + 1; });
    };
    int k = 1;
    while (isTaken(std::to_string(k)))
        ++k;
    const std::string n = std::to_string(k);
    names.push_back(kind == ContactKind::NormallyOpen ? n + "3-" + n + "4" : n + "1-" + n + "2");
    device->parameters[std::string(list)] = names;
    auto result = checked(std::move(changed), id);
    if (!result)
        return Unexpected{result.error()};
    const auto budget = contactBudget(result->dossier.circuit, id);
    const auto it = std::find_if(
        budget->contacts.begin(), budget->contacts.end(), [&](const ContactUse& c) { return c.role == names.back(); });
    return AddedContact{std::move(*result), *it};
}

Expected<DossierFile> withPartOf(const DossierFile& file, DeviceId id, const std::string& part)
{
    DossierFile changed = file;
    Device* device = deviceIn(changed.dossier.circuit, id);
    if (!device)
        return noDevice();
    device->part = part;
    return checked(std::move(changed), id);
}

Expected<DossierFile> withValue(const DossierFile& file, DeviceId id, std::string_view parameter, std::string_view text)
{
    DossierFile changed = file;
    Device* device = deviceIn(changed.dossier.circuit, id);
    if (!device)
        return noDevice();
    if (text.empty()) {
        device->parameters.erase(std::string(parameter));
        return checked(std::move(changed), id);
    }
    const auto values = parametersFromText(
        deviceKind(device->kind)->parameters, std::string(parameter) + "=" + std::string(text));
    if (!values)
        return Unexpected{values.error()};
    for (const auto& [name, value] : *values)
        device->parameters[name] = value;
    return checked(std::move(changed), id);
}

Expected<DossierFile> withPartValue(
    const DossierFile& file, const std::string& id, std::string_view parameter, std::string_view text)
{
    DossierFile changed = file;
    auto& parts = changed.dossier.circuit.parts;
    const auto part = std::find_if(parts.begin(), parts.end(), [&id](const Part& p) { return p.id == id; });
    const DeviceKind* kind = part == parts.end() ? nullptr : deviceKind(part->kind);
    if (!kind)
        return refused(ErrorCode::NotFound, "edit.no_such_part", {id});
    part->parameters.erase(std::string(parameter));
    const auto values = text.empty()
        ? Expected<ParameterMap>(ParameterMap{})
        : parametersFromText(kind->parameters, std::string(parameter) + "=" + std::string(text));
    if (!values)
        return Unexpected{values.error()};
    for (const auto& [name, value] : *values)
        part->parameters[name] = value;
    for (const Device& d : file.dossier.circuit.devices)
        if (d.part == id)
            if (auto fits = checked(DossierFile(changed), d.id); !fits)
                return fits;
    return changed;
}

Expected<DossierFile> withTag(const DossierFile& file, DeviceId id, const std::string& tag)
{
    DossierFile changed = file;
    Device* device = deviceIn(changed.dossier.circuit, id);
    if (!device)
        return noDevice();
    if (!canBeTag(tag))
        return refused(ErrorCode::Refused, "file.bad_tag", {tag});
    if (const Device* other = file.dossier.circuit.device(tag); other && other->id != id)
        return refused(ErrorCode::Refused, "file.duplicate_tag", {tag});
    for (Scenario& s : changed.dossier.scenarios) {
        for (Step& step : s.steps)
            step.target = withTagIn(step.target, device->tag, tag);
        for (Expectation& e : s.expectations)
            e.subject = withTagIn(e.subject, device->tag, tag);
    }
    device->tag = tag;
    return changed;
}

Expected<DossierFile> withLabel(const DossierFile& file, DeviceId id, const std::string& label)
{
    DossierFile changed = file;
    Device* device = deviceIn(changed.dossier.circuit, id);
    if (!device)
        return noDevice();
    device->label = label;
    return changed;
}

Expected<DossierFile> withRemark(const DossierFile& file, DeviceId id, const std::string& remark)
{
    DossierFile changed = file;
    Device* device = deviceIn(changed.dossier.circuit, id);
    if (!device)
        return noDevice();
    device->remark = remark;
    return changed;
}

Expected<DossierFile> withoutDevice(const DossierFile& file, DeviceId id)
{
    const Device* device = file.dossier.circuit.device(id);
    if (!device)
        return noDevice();
    if (speaksOf(file.dossier, *device))
        return refused(ErrorCode::Refused, "edit.spoken_of", {device->tag});
    std::set<TerminalRef> wired;
    for (const Wire& w : file.dossier.circuit.wires)
        for (const TerminalRef& end : {w.from, w.to})
            if (end.device == id)
                wired.insert(end);
    auto changed = withTerminalsFreed(file, {wired.begin(), wired.end()});
    if (!changed)
        return changed;
    Circuit& c = changed->dossier.circuit;
    std::erase_if(c.devices, [id](const Device& d) { return d.id == id; });
    std::erase_if(c.interlocks, [id](const MechanicalInterlock& i) { return i.first == id || i.second == id; });
    std::erase_if(c.shafts, [id](const Shaft& s) { return s.brake == id || s.motor == id; });
    return changed;
}

DossierFile withDrawingOrder(const DossierFile& file, const std::vector<DeviceId>& order)
{
    constexpr int kSpacing = 100; ///< room for later ones between neighbours
    DossierFile changed = file;
    for (Device& d : changed.dossier.circuit.devices) {
        const auto it = std::find(order.begin(), order.end(), d.id);
        d.rank = it == order.end() ? 0 : kSpacing * static_cast<int>(it - order.begin() + 1);
    }
    return changed;
}

} // namespace ts::edit
