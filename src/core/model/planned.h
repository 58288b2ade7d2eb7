#pragma once
// What was chosen when a machine was made from patterns, kept with it: so that a starter can be added, changed or taken
// out later, and the reasons be read. Words as a person gave them; what they mean is in patterns/.

#include <map>
#include <string>
#include <vector>

namespace ts {

using ChosenWords = std::map<std::string, std::string, std::less<>>; ///< by choice: "stop" to "two_channel_relay"

struct PlannedStarter {
    int number = 1; ///< its own for good: the tags of its devices begin with it
    ChosenWords words;
    bool operator==(const PlannedStarter&) const = default;
};

struct PlannedMachine {
    ChosenWords words; ///< of what all starters share
    std::vector<PlannedStarter> starters; ///< in the order of their numbers; none: not made from patterns
    ChosenWords reasons; ///< by choice, "2.base" for a starter's own; in a person's words, or "advised: ..." where
                         ///< advice was taken
    bool operator==(const PlannedMachine&) const = default;
};

} // namespace ts
