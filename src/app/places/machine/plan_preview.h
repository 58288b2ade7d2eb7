#pragma once
// Builds a starter from choices in the background and runs its scenarios, so that the consequence of a choice is seen
// before it is taken. An older job is told to stop.

#include "app/document/latest.h"
#include "core/analysis/scenario_outcomes.h"
#include "core/patterns/starter.h"

namespace ts::app {

class PlanPreview : public QObject {
    Q_OBJECT
public:
    explicit PlanPreview(QObject* parent = nullptr);

    struct Result {
        std::optional<DossierFile> file; ///< none: refused
        std::vector<ScenarioOutcome> outcomes;
        std::optional<Error> refusal;
    };
    void work(std::vector<std::string> assignments);
    /// Null before the first one.
    std::shared_ptr<const Result> result() const { return m_result; }
    bool isBusy() const { return m_work.isBusy(); }

signals:
    void finished();

private:
    Latest<Result> m_work;
    std::shared_ptr<const Result> m_result;
};

} // namespace ts::app
