#include "core/checks/groups.h"
#include "core/exploration/directed.h"
#include "core/library/registry.h"
#include "core/results/subjects.h"

#include <algorithm>

namespace ts::checks {
namespace {

using exploration::StopSeen;

std::string tagOf(const Dossier& dossier, DeviceId id)
{
    const Device* device = dossier.circuit.device(id);
    return device ? device->tag : "?";
}

bool isToRest(const SafetyFunction& f, DeviceId motor)
{
    return std::find(f.mustRest.begin(), f.mustRest.end(), motor) != f.mustRest.end();
}

bool isEmergencyStop(const Dossier& dossier, DeviceId id)
{
    const Device* device = dossier.circuit.device(id);
    return device && deviceKind(device->kind)->traits.protects == KindTraits::Protects::EmergencyStop;
}

Finding about(
    const Dossier& dossier, DeviceId device, Severity severity, Message what, const char* consequence, const char* mend)
{
    return {{}, severity, {tagOf(dossier, device)}, std::move(what), message(consequence), message(mend), {},
        message("evidence.directed"), {.aspect = Target::Aspect::Circuit, .device = device}};
}

void judgeStop(const Dossier& dossier, const StopSeen& seen, std::vector<Finding>& out)
{
    const std::string tag = tagOf(dossier, seen.device);
    bool isTrigger = false;
    for (const SafetyFunction& f : dossier.functions)
        isTrigger = isTrigger || (f.isTriggeredBy(seen.device) && f.reliedOnByPerson);
    if (!isTrigger && seen.isLocked) {
        out.push_back(about(dossier, seen.device, Severity::Note, message("finding.device.locked", {tag}),
            "consequence.device.locked", "mend.device.locked"));
        return;
    }
    if (!isTrigger) {
        out.push_back(about(dossier, seen.device, Severity::Stop, message("finding.device.no_function", {tag}),
            "consequence.device.no_function", "mend.device.no_function"));
        out.back().target.aspect = Target::Aspect::Demand; // where it is mended
    }
    for (DeviceId motor : seen.kept) {
        const auto names = [&](const SafetyFunction& f) { return f.isTriggeredBy(seen.device) && isToRest(f, motor); };
        const auto& functions = dossier.functions;
        const auto f = std::find_if(functions.begin(), functions.end(), names);
        const bool isNamed = f != functions.end();
        if (!isNamed && !isEmergencyStop(dossier, seen.device))
            continue; // a guard stops what is behind it
        Finding finding = about(dossier, seen.device, isNamed ? Severity::Stop : Severity::Fix,
            message(
                isNamed ? "finding.device.does_not_stop" : "finding.device.outside_span", {tag, tagOf(dossier, motor)}),
            isNamed ? "consequence.device.does_not_stop" : "consequence.device.outside_span",
            isNamed ? "mend.device.does_not_stop" : "mend.device.outside_span");
        finding.devices.push_back(tagOf(dossier, motor));
        finding.evidence = message("evidence.start", {seen.said});
        if (isNamed)
            finding.target = {.aspect = Target::Aspect::Demand, .device = seen.device, .function = f->id};
        out.push_back(std::move(finding));
    }
    if (seen.stopped.empty() && seen.kept.empty() && !seen.isLocked)
        out.push_back(about(dossier, seen.device, Severity::Fix, message("finding.device.untried", {tag}),
            "consequence.device.untried", "mend.device.untried"));
}

/// Names of contacts by their two terminals.
bool isContactList(const ParameterSpec& spec)
{
    return spec.type == ParameterSpec::Type::WordList
        && (spec.name.ends_with("contacts") || spec.name.ends_with("outputs"));
}

/// Something of it stays as it is when the hand is taken away.
bool staysOperated(const Circuit& circuit, const Device& device)
{
    const auto body = bodyOf(circuit, device);
    return !body || body->movers.empty() // found fault with elsewhere; a supply that goes is no device to be let go
        || std::any_of(body->movers.begin(), body->movers.end(), [](const MoverSpec& m) { return m.latches; });
}

/// Something that carries or clamps lets go: by a stop never, without power not unnoticed.
void judgeRelease(const Dossier& dossier, const exploration::ReleaseSeen& r, std::vector<Finding>& out)
{
    using exploration::Departure;
    const std::string held = tagOf(dossier, r.held), what = r.what ? tagOf(dossier, r.what) : std::string();
    const bool isSupply = r.departure == Departure::SupplyLost || r.departure == Departure::PhaseLost
        || r.departure == Departure::SwitchOpened;
    const bool isStop = r.departure == Departure::EmergencyStop || r.departure == Departure::Guard;
    Finding f = about(dossier, r.held,
        isSupply     ? Severity::Note
            : isStop ? Severity::Stop
                     : Severity::Fix,
        message(isSupply ? "finding.held.supply" : "finding.held.released",
            {held, "@leaving." + std::string(nameOf(r.departure)), what.empty() ? what : " (" + what + ")"}),
        "consequence.held", isSupply ? "mend.held.supply" : "mend.held.released");
    f.evidence = message("evidence.start", {r.said});
    if (!what.empty())
        f.devices.push_back(what);
    out.push_back(std::move(f));
}

} // namespace

void everyMotorStops(const CheckInput& input, std::vector<Finding>& out)
{
    for (const Subject& motor : subjectsOf(Subject::Kind::Motor, input.dossier)) {
        if (mustHold(input.dossier.circuit, *input.dossier.circuit.device(motor.motor())))
            continue; // its rest is to go on holding
        const auto& functions = input.dossier.functions;
        if (std::any_of(functions.begin(), functions.end(),
                [&](const SafetyFunction& f) { return f.reliedOnByPerson && isToRest(f, motor.motor()); }))
            continue;
        Finding f = about(input.dossier, motor.motor(), Severity::Stop,
            message("finding.motor.no_function", {tagOf(input.dossier, motor.motor())}),
            "consequence.motor.no_function", "mend.motor.no_function");
        f.target.aspect = Target::Aspect::Demand; // where it is mended
        f.evidence = message("evidence.functions", {static_cast<long long>(functions.size())});
        out.push_back(std::move(f));
    }
}

void everyWireIsLaid(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& c = input.dossier.circuit;
    const auto isNowhere = [&c](const Wire& w) { return !c.route(w.route); };
    const auto count = std::count_if(c.wires.begin(), c.wires.end(), isNowhere);
    if (count == 0)
        return;
    const Wire& first = *std::find_if(c.wires.begin(), c.wires.end(), isNowhere);
    Finding f{{}, Severity::Fix, {}, message("finding.wire.nowhere", {static_cast<long long>(count)}),
        message("consequence.wire.nowhere"), message("mend.wire.nowhere"), {},
        message("evidence.text", {c.nameOf(first.from) + " - " + c.nameOf(first.to)}),
        {.aspect = Target::Aspect::Circuit, .device = first.from.device, .wire = first.id}};
    out.push_back(std::move(f));
}

void everyContactIsKnown(const CheckInput& input, std::vector<Finding>& out)
{
    for (const Device& d : input.dossier.circuit.devices)
        for (const std::string& pair : unknownContacts(input.dossier.circuit, d))
            out.push_back({{}, Severity::Stop, {d.tag}, message("finding.contact.unknown", {d.tag, pair}),
                message("consequence.contact.unknown"), message("mend.contact.unknown"), {},
                message("evidence.contact", {pair, d.tag}), {.aspect = Target::Aspect::Circuit, .device = d.id}});
}

void contactsAreOnTheirPart(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& circuit = input.dossier.circuit;
    for (const Device& d : circuit.devices) {
        const Part* part = circuit.part(d.part);
        const DeviceKind* kind = deviceKind(d.kind);
        if (!part || !kind)
            continue;
        for (const ParameterSpec& spec : kind->parameters) {
            const auto own = d.parameters.find(spec.name);
            const auto sheet = part->parameters.find(spec.name);
            if (!isContactList(spec) || spec.name == kind->blocks || own == d.parameters.end()
                || sheet == part->parameters.end())
                continue;
            const auto& has = std::get<std::vector<std::string>>(sheet->second);
            for (const std::string& contact : std::get<std::vector<std::string>>(own->second))
                if (std::find(has.begin(), has.end(), contact) == has.end())
                    out.push_back({{}, Severity::Fix, {d.tag},
                        message("finding.contact.not_on_part", {d.tag, contact, part->name}),
                        message("consequence.contact.not_on_part"), message("mend.contact.not_on_part"), {},
                        message("evidence.contact", {contact, d.tag}),
                        {.aspect = Target::Aspect::Circuit, .device = d.id}});
        }
    }
}

void exclusionsHaveReasons(const CheckInput& input, std::vector<Finding>& out)
{
    for (const FaultExclusion& e : input.dossier.exclusions)
        if (e.reason.find_first_not_of(" \t\n") == std::string::npos)
            out.push_back({{}, Severity::Fix, {}, message("finding.exclusion.no_reason", {e.fault}),
                message("consequence.exclusion.no_reason"), message("mend.exclusion.no_reason"), {},
                message("evidence.text", {e.fault}), {}});
}

bool hasExclusions(const Dossier& dossier, const Subject&)
{
    return !dossier.exclusions.empty();
}

void emergencyStopsLatch(const CheckInput& input, std::vector<Finding>& out)
{
    const Dossier& d = input.dossier;
    const auto& devices = d.circuit.devices;
    const bool isAny = std::any_of(d.functions.begin(), d.functions.end(), [](const auto& f) {
        return f.emergencyStop;
    }) || std::any_of(devices.begin(), devices.end(), [&](const Device& x) { return isEmergencyStop(d, x.id); });
    const auto moving = std::find_if(devices.begin(), devices.end(), [](const Device& x) { return isActuator(x); });
    if (!isAny && moving != devices.end()) {
        Finding f = about(
            d, moving->id, Severity::Fix, message("finding.estop.none"), "consequence.estop.none", "mend.estop.none");
        f.evidence = message("evidence.functions", {static_cast<long long>(d.functions.size())});
        out.push_back(std::move(f));
    }
    std::vector<DeviceId> told;
    for (const SafetyFunction& f : d.functions)
        for (const Device& x : devices) {
            if (!f.emergencyStop || !f.isTriggeredBy(x.id) || deviceKind(x.kind)->traits.isFromElsewhere
                || staysOperated(d.circuit, x) || std::find(told.begin(), told.end(), x.id) != told.end())
                continue;
            told.push_back(x.id);
            Finding finding = about(d, x.id, Severity::Stop, message("finding.estop.unlatched", {x.tag, f.name}),
                "consequence.estop.unlatched", "mend.estop.unlatched");
            finding.evidence = message("evidence.kind", {"@kind." + x.kind});
            out.push_back(std::move(finding));
        }
}

void whatHoldsGoesOn(const CheckInput& input, std::vector<Finding>& out)
{
    if (const auto seen = input.results.find(kDirected))
        for (const exploration::ReleaseSeen& r : seen->releases)
            judgeRelease(input.dossier, r, out);
}

void protectiveDevicesStop(const CheckInput& input, std::vector<Finding>& out)
{
    const auto seen = input.results.find(kDirected);
    if (!seen)
        return;
    for (const StopSeen& s : seen->stops)
        judgeStop(input.dossier, s, out);
    if (seen->undecided + seen->leftOut > 0)
        out.push_back({{}, seen->undecidedFreely + seen->leftOut > 0 ? Severity::Fix : Severity::Note, {},
            message("finding.directed.partly",
                {static_cast<long long>(seen->undecided), static_cast<long long>(seen->leftOut)}),
            message("consequence.directed.partly"), message("mend.directed.partly"), {},
            seen->undecidedSaid.empty() ? message("evidence.runs", {static_cast<long long>(seen->runs)})
                                        : message("evidence.start", {seen->undecidedSaid}),
            {}});
    for (DeviceId motor : seen->neverRan)
        out.push_back(about(input.dossier, motor, Severity::Fix,
            message("finding.motor.never_ran", {tagOf(input.dossier, motor)}), "consequence.motor.never_ran",
            "mend.motor.never_ran"));
}

} // namespace ts::checks
