#pragma once
// What somebody saw, as a look with words: "operate S2 -> not M1 driven" from switching on, or "P3 dark" with nothing
// done.

#include "core/measuring/panel.h"

namespace ts::finding {

struct Symptom {
    measuring::Situation in;
    std::string device, state; ///< a word of scenarios or of what a device looks like: "driven", "lit", "right"
    bool isNot = false;
    bool operator==(const Symptom&) const = default;
};

std::vector<std::string> wordsIn(const std::string& text);

/// "ACTION TAG; ACTION TAG -> [not] TAG STATE, [not] TAG STATE"; "operate" presses and lets go. Fails with Syntax, and
/// with NotFound for a device, an action or a state that is not there.
Expected<std::vector<Symptom>> symptomsFrom(const Plant& plant, std::string_view text);

/// What hands can do, as symptoms are written: "operate S2", "press S2", "turn_to_1 S5".
std::vector<std::string> handsOn(const Plant& plant);
/// Devices of which somebody sees how they stand, each with the words for that.
std::vector<std::pair<std::string, std::vector<std::string>>> statesSeenOn(const Plant& plant);

/// In a state of any plant with the same devices. Fails with NotFound for a state that the device never has.
Expected<bool> isSeen(const Plant& plant, const State& state, const Symptom& symptom);

} // namespace ts::finding
