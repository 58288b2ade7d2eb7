#include "core/library/registry.h"

#include "core/library/contact_rating.h"
#include "core/library/kinds/kinds.h"

#include <algorithm>
#include <array>
#include <list>
#include <vector>

namespace ts {
namespace {

/// What a device of any kind can say.
constexpr std::array kCommonParameters{
    ParameterSpec{"marks", ParameterSpec::Type::WordList, 0, 0, {}, "", {}, "assumed"}};

/// A kind with the parameters of all kinds behind its own.
struct WholeKind {
    explicit WholeKind(const DeviceKind& own)
        : parameters(own.parameters.begin(), own.parameters.end())
        , kind(own)
    {
        parameters.insert(parameters.end(), kCommonParameters.begin(), kCommonParameters.end());
        kind.parameters = parameters;
    }
    WholeKind(const WholeKind&) = delete;
    std::vector<ParameterSpec> parameters;
    DeviceKind kind;
};

bool isNamedByItsList(const Body& body, int terminal)
{
    return std::any_of(body.elements.begin(), body.elements.end(), [terminal](const Element& e) {
        const auto* contact = std::get_if<ContactElement>(&e.what);
        return contact && !e.role.empty()
            && (contact->kind == ContactKind::NormallyOpen || contact->kind == ContactKind::NormallyClosed)
            && (e.terminals[0] == terminal || e.terminals[1] == terminal);
    });
}

bool isMarking(std::string_view text)
{
    return !text.empty() && text.size() <= 12 && text.find_first_of(":-+/= ") == text.npos;
}

/// "A1=2": terminal A1 is printed as 2 on this device. A pole is called by its terminals, so its name follows.
Expected<void> printMarks(Body& body, const std::vector<std::string>& marks, std::string_view tag)
{
    const auto refuse = [&](const char* id, const std::string& what) {
        return failure(ErrorCode::Refused, message(id, {std::string(tag), what}));
    };
    std::vector<std::string> printed;
    for (const TerminalSpec& t : body.terminals)
        printed.push_back(t.marking);
    for (const std::string& mark : marks) {
        const std::size_t equals = mark.find('=');
        const std::string own = mark.substr(0, equals), as = equals == mark.npos ? "" : mark.substr(equals + 1);
        const auto it = std::find_if(body.terminals.begin(), body.terminals.end(),
            [&own](const TerminalSpec& t) { return !t.inner && t.marking == own; });
        if (!isMarking(as) || it == body.terminals.end())
            return refuse("kind.mark", mark);
        const auto terminal = it - body.terminals.begin();
        if (isNamedByItsList(body, static_cast<int>(terminal)))
            return refuse("kind.mark_of_contact", own);
        printed[static_cast<std::size_t>(terminal)] = as;
    }
    for (Element& e : body.elements)
        if (e.terminals[0] >= 0 && e.terminals[1] >= 0) {
            const auto p = static_cast<std::size_t>(e.terminals[0]), q = static_cast<std::size_t>(e.terminals[1]);
            if (e.role == body.terminals[p].marking + "-" + body.terminals[q].marking)
                e.role = printed[p] + "-" + printed[q];
        }
    for (std::size_t t = 0; t < printed.size(); ++t)
        body.terminals[t].marking = printed[t];
    for (std::size_t t = 0; t < printed.size(); ++t)
        if (std::find(printed.begin(), printed.begin() + static_cast<std::ptrdiff_t>(t), printed[t])
            != printed.begin() + static_cast<std::ptrdiff_t>(t))
            return refuse("kind.mark_twice", printed[t]);
    return {};
}

} // namespace

std::span<const DeviceKind* const> deviceKinds()
{
    static const std::list<WholeKind> whole = [] {
        std::list<WholeKind> made;
        for (const DeviceKind* kind :
            {&kinds::brake, &kinds::breaker, &kinds::contactor, &kinds::contactorRelay, &kinds::controllerInput,
                &kinds::controlTransformer, &kinds::currentMonitor, &kinds::currentTransformer, &kinds::drive,
                &kinds::emergencyStop, &kinds::enablingSwitch, &kinds::exposedPart, &kinds::externalCall, &kinds::fuse,
                &kinds::guardSwitch, &kinds::heater, &kinds::heaterThreePhase, &kinds::horn, &kinds::keySwitch,
                &kinds::lamp, &kinds::lightCurtain, &kinds::motor, &kinds::motorDirect, &kinds::motorProtectionSwitch,
                &kinds::motorSinglePhase, &kinds::overloadRelay, &kinds::phaseMonitor, &kinds::plugInRelay,
                &kinds::pushButton, &kinds::relayExtension, &kinds::resistor, &kinds::safetyController,
                &kinds::safetyRelay, &kinds::selector, &kinds::softStarter, &kinds::solenoid, &kinds::solidStateRelay,
                &kinds::standstillMonitor, &kinds::supply24VDc, &kinds::supplyExternal, &kinds::supplySinglePhase,
                &kinds::supplyThreePhase, &kinds::switchDisconnector, &kinds::terminalBlock, &kinds::timer})
            made.emplace_back(*kind);
        return made;
    }();
    static const auto sorted = [] {
        std::vector<const DeviceKind*> kinds;
        for (const WholeKind& w : whole)
            kinds.push_back(&w.kind);
        std::sort(kinds.begin(), kinds.end(), [](auto* a, auto* b) { return a->id < b->id; });
        return kinds;
    }();
    return sorted;
}

const DeviceKind* deviceKind(std::string_view id)
{
    const auto all = deviceKinds();
    const auto it = std::find_if(all.begin(), all.end(), [id](const DeviceKind* k) { return k->id == id; });
    return it == all.end() ? nullptr : *it;
}

ParameterMap writtenValues(const Circuit& circuit, const Device& device)
{
    ParameterMap all = device.parameters;
    if (const Part* part = circuit.part(device.part))
        all.insert(part->parameters.begin(), part->parameters.end());
    return all;
}

std::vector<std::string> unknownContacts(const Circuit& circuit, const Device& device)
{
    std::vector<std::string> pairs;
    for (const auto& [name, value] : writtenValues(circuit, device))
        if (const auto* words = std::get_if<std::vector<std::string>>(&value))
            for (const std::string& word : *words)
                if (word.ends_with(kUnknownContact))
                    pairs.push_back(word.substr(0, word.size() - kUnknownContact.size()));
    return pairs;
}

bool mustHold(const Circuit& circuit, const Device& device)
{
    const auto body = bodyOf(circuit, device);
    return body && std::any_of(body->movers.begin(), body->movers.end(), [](const MoverSpec& m) { return m.holds; });
}

bool isActuator(const Device& device)
{
    const DeviceKind* kind = deviceKind(device.kind);
    return kind && kind->traits.isActuator;
}

bool standsOnDoor(const Device& device)
{
    if (!device.place.empty())
        return device.place == "door";
    const DeviceKind* kind = deviceKind(device.kind);
    return kind
        && (kind->look == "button" || kind->look == "emergency_stop" || kind->look == "selector" || kind->look == "lamp"
            || kind->look == "horn");
}

Expected<Parameters> parametersOf(const Circuit& circuit, const Device& device)
{
    const DeviceKind* kind = deviceKind(device.kind);
    if (!kind)
        return failure(ErrorCode::NotFound, message("kind.unknown", {device.tag, device.kind}));
    const Part* part = nullptr;
    if (!device.part.empty()) {
        part = circuit.part(device.part);
        if (!part)
            return failure(ErrorCode::NotFound, message("part.unknown", {device.tag, device.part}));
        if (part->kind != device.kind)
            return failure(ErrorCode::Refused, message("part.other_kind", {device.tag, device.part, part->kind}));
    }
    return Parameters::resolve(kind->parameters, part ? &part->parameters : nullptr, device.parameters, device.tag);
}

Expected<Body> bodyOf(const Circuit& circuit, const Device& device, Timing timing)
{
    const auto parameters = parametersOf(circuit, device);
    if (!parameters)
        return Unexpected{parameters.error()};
    if (auto ok = checkRatings(deviceKind(device.kind)->parameters, *parameters); !ok)
        return Unexpected{ok.error()};
    auto body = deviceKind(device.kind)->body(*parameters, timing);
    if (!body)
        return body;
    if (auto ok = printMarks(*body, parameters->words("marks"), device.tag); !ok)
        return Unexpected{ok.error()};
    return body;
}

} // namespace ts
