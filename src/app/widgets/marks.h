#pragma once
// Small shapes that carry meaning beside colour, drawn for this program.

#include "app/widgets/theme.h"

#include <QPainter>

namespace ts::app {

enum class Mark {
    Untouched, ///< nothing is there yet
    Working, ///< being worked out
    Claimed, ///< only claimed: not tried, or not all of it
    Open, ///< something to decide
    Wrong, ///< findings
    InOrder,
    Stale ///< about another dossier
};

/// A dot, a ring of dots, a notched square in outline, a hollow square, a broken square, a full notched square, a
/// barred ring.
void paintMark(QPainter& painter, const QRectF& box, Mark mark, const Colours& colours);
/// The word that goes with it, for screen readers and tool tips.
QString markWord(Mark mark);

/// Rounded panel with a thin line.
void paintPanel(QPainter& painter, const QRectF& box, const QColor& fill, const QColor& line);

/// A visible ring around what has the keyboard.
void paintFocus(QPainter& painter, const QRectF& box, const QColor& colour);

} // namespace ts::app
