#pragma once
// What a scenario shows over its whole length: for each device that somebody asks about, from when to when it is in the
// state that a person looks for.

#include "core/simulation/scenario_run.h"

namespace ts {

/// The words of states that a device can be in, the one that a person looks for first: "turning", "in", "lit" ...
/// Empty for a device that is not there or shows nothing.
std::vector<std::string> stateWordsOf(const Plant& plant, std::string_view tag);

struct SeenBand {
    std::string tag;
    std::string word; ///< the first of its states
    std::vector<std::pair<double, double>> whenS; ///< from, to; in order, apart
    bool operator==(const SeenBand&) const = default;
};

struct ScenarioCourse {
    ScenarioRun run;
    std::vector<SeenBand> bands; ///< of each tag that shows anything, in the order asked for
};

/// Fails as runScenario() does.
Expected<ScenarioCourse> courseOf(
    const Plant& plant, const Scenario& scenario, std::span<const std::string> tags, std::stop_token stop = {});

} // namespace ts
