#pragma once
// Readings at steps of a plan: taken, kept as entries of the record, judged anew whenever they are looked at, and which
// of them still prove anything after a change of the circuit.

#include "core/measuring/test_plan.h"
#include "core/model/dossier.h"

#include <span>

namespace ts::measuring {

struct StepTaken {
    std::string step; ///< id
    std::string who, at; ///< name; ISO 8601 time with zone
    std::string instrument, calibratedUntil; ///< ISO 8601 date
    double uncertainty = 0; ///< share of the value
    std::optional<double> value; ///< in the unit of the step's instrument
    std::string word;
    bool operator==(const StepTaken&) const = default;
};

/// Results as somebody sends them: {format: "sentry-results-1", circuit, entries [{step, who, at, instrument {name,
/// calibrated_until}, reading {value} or {word}}]}. Not trusted: at most 5 MB, sizes and words as in dossiers.
struct SentResults {
    std::string circuit; ///< hash of the circuit they were taken on
    std::vector<StepTaken> entries;
    bool operator==(const SentResults&) const = default;
};
Expected<SentResults> resultsFrom(std::string_view text);
inline constexpr std::size_t kLargestResultsBytes = 5u * 1024u * 1024u;

/// As the next entry of the record, role "tested". Fails with NotFound for a step that is not in the plan, with
/// OutOfRange for a reading without figure or word, a word where a figure belongs and a figure that none can be.
Expected<RecordEntry> entryOf(
    const StepTaken& taken, const TestPlan& plan, const Dossier& dossier, std::span<const RecordEntry> record);
/// All of them or none. Refused if they were taken on another circuit.
Expected<DossierFile> withResults(const SentResults& results, const TestPlan& plan, DossierFile file);

enum class Verdict : std::uint8_t { Agrees, Disagrees, NotCalibrated };
/// Against what was expected then, or now.
Verdict verdictOf(const RecordEntry& reading);
Verdict verdictOf(const RecordEntry& reading, const Reading& expect);

/// Why a step is still to be done, or again.
enum class Open : std::uint8_t {
    NotDone,
    Disagrees, ///< the last reading does
    NotCalibrated,
    PartChanged, ///< something that it is the first to show mistakes of is another one since
    ExpectationChanged ///< the reading would not agree with what is expected now
};
std::string_view wordOf(Open); ///< "not_done", "disagrees" ...

struct StepState {
    std::optional<Open> open; ///< none: proved
    std::vector<std::size_t> readings; ///< entries of the record about it, the oldest first
    bool hasDisagreed = false; ///< some reading did, even if a later one agrees
    bool operator==(const StepState&) const = default;
};
/// By step of the plan.
std::vector<StepState> standingOf(const TestPlan& plan, const DossierFile& file);

/// What the record says of itself, without a plan: places of entries, each a step's newest reading.
struct Recorded {
    std::size_t steps = 0; ///< with a reading
    std::vector<std::size_t> changed; ///< something that it rests on is another one by now
    std::vector<std::size_t> disagree; ///< of the others: it did with what was expected then
};
Recorded recordedOf(const Circuit& circuit, std::span<const RecordEntry> record);

/// The first step of proving it dead that has not been taken as expected today, nor since something was read live: it
/// was dead then, and may be live now. None: it is proved dead. `today`: ISO 8601 date.
std::optional<std::size_t> toProveDead(
    const TestPlan& plan, std::span<const RecordEntry> record, std::string_view today);
/// How many steps before this one are open: what they would have shown may be what makes this one dangerous.
std::size_t openBefore(const std::vector<StepState>& states, std::size_t step);

/// A figure as it is written down: "0,3", "2.5e6", and "OL" or "open" where a meter for ohms shows that. None: neither.
std::optional<double> figureFrom(std::string_view text, Instrument with);
inline constexpr double kOverloadOhm = 1e12; ///< what stands for open in a record

/// Of all parts that the plan covers, by name: proved, if no step that is the first to show anything of it is open;
/// begun, if some are.
struct Proof {
    std::vector<std::string> proved, begun;
};
Proof proofOf(const TestPlan& plan, const std::vector<StepState>& states);

} // namespace ts::measuring
