#pragma once
// Works out the results of the newest snapshot in the background. An older job is told to stop; a result says
// which snapshot it belongs to, so that a stale one can be shown as stale.

#include "app/document/latest.h"
#include "core/analysis/analysis.h"

namespace ts::app {

class Analyst : public QObject {
    Q_OBJECT
public:
    explicit Analyst(QObject* parent = nullptr);

    void analyse(Snapshot snapshot);
    /// Null before the first result.
    std::shared_ptr<const Analysis> result() const { return m_result; }
    /// Of which snapshot.
    Snapshot resultOf() const { return m_resultOf; }
    bool isBusy() const { return m_work.isBusy(); }

signals:
    void finished();

private:
    Latest<std::shared_ptr<const Analysis>> m_work; ///< null: the analysis was refused
    std::shared_ptr<const Analysis> m_result;
    Snapshot m_resultOf;
};

} // namespace ts::app
