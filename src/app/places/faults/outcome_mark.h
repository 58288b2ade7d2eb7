#pragma once
// The mark of an outcome: a shape beside the colour, the same on the wall and in the story.

#include "app/widgets/marks.h"
#include "core/faults/sweep.h"

#include <QWidget>

#include <vector>

namespace ts::app {

/// Lost: a broken square; hidden: hollow; caught: filled with a notched corner; safe: the same, pale; undecided: a
/// ring; not run: a dot.
void paintOutcome(QPainter& painter, const QRectF& box, faults::Outcome outcome, const Colours& colours);

/// How many faults came to what, each with its mark: the legend of the wall.
class OutcomeCounts : public QWidget {
    Q_OBJECT
public:
    OutcomeCounts(const Theme& theme, QWidget* parent);
    /// Null: nothing is shown.
    void show(const faults::Sweep* sweep);
    QSize sizeHint() const override { return {400, 20}; }
    QString text() const { return accessibleName(); }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
    std::vector<std::pair<faults::Outcome, QString>> m_items;
};

} // namespace ts::app
