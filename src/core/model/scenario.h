#pragma once
// A scenario: what an operator and the plant do, and what is expected to follow.

#include "core/base/ids.h"

#include <string>
#include <vector>

namespace ts {

/// One action at one moment: press a button, lose a phase, put a fault on.
struct Step {
    double atS = 0.0;
    std::string action; ///< "press", "release", "operate" (press and release), "set", "fault", "clear_fault"
    std::string target; ///< device tag, or "tag.knob" for set, or SITE:MODE for a fault
    double value = 0.0; ///< for set; for "operate" how long it is held in s
    bool operator==(const Step&) const = default;
};

/// What must be true at a moment.
struct Expectation {
    double atS = 0.0;
    std::string subject; ///< device tag
    std::string state; ///< "in", "out", "lit", "dark", "turning", "at_rest", "outputs_on", "outputs_off", "blown",
                       ///< "whole"
    bool operator==(const Expectation&) const = default;
};

constexpr double kLongestScenarioS = 3600;

struct Scenario {
    ScenarioId id;
    std::string name;
    double lengthS = 5.0;
    std::vector<Step> steps;
    std::vector<Expectation> expectations;
    bool operator==(const Scenario&) const = default;
};

} // namespace ts
