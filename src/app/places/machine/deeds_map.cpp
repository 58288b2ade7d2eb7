#include "app/places/machine/deeds_map.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>
#include <map>

namespace ts::app {
namespace {

using exploration::Deed;

constexpr double kHandsWide = 230, kMovedWide = 230, kTop = 12, kLegend = 30, kRow = 24, kReach = 7, kTip = 11;

bool isStart(Deed::Effect e)
{
    return e == Deed::Effect::Starts || e == Deed::Effect::RunsWhileHeld;
}

bool isWhileHeld(Deed::Effect e)
{
    return e == Deed::Effect::RunsWhileHeld || e == Deed::Effect::StopsWhileHeld;
}

} // namespace

DeedsMap::DeedsMap(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("deeds.map");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("What each hand does, found out by trying"));
}

void DeedsMap::showDeeds(const std::vector<Deed>& deeds, const Circuit& circuit, QStringList sentences)
{
    m_hands.clear();
    m_moved.clear();
    m_lines.clear();
    m_sentences = std::move(sentences);
    std::map<std::pair<DeviceId, std::string>, std::size_t> hands;
    std::map<std::pair<DeviceId, int>, std::size_t> moved;
    const auto rowOf = [&circuit](auto& known, std::vector<End>& ends, const auto& key, const QString& words) {
        const auto [place, isNew] = known.try_emplace(key, ends.size());
        if (isNew) {
            const Device* d = circuit.device(key.first);
            const QString label = d ? QString::fromStdString(d->label) : QString();
            ends.push_back({d ? QString::fromStdString(d->tag) : QStringLiteral("?"),
                label.isEmpty() || words.isEmpty() ? label + words : label + QStringLiteral(", ") + words.trimmed()});
        }
        return place->second;
    };
    for (const Deed& d : deeds) // what is started first: a stop has no direction and takes all of them
        if (d.direction != 0)
            rowOf(moved, m_moved, std::pair{d.actuator, d.direction},
                words::word("deed.direction." + std::to_string(d.direction)));
    for (const Deed& d : deeds) {
        Line line;
        line.hand = rowOf(hands, m_hands, std::pair{d.hand, d.action}, words::actionWord(d.action));
        const auto forwards = moved.find({d.actuator, 1});
        line.moved = d.direction == 0 && forwards != moved.end()
            ? forwards->second
            : rowOf(moved, m_moved, std::pair{d.actuator, d.direction}, QString());
        line.effect = d.effect;
        m_lines.push_back(line);
    }
    for (std::size_t row = 0; row < m_moved.size(); ++row) {
        std::vector<Line*> to;
        for (Line& line : m_lines)
            if (line.moved == row)
                to.push_back(&line);
        for (std::size_t k = 0; k < to.size(); ++k)
            to[k]->lane = to.size() < 2 ? 0.0 : 2.0 * static_cast<double>(k) / static_cast<double>(to.size() - 1) - 1.0;
    }
    setMinimumHeight(
        static_cast<int>(kTop + kLegend + kRow * static_cast<double>(std::max(m_hands.size(), m_moved.size()))));
    updateGeometry();
    choose(m_lines.empty() ? std::nullopt : std::optional<std::size_t>(0));
}

double DeedsMap::yOf(std::size_t row, std::size_t rows) const
{
    const double room = height() - kTop - kLegend;
    return kTop + room * (static_cast<double>(row) + 0.5) / static_cast<double>(std::max<std::size_t>(rows, 1));
}

QPointF DeedsMap::startOf(const Line& line) const
{
    return {kHandsWide + 4, yOf(line.hand, m_hands.size())};
}

QPointF DeedsMap::endOf(const Line& line) const
{
    return {width() - kMovedWide - kTip - 2, yOf(line.moved, m_moved.size()) + line.lane * reachOf()};
}

/// How far lines to one thing lie from its middle.
double DeedsMap::reachOf() const
{
    const double row = (height() - kTop - kLegend) / static_cast<double>(std::max<std::size_t>(m_moved.size(), 1));
    return std::min(row * 0.38, 60.0);
}

QPainterPath DeedsMap::pathOf(const Line& line) const
{
    const QPointF from = startOf(line), to = endOf(line);
    QPainterPath path(from);
    const double half = (to.x() - from.x()) * 0.5;
    path.cubicTo({from.x() + half, from.y()}, {to.x() - half, to.y()}, to);
    return path;
}

QPointF DeedsMap::pointOn(std::size_t deed) const
{
    // Lines part at their ends: the points on this one farthest from all others.
    const QPainterPath own = pathOf(m_lines[deed]);
    QPointF best = own.pointAtPercent(0.9);
    double most = -1;
    for (double t = 0.1; t < 0.98; t += 0.04) {
        const QPointF p = own.pointAtPercent(t);
        double nearest = 1e9;
        for (std::size_t k = 0; k < m_lines.size(); ++k)
            for (double u = 0.0; k != deed && u <= 1.0; u += 0.02)
                nearest = std::min(nearest, QLineF(p, pathOf(m_lines[k]).pointAtPercent(u)).length());
        if (nearest > most) {
            most = nearest;
            best = p;
        }
    }
    return best;
}

std::optional<std::size_t> DeedsMap::at(QPointF p) const
{
    std::optional<std::size_t> nearest;
    double best = kReach;
    for (std::size_t k = 0; k < m_lines.size(); ++k) {
        const QPainterPath path = pathOf(m_lines[k]);
        for (double t = 0.0; t <= 1.0; t += 0.01)
            if (const double d = QLineF(p, path.pointAtPercent(t)).length(); d < best) {
                best = d;
                nearest = k;
            }
    }
    return nearest;
}

