#include "core/simulation/scenario_run.h"

#include "core/simulation/safety_relay.h"

#include "core/base/at.h"
#include "core/simulation/logic.h"
#include "core/simulation/motion.h"

#include <algorithm>
#include <cmath>

namespace ts {
namespace {

Unexpected noSuch(const char* id, std::string_view what)
{
    return failure(ErrorCode::NotFound, message(id, {std::string(what)}));
}

Expected<void> addStep(const Plant& plant, const Step& step, std::vector<Stimulus>& out)
{
    const TimeNs time = timeNs(seconds(step.atS));
    if (step.action == "set") {
        for (std::size_t k = 0; k < plant.knobs.size(); ++k)
            if (plant.knobs[k].name == step.target) {
                if (!(step.value >= 0.0 && step.value <= 2.0))
                    return failure(
                        ErrorCode::OutOfRange, message("scenario.knob_value", {step.target, Measured{step.value, ""}}));
                Stimulus s;
                s.at = time;
                s.kind = Stimulus::Kind::SetKnob;
                s.slot = static_cast<int>(k);
                s.value = step.value;
                out.push_back(s);
                return {};
            }
        return noSuch("scenario.no_knob", step.target);
    }
    if (step.action == "fault" || step.action == "clear_fault") {
        const auto site = faultFrom(plant, step.target);
        if (!site)
            return Unexpected{site.error()};
        Stimulus s;
        s.at = time;
        s.kind = step.action == "fault" ? Stimulus::Kind::PutFault : Stimulus::Kind::ClearFault;
        s.fault = site->fault;
        out.push_back(s);
        return {};
    }
    const bool operate = step.action == "operate";
    const auto first = stimuliFor(plant, step.target, operate ? "press" : step.action, time);
    if (!first)
        return Unexpected{first.error()};
    out.insert(out.end(), first->begin(), first->end());
    if (operate) {
        const auto second = stimulusFor(plant, step.target, "release", timeNs(seconds(step.atS + step.value)));
        if (!second)
            return Unexpected{second.error()};
        out.push_back(*second);
    }
    return {};
}

/// "at_hand" for a selector that can "turn_to_hand"; "open" and "closed" for what can be opened.
std::optional<bool> isAtPosition(const PlantDevice& d, const State& state, std::string_view word)
{
    const std::string action = word.starts_with("at_") ? "turn_to_" + std::string(word.substr(3))
        : word == "closed"                             ? "close"
                                                       : std::string(word);
    for (const auto& [name, what] : d.actions)
        if (name == action && (name == "open" || name == "close" || name.starts_with("turn_to_")))
            return state.travel[at(what.first)] == what.second;
    return std::nullopt;
}

/// Whether a winding of it smells; none: it has none that burns.
std::optional<bool> isBurntOut(const Plant& plant, const State& state, int device)
{
    std::optional<bool> burnt;
    for (const PlantCoil& c : plant.coils)
        if (c.data.burnt >= 0 && plant.movers[at(c.data.burnt)].device == device)
            burnt = burnt.value_or(false) || state.travel[at(c.data.burnt)] == 2;
    return burnt;
}

/// "channel_1_dark", "fault_blinks": what a light on the front of a safety relay shows.
std::optional<bool> isShowing(const RelayLights& lights, std::string_view word)
{
    const std::size_t end = std::min(word.rfind('_'), word.size());
    const std::string_view name = word.substr(0, end), how = word.substr(std::min(end + 1, word.size()));
    for (const auto& [known, light] : {std::pair{"supply", lights.supply}, {"channel_1", lights.channel1},
             {"channel_2", lights.channel2}, {"reset", lights.reset}, {"fault", lights.fault}})
        for (const auto& [shown, as] :
            {std::pair{"dark", Light::Off}, {"lit", Light::Steady}, {"blinks", Light::Blinking}})
            if (name == known && how == shown)
                return light == as;
    return std::nullopt;
}

} // namespace

Expected<std::vector<Stimulus>> stimuliOf(const Plant& plant, const Scenario& scenario)
{
    std::vector<Stimulus> stimuli;
    for (const Step& step : scenario.steps) {
        if (!(step.atS >= 0.0) || step.atS > scenario.lengthS)
            return failure(ErrorCode::OutOfRange, message("scenario.time", {scenario.name, Measured{step.atS, "s"}}));
        if (auto ok = addStep(plant, step, stimuli); !ok)
            return Unexpected{ok.error()};
    }
    std::stable_sort(stimuli.begin(), stimuli.end(), [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; });
    return stimuli;
}

Expected<bool> isInState(const Plant& plant, const State& state, std::string_view tag, std::string_view word)
{
    const int index = plant.deviceIndex(tag);
    if (index < 0)
        return noSuch("scenario.no_device", tag);
    const PlantDevice& d = plant.devices[at(index)];
    if (const auto known = isAtPosition(d, state, word))
        return *known;
    for (int l : d.logics)
        for (std::uint8_t mode = 0; mode < modeCount(plant.logics[at(l)].data); ++mode)
            if (word == modeName(plant.logics[at(l)].data, mode))
                return word == modeName(plant.logics[at(l)].data, state.logics[at(l)].mode);
    if ((word == "in" || word == "out" || word == "tripped" || word == "whole") && !d.movers.empty()) {
        if (word == "in")
            return state.travel[at(d.movers.front())] == 2;
        if (word == "out")
            return state.travel[at(d.movers.front())] == 0;
        bool tripped = false;
        for (int p : d.protections)
            tripped |= state.travel[at(plant.protections[at(p)].data.mover)]
                == plant.protections[at(p)].data.trippedTravel;
        return (word == "tripped") == tripped;
    }
    if (const auto burnt = isBurntOut(plant, state, index); burnt && word == "burnt")
        return *burnt;
    if ((word == "lit" || word == "dark" || word == "sounds" || word == "silent" || word == "on" || word == "off")
        && !d.lamps.empty())
        return (state.lampLit[at(d.lamps.front())] != 0) == (word == "lit" || word == "sounds" || word == "on");
    if (d.actuator >= 0) {
        if (word == "at_rest")
            return state.actuatorMode[at(d.actuator)] == MotorMode::AtRest;
        if (word == "turning")
            return state.actuatorMode[at(d.actuator)] != MotorMode::AtRest;
        if (word == "driven")
            return state.actuatorMode[at(d.actuator)] == MotorMode::Driven;
    }
    if (!d.relays.empty()) {
        const RelayWord& w = state.relays[at(d.relays.back())];
        if (word == "outputs_on" || word == "outputs_off")
            return w.outputs == (word == "outputs_on");
        if (word == "locked_out")
            return w.lockedOut;
        if (word == "wants_reset")
            return w.ready;
        if (const auto light = isShowing(lightsOf(plant.relays[at(d.relays.back())].data, w), word))
            return *light;
    }
    return failure(ErrorCode::NotFound, message("scenario.no_state", {std::string(tag), std::string(word)}));
}

Expected<ScenarioRun> runScenario(const Plant& plant, const Scenario& scenario, std::span<const Fault> faultsFromStart,
    double untilS, Workspace& workspace, std::stop_token stop)
{
    auto stimuli = stimuliOf(plant, scenario);
    if (!stimuli)
        return Unexpected{stimuli.error()};
    ScenarioRun run;
    run.end = initialState(plant);
    run.end.faults.assign(faultsFromStart.begin(), faultsFromStart.end());
    std::vector<Expectation> expectations = scenario.expectations;
    std::stable_sort(
        expectations.begin(), expectations.end(), [](const auto& a, const auto& b) { return a.atS < b.atS; });
    const double endS = untilS > 0.0 ? untilS : scenario.lengthS;
    std::erase_if(expectations, [endS](const Expectation& e) { return e.atS > endS; });
    expectations.push_back({endS, "", ""}); // the end
    for (const Expectation& e : expectations) {
        Limits limits;
        limits.until = timeNs(seconds(e.atS));
        limits.stop = stop;
        const auto rest = std::find_if(stimuli->begin(), stimuli->end(),
            [&](const Stimulus& s) { return s.at > run.end.now || (!run.end.isSettled && s.at == run.end.now); });
        run.pause = advance(plant, run.end, {rest, stimuli->end()}, limits, run.trace, workspace);
        if (run.pause == Pause::Cancelled)
            return cancelled();
        if (e.subject.empty() || run.pause != Pause::Reached)
            break;
        const auto met = isInState(plant, run.end, e.subject, e.state);
        if (!met)
            return Unexpected{met.error()};
        run.expectations.push_back({e, *met});
    }
    // After chatter nothing that was still expected came about.
    for (std::size_t k = run.expectations.size(); k + 1 < expectations.size(); ++k)
        run.expectations.push_back({expectations[k], false});
    return run;
}

} // namespace ts
