#pragma once
// Keeps what was done by hand on the Bench as a scenario. What it showed is run once more, off the window's thread.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "core/simulation/bench_run.h"

namespace ts::app {

class RunKeeper : public QObject {
    Q_OBJECT
public:
    explicit RunKeeper(Document& document, QObject* parent = nullptr);
    /// Up to now, with what it showed of motors and lamps as what is expected; one step of undo.
    void keep(const BenchRun& run);

signals:
    void said(const QString& sentence); ///< what came of it

private:
    void take(const Expected<Scenario>& seen);
    Document& m_document;
    Latest<Expected<Scenario>> m_work;
};

} // namespace ts::app
