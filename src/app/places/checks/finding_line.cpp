#include "app/places/checks/finding_line.h"

#include "app/widgets/marks.h"

#include <QKeyEvent>
#include <QPainter>

namespace ts::app {
namespace {

constexpr int kHeight = 24, kMark = 10, kText = 22;

} // namespace

FindingLine::FindingLine(std::string key, Severity severity, bool isAccepted, const QString& text, const QString& state,
    const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_key(std::move(key))
    , m_severity(severity)
    , m_isAccepted(isAccepted)
    , m_state(state)
    , m_theme(theme)
{
    setText(text);
    setToolTip(text);
    setAccessibleName(state + ": " + text);
    setFont(theme.body());
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
}

void FindingLine::setOpen(bool isOpen)
{
    m_isOpen = isOpen;
    if (isOpen)
        setFont(m_theme.bold());
    update();
}

QSize FindingLine::sizeHint() const
{
    return {200, std::max(kHeight, fontMetrics().height() + 6)};
}

void FindingLine::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    const Mark mark = m_isAccepted ? Mark::Claimed : m_severity == Severity::Note ? Mark::Open : Mark::Wrong;
    paintMark(p, QRectF(2, (height() - kMark) / 2.0, kMark, kMark), mark, c);
    p.setFont(m_theme.small());
    const int stateWidth = p.fontMetrics().horizontalAdvance(m_state) + 12;
    p.setPen(m_severity == Severity::Stop && !m_isAccepted ? c.ink : c.quiet);
    p.drawText(rect().adjusted(width() - stateWidth, 0, -6, 0), Qt::AlignVCenter | Qt::AlignRight, m_state);
    p.setFont(font());
    p.setPen(c.ink);
    const QRect room = rect().adjusted(kText, 0, -stateWidth - 8, 0);
    p.drawText(room, Qt::AlignVCenter | Qt::AlignLeft | Qt::TextSingleLine,
        p.fontMetrics().elidedText(text(), Qt::ElideRight, room.width()));
    if (hasFocus())
        paintFocus(p, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), c.ink);
}

void FindingLine::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter)
        return click();
    if (e->key() == Qt::Key_Up || e->key() == Qt::Key_Down)
        return e->ignore(); // the board goes on to the next line
    QAbstractButton::keyPressEvent(e);
}

} // namespace ts::app
