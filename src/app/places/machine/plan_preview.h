#pragma once
// Builds a starter from choices in the background and runs its scenarios, so that the consequence of a choice is seen
// before it is taken. An older job is told to stop.

#include "core/analysis/scenario_outcomes.h"
#include "core/patterns/starter.h"

#include <QObject>

#include <memory>
#include <optional>
#include <thread>

namespace ts::app {

class PlanPreview : public QObject {
    Q_OBJECT
public:
    explicit PlanPreview(QObject* parent = nullptr);
    ~PlanPreview() override;

    struct Result {
        std::optional<DossierFile> file; ///< none: refused
        std::vector<ScenarioOutcome> outcomes;
        std::optional<Error> refusal;
    };
    void work(std::vector<std::string> assignments);
    /// Null before the first one.
    std::shared_ptr<const Result> result() const { return m_result; }
    bool isBusy() const { return m_busy; }

signals:
    void finished();

private:
    std::jthread m_thread;
    std::uint64_t m_job = 0;
    bool m_busy = false;
    std::shared_ptr<const Result> m_result;
};

} // namespace ts::app
