#pragma once
// One job at a time on a thread of its own, of which only the newest counts: an older one is told to stop and its
// result is dropped. Results arrive in the owner's thread.

#include <QMetaObject>
#include <QObject>

#include <cstdint>
#include <memory>
#include <optional>
#include <thread>

namespace ts::app {

template <class Result> class Latest {
public:
    /// The owner must outlive nothing: when it goes, the thread has been joined before.
    explicit Latest(QObject* owner)
        : m_owner(owner)
    {
    }

    /// `work` gets a stop token and returns a Result, or none if it was cancelled; `done` takes a shared pointer to it.
    template <class Work, class Done> void run(Work work, Done done)
    {
        const std::uint64_t job = ++m_job;
        m_isBusy = true;
        m_thread.request_stop();
        m_thread = std::jthread([this, job, work = std::move(work), done = std::move(done)](std::stop_token stop) {
            std::optional<Result> result = work(stop);
            if (!result)
                return;
            auto shared = std::make_shared<const Result>(std::move(*result));
            QMetaObject::invokeMethod(
                m_owner,
                [this, job, shared, done] {
                    if (job != m_job)
                        return;
                    m_isBusy = false;
                    done(shared);
                },
                Qt::QueuedConnection);
        });
    }

    /// Whatever runs is no longer wanted.
    void drop()
    {
        ++m_job;
        m_isBusy = false;
        m_thread.request_stop();
    }

    bool isBusy() const { return m_isBusy; }

private:
    QObject* m_owner;
    std::uint64_t m_job = 0;
    bool m_isBusy = false;
    std::jthread m_thread;
};

} // namespace ts::app
