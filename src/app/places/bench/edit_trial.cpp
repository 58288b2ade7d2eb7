#include "app/places/bench/edit_trial.h"

#include "core/checks/check.h"
#include "core/studies/working_out.h"

#include <algorithm>

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
    Results older, newer; // of what is claimed and how it stops: faults are tried once it is done
    for (const auto& [dossier, results] : {std::pair{&before, &older}, {&after, &newer}})
        if (!workOut(*dossier, {.only = {kLevels.id, kChecks.id}}, *results, stop))
            return std::nullopt;
    const auto had = older.find(kChecks), has = newer.find(kChecks);
    if (had && has)
        for (const Finding& f : has->findings)
            if (std::none_of(had->findings.begin(), had->findings.end(),
                    [&f](const Finding& o) { return o.id == f.id && o.what == f.what; }))
                result.newFindings.push_back(f);
    return result;
}

} // namespace

EditTrial::EditTrial(QObject* parent)
    : QObject(parent)
    , m_work(this)
{
}

void EditTrial::tryOut(Snapshot before, Snapshot after)
{
    m_result.reset();
    m_work.run([before = std::move(before), after = std::move(after)](
                   std::stop_token stop) { return tried(*before, *after, stop); },
        [this](const std::shared_ptr<const Result>& result) {
            m_result = result;
            emit finished();
        });
}

void EditTrial::drop()
{
    m_result.reset();
    m_work.drop();
}

} // namespace ts::app
