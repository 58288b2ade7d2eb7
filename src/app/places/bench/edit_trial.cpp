#include "app/places/bench/edit_trial.h"

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
    result.scenarios = static_cast<int>(is->size());
    for (std::size_t k = 0; was && k < std::min(was->size(), is->size()); ++k)
        if ((*was)[k].isInOrder() != (*is)[k].isInOrder())
            ((*is)[k].isInOrder() ? result.mended : result.broken).push_back((*is)[k].name);
    const auto old = analyse(before, stop), now = analyse(after, stop);
    if (stop.stop_requested())
        return std::nullopt;
    if (old && now)
        for (const Finding& f : now->findings)
            if (std::none_of(old->findings.begin(), old->findings.end(),
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
