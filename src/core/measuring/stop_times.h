#pragma once
// Times to rest that were read on the real machine, as what a function's distance rests on: ten runs at least, of the
// slowest thing that it brings to rest. Source: ISO 13855 clause 5.

#include "core/measuring/readings.h"

namespace ts::measuring {

constexpr std::size_t kStopRuns = 10;

/// What was read at one step with a stopwatch, as long as it is not open.
struct StopTimes {
    std::size_t step = 0;
    std::vector<double> seconds; ///< the oldest first
    std::string lastOn; ///< ISO 8601 date
    bool operator==(const StopTimes&) const = default;
};
std::optional<StopTimes> stopTimesAt(
    std::size_t step, const TestPlan& plan, const std::vector<StepState>& states, std::span<const RecordEntry> record);

/// Functions whose demand ends such a step, and which bring to rest what is timed there.
std::vector<const SafetyFunction*> functionsTimedBy(const TestStep& step, const Dossier& dossier);

/// With the times of each function of which everything that is timed has its ten runs. Refused if there is none.
Expected<DossierFile> withStopTimes(const TestPlan& plan, DossierFile file);

} // namespace ts::measuring
