#include "app/widgets/plain_style.h"

#include <QPainter>
#include <QStyleOption>

namespace ts::app {
namespace {

constexpr double kBox = 13.0, kStroke = 1.4;

void paintBox(QPainter& p, const QStyleOption& option, bool isRound)
{
    const bool isOn = option.state & QStyle::State_On, isPartly = option.state & QStyle::State_NoChange;
    const auto group = option.state & QStyle::State_Enabled ? QPalette::Normal : QPalette::Disabled;
    const QColor ink = option.palette.color(group, QPalette::Text);
    QRectF box(0, 0, kBox, kBox);
    box.moveCenter(QRectF(option.rect).center());
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(ink, kStroke));
    p.setBrush(option.palette.color(group, QPalette::Base));
    isRound ? p.drawEllipse(box) : p.drawRect(box);
    if (isRound && isOn) {
        p.setPen(Qt::NoPen);
        p.setBrush(ink);
        p.drawEllipse(box.adjusted(3.5, 3.5, -3.5, -3.5));
    } else if (isPartly) {
        p.drawLine(box.center() - QPointF(3.5, 0), box.center() + QPointF(3.5, 0));
    } else if (isOn) {
        p.setPen(QPen(ink, 2));
        p.setBrush(Qt::NoBrush);
        p.drawPolyline(QPolygonF(
            {box.topLeft() + QPointF(3, 6.5), box.topLeft() + QPointF(5.5, 9.5), box.topLeft() + QPointF(10, 3.5)}));
    }
    p.restore();
}

} // namespace

PlainStyle::PlainStyle()
    : QProxyStyle(QStringLiteral("Fusion"))
{
}

void PlainStyle::drawPrimitive(
    PrimitiveElement element, const QStyleOption* option, QPainter* painter, const QWidget* widget) const
{
    if (element == PE_IndicatorCheckBox || element == PE_IndicatorItemViewItemCheck)
        return paintBox(*painter, *option, false);
    if (element == PE_IndicatorRadioButton)
        return paintBox(*painter, *option, true);
    QProxyStyle::drawPrimitive(element, option, painter, widget);
}

} // namespace ts::app
