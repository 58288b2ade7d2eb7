#include "core/simulation/scenario_course.h"

#include "core/base/at.h"
#include "core/simulation/logic.h"

#include <algorithm>
#include <array>

namespace ts {
namespace {

/// What isInState() knows beside positions and the modes of logics; what says most of a device first.
constexpr std::array<std::string_view, 19> kStates{"turning", "driven", "at_rest", "outputs_on", "outputs_off",
    "wants_reset", "locked_out", "lit", "dark", "sounds", "silent", "on", "off", "tripped", "whole", "in", "out",
    "open", "closed"};

/// Of its protections the first says more than where a handle stands.
bool fits(const PlantDevice& d, std::string_view word)
{
    if (word == "tripped" || word == "whole")
        return !d.protections.empty();
    if (word == "sounds" || word == "silent" || word == "on" || word == "off")
        return false; // other words for lit and dark
    if (word == "in" || word == "out")
        return d.actuator < 0;
    return true;
}

constexpr std::string_view kTurning = "turning";

/// Of what moves or heats by its events: the moment at which it begins lies within a step of its speed.
void readTurning(const ScenarioRun& run, int device, SeenBand& band)
{
    for (const Event& e : run.trace.events) {
        const double atS = secondsOf(e.at).si();
        const bool isOn = !band.whenS.empty() && band.whenS.back().second < 0;
        if (e.device == device && e.why == Why::Turning && !isOn)
            band.whenS.emplace_back(atS, -1.0);
        if (e.device == device && e.why == Why::AtRest && isOn)
            band.whenS.back().second = atS;
    }
}

} // namespace

std::vector<std::string> stateWordsOf(const Plant& plant, std::string_view tag)
{
    std::vector<std::string> words;
    const int index = plant.deviceIndex(tag);
    if (index < 0)
        return words;
    const PlantDevice& d = plant.devices[at(index)];
    const State rest = initialState(plant);
    for (std::string_view word : kStates)
        if (fits(d, word) && isInState(plant, rest, tag, word))
            words.emplace_back(word);
    for (const auto& [action, what] : d.actions)
        if (action.starts_with("turn_to_"))
            words.push_back("at_" + action.substr(8));
    for (int l : d.logics)
        for (std::uint8_t mode = 0; mode < modeCount(plant.logics[at(l)].data); ++mode)
            words.emplace_back(modeName(plant.logics[at(l)].data, mode));
    return words;
}

Expected<ScenarioCourse> courseOf(
    const Plant& plant, const Scenario& scenario, std::span<const std::string> tags, std::stop_token stop)
{
    Workspace workspace;
    auto run = runScenario(plant, scenario, {}, 0.0, workspace, stop);
    if (!run)
        return Unexpected{run.error()};
    ScenarioCourse course{std::move(*run), {}};
    for (const std::string& tag : tags)
        if (auto words = stateWordsOf(plant, tag); !words.empty())
            course.bands.push_back({tag, std::move(words.front()), {}});
    std::vector<TimeNs> moments{0};
    for (const Event& e : course.run.trace.events)
        moments.push_back(e.at);
    moments.push_back(course.run.end.now);
    std::sort(moments.begin(), moments.end());
    moments.erase(std::unique(moments.begin(), moments.end()), moments.end());

    const auto stimuli = *stimuliOf(plant, scenario);
    State state = initialState(plant);
    Trace trace;
    for (const TimeNs moment : moments) {
        const TimeNs until = std::min(moment + 1, course.run.end.now); // what happens then has happened
        const auto rest = std::find_if(stimuli.begin(), stimuli.end(),
            [&state](const Stimulus& s) { return s.at > state.now || (!state.isSettled && s.at == state.now); });
        const Pause pause = advance(plant, state, {rest, stimuli.end()}, {until, stop, {}, false}, trace, workspace);
        if (pause == Pause::Cancelled)
            return cancelled();
        const double nowS = secondsOf(moment).si();
        for (SeenBand& band : course.bands) {
            if (band.word == kTurning)
                continue;
            if (!band.whenS.empty() && band.whenS.back().second < 0) // it was so until now
                band.whenS.back().second = isInState(plant, state, band.tag, band.word).value_or(false) ? -1.0 : nowS;
            else if (isInState(plant, state, band.tag, band.word).value_or(false))
                band.whenS.emplace_back(nowS, -1.0);
        }
        if (pause != Pause::Reached)
            break;
    }
    for (SeenBand& band : course.bands)
        if (band.word == kTurning)
            readTurning(course.run, plant.deviceIndex(band.tag), band);
    for (SeenBand& band : course.bands)
        if (!band.whenS.empty() && band.whenS.back().second < 0)
            band.whenS.back().second = secondsOf(state.now).si();
    return course;
}

} // namespace ts
