#pragma once
// Finds out what is the matter with a panel by the fewest looks: all single wiring mistakes and device faults are held
// against what was seen and read (Bayes' rule); the next look is the one whose answer is expected to say most for its
// time (expected information, Lindley 1956). Dead looks first; a live one only if nothing dead parts what is left, and
// none that is dangerous under anything that is still likely. A finder is a value: its copy is a step to go back to.

#include "core/finding/symptom.h"
#include "core/measuring/dangers.h"
#include "core/measuring/suspects.h"

#include <array>
#include <functional>

namespace ts::finding {

class Knowledge;

/// What it was until now: says how likely mistakes are against faults (measuring.csv).
enum class History : std::uint8_t { Wired, Changed, RanUntilNow };
std::string_view wordOf(History); ///< "wired", "changed", "ran_until_now"

struct Taken {
    measuring::Situation in;
    measuring::Look look;
    measuring::Reading reading;
    bool operator==(const Taken&) const = default;
};

/// What a look may answer.
struct Outcome {
    measuring::Reading reading; ///< all that belongs together
    double share = 0;
    std::vector<measuring::Suspect> candidates; ///< that would answer so
};

struct Proposal {
    measuring::Situation in;
    measuring::Look look;
    double bits = 0; ///< expected
    double seconds = 0;
    bool isAgain = false; ///< what was read there before contradicts everything else
    measuring::Reading expect; ///< as drawn
    std::vector<Outcome> outcomes; ///< the likeliest first
};

/// Candidates that nothing affordable tells apart.
struct Class {
    double share = 0;
    std::vector<measuring::Suspect> candidates; ///< one of each that joins the same; an empty id: it is as drawn
    std::vector<std::vector<measuring::Suspect>> alike; ///< by candidate: others that join the same
};

struct Finding {
    std::vector<Class> classes; ///< what is not contradicted more than the likeliest one, the likeliest first
    double notOnTheList = 0; ///< share of what nobody thought of
    bool isUnexplained = false; ///< it is none of the list
    bool isConcluded = false; ///< one class holds it, or nothing tells the rest apart
    std::optional<Proposal> next; ///< none once it is concluded
    std::size_t left = 0; ///< candidates that explain everything
    std::vector<std::string> suspected; ///< what these touch, sorted: "wire/12", "Q1/13-14", "Q1"
    std::vector<std::array<measuring::Suspect, 2>> pairs; ///< if unexplained: two at once with which every reading on
                                                          ///< the locked-off panel is as it was read
    std::vector<std::size_t> contradicted; ///< readings that the likeliest one does not explain
};

class Finder {
public:
    /// Fails as compile() does.
    static Expected<Finder> of(const Circuit& circuit, History history = History::Wired);
    static Finder of(std::shared_ptr<const Knowledge> knowledge, History history = History::Wired);

    /// As it began, with another history: what was found out about the circuit itself is kept.
    Finder anew(History history) const { return Finder(m_knowledge, history); }

    /// Fails with NotFound for what is not there, and with Cancelled; then nothing is taken.
    Expected<void> take(const Taken& taken, std::stop_token stop = {});
    Expected<void> take(const std::vector<Taken>& taken, std::stop_token stop = {});
    Expected<void> tell(const std::vector<Symptom>& symptoms, std::stop_token stop = {});

    /// Where it stands, and what to look at next. Fails with Cancelled.
    Expected<Finding> think(std::stop_token stop = {}) const;

    const std::vector<Taken>& taken() const { return m_taken; }
    const Plant& plant() const;
    /// What stops motors, as a panel reads it; it is worked out with the first live look. Empty if it cannot be.
    std::vector<std::string> stops(std::stop_token stop = {}) const;
    double entropy() const; ///< in bits, of everything that is on the list and of what is not

private:
    friend class Thought;
    explicit Finder(std::shared_ptr<const Knowledge> knowledge, History history);
    /// `ofOthers`: how well what nobody thought of explains it; none: as well as what is on the list.
    Expected<void> weigh(const std::function<Expected<double>(std::size_t candidate)>& likelihood,
        std::optional<double> ofOthers, const std::stop_token& stop);

    std::shared_ptr<const Knowledge> m_knowledge;
    std::vector<double> m_weight; ///< by deviation
    double m_unlisted = 0;
    std::vector<Taken> m_taken;
};

/// How well a reading fits what is predicted: 1 - e within, e from one band outside, never zero.
double likelihood(const measuring::Reading& predicted, const measuring::Reading& reading);

} // namespace ts::finding
