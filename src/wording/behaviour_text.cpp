#include "wording/behaviour_text.h"

#include "core/exploration/departure.h"
#include "wording/event_text.h"
#include "wording/wording.h"

#include <algorithm>

namespace ts::wording {
namespace {

std::string tagBy(const Circuit& circuit, DeviceId id)
{
    const Device* device = circuit.device(id);
    return device ? device->tag : "?";
}

/// "S2 (forwards)"
std::string namedBy(const Circuit& circuit, DeviceId id)
{
    const Device* device = circuit.device(id);
    return !device ? "?" : device->label.empty() ? device->tag : device->tag + " (" + device->label + ")";
}

/// What was done ahead of the deed; what is only let go again is not said.
std::string aheadOf(const exploration::Deed& deed, const Plant& plant)
{
    std::string text;
    for (const exploration::Done& d : deed.way) {
        const Stimulus& s = d.operation.stimuli.front();
        const PlantDevice& device = exploration::deviceOf(plant, s);
        const auto action = std::find_if(device.actions.begin(), device.actions.end(), [&s](const auto& a) {
            return a.second == std::pair{s.slot, s.target};
        });
        if (action == device.actions.end() || action->first == "release")
            continue;
        if (device.id == deed.hand && action->first == deed.action && &d + 2 >= deed.way.data() + deed.way.size())
            break; // the deed itself, perhaps let go again
        text += (text.empty() ? "" : ", ") + device.tag + " " + actionWord(action->first);
    }
    return text;
}

} // namespace

std::string deedText(const exploration::Deed& deed, const Circuit& circuit, const Plant& plant)
{
    const Message what = message("deed." + std::string(nameOf(deed.effect)),
        {namedBy(circuit, deed.hand), actionWord(deed.action), namedBy(circuit, deed.actuator),
            "@deed.direction." + std::to_string(deed.direction)});
    const std::string ahead = aheadOf(deed, plant);
    return sentence(ahead.empty() ? what : message("deed.after", {Phrases{what}, ahead}));
}

std::vector<std::string> behaviourLines(
    const exploration::Behaviour& behaviour, const Circuit& circuit, const Plant& plant)
{
    std::vector<std::string> lines;
    for (const exploration::Deed& d : behaviour.deeds)
        lines.push_back(deedText(d, circuit, plant));
    for (const exploration::LampSeen& l : behaviour.lamps)
        lines.push_back(sentence(message("deed.lamp." + std::string(nameOf(l.rule)),
            {namedBy(circuit, l.lamp), l.actuator ? namedBy(circuit, l.actuator) : std::string()})));
    for (const exploration::Preparing& p : behaviour.preparing) {
        Phrases others;
        for (DeviceId id : p.before)
            others.push_back(message("word.plain", {tagBy(circuit, id)}));
        lines.push_back(said("deed.prepares", {namedBy(circuit, p.hand), others}));
    }
    for (DeviceId id : behaviour.idle)
        lines.push_back(said("deed.idle", {namedBy(circuit, id)}));
    for (DeviceId id : behaviour.neverRan)
        lines.push_back(said("deed.never_ran", {namedBy(circuit, id)}));
    lines.push_back(
        said("deed.tried", {static_cast<long long>(behaviour.states), static_cast<long long>(behaviour.runs)}));
    if (behaviour.leftOut > 0)
        lines.push_back(said("deed.left_out", {static_cast<long long>(behaviour.leftOut)}));
    if (behaviour.undecided > 0)
        lines.push_back(said("deed.undecided", {static_cast<long long>(behaviour.undecided)}));
    return lines;
}

} // namespace ts::wording
