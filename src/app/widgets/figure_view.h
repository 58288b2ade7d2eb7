#pragma once
// Shows a figure of results (core/figures). Its spots can be chosen with mouse and arrow keys, have tool tips and are
// read out.

#include "app/widgets/theme.h"
#include "core/figures/figure.h"

#include <QWidget>

#include <functional>

namespace ts::app {

/// Paints in the figure's own pixels.
void paintFigure(QPainter& painter, const figures::Figure& figure, const Theme& theme);

class FigureView : public QWidget {
    Q_OBJECT
public:
    /// Made anew for every size and choice.
    using Maker = std::function<figures::Figure(double width, double height, int chosen)>;
    FigureView(const Theme& theme, QWidget* parent);
    void show(Maker maker);
    /// Item of the spot that is chosen; -1: none.
    int chosen() const { return m_chosen; }
    void choose(int item);
    const figures::Figure& figure() const { return m_figure; }

signals:
    void chosenChanged(int item);
    void opened(int item); ///< Enter or a double click

protected:
    bool event(QEvent*) override;
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void make();
    void moveBy(int dx, int dy);

    const Theme& m_theme;
    Maker m_maker;
    figures::Figure m_figure;
    int m_chosen = -1;
};

} // namespace ts::app
