#pragma once
// A page of the Faults place: the wall of all faults of one function, the story of the one selected, claimed against built. The sweep runs
// in the background with progress and can be cancelled; what it said of another circuit is shown as stale.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "app/widgets/theme.h"
#include "core/analysis/fault_analysis.h"
#include "core/faults/story.h"
#include "core/mending/mend.h"

#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>

#include <atomic>
#include <map>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace ts::app {

class FaultPanel;
class FaultWall;
class OutcomeCounts;

class SweepPage : public QWidget {
    Q_OBJECT
public:
    SweepPage(Document& document, const Theme& theme, QWidget* parent);
    /// Starts the sweep of the chosen function, or cancels the one that runs.
    void startOrCancel();
    bool isBusy() const { return m_work.isBusy(); }
    /// Without second faults: for tests and quick looks.
    void setWithPairs(bool withPairs) { m_withPairs = withPairs; }
    /// Null before the first one of this function.
    const FaultAnalysis* analysis() const;
    /// Of all functions, what holds for the dossier as it is.
    std::vector<const FaultAnalysis*> fresh() const;
    /// The circuit, the function or an exclusion was changed since.
    bool isStale() const;
    FaultWall& wall() { return *m_wall; }
    bool hasStory() const { return m_story != nullptr; }
    bool hasMends() const { return m_mends != nullptr; }

signals:
    void finished();
    void storyReady();
    void mendsReady();
    /// Play this on the Bench up to a time.
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

private:
    struct Result {
        Expected<FaultAnalysis> analysis = failure(ErrorCode::Cancelled, message("run.cancelled"));
        Snapshot of;
        std::shared_ptr<const Plant> plant;
    };
    struct Progress {
        std::atomic<std::size_t> done{0}, total{0};
        std::atomic<int> stage{0};
    };
    QWidget* head();
    void takeDocument();
    void takeSingles(FunctionId function, std::shared_ptr<const Result> result);
    void takeResult(FunctionId function, std::shared_ptr<const Result> result);
    void takeFunction();
    void fill();
    void takeSelection();
    void tellProgress();
    void tellState();
    void suggest();
    void changeFunction();
    void findMends();
    void mend(int place);
    void exclude(const QString& reason);
    void include();
    std::shared_ptr<const Result> current() const;

    Document& m_document;
    const Theme& m_theme;
    Latest<Result> m_work;
    Latest<Expected<faults::Story>> m_telling;
    Latest<Expected<mending::Tried>> m_mending;
    Latest<Expected<std::vector<SafetyFunction>>> m_suggesting;
    std::map<FunctionId, std::shared_ptr<const Result>> m_results;
    std::shared_ptr<Progress> m_progress;
    std::shared_ptr<const faults::Story> m_story;
    std::shared_ptr<const mending::Tried> m_mends; ///< of the fault selected
    FunctionId m_function;
    bool m_withPairs = true;
    QString m_trouble;
    QTimer m_tick;
    QElapsedTimer m_clock;
    int m_stage = -1;
    QComboBox *m_functions = nullptr, *m_filter = nullptr, *m_order = nullptr;
    OutcomeCounts* m_counts = nullptr;
    QCheckBox* m_excluded = nullptr;
    QLabel* m_state = nullptr;
    QPushButton *m_start = nullptr, *m_suggest = nullptr, *m_change = nullptr;
    FaultWall* m_wall = nullptr;
    FaultPanel* m_panel = nullptr;
    QWidget* m_panelScroll = nullptr;
};

} // namespace ts::app
