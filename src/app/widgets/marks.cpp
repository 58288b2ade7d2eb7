#include "app/widgets/marks.h"

#include <QCoreApplication>
#include <QPainterPath>

namespace ts::app {

void paintMark(QPainter& p, const QRectF& b, Mark mark, const Colours& c)
{
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    const double w = b.width(), h = b.height();
    const QPolygonF notched({b.topLeft(), b.topRight() - QPointF(w * 0.35, 0), b.topRight() + QPointF(0, h * 0.35),
        b.bottomRight(), b.bottomLeft()});
    switch (mark) {
    case Mark::Untouched:
        p.setBrush(c.quiet);
        p.drawEllipse(b.center(), w * 0.18, h * 0.18);
        break;
    case Mark::Working:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.quiet, 1.5, Qt::DotLine));
        p.drawEllipse(b.adjusted(1, 1, -1, -1));
        break;
    case Mark::Claimed:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.quiet, 1.5));
        p.drawPolygon(notched);
        break;
    case Mark::Open:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.hidden, 2));
        p.drawRect(b.adjusted(1, 1, -1, -1));
        break;
    case Mark::Wrong:
        p.setBrush(c.lost);
        p.drawPolygon(QPolygonF(
            {b.topLeft(), b.topRight(), b.topRight() + QPointF(-w * 0.45, h * 0.5), b.bottomRight(), b.bottomLeft()}));
        break;
    case Mark::InOrder:
        p.setBrush(c.caught);
        p.drawPolygon(notched);
        break;
    case Mark::Stale:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.quiet, 1.5));
        p.drawEllipse(b.adjusted(1, 1, -1, -1));
        p.drawLine(b.bottomLeft(), b.topRight());
        break;
    }
    p.restore();
}

QString markWord(Mark mark)
{
    switch (mark) {
    case Mark::Untouched:
        return QCoreApplication::translate("Mark", "untouched");
    case Mark::Working:
        return QCoreApplication::translate("Mark", "being worked out");
    case Mark::Claimed:
        return QCoreApplication::translate("Mark", "claimed, not all of it tried");
    case Mark::Open:
        return QCoreApplication::translate("Mark", "something open");
    case Mark::Wrong:
        return QCoreApplication::translate("Mark", "findings");
    case Mark::InOrder:
        return QCoreApplication::translate("Mark", "in order");
    case Mark::Stale:
        return QCoreApplication::translate("Mark", "stale: the dossier was changed since");
    }
    return {};
}

void paintPanel(QPainter& p, const QRectF& box, const QColor& fill, const QColor& line)
{
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(line, 1));
    p.setBrush(fill);
    p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    p.restore();
}

void paintFocus(QPainter& p, const QRectF& box, const QColor& colour)
{
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(colour, 2, Qt::DotLine));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(box.adjusted(1.5, 1.5, -1.5, -1.5), 4, 4);
    p.restore();
}

} // namespace ts::app
