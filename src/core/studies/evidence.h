#pragma once
// What a finding rests on as something that can be played: from switching on to where it can be seen.

#include "core/model/finding.h"
#include "core/results/results.h"
#include "core/simulation/advance.h"

#include <optional>
#include <vector>

namespace ts {

struct Evidence {
    std::vector<Stimulus> script; ///< in order of time
    TimeNs until = 0; ///< by then it can be seen
};

/// None: it rests on something else than a run of its own. Pure.
std::optional<Evidence> evidenceOf(const Finding& finding, const Results& results);

} // namespace ts
