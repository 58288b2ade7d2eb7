#pragma once
// The performance level of one safety function as claimed: parts to channels to subsystems to function, with every
// intermediate value. What the wiring really does is not looked at here.

#include "core/safety/chain.h"
#include "core/safety/contradiction.h"
#include "core/safety/explanation.h"

#include <optional>
#include <vector>

namespace ts::safety {

struct PartLevel {
    DeviceId device;
    std::string tag;
    std::string role;
    bool isExcluded = false;
    ValueIndex operations = -1, mttfd = -1, t10d = -1, coverage = -1;
};

struct ChannelLevel {
    std::string name;
    std::vector<PartLevel> parts;
    ValueIndex mttfd = -1, capped = -1;
};

struct SubsystemLevel {
    std::string name;
    bool isEncapsulated = false;
    std::string category; ///< as claimed, or as given by the maker
    std::vector<ChannelLevel> channels;
    std::optional<ChannelLevel> test; ///< category 2
    std::vector<Condition> conditions; ///< of the claimed category
    ValueIndex mttfd = -1, coverage = -1, commonCause = -1, pfhd = -1;
    std::optional<Level> level; ///< none if a condition is not met
    std::vector<Message> unmet; ///< why not
    std::optional<Category> best; ///< the best category whose conditions would be met, if the claimed one is not
};

/// A part whose T10d ends before the mission time does, where the day is known since which it is in use.
struct Replacement {
    DeviceId device;
    double t10dYears = 0;
    std::string due; ///< ISO 8601 date
};

struct FunctionLevel {
    FunctionId function;
    Explanation explanation;
    std::optional<Chain> chain; ///< the numbers alone; none if some part has none
    std::vector<SubsystemLevel> subsystems;
    ValueIndex pfhd = -1;
    std::optional<Level> level; ///< lower of PFHd's and the lowest subsystem's; none if any subsystem has none
    std::optional<Level> required;
    std::optional<Level> levelByCount; ///< what the subsystems' levels alone would give (clause 6.3, table 11), for
                                       ///< comparison
    bool conditionsAnswered = false; ///< until then the level reads "PFHd in the range of"
    std::vector<Message> unmet; ///< of the function itself
    std::vector<Message> assumptions; ///< what the result rests on
    std::vector<Contradiction> contradictions; ///< of the claim with the file's own data
    std::vector<Replacement> replacements;

    /// Index of the subsystem with the largest PFHd, or the first without a level; -1 without subsystems.
    int weakest() const;
};

/// Pure. Never fails: what cannot be computed stands in `unmet`, and then there is no number.
FunctionLevel functionLevel(const Dossier& dossier, const SafetyFunction& function);

/// Names of the conditions that are not answered, in words ids ("condition.environment"). Of the software only if a
/// device of the claim holds a program that somebody writes.
std::vector<std::string> unansweredConditions(const Circuit& circuit, const SafetyFunction& function);
bool hasApplicationSoftware(const Circuit& circuit, const SafetyFunction& function);

} // namespace ts::safety
