#include "app/document/analyst.h"

#include <QMetaObject>

namespace ts::app {

Analyst::Analyst(QObject* parent)
    : QObject(parent)
{
}

Analyst::~Analyst() = default; // the thread is told to stop and joined

void Analyst::analyse(Snapshot snapshot)
{
    const std::uint64_t job = ++m_job;
    m_busy = true;
    m_thread.request_stop();
    m_thread = std::jthread([this, job, snapshot = std::move(snapshot)](std::stop_token stop) {
        auto analysis = ts::analyse(*snapshot, stop);
        std::shared_ptr<const Analysis> result;
        if (analysis)
            result = std::make_shared<const Analysis>(std::move(*analysis));
        else if (analysis.error().code == ErrorCode::Cancelled)
            return;
        QMetaObject::invokeMethod(this, [this, job, snapshot, result] { take(job, snapshot, result); }, Qt::QueuedConnection);
    });
}

void Analyst::take(std::uint64_t job, Snapshot of, std::shared_ptr<const Analysis> result)
{
    if (job != m_job)
        return;
    m_busy = false;
    m_result = std::move(result);
    m_resultOf = std::move(of);
    emit finished();
}

} // namespace ts::app
