#pragma once
// The function as its own path through the wiring, with the tower of the skyline beside it; below, what stands at the
// knot that is chosen, where a number comes from, and how often things work.

#include "app/document/document.h"
#include "app/document/study_book.h"
#include "app/widgets/figure_view.h"
#include "core/safety/level.h"
#include "core/ways/function_path.h"

#include <QWidget>

class QPushButton;

namespace ts {
struct FunctionResult;
}

namespace ts::app {

class KnotSheet;
class PartStrip;
class SourcePanel;
class SwitchingStrip;

class PathPage : public QWidget {
    Q_OBJECT
public:
    PathPage(Document& document, StudyBook& book, const Theme& theme, QWidget* parent);
    void show(FunctionId function, const safety::FunctionLevel& level);
    /// Of a subsystem by its name: its first knot.
    void chooseSubsystem(const std::string& name);
    void takeResults();
    void ask(int value);

protected:
    void showEvent(QShowEvent*) override; ///< who looks at it wants it

private:
    QWidget* above();
    QWidget* below();
    void showPath();
    void showTower();
    void showKnot();
    std::string missingPath() const;
    QString stopText(const std::string& tag) const;
    const FunctionResult* stopResult() const; ///< null: not read yet

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    FunctionId m_function;
    safety::FunctionLevel m_level;
    std::shared_ptr<const FunctionPath> m_path;
    int m_asked = -1;
    FigureView *m_drawing = nullptr, *m_tower = nullptr;
    KnotSheet* m_sheet = nullptr;
    SourcePanel* m_source = nullptr;
    SwitchingStrip* m_switching = nullptr;
    PartStrip* m_parts = nullptr;
    QPushButton* m_which = nullptr;
};

} // namespace ts::app
