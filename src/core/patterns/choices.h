#pragma once
// What can be chosen when a machine is made from patterns: one list for the command line, the window and the tests.
// What each word means is a sentence in wording ("choice.stop.straight"). Building: machine.h.

#include "core/base/expected.h"
#include "core/model/planned.h"

#include <optional>
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
    bool own = false; ///< each starter has its own; else the machine's
};
std::span<const PlanChoice> choices();
/// Null if there is none of this name.
const PlanChoice* choiceNamed(std::string_view name);
std::vector<std::string_view> wordsOf(const PlanChoice& choice);

/// One word, several words or a text for every choice: the machine's, and those of one starter.
class Plan {
public:
    const std::string& text(std::string_view name) const;
    bool is(std::string_view name, std::string_view word) const { return text(name) == word; }
    /// For choices of several words.
    bool has(std::string_view name, std::string_view word) const;
    /// The number that was given, or none if nothing was. Fails with OutOfRange beyond the bounds.
    Expected<std::optional<double>> number(std::string_view name, double low, double high) const;

private:
    friend class MachinePlan;
    Expected<void> take(std::string_view name, const std::string& value);
    static Plan offered();
    ChosenWords m_texts;
};

/// All of a machine's choices.
class MachinePlan {
public:
    static constexpr int kMostStarters = 20;

    /// "stop=straight" is the machine's, "2.base=reversing" that of starter 2, "base=reversing" that of starter 1. What
    /// is not named takes its fallback; where no starter is named there is one, the first. Several words of one
    /// choice are joined by "+". Fails with Syntax without "=", NotFound for an unknown name, OutOfRange for an
    /// impossible number of a starter and Refused for an unknown word, listing what is known.
    static Expected<MachinePlan> from(std::span<const std::string> assignments);
    /// Of what a file keeps. Fails as from() does.
    static Expected<MachinePlan> of(const PlannedMachine& planned);
    /// The same with some of it said otherwise, starters added, and starters taken out. Fails as from() does, with
    /// NotFound for a starter that is not there, and Refused if none would be left.
    Expected<MachinePlan> with(std::span<const std::string> assignments, std::span<const int> without = {}) const;

    struct Starter {
        int number;
        Plan plan; ///< with the machine's words
    };
    const std::vector<Starter>& starters() const { return m_starters; } ///< at least one, by number
    const Plan& shared() const { return m_starters.front().plan; }
    const Plan* starter(int number) const;
    /// Every word, also those that nobody chose, so that another edition of this program builds the same.
    PlannedMachine kept() const;

private:
    std::vector<Starter> m_starters;
};

/// "2.base" is the base of starter 2; "base" that of starter 1, "stop" the machine's (0).
struct ChoiceName {
    int starter = 0;
    std::string name;
};
Expected<ChoiceName> choiceName(std::string_view text);
/// How such a choice is named in a plan's reasons: "2.base", "stop".
std::string keptName(int starter, std::string_view name);

/// A motor that is known by its times: single-phase, or for direct current.
bool isSmall(const Plan& starter);
/// True if the way of operating keeps the motor running after the button has been let go, by a contact of its own.
bool hasHold(const Plan& starter);

/// True if what operates it is turned.
bool hasSelector(const Plan& starter);

/// False if a choice changes nothing under the others: where a monitor looks that is not there.
bool matters(const Plan& plan, std::string_view name);

} // namespace ts::patterns
