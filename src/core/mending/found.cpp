#include "core/mending/found.h"

#include "core/checks/check.h"
#include "core/exploration/directed.h"
#include "core/exploration/trials.h"
#include "core/record/record.h"
#include "core/results/study_ids.h"
#include "core/sizing/sizing.h"
#include "core/studies/working_out.h"

#include <algorithm>

namespace ts::mending {
namespace {

void countSeen(const Results& results, Found& found)
{
    if (const auto sized = results.find(kSizing))
        found.notSeen += sized->notJudged.size();
    if (const auto trials = results.find(kTrials)) {
        found.states += trials->states;
        found.notSeen += trials->neverRan.size() + trials->leftOut + trials->undecided;
    }
    if (const auto directed = results.find(kDirected))
        found.notSeen += directed->neverRan.size() + directed->leftOut + directed->undecided;
}

} // namespace

Expected<Found> foundIn(const Dossier& dossier, std::span<const std::string_view> studies, std::stop_token stop)
{
    Results results;
    WorkOptions options;
    for (const std::string_view study : studies)
        if (!study.empty())
            options.only.push_back(study);
    if (!options.only.empty()) // none would mean all of them
        if (auto done = workOut(dossier, options, results, std::move(stop)); !done)
            return Unexpected{done.error()};
    for (const std::string_view study : options.only)
        if (const Error* trouble = results.trouble(study, {}))
            return Unexpected{*trouble};
    Found found;
    for (const Finding& f : checked(dossier, results).findings)
        if (const Check* check = checkNamed(f.id);
            check && std::find(studies.begin(), studies.end(), check->needs) != studies.end())
            found.emplace(record::keyOf(f), f);
    countSeen(results, found);
    return found;
}

bool seesLess(const Found& before, const Found& after)
{
    return after.states < before.states || after.notSeen > before.notSeen;
}

} // namespace ts::mending
