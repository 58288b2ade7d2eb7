#pragma once
// What could be the matter: the single mistakes and faults under which every reading taken so far is possible. Not what
// to measure next, and nothing about two at once.

#include "core/measuring/test_plan.h"

namespace ts::measuring {

struct StepRead {
    std::size_t step = 0; ///< of the plan
    Reading reading;
};

struct Suspect {
    std::string id; ///< of a mistake, or a fault as people write it
    std::optional<Mistake> mistake{};
    bool operator==(const Suspect&) const = default;
};

/// `readings`: the one that is not as expected first. In the order of the list of mistakes, then of faults. Fails as
/// compile() does, and with Cancelled.
Expected<std::vector<Suspect>> suspectsOf(
    const Circuit& circuit, const TestPlan& plan, const std::vector<StepRead>& readings, std::stop_token stop = {});

} // namespace ts::measuring
