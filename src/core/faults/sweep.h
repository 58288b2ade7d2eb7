#pragma once
// The sweep: every fault at every moment of the cycle, then every fault together with every second one. Results by
// index, the same bytes on any number of threads. What it says about structure and coverage: structure.h.

#include "core/faults/fault_list.h"
#include "core/faults/verdict.h"

#include <array>
#include <functional>
#include <memory>
#include <stop_token>

namespace ts::faults {

/// What a fault comes to.
enum class Outcome : std::uint8_t {
    NotRun,
    Safe, ///< takes nothing from the function: no second fault, run together with it, makes a loss of it
    Caught, ///< would count together with a second fault, but is noticed and the machine cannot be started again
    Hidden, ///< would count together with a second fault, and the machine goes on running
    Lost, ///< defeats the function alone
    Undecided ///< the circuit chatters
};
std::string_view nameOf(Outcome); ///< "not_run", "safe" ...

/// FaultOutcome::forgottenBy, where switching the supply off and on is what it takes, and what is before a device's
/// tag.
constexpr std::string_view kForgottenBySupply = "supply off and on", kForgottenByOperating = "operate ";

/// Circumstances beside the nominal ones: all devices at a limit of their times, or the supply at a limit of its
/// voltage (the coils letting go as soon as they may at the low one, holding as long at the high one), or slow with
/// each motor at the least load that somebody entered for it. Source: EN 60204-1 clause 4.3.2 (0.9 to 1.1), CoilBand.
enum class Limit : std::uint8_t { None, FastTimes, SlowTimes, LowVoltage, HighVoltage, LeastLoad };
inline constexpr std::array kLimits{
    Limit::FastTimes, Limit::SlowTimes, Limit::LowVoltage, Limit::HighVoltage, Limit::LeastLoad};
std::string_view nameOf(Limit); ///< "none", "fast_times" ...

struct FaultOutcome {
    bool isRun = false;
    std::array<RunResult, kMoments.size()> runs; ///< by moment, of the worst variant
    std::array<Outcome, kMoments.size()> outcomes{};
    Outcome overall = Outcome::NotRun; ///< the worst moment's
    std::array<std::uint8_t, kMoments.size()> variant{}; ///< the worst one, by moment
    std::array<Limit, kMoments.size()> limits{}; ///< by moment: not None where it is worse there than nominally; that
                                                 ///< run stands for the moment
    int mate = -1; ///< first fault that makes a loss together with this one; -1: none
    int hides = -1; ///< first fault that would be noticed, but not with this one present; -1: none
    std::string forgottenBy; ///< what makes the machine forget that it had noticed: "operate S10", "supply off and on";
                             ///< empty: nothing does
    bool operator==(const FaultOutcome&) const = default;
};

/// The word of an outcome in files: "stops" and "no_part" (both Safe: the machine stops by it, or it takes no part in
/// the stop), "caught", "hidden", "lost", "starts" (Lost: the stop holds, but it starts unasked), "undecided",
/// "excluded" (not run). Part of the documented format.
std::string_view fileWord(Outcome outcome, const RunResult& run);
/// Of the whole fault: of its worst moment.
std::string_view fileWord(const FaultOutcome& outcome);

/// Two faults that lose the function together and not alone.
struct FaultPair {
    int first = 0, second = 0; ///< places in Sweep::faults
    Moment moment = Moment::JustBefore;
    bool firstIsHidden = false; ///< the first one was there, unnoticed, before the second came
    RunResult run;
    bool operator==(const FaultPair&) const = default;
};

struct Sweep;

struct SweepOptions {
    int threads = 0; ///< 0: as many as the machine has
    bool withPairs = true;
    bool withLimits = true; ///< every moment also at the limits of times and voltage
    bool withExcluded = true; ///< excluded faults too, alone: what the verdict would be without the exclusions
    const Sweep* known = nullptr; ///< of the same circuit and function: single faults that were tried already are not
                                  ///< run again
    int shard = 0,
        shards = 1; ///< of the second faults, runs only those of every `shards`-th first one; see withSecondFaults()
    /// Told what single faults alone say so far, before second ones are tried: every `soFarEveryS` and when they are
    /// all there. From any thread, but never two at once. May be empty.
    std::function<void(const Sweep&)> onSoFar{};
    double soFarEveryS = 1.0;
};

struct SweepProgress {
    enum class Stage : std::uint8_t { Single, Limits, Pairs };
    Stage stage = Stage::Single;
    std::size_t done = 0, total = 0; ///< runs of this stage
};
/// Told now and then, from any thread but never two at once.
using SweepListener = std::function<void(const SweepProgress&)>;

struct Sweep {
    FunctionId function;
    std::vector<SweptFault> faults;
    std::vector<FaultOutcome> outcomes; ///< by fault
    std::vector<FaultPair> pairs; ///< in order of (first, second)
    bool hasPairs = false;
    std::size_t runCount = 0, pairRunCount = 0;
    int skippedCount = 0,
        checkedCount = 0; ///< faults without a pair because they stop the machine; of these run all the same
    double runDownS = 0, watchS = 0; ///< of the healthy circuit; of each demand
    double worstRestS = 0; ///< latest rest of any motor in any run with one fault that is not lost, at the limits, too
    std::size_t limitRunCount = 0;
    std::vector<std::pair<Limit, Message>> limitTrouble; ///< limits at which the circuit without faults already fails,
                                                         ///< or could not be run
    std::vector<std::string> notRunning; ///< motors that must rest, but do not run at the demand: nothing was shown of
                                         ///< them
    std::size_t count(Outcome outcome, bool withExcluded) const; ///< of single faults: common causes are not counted
    bool operator==(const Sweep&) const = default;
};

/// What shards found, put together: the sweep without pairs, and the pairs and "hides" of all shards. Pure.
struct SecondFaults {
    std::vector<FaultPair> pairs;
    std::vector<std::pair<int, int>> hides; ///< fault, and what it hides
    std::size_t runCount = 0;
    int skippedCount = 0, checkedCount = 0; ///< of all candidates, whatever the shard
};
SecondFaults secondFaultsOf(const Sweep& sweep);
Sweep withSecondFaults(Sweep sweep, const SecondFaults& found);

/// Fails as cycleOf does, with Refused if the healthy circuit already loses the function, and with Cancelled.
Expected<Sweep> sweep(const Dossier& dossier, const SafetyFunction& function, const SweepOptions& options,
    const SweepListener& listener = {}, std::stop_token stop = {});

/// One fault by itself: without second ones what is noticed counts as caught, and what is not as hidden.
struct TriedFault {
    SweptFault fault;
    FaultOutcome outcome;
    std::vector<std::string> notRunning; ///< as in Sweep
};
/// Fails as sweep() does, and with NotFound if the circuit has no such fault.
Expected<TriedFault> tryFault(
    const Dossier& dossier, const SafetyFunction& function, std::string_view id, std::stop_token stop = {});

} // namespace ts::faults
