#include "core/suggestions/scenario_suggestion.h"

#include "core/base/at.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/function_edits.h"
#include "core/exploration/departure.h"
#include "core/simulation/scenario_run.h"
#include "core/suggestions/suggestion.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace ts {
namespace {

using exploration::Deed;
using exploration::Done;

constexpr double kBefore = 0.05, kBehind = 0.5; ///< s: looked at ahead of the deed, and length behind the last look

std::string tagOf(const Plant& plant, DeviceId id)
{
    const auto device = std::find_if(
        plant.devices.begin(), plant.devices.end(), [id](const PlantDevice& d) { return d.id == id; });
    return device == plant.devices.end() ? "?" : device->tag;
}

std::vector<Step> stepsOf(const Plant& plant, const std::vector<Done>& way)
{
    return stepsFrom(plant, exploration::stimuliOn(way)).value_or(std::vector<Step>{});
}

/// A run of some operations, each at its time, and when all has run its course.
struct Timed {
    std::vector<Done> way;
    TimeNs after = 0;
};

/// The same with shorter waits between the operations: nobody stands by until every motor has run down.
Timed hurried(const std::vector<Done>& way, TimeNs after)
{
    constexpr TimeNs kMostWait = 30 * kSecondNs;
    Timed timed{way, after};
    TimeNs saved = 0;
    for (std::size_t k = 1; k < timed.way.size(); ++k) {
        saved += std::max<TimeNs>(0, way[k].at - way[k - 1].at - kMostWait);
        timed.way[k].at -= saved;
    }
    timed.after -= saved;
    return timed;
}

/// What a plain run shows of each actuator just before the deed, and at the end.
Scenario scenarioOf(const Plant& plant, const Timed& timed, std::size_t deed, const std::vector<std::string>& actuators)
{
    Scenario scenario;
    scenario.steps = stepsOf(plant, timed.way);
    const double end = secondsOf(timed.after).si();
    scenario.lengthS = end + kBehind;
    const auto stimuli = stimuliOf(plant, scenario);
    if (!stimuli)
        return scenario;
    for (const double atS : {secondsOf(timed.way[deed].at).si() - kBefore, end}) {
        State state = initialState(plant);
        Trace trace;
        Workspace workspace;
        if (advance(plant, state, *stimuli, {timeNs(seconds(atS)), {}, {}, false}, trace, workspace) != Pause::Reached)
            continue;
        for (const std::string& tag : actuators)
            for (const char* word : {"driven", "at_rest"})
                if (const auto holds = isInState(plant, state, tag, word); holds && *holds)
                    scenario.expectations.push_back({atS, tag, word});
    }
    return scenario;
}

std::vector<std::string> statesIn(const Scenario& scenario)
{
    std::vector<std::string> states;
    for (const Expectation& e : scenario.expectations)
        states.push_back(e.subject + " " + e.state);
    return states;
}

/// In short, if that shows the same.
Scenario shortestShowing(const Plant& plant, const std::vector<Done>& way, std::size_t deed, TimeNs after,
    const std::vector<std::string>& actuators)
{
    Scenario whole = scenarioOf(plant, {way, after}, deed, actuators),
             quick = scenarioOf(plant, hurried(way, after), deed, actuators);
    return statesIn(whole) == statesIn(quick) ? quick : whole;
}

/// The operation of the deed itself: the last one, or the one before where it is let go again.
std::size_t placeOf(const std::vector<Done>& way, const Plant& plant, DeviceId hand, std::string_view action)
{
    for (std::size_t k = way.size(); k-- > 0;) {
        const Stimulus& s = way[k].operation.stimuli.front();
        const PlantDevice& device = exploration::deviceOf(plant, s);
        const bool isIt = std::any_of(device.actions.begin(), device.actions.end(), [&](const auto& a) {
            return a.second == std::pair{s.slot, s.target} && a.first == action;
        });
        if (device.id == hand && isIt)
            return k;
    }
    return way.size() - 1;
}

} // namespace

SuggestedScenario scenarioOf(const Plant& plant, const Deed& d)
{
    const bool starts = d.effect == Deed::Effect::Starts || d.effect == Deed::Effect::RunsWhileHeld;
    const std::string hand = tagOf(plant, d.hand), actuator = tagOf(plant, d.actuator);
    return {shortestShowing(plant, d.way, placeOf(d.way, plant, d.hand, d.action), d.after, {actuator}),
        starts ? message("deed.name_starts", {hand, actuator})
               : message("deed.name_stops", {hand, Phrases{message("word.plain", {actuator})}})};
}

SuggestedScenario contraryOf(SuggestedScenario contrary)
{
    contrary.name = message("deed.name_contrary", {Phrases{contrary.name}});
    if (!contrary.scenario.expectations.empty()) {
        Expectation& end = contrary.scenario.expectations.back();
        end.state = end.state == "driven" ? "at_rest" : "driven";
    }
    return contrary;
}

