#include "app/shell/course.h"

#include <QHBoxLayout>

namespace ts::app {

CourseButton::CourseButton(const QString& id, const QString& text, const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_theme(theme)
{
    setObjectName("course." + id);
    setText(text);
    setCheckable(true);
    setFocusPolicy(Qt::TabFocus);
    setMark(Mark::Untouched);
}

void CourseButton::setMark(Mark mark)
{
    if (mark == m_mark && !accessibleName().isEmpty())
        return; // told with each frame of a running machine
    m_mark = mark;
    setAccessibleName(text() + ", " + markWord(mark));
    setToolTip(markWord(mark));
    update();
}

QSize CourseButton::sizeHint() const
{
    return {QFontMetrics(m_theme.bold()).horizontalAdvance(text()) + 20, 56};
}

/// Narrow windows take the air between the words, never of the words.
QSize CourseButton::minimumSizeHint() const
{
    return {QFontMetrics(m_theme.bold()).horizontalAdvance(text()) + 6, 56};
}

void CourseButton::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    p.setFont(isChecked() ? m_theme.bold() : m_theme.body());
    p.setPen(isChecked() ? c.ink : c.quiet);
    p.drawText(QRectF(0, 17, width(), 20), Qt::AlignCenter, text());
    paintMark(p, QRectF(width() / 2.0 - 4, 40, 8, 8), m_mark, c);
    if (isChecked())
        p.fillRect(QRectF(4, height() - 3, width() - 8, 3), c.ink);
    if (hasFocus())
        paintFocus(p, rect(), c.ink);
}

Course::Course(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
    , m_row(new QHBoxLayout(this))
{
    m_row->setContentsMargins(0, 0, 0, 0);
    m_row->setSpacing(4);
}

CourseButton* Course::add(const QString& id, const QString& text, const QString& group)
{
    if (!m_groups.isEmpty() && m_groups.last() != group)
        m_row->addSpacing(12);
    m_groups << group;
    auto* button = new CourseButton(id, text, m_theme, this);
    const int index = static_cast<int>(m_buttons.size());
    connect(button, &CourseButton::clicked, this, [this, index] { emit chosen(index); });
    m_buttons.append(button);
    m_row->addWidget(button);
    return button;
}

void Course::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setFont(m_theme.small());
    for (int first = 0; first < m_buttons.size();) {
        int last = first;
        while (last + 1 < m_buttons.size() && m_groups[last + 1] == m_groups[first])
            ++last;
        const QRect span = m_buttons[first]->geometry().united(m_buttons[last]->geometry());
        if (!m_groups[first].isEmpty()) {
            p.setPen(m_theme.colours().quiet);
            p.drawText(QRect(span.left(), 1, span.width(), 14), Qt::AlignCenter, m_groups[first]);
            p.setPen(m_theme.colours().line);
            p.drawLine(span.left() + 2, 16, span.right() - 2, 16);
        }
        first = last + 1;
    }
}

void Course::setCurrent(int index)
{
    for (int i = 0; i < m_buttons.size(); ++i)
        m_buttons[i]->setChecked(i == index);
}

} // namespace ts::app
