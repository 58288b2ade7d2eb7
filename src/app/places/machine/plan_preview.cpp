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
        result.outcomes = std::move(*outcomes);
    else
        result.refusal = outcomes.error();
    result.file = std::move(*file);
    return result;
}

} // namespace

PlanPreview::PlanPreview(QObject* parent)
    : QObject(parent)
{
}

PlanPreview::~PlanPreview() = default; // the thread is told to stop and joined

void PlanPreview::work(std::vector<std::string> assignments)
{
    const std::uint64_t job = ++m_job;
    m_busy = true;
    m_thread.request_stop();
    m_thread = std::jthread([this, job, assignments = std::move(assignments)](std::stop_token stop) {
        auto result = worked(assignments, stop);
        if (!result)
            return;
        auto shared = std::make_shared<const Result>(std::move(*result));
        QMetaObject::invokeMethod(
            this,
            [this, job, shared] {
                if (job != m_job)
                    return;
                m_busy = false;
                m_result = shared;
                emit finished();
            },
            Qt::QueuedConnection);
    });
}

} // namespace ts::app