std::vector<SuggestedScenario> suggestedScenarios(const Plant& plant, const exploration::Behaviour& behaviour)
{
    std::vector<SuggestedScenario> all;
    std::set<std::tuple<DeviceId, DeviceId, int>> shown;
    for (const Deed& d : behaviour.deeds) {
        const bool starts = d.effect == Deed::Effect::Starts || d.effect == Deed::Effect::RunsWhileHeld;
        if (!starts || !shown.insert({d.hand, d.actuator, d.direction}).second)
            continue;
        all.push_back(scenarioOf(plant, d));
    }
    for (const exploration::StopOfMany& s : behaviour.stops) {
        std::vector<std::string> tags;
        Phrases words;
        for (DeviceId id : s.stopped) {
            tags.push_back(tagOf(plant, id));
            words.push_back(message("word.plain", {tags.back()}));
        }
        const std::size_t deed = placeOf(s.way, plant, s.hand, s.action);
        all.push_back({shortestShowing(plant, s.way, deed, s.after, tags),
            message("deed.name_stops", {tagOf(plant, s.hand), words})});
    }
    std::erase_if(all, [](const SuggestedScenario& s) { return s.scenario.lengthS > kLongestScenarioS; });
    return all;
}

Expected<std::vector<Step>> stepsFrom(const Plant& plant, std::span<const Stimulus> script)
{
    std::vector<Step> steps;
    const auto sites = faultSites(plant);
    for (const Stimulus& s : script) {
        const double atS = secondsOf(s.at).si();
        if (s.kind == Stimulus::Kind::SetKnob) {
            steps.push_back({atS, "set", plant.knobs[at(s.slot)].name, s.value});
            continue;
        }
        if (s.kind == Stimulus::Kind::Drive) {
            const PlantDevice& device = exploration::deviceOf(plant, s);
            const auto word = std::find_if(device.actions.begin(), device.actions.end(), [&s](const auto& a) {
                return a.second == std::pair{s.slot, s.target};
            });
            if (word == device.actions.end())
                return failure(ErrorCode::Refused, message("scenario.no_word", {device.tag, Measured{atS, "s"}}));
            steps.push_back({atS, word->first, device.tag, 0.0});
            continue;
        }
        const auto site = std::find_if(
            sites.begin(), sites.end(), [&s](const FaultSite& f) { return f.fault == s.fault; });
        const bool isShort = s.fault.mode == FaultMode::Short;
        if (site == sites.end() && !isShort)
            return failure(ErrorCode::Refused, message("scenario.no_word", {std::string("?"), Measured{atS, "s"}}));
        steps.push_back({atS, s.kind == Stimulus::Kind::PutFault ? "fault" : "clear_fault",
            isShort ? plant.nameOfNode(s.fault.at) + "+" + plant.nameOfNode(s.fault.with) + ":short" : site->text(),
            0.0});
    }
    return steps;
}

Expected<Scenario> withWhatIsSeen(const Plant& plant, Scenario scenario, std::stop_token stop)
{
    scenario.expectations.clear();
    const auto stimuli = stimuliOf(plant, scenario);
    if (!stimuli)
        return Unexpected{stimuli.error()};
    std::vector<std::pair<std::string, std::vector<std::string>>> watched; // tag, and what can be said of it
    for (std::size_t m = 0; m < plant.actuators.size(); ++m)
        watched.push_back({plant.deviceOfActuator(static_cast<int>(m)).tag, {"driven", "at_rest"}});
    for (const PlantLamp& l : plant.lamps)
        watched.push_back({plant.devices[at(l.device)].tag, {"lit", "dark"}});
    std::set<double> looks{scenario.lengthS};
    for (const Step& step : scenario.steps)
        if (step.atS > kBefore)
            looks.insert(step.atS - kBefore);
    std::map<std::string, std::string> last;
    State state = initialState(plant);
    Workspace workspace;
    std::size_t applied = 0;
    for (const double atS : looks) {
        std::size_t due = applied;
        while (due < stimuli->size() && secondsOf((*stimuli)[due].at).si() <= atS)
            ++due;
        Trace trace;
        const Pause pause = advance(plant, state, std::span(*stimuli).subspan(applied, due - applied),
            {timeNs(seconds(atS)), stop, {}, false}, trace, workspace);
        if (pause == Pause::Cancelled)
            return cancelled();
        if (pause != Pause::Reached)
            return failure(ErrorCode::Refused, message("scenario.chatters", {Measured{atS, "s"}}));
        applied = due;
        for (const auto& [tag, words] : watched)
            for (const std::string& word : words)
                if (const auto holds = isInState(plant, state, tag, word); holds && *holds && last[tag] != word) {
                    scenario.expectations.push_back({atS, tag, word});
                    last[tag] = word;
                }
    }
    return scenario;
}

DossierFile withScenarios(DossierFile file, std::vector<SuggestedScenario> suggested, const SuggestionNames& names)
{
    for (SuggestedScenario& s : suggested) {
        s.scenario.name = names.scenario(s.name);
        if (!file.dossier.scenario(s.scenario.name))
            file = edit::withScenario(file, std::move(s.scenario));
    }
    return file;
}

Expected<DossierFile> withBehaviour(DossierFile file, const Plant& plant, const exploration::Behaviour& behaviour,
    const SuggestionNames& names, std::stop_token stop)
{
    file = withScenarios(std::move(file), suggestedScenarios(plant, behaviour), names);
    return withSuggestedFunctions(std::move(file), names.function, {}, stop);
}

} // namespace ts
