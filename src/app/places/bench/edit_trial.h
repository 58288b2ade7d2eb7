#pragma once
// A change tried out before it is made: its scenarios are run on the circuit as it is and as it would be, and its
// findings compared, in the background. First what is quick, then what an electrician tries, and the sizes.

#include "app/document/latest.h"
#include "core/analysis/scenario_outcomes.h"
#include "core/model/finding.h"

#include <QObject>

namespace ts::app {

class EditTrial : public QObject {
    Q_OBJECT
public:
    explicit EditTrial(QObject* parent = nullptr);

    struct Result {
        int scenarios = 0;
        std::vector<std::string> broken; ///< ran as expected and would no longer
        std::vector<std::string> mended; ///< the other way round
        std::optional<Error> refusal; ///< the changed circuit cannot be run
    };
    /// Findings that it makes and takes away.
    struct Findings {
        std::vector<Finding> made, taken;
        bool seesLess = false; ///< fewer states run than before, or less is judged: what is gone is not mended by that
        std::optional<Error> notJudged; ///< one of both circuits could not be judged
    };
    void tryOut(Snapshot before, Snapshot after);
    void drop();
    /// Null while it is being worked out.
    std::shared_ptr<const Result> result() const { return m_result; }
    std::shared_ptr<const Findings> findings() const { return m_findings; }

signals:
    void finished();

private:
    Latest<Result> m_work;
    Latest<Findings> m_judging;
    std::shared_ptr<const Result> m_result;
    std::shared_ptr<const Findings> m_findings;
};

} // namespace ts::app
