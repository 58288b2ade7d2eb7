#include "core/suggestions/suggestion.h"

#include "core/analysis/stop_run.h"
#include "core/base/at.h"
#include "core/edit/function_edits.h"
#include "core/library/registry.h"
#include "core/safety/decision.h"
#include "core/suggestions/claim_suggestion.h"
#include "core/suggestions/reset_search.h"

#include <algorithm>

namespace ts {
namespace {

/// Stays where it is put and is no breaker or switch in the power circuit.
bool staysOperated(const Plant& plant, const Stimulus& s)
{
    if (s.kind != Stimulus::Kind::Drive)
        return false;
    const MoverSpec& m = plant.movers[at(s.slot)].spec;
    if (m.driver != MoverSpec::Driver::Operator || s.target == m.initial)
        return false;
    const bool isPower = std::any_of(plant.links.begin(), plant.links.end(), [&](const PlantLink& l) {
        return l.contact.mover == s.slot
            && (l.contact.kind == ContactKind::Main || l.contact.kind == ContactKind::Pole);
    });
    const auto& actions = plant.devices[at(plant.movers[at(s.slot)].device)].actions;
    const bool springsBack = !m.latches && std::any_of(actions.begin(), actions.end(), [&](const auto& a) {
        return a.second.first == s.slot && a.first == "release";
    });
    return !isPower && !springsBack;
}

/// What operating it in this scenario does: the motors that it takes the power from.
std::vector<DeviceId> stoppedBy(const Plant& plant, const std::vector<Stimulus>& stimuli, std::size_t which,
    Workspace& workspace, const std::stop_token& stop)
{
    const TimeNs demand = stimuli[which].at;
    State state = initialState(plant);
    Trace trace;
    const auto upTo = std::span(stimuli).first(which);
    if (advance(plant, state, upTo, {std::max<TimeNs>(0, demand - kSecondNs / 100), stop}, trace, workspace)
        != Pause::Reached)
        return {};
    const std::vector<MotorMode> before = state.actuatorMode;
    const std::size_t seen = trace.events.size();
    if (advance(plant, state, std::span(stimuli).subspan(which, 1), {demand + kSecondNs, stop}, trace, workspace)
        != Pause::Reached)
        return {};
    std::vector<DeviceId> motors;
    for (std::size_t m = 0; m < plant.actuators.size(); ++m) {
        const bool lost = std::any_of(
            trace.events.begin() + static_cast<std::ptrdiff_t>(seen), trace.events.end(), [m](const Event& e) {
                return (e.why == Why::PowerOff || e.why == Why::AtRest) && e.slot == static_cast<int>(m);
            });
        if (before[m] == MotorMode::Driven && lost && state.actuatorMode[m] != MotorMode::Driven)
            motors.push_back(plant.deviceOfActuator(static_cast<int>(m)).id);
    }
    return motors;
}

} // namespace

Expected<std::vector<SafetyFunction>> suggestedFunctions(const Dossier& dossier, std::stop_token stop)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    Workspace workspace;
    std::vector<SafetyFunction> found;
    for (const Scenario& scenario : dossier.scenarios) {
        const auto stimuli = stimuliOf(*plant, scenario);
        for (std::size_t k = 0; stimuli && k < stimuli->size(); ++k) {
            if (!staysOperated(*plant, (*stimuli)[k]))
                continue;
            if (stop.stop_requested())
                return cancelled();
            const Stimulus& s = (*stimuli)[k];
            const PlantDevice& device = plant->devices[at(plant->movers[at(s.slot)].device)];
            const auto word = std::find_if(device.actions.begin(), device.actions.end(), [&s](const auto& a) {
                return a.second == std::pair{s.slot, s.target};
            });
            SafetyFunction f;
            f.trigger = {device.id, word->first};
            const auto isSame = [&f](const SafetyFunction& other) { return other.trigger == f.trigger; };
            if (std::any_of(dossier.functions.begin(), dossier.functions.end(), isSame))
                continue;
            f.mustRest = stoppedBy(*plant, *stimuli, k, workspace, stop);
            if (f.mustRest.empty())
                continue;
            f.demandScenario = scenario.id;
            f.resetBy = resetAfter(*plant, *stimuli, k, workspace, stop);
            f.emergencyStop = plant->movers[at(s.slot)].spec.latches && word->first == "press";
            if (const auto run = stopRun(dossier, f, Timing::Nominal, stop))
                for (const safety::ActuatorStop& a : run->actuators)
                    f.stopCategory = std::max(f.stopCategory, a.category.value_or(0));
            const auto same = std::find_if(found.begin(), found.end(), isSame);
            if (same == found.end())
                found.push_back(std::move(f));
            else if (same->mustRest.size() < f.mustRest.size())
                *same = std::move(f);
        }
    }
    for (SafetyFunction& f : found)
        if (auto claim = suggestedClaim(dossier, f, stop))
            f.claim = std::move(*claim);
    return found;
}

Expected<DossierFile> withSuggestedFunctions(
    DossierFile file, const FunctionNamer& name, const std::optional<RiskAnswers>& risk, std::stop_token stop)
{
    auto functions = suggestedFunctions(file.dossier, stop);
    if (!functions)
        return Unexpected{functions.error()};
    for (SafetyFunction& f : *functions) {
        f.name = name(f, file.dossier.circuit);
        f.risk = risk;
        if (risk)
            f.requiredLevel = safety::requiredLevelOf(*risk, f.emergencyStop).level;
    }
    return edit::withFunctions(file, *functions);
}

std::vector<Trigger> possibleTriggers(const Plant& plant)
{
    std::vector<Trigger> triggers;
    for (const PlantDevice& d : plant.devices) {
        for (const auto& [word, what] : d.actions) {
            Stimulus s;
            s.slot = what.first;
            s.target = what.second;
            const bool goes = deviceKind(d.kind)->traits.isFromElsewhere
                && what.second == plant.movers[at(what.first)].spec.initial;
            if (word != "release" && (goes || staysOperated(plant, s)))
                triggers.push_back({d.id, word});
        }
        for (std::string& word : losses(plant, d.tag))
            triggers.push_back({d.id, std::move(word)});
    }
    return triggers;
}

} // namespace ts
