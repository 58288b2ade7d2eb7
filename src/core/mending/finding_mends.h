#pragma once
// What would mend a finding: other sizes, parts, words and whatever can be meant with its devices, carried out one by
// one and everything run again on each changed machine. Nothing is offered that was not run, that leaves a scenario
// worse than it was, or that makes a finding which forbids operation; what else it brings stands beside it.

#include "core/base/expected.h"
#include "core/model/dossier.h"
#include "core/model/finding.h"

#include <functional>
#include <stop_token>

namespace ts::mending {

using Change = std::function<Expected<DossierFile>(const DossierFile&)>;

struct FindingMend {
    Message what; ///< "F5: rated current in A 4 instead of 6"
    Change carriedOut; ///< on the file as it is by then
    std::vector<Message> brings; ///< sentences of findings that were not there before
    std::size_t takes = 0; ///< findings that are gone with it, this one among them
};

struct FindingMends {
    std::vector<FindingMend> list; ///< those that bring nothing first, then in the order of effort
    std::size_t tried = 0; ///< changes that could be carried out and were run
};

/// Changes tried, and all of them.
using Listener = std::function<void(std::size_t done, std::size_t total)>;

/// Fails with Cancelled, with Refused for a finding that rests on no run of a study, and as the study does.
Expected<FindingMends> mendsOf(
    const DossierFile& file, const Finding& finding, const Listener& listener = {}, std::stop_token stop = {});

} // namespace ts::mending
