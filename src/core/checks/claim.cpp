#include "core/checks/groups.h"
#include "core/library/registry.h"

#include <algorithm>

namespace ts::checks {
namespace {

Finding missing(const SafetyFunction& f, Message what, std::string evidence, std::vector<std::string> tags = {})
{
    return {{}, Severity::Stop, std::move(tags), std::move(what), message("consequence.claim"), message("mend.claim"),
        {}, message("evidence.text", {std::move(evidence)}), {.aspect = Target::Aspect::Claim, .function = f.id}};
}

/// What a claim points at must be there: one of the device's elements, something of it that moves, or its main poles.
bool hasElement(const Circuit& circuit, const Device& device, const std::string& element)
{
    const auto body = bodyOf(circuit, device);
    if (element.empty() || !body)
        return element.empty();
    const auto isMain = [](const Element& e) {
        const auto* contact = std::get_if<ContactElement>(&e.what);
        return contact && contact->kind == ContactKind::Main;
    };
    return std::any_of(body->elements.begin(), body->elements.end(), [&](const Element& e) {
        return e.role == element || (element == "main" && isMain(e));
    }) || std::any_of(body->movers.begin(), body->movers.end(), [&](const MoverSpec& m) { return m.role == element; });
}

void judgeSubsystem(const Circuit& c, const SafetyFunction& f, const ClaimedSubsystem& s, std::vector<Finding>& out)
{
    if (s.encapsulated && !c.device(s.encapsulated))
        out.push_back(
            missing(f, message("finding.claim.device", {f.name, s.name}), std::to_string(s.encapsulated.value)));
    for (const ClaimedChannel& channel : s.channels)
        for (const ClaimedPart& p : channel.parts) {
            const Device* device = c.device(p.device);
            if (!device)
                out.push_back(
                    missing(f, message("finding.claim.device", {f.name, s.name}), std::to_string(p.device.value)));
            else if (!hasElement(c, *device, p.element))
                out.push_back(missing(f, message("finding.claim.role", {f.name, device->tag, elementWords(p.element)}),
                    partWords(device->tag, p.element), {device->tag}));
        }
}

} // namespace

void claimRefersToParts(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& c = input.dossier.circuit;
    for (const SafetyFunction& f : input.dossier.functions) {
        const bool hasAll = std::all_of(
            f.alsoBy.begin(), f.alsoBy.end(), [&c](const Trigger& t) { return c.device(t.device) != nullptr; });
        if (!c.device(f.trigger.device) || !hasAll)
            out.push_back(
                missing(f, message("finding.claim.trigger", {f.name}), std::to_string(f.trigger.device.value)));
        const bool restOk = !f.mustRest.empty() && std::all_of(f.mustRest.begin(), f.mustRest.end(), [&](DeviceId id) {
            const Device* d = c.device(id);
            return d && isActuator(*d);
        });
        if (!restOk)
            out.push_back(missing(f, message("finding.claim.rest", {f.name}), f.name));
        for (const ClaimedSubsystem& s : f.claim)
            judgeSubsystem(c, f, s, out);
    }
}

} // namespace ts::checks
