#pragma once
// The fault sweeps of the document's functions, in memory and in the user's cache folder. A sweep holds as long as what
// it depends on is the same (analysis/kept_sweep.h), so that an answer or a claim changes only what follows from it,
// and undo brings it back.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "core/analysis/fault_analysis.h"
#include "core/io/result_store.h"

#include <QElapsedTimer>
#include <QTimer>

#include <atomic>
#include <map>

namespace ts::app {

/// One sweep with what follows from it for one snapshot.
struct Swept {
    FaultAnalysis analysis;
    Snapshot of;
    std::shared_ptr<const Plant> plant;
    std::string key; ///< of what the sweep depends on
};

class SweepBook : public QObject {
    Q_OBJECT
public:
    /// An empty folder: nothing is remembered on disk.
    SweepBook(Document& document, std::string folder, QObject* parent);

    /// The newest one of this function, which may be of another circuit; null before the first.
    std::shared_ptr<const Swept> newest(FunctionId function) const;
    /// Only if it holds for the dossier as it is.
    std::shared_ptr<const Swept> fresh(FunctionId function) const;

    struct Wanted {
        bool withPairs = true, withExcluded = true;
    };
    void start(FunctionId function, Wanted wanted);
    void cancel();
    bool isBusy() const { return m_work.isBusy(); }

    struct Progress {
        faults::SweepProgress::Stage stage = faults::SweepProgress::Stage::Single;
        std::size_t done = 0, total = 0;
        double secondsLeft = 0; ///< of this stage; 0: not known yet
    };
    Progress progress();
    /// Why the last one came to nothing; empty if it did not.
    const std::optional<Error>& trouble() const { return m_trouble; }

signals:
    void changed(); ///< results, of any function
    void progressed();
    void finished(); ///< what was started, also in vain

private:
    struct Counters {
        std::atomic<std::size_t> done{0}, total{0};
        std::atomic<int> stage{0};
    };
    using Found = std::shared_ptr<const Swept>;
    void take(FunctionId function, Found found);
    void recall();

    Document& m_document;
    io::ResultStore m_store;
    Latest<Expected<Found>> m_work;
    Latest<std::vector<std::pair<FunctionId, Found>>> m_recalling;
    mutable std::map<FunctionId, std::vector<Found>> m_results; ///< the newest last; of several circuits, so that undo
                                                                ///< finds them
    std::shared_ptr<Counters> m_counters;
    std::optional<Error> m_trouble;
    QTimer m_tick, m_settle;
    QElapsedTimer m_clock;
    int m_stage = -1;
};

} // namespace ts::app
