#include "app/document/study_worker.h"

#include "core/base/check.h"
#include "core/studies/kept_studies.h"
#include "host/process.h"

#include <QMetaObject>

namespace ts::app {

StudyWorker::StudyWorker(QObject* owner, const io::ResultStore& store, Done done)
    : m_owner(owner)
    , m_store(store)
    , m_done(std::move(done))
    , m_thread([this](const std::stop_token& stop) { work(stop); })
{
}

StudyWorker::~StudyWorker()
{
    if (m_job)
        m_job->stop.request_stop();
}

void StudyWorker::start(std::shared_ptr<StudyJob> job)
{
    TS_CHECK(!m_job);
    m_job = std::move(job);
    m_job->clock.start();
    {
        const std::scoped_lock lock(m_mutex);
        m_next = m_job;
    }
    m_wake.notify_one();
}

void StudyWorker::work(const std::stop_token& stop)
{
    host::giveWay();
    for (;;) {
        std::shared_ptr<StudyJob> job;
        {
            std::unique_lock lock(m_mutex);
            if (!m_wake.wait(lock, stop, [this] { return m_next != nullptr; }))
                return;
            job = std::exchange(m_next, nullptr);
        }
        auto known = recalled(*job->study, job->key, *job->of, job->subject, m_store);
        const bool isKnown = known.has_value();
        const auto result = isKnown ? std::make_shared<const Expected<Value>>(std::move(*known)) : worked(*job);
        QMetaObject::invokeMethod(
            m_owner,
            [this, job, result] {
                m_job = nullptr;
                m_done(job, result);
            },
            Qt::QueuedConnection);
        if (!isKnown && result && *result) // nobody waits for the disk
            keep(*job->study, job->key, **result, m_store);
    }
}

std::shared_ptr<const Expected<Value>> StudyWorker::worked(StudyJob& job) const
{
    if (job.onlyRecalls)
        return nullptr;
    const Study& study = *job.study;
    auto value = workedOut(study, *job.of, job.subject, job.earlier, *job.progress, job.stop.get_token(),
        budgetOf(study.cost), host::memoryInUse);
    if (job.stop.stop_requested())
        return nullptr;
    return std::make_shared<const Expected<Value>>(std::move(value));
}

} // namespace ts::app
