#include "core/faults/cycle.h"

#include "core/base/at.h"
#include "core/simulation/scenario_run.h"

#include <algorithm>

namespace ts::faults {
namespace {

constexpr TimeNs kMs = 1'000'000, kS = 1000 * kMs;
constexpr TimeNs kLongestRunDown = 600 * kS;
constexpr TimeNs kBeforeDemand = 10 * kMs; ///< "just before": so short that nothing but the fault itself can act
constexpr TimeNs kSettling = 2 * kS; ///< "running": so long before the demand that a device can notice
constexpr TimeNs kBeforeStart = kS / 2;
constexpr TimeNs kPressed = kS / 2; ///< so long a hand stays on a start button

Unexpected refused(const char* id)
{
    return failure(ErrorCode::Refused, message(id));
}

struct Demanded {
    std::vector<Stimulus> operate, back;
};

Expected<Demanded> demandedBy(const Plant& plant, const Dossier& dossier, const SafetyFunction& function)
{
    const Device* device = dossier.circuit.device(function.trigger.device);
    if (!device)
        return refused("stop.no_demand");
    auto operate = stimuliFor(plant, device->tag, function.trigger.action, 0);
    if (!operate)
        return Unexpected{operate.error()};
    Demanded demanded{std::move(*operate), {}};
    for (const Stimulus& s : demanded.operate) {
        const auto back = wayBack(plant, s);
        if (!back)
            return refused("sweep.no_way_back");
        demanded.back.push_back(*back);
    }
    return demanded;
}

bool isAtRest(const State& state, const std::vector<int>& motors)
{
    return std::all_of(
        motors.begin(), motors.end(), [&](int m) { return state.actuatorMode[at(m)] == MotorMode::AtRest; });
}

/// The start-up with every button let go that it leaves pressed, unless a motor needs it held (inching). `cycle`: with
/// motors and the moment just before the demand. None where nothing is held or has to be.
std::optional<std::vector<Stimulus>> withFreeHands(const Plant& plant, const std::vector<Stimulus>& startUp,
    const Cycle& cycle, Workspace& workspace, const std::stop_token& stop)
{
    std::vector<Stimulus> free = startUp;
    for (std::size_t k = 0; k < startUp.size(); ++k) {
        const Stimulus& s = startUp[k];
        if (s.kind != Stimulus::Kind::Drive || s.letGo || plant.movers[at(s.slot)].spec.latches
            || plant.movers[at(s.slot)].spec.driver != MoverSpec::Driver::Operator)
            continue;
        const bool isLast = std::none_of(startUp.begin() + static_cast<std::ptrdiff_t>(k) + 1, startUp.end(),
            [&s](const Stimulus& later) { return later.kind == Stimulus::Kind::Drive && later.slot == s.slot; });
        auto back = isLast ? wayBack(plant, s) : std::nullopt;
        if (!back || !back->letGo)
            continue;
        back->at = startUp.back().at + std::min(kPressed, (cycle.justBefore - startUp.back().at) / 4);
        free.push_back(*back);
    }
    if (free.size() == startUp.size())
        return std::nullopt;
    const auto runsWith = [&](const std::vector<Stimulus>& stimuli) {
        State state = initialState(plant);
        Trace trace;
        advance(plant, state, stimuli, {cycle.justBefore, stop, {}, false}, trace, workspace);
        std::vector<bool> runs;
        for (int m : cycle.motors)
            runs.push_back(state.actuatorMode[at(m)] == MotorMode::Driven);
        return runs;
    };
    return runsWith(free) == runsWith(startUp) ? std::optional(free) : std::nullopt;
}

struct Healthy {
    TimeNs runDown = 0, firstStart = 0;
};

/// How long the healthy circuit needs from the demand to the rest of all motors, and what starts the first one.
Expected<Healthy> healthyRun(const Plant& plant, const Cycle& cycle, Workspace& workspace, std::stop_token stop)
{
    State state = initialState(plant);
    Trace trace;
    const TimeNs demand = cycle.goes[0].demand;
    for (TimeNs until = demand; until <= demand + kLongestRunDown; until += until == demand ? kS : 10 * kS) {
        const auto rest = std::find_if(cycle.stimuli.begin(), cycle.stimuli.end(),
            [&](const Stimulus& s) { return s.at > state.now || (!state.isSettled && s.at == state.now); });
        const Pause pause = advance(
            plant, state, {rest, cycle.stimuli.end()}, {until, stop, {}, false}, trace, workspace);
        if (pause == Pause::Cancelled)
            return cancelled();
        if (pause == Pause::Chatter)
            return refused("stop.chatter");
        if (until > demand && isAtRest(state, cycle.motors)) {
            TimeNs last = demand, turns = demand;
            for (const Event& e : trace.events) {
                if (std::find(cycle.motors.begin(), cycle.motors.end(), e.slot) == cycle.motors.end())
                    continue;
                if (e.why == Why::AtRest && e.at > demand)
                    last = e.at;
                if (e.why == Why::Turning)
                    turns = std::min(turns, e.at);
            }
            const auto starts = std::find_if(
                cycle.startUp.rbegin(), cycle.startUp.rend(), [turns](TimeNs t) { return t <= turns; });
            return Healthy{last - demand, starts == cycle.startUp.rend() ? demand : *starts};
        }
    }
    return refused("sweep.never_rests");
}

void addStartUp(std::vector<Stimulus>& all, const std::vector<Stimulus>& startUp, TimeNs later)
{
    for (Stimulus s : startUp) {
        s.at += later;
        all.push_back(s);
    }
}

void addAt(std::vector<Stimulus>& all, const std::vector<Stimulus>& some, TimeNs when)
{
    for (Stimulus s : some) {
        s.at = when;
        all.push_back(s);
    }
}

} // namespace

std::optional<Stimulus> wayBack(const Plant& plant, const Stimulus& operate)
{
    Stimulus back = operate;
    if (operate.kind == Stimulus::Kind::SetKnob) {
        back.value = plant.knobs[at(operate.slot)].initial;
        return back;
    }
    if (operate.kind == Stimulus::Kind::PutFault) { // lines exchanged are put right again
        back.kind = Stimulus::Kind::ClearFault;
        return back;
    }
    const PlantMover& mover = plant.movers[at(operate.slot)];
    for (const auto& [word, what] : plant.devices[at(mover.device)].actions)
        if (what.first == operate.slot && what.second == mover.spec.initial
            && (back.target != mover.spec.initial || word != "release")) {
            back.target = what.second;
            back.letGo = word == "release";
        }
    if (back.target == operate.target && mover.spec.latches) // what has gone to rest is brought out of it again
        for (const auto& [word, what] : plant.devices[at(mover.device)].actions)
            if (what.first == operate.slot && what.second != operate.target)
                back.target = what.second;
    return back.target == operate.target ? std::nullopt : std::optional(back);
}

std::string_view nameOf(Moment moment)
{
    constexpr std::array<std::string_view, 5> names{"at_rest", "running", "just_before", "with_demand", "at_reset"};
    return names[static_cast<std::size_t>(moment)];
}

TimeNs Cycle::at(Moment moment) const
{
    switch (moment) {
    case Moment::AtRest:
        return atRest;
    case Moment::Running:
        return running;
    case Moment::JustBefore:
        return justBefore;
    case Moment::WithDemand:
        return goes[0].demand;
    case Moment::AtReset:
        break;
    }
    return goes[1].begins;
}

Expected<Cycle> cycleOf(const Plant& plant, const Dossier& dossier, const SafetyFunction& function,
    ScenarioId scenarioId, Workspace& workspace, std::stop_token stop)
{
    const Scenario* scenario = dossier.scenario(std::to_string(scenarioId.value));
    if (!scenario)
        return refused("stop.no_scenario");
    const auto trigger = demandedBy(plant, dossier, function);
    if (!trigger)
        return Unexpected{trigger.error()};
    auto steps = stimuliOf(plant, *scenario);
    if (!steps)
        return Unexpected{steps.error()};
    const auto demand = std::find_if(
        steps->begin(), steps->end(), [&](const Stimulus& s) { return doesTheSame(s, trigger->operate.front()); });
    if (demand == steps->end())
        return refused("stop.no_demand");
    std::vector<Stimulus> startUp(steps->begin(), demand);
    const TimeNs shift = startUp.empty() || startUp.front().at >= kBeforeStart ? 0 : kBeforeStart; // the supply comes
                                                                                                   // up first
    for (Stimulus& s : startUp)
        s.at += shift;

    Cycle cycle;
    cycle.motors = plant.actuatorsOf(function.mustRest);
    if (cycle.motors.empty())
        return refused("stop.no_motor");
    for (std::size_t k = 0; k < plant.actuators.size(); ++k)
        if (plant.actuators[k].holds)
            cycle.held.push_back(static_cast<int>(k));
    const TimeNs lastStart = startUp.empty() ? 0 : startUp.back().at;
    const TimeNs first = std::max(demand->at + shift, lastStart + kBeforeStart);
    cycle.goes[0].demand = first;
    for (const Stimulus& s : startUp)
        cycle.startUp.push_back(s.at);
    cycle.atRest = startUp.empty() ? kBeforeStart / 2 : startUp.front().at - kBeforeStart / 2;
    cycle.justBefore = first - kBeforeDemand;
    cycle.running = std::min(cycle.justBefore, first - std::min(kSettling, (first - lastStart) / 2));

    if (const auto free = withFreeHands(plant, startUp, cycle, workspace, stop)) // a held start is another question
        startUp = *free;
    addStartUp(cycle.stimuli, startUp, 0);
    addAt(cycle.stimuli, trigger->operate, first);
    const auto healthy = healthyRun(plant, cycle, workspace, stop);
    if (!healthy)
        return Unexpected{healthy.error()};
    cycle.runDown = healthy->runDown;
    cycle.firstStart = healthy->firstStart;
    const TimeNs watch = (2 * cycle.runDown + 10 * kS) / kMs * kMs;
    cycle.goes[0].released = first + watch;
    addAt(cycle.stimuli, trigger->back, cycle.goes[0].released);
    // Added to every time of the first go. Whole steps of speed: a machine that starts as before is found in the
    // workspace's memory.
    const TimeNs least = cycle.goes[0].released + 2 * kS - (startUp.empty() ? 0 : startUp.front().at - kBeforeStart);
    const TimeNs again = (least / kLongestSpeedStepNs + 1) * kLongestSpeedStepNs;
    cycle.goes[1] = {cycle.goes[0].released + kS, first + again, first + again + watch};
    addStartUp(cycle.stimuli, startUp, again);
    addAt(cycle.stimuli, trigger->operate, cycle.goes[1].demand);
    addAt(cycle.stimuli, trigger->back, cycle.goes[1].released);
    cycle.restarts = cycle.goes[1].released + kS;
    addStartUp(cycle.stimuli, startUp, 2 * again);
    cycle.end = lastStart + 2 * again + kS;
    return cycle;
}

} // namespace ts::faults
