#include "app/places/machine/plan_preview.h"

namespace ts::app {
namespace {

std::optional<PlanPreview::Result> worked(const std::vector<std::string>& assignments, std::stop_token stop)
{
    PlanPreview::Result result;
    const auto plan = patterns::Plan::from(assignments);
    auto file = plan ? patterns::starter(*plan) : Expected<DossierFile>(Unexpected{plan.error()});
    if (!file) {
        result.refusal = file.error();
        return result;
    }
    auto outcomes = scenarioOutcomes(file->dossier, stop);
    if (!outcomes && outcomes.error().code == ErrorCode::Cancelled)
        return std::nullopt;
    if (outcomes)
        result.outcomes = std::move(outcomes->scenarios);
    else
        result.refusal = outcomes.error();
    result.file = std::move(*file);
    return result;
}

} // namespace

PlanPreview::PlanPreview(QObject* parent)
    : QObject(parent)
    , m_work(this)
{
}

void PlanPreview::work(std::vector<std::string> assignments)
{
    m_work.run([assignments = std::move(assignments)](std::stop_token stop) { return worked(assignments, stop); },
        [this](const std::shared_ptr<const Result>& result) {
            m_result = result;
            emit finished();
        });
}

} // namespace ts::app
