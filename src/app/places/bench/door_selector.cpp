#include "app/places/bench/door_selector.h"

#include "app/widgets/marks.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>

namespace ts::app {

DoorSelector::DoorSelector(int device, QString label, BenchSession& session, const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_label(std::move(label))
    , m_session(session)
    , m_theme(theme)
{
    const PlantDevice& d = session.plant().devices[static_cast<std::size_t>(device)];
    m_tag = QString::fromStdString(d.tag);
    constexpr std::string_view kTurn = "turn_to_";
    for (const auto& [word, what] : d.actions)
        if (word.starts_with(kTurn)) {
            m_mover = what.first;
            m_positions.push_back({QString::fromStdString(word.substr(kTurn.size())), word, what.second});
        }
    std::sort(m_positions.begin(), m_positions.end(),
        [](const Position& a, const Position& b) { return a.travel < b.travel; });
    setObjectName("door." + m_tag);
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("%1: click left or right of the middle, or use the arrow keys").arg(m_tag));
    connect(&session, &BenchSession::frameChanged, this, &DoorSelector::say);
    say();
}

void DoorSelector::say()
{
    const int now = position();
    if (now == m_shown)
        return;
    m_shown = now;
    setAccessibleName(
        tr("%1 %2, at %3").arg(m_label, m_tag, now < 0 ? QString() : m_positions[static_cast<std::size_t>(now)].name));
    update();
}

int DoorSelector::position() const
{
    if (m_session.hasRun())
        for (std::size_t k = 0; k < m_positions.size(); ++k)
            if (m_positions[k].travel == m_session.frame().travel[static_cast<std::size_t>(m_mover)])
                return static_cast<int>(k);
    return -1;
}

void DoorSelector::turn(int by)
{
    const int to = position() + by;
    if (m_session.hasRun() && position() >= 0 && to >= 0 && to < static_cast<int>(m_positions.size()))
        m_session.act(m_tag.toStdString(), m_positions[static_cast<std::size_t>(to)].action);
}

void DoorSelector::letGo()
{
    if (m_session.hasRun() && !m_session.plant().movers[static_cast<std::size_t>(m_mover)].spec.latches)
        m_session.act(m_tag.toStdString(), "release");
}

void DoorSelector::mousePressEvent(QMouseEvent* e)
{
    if (e->button() == Qt::LeftButton)
        turn(e->position().x() < width() / 2.0 ? -1 : 1);
}

void DoorSelector::mouseReleaseEvent(QMouseEvent* e)
{
    if (e->button() == Qt::LeftButton)
        letGo();
}

void DoorSelector::keyPressEvent(QKeyEvent* e)
{
    if (e->isAutoRepeat())
        return;
    if (e->key() == Qt::Key_Left || e->key() == Qt::Key_Right)
        turn(e->key() == Qt::Key_Left ? -1 : 1);
    else
        QAbstractButton::keyPressEvent(e);
}

void DoorSelector::keyReleaseEvent(QKeyEvent* e)
{
    if (!e->isAutoRepeat() && (e->key() == Qt::Key_Left || e->key() == Qt::Key_Right))
        letGo();
    else
        QAbstractButton::keyReleaseEvent(e);
}

void DoorSelector::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    const QPointF middle(width() / 2.0, 40);
    const auto angle = [this](int k) { return m_positions.size() == 2 ? -40 + 80 * k : -55 + 55 * k; };
    p.setFont(m_theme.small());
    const int now = position();
    for (int k = 0; k < static_cast<int>(m_positions.size()); ++k) {
        const bool isThere = k == now;
        p.setPen(isThere ? c.ink : c.quiet);
        p.setFont(isThere ? m_theme.bold() : m_theme.small());
        const Qt::Alignment side = angle(k) < 0 ? Qt::AlignLeft : angle(k) > 0 ? Qt::AlignRight : Qt::AlignHCenter;
        p.drawText(QRectF(0, 0, width(), 16), side | Qt::AlignVCenter, m_positions[static_cast<std::size_t>(k)].name);
    }
    p.setPen(QPen(c.quiet, 2));
    p.setBrush(c.panel);
    p.drawEllipse(middle, 20, 20);
    p.save();
    p.translate(middle);
    p.rotate(now < 0 ? 0 : angle(now));
    p.setPen(QPen(c.ink, 1.2));
    p.setBrush(QColor("#20282C"));
    p.drawRoundedRect(QRectF(-6, -22, 12, 40), 5, 5);
    p.setPen(QPen(QColor("#F4F4F0"), 2));
    p.drawLine(QPointF(0, -19), QPointF(0, -6));
    p.restore();
    p.setPen(c.ink);
    p.setFont(m_theme.small());
    p.drawText(
        QRectF(0, 63, width(), 16), Qt::AlignCenter, p.fontMetrics().elidedText(m_label, Qt::ElideRight, width()));
    p.setPen(c.quiet);
    p.setFont(m_theme.mono(11));
    p.drawText(QRectF(0, 78, width(), 16), Qt::AlignCenter, m_tag);
    if (hasFocus())
        paintFocus(p, rect(), c.ink);
}

} // namespace ts::app
