#include "core/studies/evidence.h"

#include "core/checks/check.h"
#include "core/exploration/directed.h"
#include "core/exploration/trials.h"

namespace ts {
namespace {

constexpr TimeNs kLookNs = 3'000'000'000;

} // namespace

std::optional<Evidence> evidenceOf(const Finding& finding, const Results& results)
{
    const Check* check = checkNamed(finding.id);
    const auto place = static_cast<std::size_t>(finding.target.seen);
    if (!check || finding.target.seen < 0)
        return std::nullopt;
    if (check->needs == kTrials.id) {
        const auto trials = results.find(kTrials);
        if (trials && place < trials->seen.size() && !trials->seen[place].script.empty())
            return Evidence{trials->seen[place].script, trials->seen[place].until};
    }
    if (check->needs == kDirected.id) {
        const auto directed = results.find(kDirected);
        if (directed && place < directed->starts.size() && !directed->starts[place].order.empty()) {
            const auto& order = directed->starts[place].order;
            return Evidence{exploration::stimuliOn(order), order.back().at + kLookNs};
        }
    }
    return std::nullopt;
}

} // namespace ts
