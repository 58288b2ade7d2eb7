#pragma once
// Which page of a large drawing is in view, and a list of what is on which.

#include "app/places/bench/habit_looks.h"
#include "core/diagram/pages.h"

#include <QToolButton>

#include <vector>

namespace ts::app {

class PathsView;

class PageTurner : public QToolButton {
    Q_OBJECT
public:
    PageTurner(PathsView& view, QWidget* parent);
    /// Shows a circuit as pages that can be read, and behind them the whole of it.
    void show(const Circuit& circuit, bool isPower, const wording::Habits& habits);

    /// The numbers alone, where the room is scarce.
    void setShort(bool isShort);

private:
    void showPages(const diagram::WiredGraph& graph, diagram::ControlDrawing whole);
    void takePage();
    void openList();

    PathsView& m_view;
    bool m_isShort = false;
    std::vector<QString> m_names; ///< what each page is about
};

} // namespace ts::app
