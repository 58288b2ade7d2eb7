#pragma once
// A study is anything that is worked out from a dossier. One file each, one sorted registry, asked by window, command
// line and report alike. To add one: its name and type in results/study_ids.h, a file here with a function that makes
// it, a line in registry.cpp, wording
// ("study.<id>"), a test. Who reads its result says so in a check (checks/check.h).

#include "core/results/results.h"
#include "core/results/subjects.h"
#include "core/studies/fingerprint.h"

#include <atomic>
#include <functional>
#include <optional>
#include <span>
#include <stop_token>

namespace ts {

/// How long it takes on a machine of the demo's size; who runs it when.
enum class Cost : std::uint8_t {
    Instant, ///< 50 ms: at once
    Soon, ///< 3 s: next
    Long ///< when somebody asks, or nothing else is wanted for a while
};

/// How far a work is; written by its threads and read by others.
struct WorkProgress {
    std::atomic<std::size_t> done{0}, total{0}, found{0};
    std::atomic<int> stage{0}; ///< counts begin again with each
    std::function<void(Value)> onSoFar{}; ///< told what is there already; from any thread, never two at once; may be
                                          ///< empty
};

struct Study {
    std::string_view id;
    Subject::Kind about = Subject::Kind::Machine;
    Cost cost = Cost::Soon;
    std::span<const std::string_view> after; ///< studies of the same subject (or all of another kind) that are tried
                                             ///< before it
    std::span<const std::string_view> reads; ///< studies whose results it takes where they are there: then it says more
    /// Of all in the dossier that it depends on: equal keys and the same results to read, equal result. Undo finds it
    /// again by that.
    std::string (*key)(const Dossier&, const Subject&, const Fingerprint&) = nullptr;
    Expected<Value> (*run)(
        const Dossier&, const Subject&, const Results& earlier, WorkProgress&, std::stop_token) = nullptr;
    std::string (*textOf)(const Value&) = nullptr; ///< null: it is not kept in the user's folder
    std::optional<Value> (*fromText)(std::string_view, const Dossier&, const Subject&) = nullptr; ///< none: damaged, or
                                                                                                  ///< of something else
};

/// In the order in which they are best worked out.
std::span<const Study> allStudies();
/// Null if there is none of that name.
const Study* studyNamed(std::string_view id);

/// Whether a study's result for one subject bears on another's: the same one, or one of another kind.
bool bearsOn(const Subject& read, const Subject& reader);

/// What may be used up by one study of a dossier that nobody has vouched for.
struct Budget {
    double seconds = 0;
    std::size_t bytes = 0; ///< of memory of the whole program
};
Budget budgetOf(Cost cost);

/// Runs it within its budget. Fails as the study does; with Refused if it took more time or memory than it may, which
/// says so; and with Cancelled. `memoryInUse`: asked now and then; may be null.
Expected<Value> workedOut(const Study& study, const Dossier& dossier, const Subject& subject, const Results& earlier,
    WorkProgress& progress, std::stop_token stop, const Budget& budget, std::size_t (*memoryInUse)() = nullptr);

} // namespace ts
