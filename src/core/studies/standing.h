#pragma once
// Where a machine stands: the verdict on each function, all findings, and what was not looked at. One value for the
// window, the command line and the report's first page.

#include "core/analysis/function_verdict.h"
#include "core/checks/check.h"

namespace ts {

struct Standing {
    std::vector<FunctionVerdict> verdicts; ///< in the dossier's order
    Checked checked;

    enum class Word : std::uint8_t {
        InOrder, ///< no finding to be mended, every level reached, everything looked at
        Findings, ///< a finding that forbids operation or is to be corrected, or a level not reached
        NotLookedAt ///< none, but something was not made or is not known
    };
    Word word() const;
};

/// Pure. Of what is in `results`; `checks` are taken from there, or made.
Standing standingOf(const Dossier& dossier, const Results& results);
/// The verdict on one function; none before its level is there.
std::optional<FunctionVerdict> verdictOf(const Dossier& dossier, FunctionId function, const Results& results);

} // namespace ts
