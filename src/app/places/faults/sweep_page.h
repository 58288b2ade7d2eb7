#pragma once
// A page of the Faults place: the wall of all faults of one function, the story of the one selected, claimed against
// built. The sweep runs in the background with progress and can be cancelled; what it said of another circuit is shown
// as stale.

#include "app/document/function_box.h"
#include "app/document/sweep_book.h"
#include "app/widgets/theme.h"
#include "core/faults/story.h"
#include "core/mending/mend.h"

#include <QWidget>

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
    SweepPage(Document& document, Selection& selection, SweepBook& book, const Theme& theme, QWidget* parent);
    /// Starts the sweep of the chosen function, or cancels the one that runs.
    void startOrCancel();
    bool isBusy() const { return m_book.isBusy(); }
    /// Without second faults and limits: for tests and quick looks.
    void setWithPairs(bool withPairs) { m_withPairs = withPairs; }
    /// Null before the first one of this function.
    const FaultAnalysis* analysis() const;
    /// Of all functions, what holds for the dossier as it is.
    std::vector<std::shared_ptr<const FaultAnalysis>> fresh() const;
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
    void functionWanted(ts::FunctionId function);

protected:
    void showEvent(QShowEvent*) override;

private:
    QWidget* head(Selection& selection);
    void takeDocument();
    void takeFunction();
    void fill();
    void takeSelection();
    void tellProgress();
    void tellState();
    QString countText();
    std::shared_ptr<const faults::Sweep> untried();
    void findMends();
    void mend(int place);
    void exclude(const QString& reason, const std::vector<std::string>& faults);
    void include(const std::vector<std::string>& faults);
    std::shared_ptr<const Swept> current() const { return m_book.newest(m_functions->function()); }

    Document& m_document;
    SweepBook& m_book;
    const Theme& m_theme;
    Latest<Expected<faults::Story>> m_telling;
    Latest<Expected<mending::Tried>> m_mending;
    std::shared_ptr<const faults::Story> m_story;
    std::shared_ptr<const mending::Tried> m_mends; ///< of the fault selected
    bool m_withPairs = true;
    struct Told { ///< what the story on show is about
        Snapshot of;
        int place = -1;
        faults::Moment moment = faults::Moment::AtRest;
        faults::FaultOutcome outcome;
        bool hasPairs = false;
        bool operator==(const Told&) const = default;
    };
    Told m_told;
    std::shared_ptr<const faults::Sweep> m_untried;
    Snapshot m_untriedOf;
    QString m_trouble;
    FunctionBox* m_functions = nullptr;
    QComboBox *m_filter = nullptr, *m_order = nullptr;
    OutcomeCounts* m_counts = nullptr;
    QCheckBox* m_excluded = nullptr;
    QLabel* m_state = nullptr;
    QPushButton *m_start = nullptr, *m_change = nullptr;
    FaultWall* m_wall = nullptr;
    FaultPanel* m_panel = nullptr;
    QWidget* m_panelScroll = nullptr;
};

} // namespace ts::app
