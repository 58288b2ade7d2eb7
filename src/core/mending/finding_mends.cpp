#include "core/mending/finding_mends.h"

#include "core/checks/check.h"
#include "core/faults/parallel.h"
#include "core/mending/candidates.h"
#include "core/mending/found.h"
#include "core/record/record.h"
#include "core/results/study_ids.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <mutex>

namespace ts::mending {
namespace {

constexpr std::size_t kMostTried = 96;

/// What breaks a scenario or forbids operation.
bool isNoMend(const Finding& brought)
{
    const Check* check = checkNamed(brought.id);
    return brought.severity == Severity::Stop || (check && check->needs == kScenarios.id);
}

std::optional<FindingMend> judged(const Candidate& c, const std::string& key, const Found& before, const Found& after)
{
    // What no longer runs, or is no longer judged, shows nothing: that is no mend.
    if (after.contains(key) || seesLess(before, after))
        return std::nullopt;
    FindingMend mend{c.what, c.carriedOut, {}, 0};
    for (const auto& [k, f] : after)
        if (!before.contains(k)) {
            if (isNoMend(f))
                return std::nullopt;
            mend.brings.push_back(f.what);
        }
    for (const auto& [k, f] : before)
        mend.takes += after.contains(k) ? 0 : 1;
    return mend;
}

} // namespace

Expected<FindingMends> mendsOf(
    const DossierFile& file, const Finding& finding, const Listener& listener, std::stop_token stop)
{
    const Check* check = checkNamed(finding.id);
    const std::string_view study = check ? check->needs : std::string_view();
    if (study != kSizing.id && study != kTrials.id && study != kDirected.id)
        return failure(ErrorCode::Refused, message("mending.no_run"));
    const std::array<std::string_view, 2> studies{study, kScenarios.id};
    const auto before = foundIn(file.dossier, studies, stop);
    if (!before)
        return Unexpected{before.error()};
    const std::string key = record::keyOf(finding);
    std::vector<Candidate> all = study == kSizing.id ? otherSizes(file, finding) : otherWirings(file, finding);
    all.resize(std::min(all.size(), kMostTried));
    std::vector<std::optional<FindingMend>> found(all.size());
    std::atomic<std::size_t> done{0}, tried{0};
    std::mutex telling;
    const auto job = [&](std::size_t k, Workspace&) {
        if (const auto changed = all[k].carriedOut(file))
            if (const auto after = foundIn(changed->dossier, studies, stop)) {
                ++tried;
                found[k] = judged(all[k], key, *before, *after);
            }
        const std::size_t count = ++done;
        if (const std::unique_lock lock(telling, std::try_to_lock); lock && listener)
            listener(count, all.size());
    };
    if (!faults::forEachIndex(all.size(), 0, job, stop))
        return cancelled();
    FindingMends mends{{}, tried};
    for (auto& m : found)
        if (m)
            mends.list.push_back(std::move(*m));
    std::stable_sort(mends.list.begin(), mends.list.end(),
        [](const FindingMend& a, const FindingMend& b) { return a.brings.size() < b.brings.size(); });
    return mends;
}

} // namespace ts::mending
