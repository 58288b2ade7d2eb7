#include "core/measuring/occasions.h"

#include "core/library/registry.h"

#include <algorithm>
#include <array>

namespace ts::measuring {
namespace {

bool isProtective(const Circuit& circuit, const std::string& operation)
{
    const Device* d = circuit.device(std::string_view(operation).substr(0, operation.find(' ')));
    const DeviceKind* kind = d ? deviceKind(d->kind) : nullptr;
    return kind && kind->traits.protects != KindTraits::Protects::Nothing;
}

bool isOfStop(const TestStep& s, const Circuit& circuit)
{
    return (s.stage == Stage::Stops || s.stage == Stage::Times)
        && std::any_of(s.in.bring.begin(), s.in.bring.end(),
            [&circuit](const std::string& operation) { return isProtective(circuit, operation); });
}

/// Of the device, or of a wire at it.
bool isAbout(const std::string& part, const Circuit& circuit, const Device& device)
{
    if (part == device.tag || part.starts_with(device.tag + "/"))
        return true;
    return std::any_of(circuit.wires.begin(), circuit.wires.end(), [&](const Wire& w) {
        return part == "wire/" + std::to_string(w.id.value) && (w.from.device == device.id || w.to.device == device.id);
    });
}

bool isOfDevice(const TestStep& s, const Circuit& circuit, const Device& device)
{
    return std::any_of(
        s.covers.begin(), s.covers.end(), [&](const std::string& part) { return isAbout(part, circuit, device); });
}

bool isOfFeeder(const TestStep& s)
{
    return (s.stage == Stage::Incoming || s.stage == Stage::Direction) && s.look.with != Instrument::Person;
}

} // namespace

std::string_view wordOf(Occasion occasion)
{
    constexpr std::array<std::string_view, 3> words{"emergency_stops", "replaced", "feeder"};
    return words[static_cast<std::size_t>(occasion)];
}

Expected<std::vector<std::size_t>> stepsFor(
    Occasion occasion, const TestPlan& plan, const Circuit& circuit, const std::string& tag)
{
    const Device* device = circuit.device(tag);
    if (occasion == Occasion::Replaced && !device)
        return failure(ErrorCode::NotFound, message("test.unknown", {tag}));
    const auto isWanted = [&](const TestStep& s) {
        return occasion == Occasion::EmergencyStops ? isOfStop(s, circuit)
            : occasion == Occasion::Feeder          ? isOfFeeder(s)
                                                    : isOfDevice(s, circuit, *device);
    };
    bool isAnyDead = false, isAnyLive = false;
    for (const TestStep& s : plan.steps)
        if (isWanted(s))
            (isDead(s.stage) ? isAnyDead : isAnyLive) = true;
    std::vector<std::size_t> places;
    for (std::size_t k = 0; k < plan.steps.size(); ++k) {
        const TestStep& s = plan.steps[k];
        const bool makesSafe = (isAnyDead && s.stage == Stage::Isolation)
            || (isAnyLive && s.stage == Stage::Incoming && s.look.with == Instrument::Person);
        if (makesSafe || isWanted(s))
            places.push_back(k);
    }
    if (!isAnyDead && !isAnyLive)
        return failure(ErrorCode::Refused, message("test.no_step_for", {std::string(wordOf(occasion)), tag}));
    return places;
}

} // namespace ts::measuring
