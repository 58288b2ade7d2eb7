#include "core/simulation/hands.h"

#include "core/base/at.h"
#include "core/simulation/advance.h"

#include <algorithm>

namespace ts {
namespace {

const PlantDevice* deviceOf(const Plant& plant, std::string_view tag)
{
    const int index = plant.deviceIndex(tag);
    return index < 0 ? nullptr : &plant.devices[at(index)];
}

bool contains(const std::vector<std::string>& words, std::string_view word)
{
    return std::find(words.begin(), words.end(), word) != words.end();
}

} // namespace

std::vector<std::string> handTargets(const Plant& plant)
{
    std::vector<std::string> all;
    for (const PlantDevice& d : plant.devices)
        if (!d.actions.empty() || !losses(plant, d.tag).empty())
            all.push_back(d.tag);
    for (const PlantKnob& k : plant.knobs)
        all.push_back(k.name);
    return all;
}

bool isFaultSite(std::string_view target)
{
    return target.empty() || target.find('/') != target.npos;
}

std::vector<std::string> handActions(const Plant& plant, std::string_view target)
{
    if (isFaultSite(target))
        return {"fault", "clear_fault"};
    const PlantDevice* device = deviceOf(plant, target);
    if (!device)
        return {"set"};
    std::vector<std::string> words;
    words.reserve(device->actions.size() + 1);
    for (const auto& [word, what] : device->actions)
        words.push_back(word);
    for (std::string& word : losses(plant, target))
        words.push_back(std::move(word));
    if (contains(words, "press") && contains(words, "release"))
        words.emplace_back("operate");
    return words;
}

bool isLetGo(const Plant& plant, const Step& step)
{
    if (step.action == "set")
        return step.value >= 1.0;
    if (step.action == "clear_fault")
        return true;
    const PlantDevice* device = deviceOf(plant, step.target);
    if (!device)
        return false;
    for (const auto& [word, what] : device->actions)
        if (word == step.action)
            return plant.movers[at(what.first)].spec.initial == what.second;
    const auto back = stimuliFor(plant, step.target, step.action, 0);
    return back && !back->empty() && std::all_of(back->begin(), back->end(), [&plant](const Stimulus& s) {
        return s.kind == Stimulus::Kind::ClearFault
            || (s.kind == Stimulus::Kind::SetKnob && s.value == plant.knobs[at(s.slot)].initial);
    });
}

} // namespace ts
