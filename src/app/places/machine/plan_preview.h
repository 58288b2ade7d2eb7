#pragma once
// Builds a machine from choices in the background and runs it, so that the consequence of a choice is seen before it is
// taken: its scenarios at once, then how its functions stand; and what the other words of one choice would do. An older
// job is told to stop.

#include "app/document/latest.h"
#include "core/analysis/scenario_outcomes.h"
#include "core/patterns/machine.h"
#include "core/studies/standing.h"

#include <set>

namespace ts::app {

/// What is to be built: anew, or as another choice for a machine that is there.
struct PlanWanted {
    patterns::MachinePlan plan;
    ChosenWords reasons;
    std::optional<DossierFile> there;
};

class PlanPreview : public QObject {
    Q_OBJECT
public:
    explicit PlanPreview(QObject* parent = nullptr);

    struct Result {
        std::optional<DossierFile> file; ///< none: refused
        std::vector<Message> lost; ///< of what is there
        std::vector<ScenarioOutcome> outcomes;
        std::optional<Error> refusal;
        std::set<DeviceId> newDevices; ///< against the result before, or against what is there
        std::set<TerminalRef> newTerminals;
    };
    struct School {
        std::string word;
        std::optional<Error> refusal;
        std::vector<ScenarioOutcome> outcomes;
        std::size_t devices = 0;
    };
    void work(PlanWanted wanted);
    /// Every other word of the choice, built and run for itself; for a choice of several words, each one turned.
    void compare(const patterns::MachinePlan& plan, const patterns::ChoiceName& choice);

    /// Null before the first one.
    std::shared_ptr<const Result> result() const { return m_result; }
    /// Null until the result has been tried with faults.
    std::shared_ptr<const Standing> standing() const { return m_standing; }
    /// Null before there is something to compare.
    std::shared_ptr<const std::vector<School>> schools() const { return m_schools; }
    bool isBusy() const { return m_work.isBusy(); }
    bool isTrying() const { return m_trying.isBusy(); }
    bool isComparing() const { return m_comparing.isBusy(); }

signals:
    void finished();
    void tried();
    void compared();

private:
    void tryIt();
    Latest<Result> m_work;
    Latest<Standing> m_trying;
    Latest<std::vector<School>> m_comparing;
    std::shared_ptr<const Result> m_result;
    std::shared_ptr<const Standing> m_standing;
    std::shared_ptr<const std::vector<School>> m_schools;
};

} // namespace ts::app
