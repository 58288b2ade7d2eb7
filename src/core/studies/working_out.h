#pragma once
// Studies of one dossier worked out one after the other, for those who wait for them: command line and tests. The
// window has its own way, in the background (app/document/study_book.h).

#include "core/studies/kept_studies.h"

#include <functional>

namespace ts {

struct WorkOptions {
    bool withLong = false; ///< also what takes its time
    std::vector<std::string_view> only{}; ///< these, and what they come after; empty: all
    std::function<void(const Study&, const Subject&, const WorkProgress&)> onBegin{}; ///< told before each that is not
                                                                                      ///< found again
    std::size_t (*memoryInUse)() = nullptr;
    const io::ResultStore* kept = nullptr; ///< looked into first, and filled; null: neither
};

/// Adds to `results` what is not there yet; a study that fails is there as a trouble. Fails with Cancelled only.
Expected<void> workOut(const Dossier& dossier, const WorkOptions& options, Results& results, std::stop_token stop = {});

} // namespace ts
