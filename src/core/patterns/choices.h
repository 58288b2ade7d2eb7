#pragma once
// What can be chosen when a starter is made from patterns: one list for the command line, the window and the tests.
// What each word means is a sentence in wording ("choice.stop.straight"). Building: starter.h.

#include "core/base/expected.h"

#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace ts::patterns {

struct PlanChoice {
    std::string_view name; ///< "stop"
    std::string_view fallback;
    std::string_view words; ///< separated by blanks; empty: free text
    bool many = false; ///< several words joined by +
};
std::span<const PlanChoice> choices();
/// Null if there is none of this name.
const PlanChoice* choiceNamed(std::string_view name);
std::vector<std::string_view> wordsOf(const PlanChoice& choice);

/// One word, several words or a text for every choice.
class Plan {
public:
    /// From "name=value" texts; what is not named takes its fallback. Several words of one choice are joined by "+".
    /// Fails with Syntax without "=", NotFound for an unknown name and Refused for an unknown word, listing what is
    /// known.
    static Expected<Plan> from(std::span<const std::string> assignments);

    const std::string& text(std::string_view name) const;
    bool is(std::string_view name, std::string_view word) const { return text(name) == word; }
    /// For choices of several words.
    bool has(std::string_view name, std::string_view word) const;

private:
    std::map<std::string, std::string, std::less<>> m_texts;
};

/// False if a choice changes nothing under the others: where a monitor looks that is not there.
bool matters(const Plan& plan, std::string_view name);

} // namespace ts::patterns
