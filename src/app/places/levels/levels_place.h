#pragma once
// The level desk: verdict and scale on top, the calculation as a sheet, how often things work below, and for every
// number where it comes from.

#include "app/document/analyst.h"
#include "app/document/function_box.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QButtonGroup;
class QLabel;
class QStackedWidget;

namespace ts::app {

class ClaimPage;
class DangerPage;
class LevelScale;
class LevelSheet;
class ReachPage;
class SourcePanel;
class SweepBook;
class PartStrip;
class SwitchingStrip;

class LevelsPlace : public QWidget {
    Q_OBJECT
public:
    enum Page { Calculation, Claim, Danger, Reach };
    LevelsPlace(Document& document, Selection& selection, Analyst& analyst, const SweepBook& sweeps, const Theme& theme,
        QWidget* parent);
    void showPage(Page page);
    DangerPage& danger() { return *m_danger; }
    ReachPage& reach() { return *m_reach; }
    const safety::FunctionLevel& level() const { return m_level; }
    void ask(int value);
    void show(FunctionId function);

private:
    QWidget* head();
    QWidget* calculation();
    QWidget* tabs();
    void takeFunction();
    void takeStop();
    QString verdict() const;

    Document& m_document;
    Selection& m_selection;
    Analyst& m_analyst;
    const Theme& m_theme;
    safety::FunctionLevel m_level;
    int m_asked = -1;
    FunctionBox* m_functions = nullptr;
    QLabel *m_verdict = nullptr, *m_stop = nullptr;
    LevelScale* m_scale = nullptr;
    LevelSheet* m_sheet = nullptr;
    SwitchingStrip* m_switching = nullptr;
    PartStrip* m_parts = nullptr;
    SourcePanel* m_source = nullptr;
    const SweepBook& m_sweeps;
    QButtonGroup* m_tabs = nullptr;
    QStackedWidget* m_pages = nullptr;
    ClaimPage* m_claim = nullptr;
    DangerPage* m_danger = nullptr;
    ReachPage* m_reach = nullptr;
};

} // namespace ts::app
