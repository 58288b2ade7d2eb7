#pragma once
// Works out the results of the newest snapshot in the background. An older job is told to stop; a result says
// which snapshot it belongs to, so that a stale one can be shown as stale.

#include "core/analysis/analysis.h"

#include <QObject>

#include <memory>
#include <thread>

namespace ts::app {

class Analyst : public QObject {
    Q_OBJECT
public:
    explicit Analyst(QObject* parent = nullptr);
    ~Analyst() override;

    void analyse(Snapshot snapshot);
    /// Null before the first result.
    std::shared_ptr<const Analysis> result() const { return m_result; }
    /// Of which snapshot.
    Snapshot resultOf() const { return m_resultOf; }
    bool isBusy() const { return m_busy; }

signals:
    void finished();

private:
    void take(std::uint64_t job, Snapshot of, std::shared_ptr<const Analysis> result);

    std::jthread m_thread;
    std::uint64_t m_job = 0;
    bool m_busy = false;
    std::shared_ptr<const Analysis> m_result;
    Snapshot m_resultOf;
};

} // namespace ts::app
