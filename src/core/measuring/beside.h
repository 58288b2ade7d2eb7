#pragma once
// A second circuit that is operated like a first one: every hand on the one is a hand on what is called the same on the
// other, at the same time. What is then otherwise is what the two differ by.

#include "core/simulation/bench_run.h"

#include <string>

namespace ts::measuring {

class Beside {
public:
    /// Brings the other one to where the first one is: what was done there since, and time. Back in time it begins
    /// anew. `outOfBudget` as for BenchRun; false: it has not got there yet.
    bool follow(const BenchRun& first, BenchRun& other, const std::function<bool()>& outOfBudget = {});
    const std::vector<std::string>& notThere() const
    {
        return m_notThere;
    } ///< what could not be done to it: "S3 press"

private:
    void take(const Plant& first, const Stimulus& done, BenchRun& other);

    std::vector<Stimulus> m_taken; ///< of the first one's script
    std::vector<std::string> m_notThere;
};

/// A device that looks otherwise on the two.
struct Differing {
    std::string tag, first, second; ///< "M1", "right", "at rest"
    bool operator==(const Differing&) const = default;
};
/// Of all devices that both have and that show something, in the order of the first plant.
std::vector<Differing> differingNow(const BenchRun& first, const BenchRun& second);

} // namespace ts::measuring
