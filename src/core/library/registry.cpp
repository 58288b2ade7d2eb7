#include "core/library/registry.h"

#include "core/library/kinds/kinds.h"

#include <algorithm>
#include <array>

namespace ts {

std::span<const DeviceKind* const> deviceKinds()
{
    static const auto sorted = [] {
        std::array kinds{&kinds::brake, &kinds::breaker, &kinds::contactor, &kinds::contactorRelay,
            &kinds::controllerInput, &kinds::controlTransformer, &kinds::currentMonitor, &kinds::currentTransformer,
            &kinds::drive, &kinds::emergencyStop, &kinds::externalCall, &kinds::fuse, &kinds::guardSwitch,
            &kinds::heater, &kinds::horn, &kinds::lamp, &kinds::lightCurtain, &kinds::motor,
            &kinds::motorProtectionSwitch, &kinds::overloadRelay, &kinds::phaseMonitor, &kinds::plugInRelay,
            &kinds::pushButton, &kinds::safetyController, &kinds::safetyRelay, &kinds::selector, &kinds::softStarter,
            &kinds::solenoid, &kinds::solidStateRelay, &kinds::supply24VDc, &kinds::supplyExternal,
            &kinds::supplySinglePhase, &kinds::supplyThreePhase, &kinds::switchDisconnector, &kinds::terminalBlock,
            &kinds::timer};
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
    return deviceKind(device.kind)->body(*parameters, timing);
}

} // namespace ts
