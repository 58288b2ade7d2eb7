#include "core/checks/groups.h"
#include "core/library/registry.h"

#include <algorithm>

namespace ts::checks {
namespace {

Finding missing(Message what, std::string evidence, std::vector<std::string> tags = {})
{
    return {"claim", Severity::Stop, std::move(tags), std::move(what), message("consequence.claim"),
        message("mend.claim"), {}, message("evidence.text", {std::move(evidence)})};
}

/// A role that names a contact ("contact 11-12", "13-14") must be one of the device's elements.
bool hasRole(const Circuit& circuit, const Device& device, const std::string& role)
{
    const std::size_t blank = role.rfind(' ');
    const std::string last = blank == std::string::npos ? role : role.substr(blank + 1);
    const bool namesContact = last.find('-') != std::string::npos
        && last.find_first_of("0123456789") != std::string::npos;
    if (!namesContact)
        return true;
    const auto body = bodyOf(circuit, device);
    return body
        && std::any_of(body->elements.begin(), body->elements.end(), [&](const Element& e) { return e.role == last; });
}

bool isMotor(const Circuit& circuit, const Device& device)
{
    const auto body = bodyOf(circuit, device);
    return body && std::any_of(body->elements.begin(), body->elements.end(), [](const Element& e) {
        return std::holds_alternative<MotorElement>(e.what);
    });
}

void judgeSubsystem(const Circuit& c, const SafetyFunction& f, const ClaimedSubsystem& s, std::vector<Finding>& out)
{
    if (s.encapsulated && !c.device(s.encapsulated))
        out.push_back(missing(message("finding.claim.device", {f.name, s.name}), std::to_string(s.encapsulated.value)));
    for (const ClaimedChannel& channel : s.channels)
        for (const ClaimedPart& p : channel.parts) {
            const Device* device = c.device(p.device);
            if (!device)
                out.push_back(
                    missing(message("finding.claim.device", {f.name, s.name}), std::to_string(p.device.value)));
            else if (!hasRole(c, *device, p.role))
                out.push_back(missing(message("finding.claim.role", {f.name, device->tag, p.role}),
                    device->tag + " " + p.role, {device->tag}));
        }
}

} // namespace

void claimRefersToParts(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& c = input.dossier.circuit;
    for (const FunctionEvidence& e : input.functions) {
        const SafetyFunction& f = *e.function;
        if (!c.device(f.trigger.device))
            out.push_back(missing(message("finding.claim.trigger", {f.name}), std::to_string(f.trigger.device.value)));
        const bool restOk = !f.mustRest.empty() && std::all_of(f.mustRest.begin(), f.mustRest.end(), [&](DeviceId id) {
            const Device* d = c.device(id);
            return d && isMotor(c, *d);
        });
        if (!restOk)
            out.push_back(missing(message("finding.claim.rest", {f.name}), f.name));
        for (const ClaimedSubsystem& s : f.claim)
            judgeSubsystem(c, f, s, out);
    }
}

} // namespace ts::checks
