#pragma once
// The levels: the verdict on one function, and under it its path through the wiring, its claim, where its danger comes
// from, and what would reach what is required.

#include "app/document/function_box.h"
#include "app/frame/place.h"
#include "app/widgets/theme.h"
#include "core/safety/level.h"

class QButtonGroup;
class QLabel;
class QStackedWidget;

namespace ts::app {

class ClaimPage;
class DangerPage;
class PathPage;
class ReachPage;

class LevelsPlace : public Place {
    Q_OBJECT
public:
    enum Page { Path, Claim, Danger, Reach };
    LevelsPlace(const PlaceParts& parts, QWidget* parent);
    Mark mark() const override;
    bool canShow(const Target& target) const override;
    void showTarget(const Target& target) override;
    std::vector<PlaceView> views() override;
    void showPage(Page page);
    DangerPage& danger() { return *m_danger; }
    ReachPage& reach() { return *m_reach; }
    const safety::FunctionLevel& level() const { return m_level; }
    void ask(int value);

private:
    QWidget* head();
    QWidget* tabs();
    void takeFunction();
    void takeResults();
    QString verdict() const;

    Document& m_document;
    Selection& m_selection;
    StudyBook& m_book;
    const Theme& m_theme;
    safety::FunctionLevel m_level;
    std::shared_ptr<const FaultAnalysis> m_builtOnClaim; ///< what the page of the claim shows of the wiring
    std::shared_ptr<const FunctionPath> m_pathOnClaim; ///< and of the path
    FunctionBox* m_functions = nullptr;
    QLabel* m_verdict = nullptr;
    QButtonGroup* m_tabs = nullptr;
    QStackedWidget* m_pages = nullptr;
    PathPage* m_path = nullptr;
    ClaimPage* m_claim = nullptr;
    DangerPage* m_danger = nullptr;
    ReachPage* m_reach = nullptr;
};

} // namespace ts::app
