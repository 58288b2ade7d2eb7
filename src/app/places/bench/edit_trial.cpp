#include "app/places/bench/edit_trial.h"

#include "core/mending/found.h"
#include "core/results/study_ids.h"

#include <algorithm>
#include <array>

namespace ts::app {
namespace {

std::optional<EditTrial::Result> tried(const Dossier& before, const Dossier& after, std::stop_token stop)
{
    EditTrial::Result result;
    const auto was = scenarioOutcomes(before, stop), is = scenarioOutcomes(after, stop);
    if (stop.stop_requested())
        return std::nullopt;
    if (!is) {
        result.refusal = is.error();
        return result;
    }
    const auto& now = is->scenarios;
    result.scenarios = static_cast<int>(now.size());
    for (std::size_t k = 0; was && k < std::min(was->scenarios.size(), now.size()); ++k)
        if (was->scenarios[k].isInOrder() != now[k].isInOrder())
            (now[k].isInOrder() ? result.mended : result.broken).push_back(now[k].name);
    return result;
}

constexpr std::array<std::string_view, 5> kJudged{"", kLevels.id, kDirected.id, kTrials.id, kSizing.id};

std::optional<EditTrial::Findings> judged(const Dossier& before, const Dossier& after, std::stop_token stop)
{
    const auto had = mending::foundIn(before, kJudged, stop), has = mending::foundIn(after, kJudged, stop);
    if (stop.stop_requested())
        return std::nullopt;
    EditTrial::Findings result;
    if (!had || !has) {
        result.notJudged = had ? has.error() : had.error();
        return result;
    }
    for (const auto& [key, f] : *has)
        if (!had->contains(key))
            result.made.push_back(f);
    for (const auto& [key, f] : *had)
        if (!has->contains(key))
            result.taken.push_back(f);
    result.seesLess = mending::seesLess(*had, *has);
    return result;
}

} // namespace

EditTrial::EditTrial(QObject* parent)
    : QObject(parent)
    , m_work(this)
    , m_judging(this)
{
}

void EditTrial::tryOut(Snapshot before, Snapshot after)
{
    drop();
    m_work.run([before, after](std::stop_token stop) { return tried(*before, *after, stop); },
        [this](const std::shared_ptr<const Result>& result) {
            m_result = result;
            emit finished();
        });
    m_judging.run([before, after](std::stop_token stop) { return judged(*before, *after, stop); },
        [this](const std::shared_ptr<const Findings>& findings) {
            m_findings = findings;
            emit finished();
        });
}

void EditTrial::drop()
{
    m_result.reset();
    m_findings.reset();
    m_work.drop();
    m_judging.drop();
}

} // namespace ts::app
