#pragma once
// The overview: one watchtower per safety function, and beside them what holds the machine back, each with where to go.
// One look tells where the machine stands.

#include "app/frame/place.h"
#include "app/widgets/figure_view.h"
#include "core/figures/skyline.h"
#include "core/model/finding.h"

class QLabel;
class QVBoxLayout;

namespace ts::app {

class SkylinePlace : public Place {
    Q_OBJECT
public:
    SkylinePlace(const PlaceParts& parts, QWidget* parent);
    Mark mark() const override;
    FigureView& view() { return *m_view; }
    /// As it stands, in a good size for paper.
    figures::Figure picture() const;

private:
    void takeResults();
    void showFindings();
    void addFinding(const Finding& finding, int place);

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    std::vector<figures::Tower> m_towers;
    std::vector<FunctionId> m_functions; ///< by tower
    FigureView* m_view = nullptr;
    QLabel *m_empty = nullptr, *m_none = nullptr;
    QVBoxLayout* m_list = nullptr;
    std::vector<QWidget*> m_rows;
    std::shared_ptr<const Checked> m_shown; ///< whose findings stand there
};

} // namespace ts::app
