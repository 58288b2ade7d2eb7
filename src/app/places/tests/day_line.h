#pragma once
// The plan as a day's work: stages side by side, each as wide as it takes long, filled as far as it is proved, with the
// state of the supply as a bracket above them.

#include "app/widgets/theme.h"
#include "core/measuring/readings.h"

#include <QWidget>

namespace ts::app {

class DayLine : public QWidget {
    Q_OBJECT
public:
    DayLine(const Theme& theme, QWidget* parent);
    void show(const measuring::TestPlan& plan, const std::vector<measuring::StepState>& states, std::size_t current);
    QSize sizeHint() const override;

signals:
    void stepChosen(int step); ///< the first open one of a stage, else its first

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Block {
        measuring::Stage stage = measuring::Stage::Isolation;
        measuring::Power power = measuring::Power::LockedOff;
        std::size_t first = 0, firstOpen = 0, count = 0, done = 0, wrong = 0;
        double seconds = 0;
    };
    std::vector<QRectF> boxes() const; ///< of the blocks
    void paintBlock(QPainter& p, const Block& b, const QRectF& box, bool isCurrent) const;
    void paintSupply(QPainter& p, const std::vector<QRectF>& boxes) const;

    const Theme& m_theme;
    std::vector<Block> m_blocks;
    std::size_t m_current = 0; ///< block
};

} // namespace ts::app
