#pragma once
// Small shapes that carry meaning beside colour, drawn for this program.

#include "app/widgets/theme.h"

#include <QPainter>

namespace ts::app {

enum class Mark { Untouched, InOrder, Open, Wrong, Stale };

/// A dot, a square with a notched corner, a hollow square, a broken square, a ring.
void paintMark(QPainter& painter, const QRectF& box, Mark mark, const Colours& colours);
/// The word that goes with it, for screen readers and tool tips.
QString markWord(Mark mark);

/// Rounded panel with a thin line.
void paintPanel(QPainter& painter, const QRectF& box, const QColor& fill, const QColor& line);

/// A visible ring around what has the keyboard.
void paintFocus(QPainter& painter, const QRectF& box, const QColor& colour);

} // namespace ts::app
