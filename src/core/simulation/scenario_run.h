#pragma once
// Plays a scenario of the dossier: steps become stimuli, expectations are looked at on the way.

#include "core/model/scenario.h"
#include "core/simulation/advance.h"
#include "core/simulation/frame.h"

namespace ts {

/// Stimuli of a scenario in order of time. Fails with NotFound for a device, action, knob or fault that does not
/// exist, and with OutOfRange for a time that is negative or after the scenario's end.
Expected<std::vector<Stimulus>> stimuliOf(const Plant& plant, const Scenario& scenario);

struct ExpectationResult {
    Expectation expectation;
    bool isMet = false;
};

struct ScenarioRun {
    Trace trace;
    State end;
    Pause pause = Pause::Reached;
    std::vector<ExpectationResult> expectations;
};

/// Runs from rest (supply on at t = 0) to the scenario's end, or to `untilS` if that is above zero. Expectations later
/// than the end are left out of the result.
/// Fails as stimuliOf does, for an expectation of a state no device has, and with Cancelled.
Expected<ScenarioRun> runScenario(const Plant& plant, const Scenario& scenario, std::span<const Fault> faultsFromStart,
    double untilS, Workspace& workspace, std::stop_token stop = {});

/// Whether a device is in the state an expectation names. Fails with NotFound for an unknown device or state word.
Expected<bool> isInState(const Plant& plant, const State& state, std::string_view tag, std::string_view word);

} // namespace ts
