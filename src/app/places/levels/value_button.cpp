#include "app/places/levels/value_button.h"

#include "app/widgets/marks.h"

#include <QKeyEvent>
#include <QPainter>

namespace ts::app {
namespace {
constexpr int kLine = 18;
} // namespace

ValueButton::ValueButton(const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_theme(theme)
{
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void ValueButton::setRow(const ValueRow& row)
{
    m_row = row;
    setAccessibleName(row.text + " " + row.number);
    setFocusPolicy(row.kind == ValueRow::Kind::Value ? Qt::StrongFocus : Qt::NoFocus);
    setEnabled(row.kind == ValueRow::Kind::Value);
    setToolTip(row.kind == ValueRow::Kind::Value ? tr("Where from?") : row.text);
    setCursor(row.kind == ValueRow::Kind::Value ? Qt::PointingHandCursor : Qt::ArrowCursor);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    policy.setHeightForWidth(hasHeightForWidth());
    setSizePolicy(policy);
    updateGeometry();
    update();
}

void ValueButton::setAsked(bool asked)
{
    m_asked = asked;
    update();
}

void ValueButton::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_I && isEnabled())
        click();
    else
        QAbstractButton::keyPressEvent(e);
}

void ValueButton::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    const QRectF area = rect();
    if (m_row.kind == ValueRow::Kind::Heading) {
        p.setPen(c.ink);
        p.setFont(headingFont());
        p.drawText(area, Qt::AlignLeft | Qt::AlignBottom | Qt::TextWordWrap, m_row.text);
        return;
    }
    if (m_row.kind == ValueRow::Kind::Warning) {
        paintMark(p, QRectF(0, 4, 10, 10), Mark::Wrong, c);
        p.setPen(c.lost);
        p.setFont(m_theme.small());
        p.drawText(area.adjusted(16, 0, 0, 0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, m_row.text);
        return;
    }
    if (m_asked)
        p.fillRect(area.adjusted(-2, 1, 2, -1), c.liveFill);
    p.setPen(c.quiet);
    p.setFont(m_theme.small());
    p.drawText(area.adjusted(2, 0, -92, 0), Qt::AlignLeft | Qt::AlignVCenter,
        p.fontMetrics().elidedText(m_row.text, Qt::ElideRight, width() - 94));
    p.setPen(c.ink);
    p.setFont(m_theme.mono(13));
    p.drawText(area.adjusted(0, 0, -2, 0), Qt::AlignRight | Qt::AlignVCenter, m_row.number);
    const int w = p.fontMetrics().horizontalAdvance(m_row.number);
    p.setPen(QPen(c.quiet, 1, Qt::DotLine)); // can be asked
    p.drawLine(QPointF(width() - 2 - w, height() - 3), QPointF(width() - 2, height() - 3));
    if (hasFocus())
        paintFocus(p, area, c.ink);
}

QFont ValueButton::headingFont() const
{
    QFont font = m_theme.small();
    font.setBold(true);
    return font;
}

QSize ValueButton::sizeHint() const
{
    return {180, hasHeightForWidth() ? heightForWidth(width()) : kLine};
}

int ValueButton::heightForWidth(int width) const
{
    const bool isHeading = m_row.kind == ValueRow::Kind::Heading;
    const QFontMetrics metrics(isHeading ? headingFont() : m_theme.small());
    const int room = std::max(40, isHeading ? width : width - 16);
    const int needed = metrics.boundingRect(0, 0, room, 10000, Qt::TextWordWrap, m_row.text).height();
    return std::max(kLine, needed + (isHeading ? 6 : 2));
}

} // namespace ts::app
