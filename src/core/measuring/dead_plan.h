#pragma once
// The steps that are taken with everything locked off. Internal to measuring/.

#include "core/measuring/choice.h"
#include "core/measuring/dead_looks.h"

namespace ts::measuring {

struct ChosenStep {
    TestStep step;
    Shown shows; ///< deviations, by number
};

struct DeadPlan {
    std::vector<ChosenStep> steps;
    std::vector<std::string> notInsulated; ///< terminals of power circuits that no test of insulation covers
    Shown shown;
    std::vector<std::uint8_t> isFelt; ///< by deviation: some look reads other than it should, though within its band
};

Expected<DeadPlan> deadPlanOf(const Circuit& circuit, const Plant& plant, const Deviations& deviations,
    const PlanProgress& progress, std::stop_token stop);

/// Of a step: what it touches, sorted, from the deviations that it shows.
std::vector<std::string> coveredBy(const Shown& shows, const Deviations& deviations);

} // namespace ts::measuring