void DeedsMap::choose(std::optional<std::size_t> deed)
{
    m_chosen = deed;
    setAccessibleDescription(deed ? m_sentences.value(static_cast<int>(*deed)) : QString());
    update();
    emit chose();
}

void DeedsMap::mousePressEvent(QMouseEvent* event)
{
    if (const auto hit = at(event->position()))
        choose(hit);
}

void DeedsMap::keyPressEvent(QKeyEvent* event)
{
    const std::size_t count = m_lines.size();
    if (count == 0)
        return QWidget::keyPressEvent(event);
    const std::size_t now = m_chosen.value_or(0);
    switch (event->key()) {
    case Qt::Key_Down:
        return choose(std::min(now + 1, count - 1));
    case Qt::Key_Up:
        return choose(now > 0 ? now - 1 : 0);
    case Qt::Key_Home:
        return choose(0);
    case Qt::Key_End:
        return choose(count - 1);
    default:
        QWidget::keyPressEvent(event);
    }
}

void DeedsMap::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.panel, c.line);
    const Line* chosen = m_chosen ? &m_lines[*m_chosen] : nullptr;
    for (std::size_t k = 0; k < m_lines.size(); ++k)
        if (m_chosen != k)
            paintLine(p, k);
    if (m_chosen)
        paintLine(p, *m_chosen);
    for (std::size_t k = 0; k < m_hands.size(); ++k)
        paintEnd(p, m_hands[k], {12, yOf(k, m_hands.size()) - 11, kHandsWide - 12, 22}, chosen && chosen->hand == k);
    for (std::size_t k = 0; k < m_moved.size(); ++k) {
        const double half = reachOf() + 10; // as high as what comes to it
        paintEnd(p, m_moved[k], {width() - kMovedWide, yOf(k, m_moved.size()) - half, kMovedWide - 12, 2 * half},
            chosen && chosen->moved == k);
    }
    paintLegend(p);
    if (hasFocus())
        paintFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2), c.ink);
}

void DeedsMap::paintEnd(QPainter& p, const End& end, const QRectF& box, bool isChosen) const
{
    const Colours& c = m_theme.colours();
    paintPanel(p, box, c.paper, isChosen ? c.ink : c.line);
    p.setPen(c.ink);
    p.setFont(m_theme.mono(12, true));
    const double wide = p.fontMetrics().horizontalAdvance(end.tag) + 8;
    p.drawText(box.adjusted(8, 0, 0, 0), Qt::AlignVCenter, end.tag);
    p.setFont(isChosen ? m_theme.bold() : m_theme.body());
    const QRectF rest = box.adjusted(8 + wide, 0, -6, 0);
    p.drawText(
        rest, Qt::AlignVCenter, p.fontMetrics().elidedText(end.words, Qt::ElideRight, static_cast<int>(rest.width())));
}

void DeedsMap::paintLine(QPainter& p, std::size_t deed) const
{
    const Colours& c = m_theme.colours();
    const Line& line = m_lines[deed];
    const bool isChosen = m_chosen == deed;
    const QColor colour = isChosen ? (isStart(line.effect) ? c.live : c.ink) : c.quiet;
    p.setPen(QPen(colour, isChosen ? 3.5 : 1.2, isWhileHeld(line.effect) ? Qt::DashLine : Qt::SolidLine));
    p.setBrush(Qt::NoBrush);
    p.drawPath(pathOf(line));
    if (!isStart(line.effect)) // to the bar
        p.drawLine(endOf(line), endOf(line) + QPointF(kTip - 4, 0));
    paintTip(p, endOf(line), line.effect, colour);
}

/// An arrow where it starts, a bar where it stops; hollow and dashed only as long as it is held.
void DeedsMap::paintTip(QPainter& p, QPointF tip, Deed::Effect effect, const QColor& colour) const
{
    p.setPen(QPen(colour, 2));
    p.setBrush(isWhileHeld(effect) ? m_theme.colours().panel : colour);
    if (isStart(effect))
        p.drawPolygon(QPolygonF({tip + QPointF(kTip, 0), tip + QPointF(0, -5), tip + QPointF(0, 5)}));
    else
        p.drawRect(QRectF(tip.x() + kTip - 4, tip.y() - 5, 4, 10));
    p.setBrush(Qt::NoBrush);
}

void DeedsMap::paintLegend(QPainter& p) const
{
    double x = 12;
    const double y = height() - kLegend / 2;
    for (const auto& [effect, text] :
        {std::pair{Deed::Effect::Starts, tr("starts it")}, {Deed::Effect::RunsWhileHeld, tr("runs while it is held")},
            {Deed::Effect::Stops, tr("stops it")}, {Deed::Effect::StopsWhileHeld, tr("stops while it is held")}}) {
        const QColor& colour = m_theme.colours().quiet;
        p.setPen(QPen(colour, 1.5, isWhileHeld(effect) ? Qt::DashLine : Qt::SolidLine));
        p.drawLine(QPointF(x, y), QPointF(x + 26, y));
        paintTip(p, {x + 26, y}, effect, colour);
        p.setFont(m_theme.small());
        p.setPen(m_theme.colours().ink);
        p.drawText(QPointF(x + 44, y + 4), text);
        x += 44 + p.fontMetrics().horizontalAdvance(text) + 22;
    }
}

} // namespace ts::app
