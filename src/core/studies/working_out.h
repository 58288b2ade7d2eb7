#pragma once
// Studies of one dossier worked out one after the other, for those who wait for them: command line and tests. The
// window has its own way, in the background (app/document/study_book.h).

#include "core/studies/study.h"

#include <functional>

namespace ts {

struct WorkOptions {
    bool withLong = false; ///< also what takes its time
    std::vector<std::string_view> only{}; ///< these, and what they come after; empty: all
    std::function<void(const Study&, const Subject&, const WorkProgress&)> onBegin{}; ///< told before each
    std::size_t (*memoryInUse)() = nullptr;
};

/// Adds to `results` what is not there yet; a study that fails is there as a trouble. Fails with Cancelled only.
Expected<void> workOut(const Dossier& dossier, const WorkOptions& options, Results& results, std::stop_token stop = {});

} // namespace ts
