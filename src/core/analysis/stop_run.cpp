#include "core/analysis/stop_run.h"

#include "core/base/at.h"
#include "core/simulation/logic.h"

#include <algorithm>
#include <string_view>

namespace ts {
namespace {

/// What a mover needs by itself for one recorded move.
double ownTimeS(const MoverSpec& spec, int from, int to)
{
    if (from == 0)
        return to == 1 ? spec.toActuatedS - spec.gapS : spec.toActuatedS;
    if (from == 2)
        return to == 1 ? spec.toRestS : spec.toRestS + spec.gapS;
    return spec.gapS;
}

/// A monitor's set delay is how it senses; a timer's is none of a stop's own times.
double sensingTimeS(const DeviceLogic& logic)
{
    const auto* monitor = std::get_if<PhaseMonitorLogic>(&logic);
    return monitor ? std::max(monitor->delayS, monitor->lossS) : 0.0;
}

/// Own times of all movers, and of monitors, between the demand and an event, along its chain of causes.
double chainTimeS(const Plant& plant, const Trace& trace, int event, TimeNs demand)
{
    double sum = 0.0;
    while (event >= 0 && trace.events[at(event)].at >= demand) {
        const Event& e = trace.events[at(event)];
        if (e.why == Why::Moved)
            sum += ownTimeS(plant.movers[at(e.slot)].spec, e.from, e.to);
        else if (e.why == Why::LogicMode)
            sum += sensingTimeS(plant.logics[at(e.slot)].data);
        event = e.cause;
    }
    return sum;
}

Unexpected refused(const char* id)
{
    return failure(ErrorCode::Refused, message(id));
}

/// Whether an event is what this stimulus does at once.
bool isTheDoingOf(const Stimulus& s, const Event& e)
{
    switch (s.kind) {
    case Stimulus::Kind::Drive:
        return e.why == Why::Operated && e.slot == s.slot && e.to == s.target;
    case Stimulus::Kind::SetKnob:
        return e.why == Why::KnobSet && e.slot == s.slot && e.si == s.value;
    case Stimulus::Kind::PutFault:
        return e.why == Why::FaultOn && e.slot == static_cast<int>(s.fault.mode) && e.from == s.fault.at
            && e.to == s.fault.with;
    case Stimulus::Kind::ClearFault:
        break;
    }
    return false;
}

/// The motor's first turning again after it has come to rest from the demand.
std::optional<safety::SeenRestart> restartOf(const Plant& plant, const Trace& trace, int motor, TimeNs demand)
{
    bool hasRested = false;
    int operated = -1;
    for (const Event& e : trace.events) {
        if (e.at < demand)
            continue;
        if (e.why == Why::Operated)
            operated = e.device;
        if (e.slot != motor)
            continue;
        hasRested = hasRested || e.why == Why::AtRest;
        if (e.why == Why::Turning && hasRested)
            return safety::SeenRestart{
                plant.deviceOfActuator(motor).tag, operated < 0 ? DeviceId{} : plant.devices[at(operated)].id};
    }
    return std::nullopt;
}

} // namespace

std::optional<TimeNs> demandTime(const Plant& plant, const Trace& trace, std::string_view tag, std::string_view action)
{
    const auto operate = stimuliFor(plant, tag, action, 0);
    if (!operate)
        return std::nullopt;
    const Stimulus& first = operate->front();
    for (const Event& e : trace.events)
        if (isTheDoingOf(first, e))
            return e.at;
    return std::nullopt;
}

int driveLogicOf(const Plant& plant, const State& state, int motor, Workspace& workspace)
{
    if (!plant.actuators[at(motor)].coils.empty())
        return -1;
    const int drive = driveOf(workspace.electrics(plant, state, overlayOf(plant, state.faults)), motor);
    return drive < 0 ? -1 : plant.devices[at(plant.drives[at(drive)].device)].logics.front();
}

safety::ActuatorHistory actuatorHistory(
    const Plant& plant, const Trace& trace, int motor, int driveLogic, TimeNs demand)
{
    safety::ActuatorHistory h;
    h.tag = plant.deviceOfActuator(motor).tag;
    h.demand = demand;
    int fed = 0;
    bool ramps = false;
    for (std::size_t i = 0; i < trace.events.size(); ++i) {
        const Event& e = trace.events[i];
        if (e.why == Why::LogicMode && e.slot == driveLogic)
            ramps = std::string_view(modeName(plant.logics[at(driveLogic)].data, static_cast<std::uint8_t>(e.to)))
                == "ramp_down";
        if (e.slot != motor)
            continue;
        switch (e.why) {
        case Why::PathChanged:
            if (e.at > demand && fed >= 2 && e.to < 2)
                h.releaseTimes = seconds(chainTimeS(plant, trace, e.cause, demand));
            fed = e.to;
            h.paths.push_back({e.at, e.to, e.si});
            break;
        case Why::Turning:
            h.motions.push_back({e.at, true});
            break;
        case Why::AtRest:
            h.motions.push_back({e.at, false});
            h.rampedToRest = e.at > demand && ramps;
            break;
        default:
            break;
        }
    }
    return h;
}

namespace {

Expected<StopRun> readRun(
    const Plant& plant, ScenarioRun run, const SafetyFunction& function, std::string_view trigger, Workspace& workspace)
{
    const auto demand = demandTime(plant, run.trace, trigger, function.trigger.action);
    if (run.pause == Pause::Chatter)
        return failure(ErrorCode::Refused,
            message(demand ? "stop.chatter" : "stop.chatter_before",
                {Measured{secondsOf(run.end.now).si(), "s"}, std::string(trigger)}));
    if (!demand)
        return refused("stop.no_demand");
    StopRun result{std::move(run), {}, {}};
    for (int m : plant.actuatorsOf(function.mustRest)) {
        if (const auto restart = restartOf(plant, result.run.trace, m, *demand))
            result.restarts.push_back(*restart);
        result.actuators.push_back(safety::readStop(
            actuatorHistory(plant, result.run.trace, m, driveLogicOf(plant, result.run.end, m, workspace), *demand)));
    }
    if (result.actuators.empty())
        return refused("stop.no_motor");
    return result;
}

struct Asked {
    const Scenario* scenario;
    const Device* trigger;
};

Expected<Asked> askedOf(const Dossier& dossier, const SafetyFunction& function)
{
    const Asked asked{dossier.scenario(std::to_string(function.demandScenario.value)),
        dossier.circuit.device(function.trigger.device)};
    if (!asked.scenario)
        return refused("stop.no_scenario");
    if (!asked.trigger)
        return refused("stop.no_demand");
    return asked;
}

} // namespace

Expected<StopRun> stopRun(const Dossier& dossier, const SafetyFunction& function, Timing timing, std::stop_token stop)
{
    const auto asked = askedOf(dossier, function);
    if (!asked)
        return Unexpected{asked.error()};
    const auto plant = compile(dossier.circuit, timing);
    if (!plant)
        return Unexpected{plant.error()};
    Workspace workspace;
    auto run = runScenario(*plant, *asked->scenario, {}, 0.0, workspace, std::move(stop));
    if (!run)
        return Unexpected{run.error()};
    return readRun(*plant, std::move(*run), function, asked->trigger->tag, workspace);
}

Expected<StopRun> lowestLoadRun(const Dossier& dossier, const SafetyFunction& function, std::stop_token stop)
{
    constexpr TimeNs kWatch = 600 * kSecondNs;
    const auto asked = askedOf(dossier, function);
    if (!asked)
        return Unexpected{asked.error()};
    auto plant = compile(dossier.circuit, Timing::Slow);
    if (!plant)
        return Unexpected{plant.error()};
    setLowestLoad(*plant, LeastLoads::Any);
    const auto trigger = stimuliFor(*plant, asked->trigger->tag, function.trigger.action, 0);
    const std::vector<Stimulus> stimuli = trigger ? upToDemand(*plant, *asked->scenario, *trigger)
                                                  : std::vector<Stimulus>{};
    if (stimuli.empty())
        return refused("stop.no_demand");
    Workspace workspace;
    ScenarioRun run;
    run.end = initialState(*plant);
    run.pause = advance(*plant, run.end, stimuli, {stimuli.back().at + kWatch, std::move(stop)}, run.trace, workspace);
    if (run.pause == Pause::Cancelled)
        return cancelled();
    return readRun(*plant, std::move(run), function, asked->trigger->tag, workspace);
}

std::vector<Stimulus> upToDemand(const Plant& plant, const Scenario& scenario, const std::vector<Stimulus>& operate)
{
    auto stimuli = stimuliOf(plant, scenario);
    if (!stimuli)
        return {};
    const auto demand = std::find_if(
        stimuli->begin(), stimuli->end(), [&](const Stimulus& s) { return doesTheSame(s, operate.front()); });
    if (demand == stimuli->end())
        return {};
    std::vector<Stimulus> result(stimuli->begin(), demand);
    for (Stimulus s : operate) {
        s.at = demand->at;
        result.push_back(s);
    }
    return result;
}

} // namespace ts
