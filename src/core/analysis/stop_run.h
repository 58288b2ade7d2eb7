#pragma once
// A safety function's demand, run on the circuit: histories for the stop reading, taken from the trace.

#include "core/model/dossier.h"
#include "core/safety/stop_reading.h"
#include "core/simulation/scenario_run.h"

namespace ts {

/// What the demand did.
struct StopRun {
    ScenarioRun run;
    std::vector<safety::ActuatorStop> actuators; ///< in the order of SafetyFunction::mustRest
    std::vector<safety::SeenRestart> restarts; ///< of those that the scenario shows to start again
};

/// Runs the function's demand scenario and reads the stop of each actuator. Fails with Refused if the function names
/// no scenario, trigger or motor, the scenario never operates the trigger, or the circuit chatters; as runScenario
/// does; and with Cancelled.
Expected<StopRun> stopRun(
    const Dossier& dossier, const SafetyFunction& function, Timing timing, std::stop_token stop = {});

/// The same at the slow limit, each motor with the least load that it may have, and watched for ten minutes: what the
/// scenario does after the demand is left out.
Expected<StopRun> lowestLoadRun(const Dossier& dossier, const SafetyFunction& function, std::stop_token stop = {});

/// One motor's history around a demand at a given time. `motor` is a plant slot, `driveLogic` that of the drive it
/// hangs on, or -1.
safety::ActuatorHistory actuatorHistory(
    const Plant& plant, const Trace& trace, int motor, int driveLogic, TimeNs demand);

/// The drive logic that ramps this motor in the wiring of a state, or -1.
int driveLogicOf(const Plant& plant, const State& state, int motor, Workspace& workspace);

/// Stimuli of the scenario up to its demand; none if it never operates the trigger.
std::vector<Stimulus> upToDemand(const Plant& plant, const Scenario& scenario, const std::vector<Stimulus>& operate);

/// When the trigger's action is first taken in a trace; nothing if never.
std::optional<TimeNs> demandTime(const Plant& plant, const Trace& trace, std::string_view tag, std::string_view action);

} // namespace ts
