#include "app/widgets/figure_view.h"

#include "app/widgets/marks.h"

#include <QAbstractScrollArea>
#include <QAccessible>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>

#include <cmath>
#include <limits>

namespace ts::app {
namespace {

using namespace figures;

constexpr int kLeastHeight = 120;

QColor inkColour(Ink ink, const Colours& c)
{
    switch (ink) {
    case Ink::Ink:
        return c.ink;
    case Ink::Quiet:
        return c.quiet;
    case Ink::Line:
        return c.line;
    case Ink::Panel:
        return c.panel;
    case Ink::Shade:
        return QColor::fromRgbF((c.ink.redF() * 3 + c.paper.redF()) / 4, (c.ink.greenF() * 3 + c.paper.greenF()) / 4,
            (c.ink.blueF() * 3 + c.paper.blueF()) / 4);
    case Ink::Reached:
        return c.caught;
    case Ink::Missing:
        return c.lost;
    case Ink::Open:
        return c.hidden;
    case Ink::Claimed:
        return c.live;
    }
    return c.ink;
}

QFont labelFont(LabelSize size, const Theme& theme)
{
    switch (size) {
    case LabelSize::Small:
        return theme.small();
    case LabelSize::Body:
        return theme.body();
    case LabelSize::Bold:
        return theme.bold();
    case LabelSize::Verdict:
        return theme.verdict();
    case LabelSize::Figures:
        return theme.mono(11);
    }
    return theme.body();
}

void paintShape(QPainter& p, const Shape& s, const Theme& theme)
{
    const Colours& c = theme.colours();
    QPolygonF points;
    for (const Position& at : s.points)
        points << QPointF(at.x, at.y);
    QPen pen(inkColour(s.stroke, c), s.width, s.isDashed ? Qt::DashLine : Qt::SolidLine);
    pen.setJoinStyle(Qt::MiterJoin);
    p.setPen(s.width > 0 ? pen : QPen(Qt::NoPen));
    p.setBrush(s.isFilled ? QBrush(inkColour(s.fill, c)) : QBrush(Qt::NoBrush));
    if (s.isClosed)
        p.drawPolygon(points);
    else
        p.drawPolyline(points);
}

void paintLabel(QPainter& p, const Label& l, const Theme& theme)
{
    p.setFont(labelFont(l.size, theme));
    p.setPen(inkColour(l.ink, theme.colours()));
    QString text = QString::fromStdString(l.text);
    if (l.room > 0)
        text = p.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(l.room));
    const double width = p.fontMetrics().horizontalAdvance(text);
    const double left = l.align == Align::Left ? l.at.x : l.align == Align::Right ? l.at.x - width : l.at.x - width / 2;
    p.drawText(QPointF(left, l.at.y), text);
}

} // namespace

void paintFigure(QPainter& p, const Figure& figure, const Theme& theme)
{
    for (const Shape& s : figure.shapes)
        paintShape(p, s, theme);
    for (const Label& l : figure.labels)
        paintLabel(p, l, theme);
}

FigureView::FigureView(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, kLeastHeight);
}

void FigureView::show(Maker maker)
{
    m_maker = std::move(maker);
    make();
}

void FigureView::choose(int item)
{
    if (item == m_chosen)
        return;
    m_chosen = item;
    make();
    for (const Spot& s : m_figure.spots)
        if (s.item == item) {
            setAccessibleDescription(QString::fromStdString(s.words));
            QAccessibleEvent changed(this, QAccessible::DescriptionChanged);
            QAccessible::updateAccessibility(&changed);
        }
    emit chosenChanged(item);
}

void FigureView::make()
{
    if (!m_maker)
        return;
    // In a scroll area the room is what can be seen of it; a figure that needs more makes the view taller.
    const auto* viewport = parentWidget();
    const bool isScrolled = viewport && qobject_cast<const QAbstractScrollArea*>(viewport->parentWidget());
    m_figure = m_maker(width(), isScrolled ? viewport->height() : height(), m_chosen);
    if (isScrolled)
        setMinimumHeight(std::max(kLeastHeight, static_cast<int>(std::ceil(m_figure.height))));
    update();
}

bool FigureView::event(QEvent* e)
{
    if (e->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(e);
        const int spot = m_figure.spotAt({static_cast<double>(help->pos().x()), static_cast<double>(help->pos().y())});
        if (spot < 0)
            QToolTip::hideText();
        else
            QToolTip::showText(help->globalPos(),
                "<p>" + QString::fromStdString(m_figure.spots[static_cast<std::size_t>(spot)].words).toHtmlEscaped()
                    + "</p>",
                this);
        return true;
    }
    return QWidget::event(e);
}

void FigureView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintFigure(p, m_figure, m_theme);
    if (!hasFocus())
        return;
    for (const Spot& s : m_figure.spots)
        if (s.item == m_chosen)
            paintFocus(p, QRectF(s.area.x, s.area.y, s.area.width, s.area.height).adjusted(2, 2, -2, -2),
                m_theme.colours().ink);
}

void FigureView::resizeEvent(QResizeEvent*)
{
    make();
}

void FigureView::mousePressEvent(QMouseEvent* e)
{
    const int spot = m_figure.spotAt({e->position().x(), e->position().y()});
    if (spot >= 0)
        choose(m_figure.spots[static_cast<std::size_t>(spot)].item);
}

void FigureView::mouseDoubleClickEvent(QMouseEvent* e)
{
    const int spot = m_figure.spotAt({e->position().x(), e->position().y()});
    if (spot >= 0)
        emit opened(m_figure.spots[static_cast<std::size_t>(spot)].item);
}

/// To the nearest spot in a direction.
void FigureView::moveBy(int dx, int dy)
{
    const auto centre = [](const Spot& s) {
        return Position{s.area.x + s.area.width / 2, s.area.y + s.area.height / 2};
    };
    const Spot* from = nullptr;
    for (const Spot& s : m_figure.spots)
        if (s.item == m_chosen)
            from = &s;
    if (!from) {
        if (!m_figure.spots.empty())
            choose(m_figure.spots.front().item);
        return;
    }
    const Spot* best = nullptr;
    double nearest = std::numeric_limits<double>::max();
    for (const Spot& s : m_figure.spots) {
        const double x = centre(s).x - centre(*from).x, y = centre(s).y - centre(*from).y;
        const double along = x * dx + y * dy, across = std::abs(x * dy) + std::abs(y * dx);
        if (along > 1 && along + 4 * across < nearest) {
            nearest = along + 4 * across;
            best = &s;
        }
    }
    if (best)
        choose(best->item);
}

void FigureView::keyPressEvent(QKeyEvent* e)
{
    switch (e->key()) {
    case Qt::Key_Left:
        return moveBy(-1, 0);
    case Qt::Key_Right:
        return moveBy(1, 0);
    case Qt::Key_Up:
        return moveBy(0, -1);
    case Qt::Key_Down:
        return moveBy(0, 1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_chosen >= 0)
            emit opened(m_chosen);
        return;
    default:
        QWidget::keyPressEvent(e);
    }
}

} // namespace ts::app
