#pragma once
// A page of the Faults place: the wall of all faults of one function, the story of the one selected, claimed against
// built. Single faults are tried by themselves in the background, second ones when asked for or in a quiet hour; what
// was said of another circuit is shown as stale.

#include "app/document/function_box.h"
#include "app/document/latest.h"
#include "app/document/study_book.h"
#include "app/widgets/theme.h"
#include "core/faults/story.h"
#include "core/improving/mend.h"

#include <QWidget>

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
    SweepPage(Document& document, Selection& selection, StudyBook& book, const Theme& theme, QWidget* parent);
    /// Asks for second faults of the chosen function, or cancels that.
    void startOrCancel();
    /// Second faults are asked for.
    bool isBusy() const;
    /// What stands on the wall: the sweep with second faults, or single ones alone; null before any fault of this
    /// function was tried.
    std::shared_ptr<const faults::Sweep> swept() const { return shown().sweep; }
    /// The circuit, the function or an exclusion was changed since.
    bool isStale() const;
    /// The fault of this id, as soon as it is on the wall.
    void select(const std::string& fault);
    FaultWall& wall() { return *m_wall; }
    bool hasStory() const { return m_story != nullptr; }
    bool hasMends() const { return m_mends != nullptr; }

signals:
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
    struct Shown {
        std::shared_ptr<const faults::Sweep> sweep;
        Snapshot of;
        bool isFresh = false;
        bool isComing = false; ///< part of what is being worked out now
    };
    Shown shown() const;
    std::shared_ptr<const Plant> plantOf(const Snapshot& snapshot);
    void showBuilt(const Shown& what);

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    Latest<Expected<faults::Story>> m_telling;
    Latest<Expected<improving::Tried>> m_mending;
    std::shared_ptr<const faults::Story> m_story;
    std::shared_ptr<const improving::Tried> m_mends; ///< of the fault selected
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
    Snapshot m_plantOf;
    std::shared_ptr<const Plant> m_plant;
    std::shared_ptr<const FaultAnalysis> m_builtShown;
    std::string m_wanted; ///< fault to be selected when it is there
    FunctionBox* m_functions = nullptr;
    QComboBox *m_filter = nullptr, *m_order = nullptr;
    OutcomeCounts* m_counts = nullptr;
    QLabel* m_state = nullptr;
    QPushButton *m_start = nullptr, *m_change = nullptr;
    FaultWall* m_wall = nullptr;
    FaultPanel* m_panel = nullptr;
    QWidget* m_panelScroll = nullptr;
};

} // namespace ts::app
