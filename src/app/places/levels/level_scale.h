#pragma once
// Dangerous failures per hour on a logarithmic scale: where each subsystem and the whole function stand, and what is
// required.

#include "app/widgets/theme.h"
#include "core/safety/level.h"

#include <QWidget>

namespace ts::app {

class LevelScale : public QWidget {
    Q_OBJECT
public:
    LevelScale(const Theme& theme, QWidget* parent);
    void setLevel(const safety::FunctionLevel& level);
    QSize sizeHint() const override { return {700, 116}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    double xOf(double pfhd) const;
    void paintBands(QPainter&) const;
    void paintRequirement(QPainter&) const;
    void paintMarks(QPainter&) const;

    const Theme& m_theme;
    safety::FunctionLevel m_level;
};

} // namespace ts::app
