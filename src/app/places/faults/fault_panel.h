#pragma once
// What is to be said about one fault: outcome, who notices, with which second fault it counts, three scenes, and what
// can be done: show it on the Bench, exclude it with a reason. Below: claimed against built.

#include "app/widgets/tall_column.h"
#include "app/widgets/theme.h"
#include "core/analysis/fault_analysis.h"
#include "core/faults/story.h"
#include "core/improving/mend.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class SceneStrip;

class FaultPanel : public TallColumn {
    Q_OBJECT
public:
    FaultPanel(const Theme& theme, QWidget* parent);
    /// Place -1: none is selected.
    void showFault(
        const faults::Sweep& sweep, const Dossier& dossier, const Plant& plant, int place, faults::Moment moment);
    void showStory(std::shared_ptr<const faults::Story> story, std::shared_ptr<const Plant> plant);
    void showBuilt(const FaultAnalysis& analysis, const SafetyFunction& function, const Circuit& circuit);
    void clear();

    void tellMending(const QString& text);
    void showMends(const improving::Tried& tried, const Dossier& dossier, const Plant& plant);

signals:
    void benchWanted();
    void mendsWanted();
    void mendChosen(int place);
    /// Another fault of the sweep, with which this one makes a loss.
    void faultWanted(int place);
    /// `faults`: ids of a fault, or of all shorts in a route.
    void exclusionWanted(const QString& reason, const std::vector<std::string>& faults);
    void exclusionUnwanted(const std::vector<std::string>& faults);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void askForReason();
    void showPairs(const faults::Sweep& sweep, const Dossier& dossier, const Plant& plant, int place);

    const Theme& m_theme;
    faults::Outcome m_outcome = faults::Outcome::NotRun;
    QLabel *m_title = nullptr, *m_outcomeWord = nullptr, *m_what = nullptr, *m_more = nullptr, *m_excluded = nullptr,
           *m_built = nullptr, *m_findings = nullptr;
    SceneStrip* m_scenes = nullptr;
    QLabel* m_mending = nullptr;
    QListWidget *m_mends = nullptr, *m_pairs = nullptr;
    QPushButton *m_mend = nullptr, *m_bench = nullptr, *m_exclude = nullptr, *m_include = nullptr;
    QLineEdit* m_reason = nullptr;
    QCheckBox* m_wholeRoute = nullptr; ///< all shorts of the routes in which this one lies
    std::string m_fault;
    std::vector<std::string> m_routeShorts; ///< ids of all shorts in them; empty for any other fault
};

} // namespace ts::app
