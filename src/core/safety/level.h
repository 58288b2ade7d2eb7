#pragma once
// The performance level of one safety function as claimed: parts to channels to subsystems to function, with every
// intermediate value. What the wiring really does is not looked at here.

#include "core/model/dossier.h"
#include "core/safety/arithmetic.h"
#include "core/safety/explanation.h"

#include <optional>
#include <vector>

namespace ts::safety {

struct PartLevel {
    DeviceId device;
    std::string tag;
    std::string role;
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
    ValueIndex mttfd = -1, coverage = -1, commonCause = -1, pfhd = -1;
    std::optional<Level> level; ///< none if a condition is not met
    std::vector<Message> unmet; ///< why not
    std::optional<Category> best; ///< the best category whose conditions would be met, if the claimed one is not
};

struct FunctionLevel {
    FunctionId function;
    Explanation explanation;
    std::vector<SubsystemLevel> subsystems;
    ValueIndex pfhd = -1;
    std::optional<Level> level; ///< lower of PFHd's and the lowest subsystem's; none if any subsystem has none
    std::optional<Level> required;
    bool conditionsAnswered = false; ///< until then the level reads "PFHd in the range of"
    std::vector<Message> unmet; ///< of the function itself
    std::vector<Message> assumptions; ///< what the result rests on

    /// Index of the subsystem with the largest PFHd, or the first without a level; -1 without subsystems.
    int weakest() const;
};

/// Pure. Never fails: what cannot be computed stands in `unmet`, and then there is no number.
FunctionLevel functionLevel(const Dossier& dossier, const SafetyFunction& function);

/// Names of the conditions that are not answered, in words ids ("condition.environment").
std::vector<std::string> unansweredConditions(const SafetyFunction& function);

} // namespace ts::safety
