#pragma once
// The overview: one watchtower per safety function, and beside them what holds the machine back, each with where to go.
// One look tells where the machine stands.

#include "app/document/analyst.h"
#include "app/document/document.h"
#include "app/document/sweep_book.h"
#include "app/widgets/figure_view.h"
#include "core/figures/skyline.h"
#include "core/model/finding.h"

#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace ts::app {

class SkylinePlace : public QWidget {
    Q_OBJECT
public:
    SkylinePlace(Document& document, Analyst& analyst, const SweepBook& sweeps, const Theme& theme, QWidget* parent);
    /// Everything that was found so far, the gravest first.
    void setFindings(const std::vector<Finding>& findings);
    FigureView& view() { return *m_view; }
    /// As it stands, in a good size for paper.
    figures::Figure picture() const;

signals:
    /// To the place that a finding is about.
    void findingWanted(const ts::Finding& finding);
    void functionWanted(ts::FunctionId function);

private:
    void takeResults();
    void addFinding(const Finding& finding, int place);

    Document& m_document;
    Analyst& m_analyst;
    const SweepBook& m_sweeps;
    const Theme& m_theme;
    std::vector<figures::Tower> m_towers;
    std::vector<FunctionId> m_functions; ///< by tower
    FigureView* m_view = nullptr;
    QLabel *m_empty = nullptr, *m_none = nullptr;
    QVBoxLayout* m_list = nullptr;
    std::vector<QWidget*> m_rows;
};

} // namespace ts::app
