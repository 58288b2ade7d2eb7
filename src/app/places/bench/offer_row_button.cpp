#include "app/places/bench/offer_row_button.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"

#include <QPainter>

namespace ts::app {

QString keyName(char key)
{
    return key ? QString(QLatin1Char(key)) : QString();
}

OfferRowButton::OfferRowButton(const offers::Offer& offer, const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_theme(theme)
    , m_key(offer.key)
{
    setObjectName("offer." + QString::fromStdString(offer.id));
    setText(words::word("do." + offer.id));
    setToolTip(m_key ? text() + QStringLiteral(" (%1)").arg(keyName(m_key)) : text());
    setAccessibleName(toolTip());
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
}

void OfferRowButton::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    if (underMouse() || isDown())
        p.fillRect(rect(), c.door);
    p.setFont(m_theme.body());
    p.setPen(c.ink);
    const QRect line = rect().adjusted(2, 0, -4, 0);
    p.drawText(line.adjusted(0, 0, -18, 0), Qt::AlignVCenter | Qt::AlignLeft,
        p.fontMetrics().elidedText(text(), Qt::ElideRight, line.width() - 18));
    p.setFont(m_theme.mono(11));
    p.setPen(c.quiet);
    p.drawText(line, Qt::AlignVCenter | Qt::AlignRight, keyName(m_key));
    if (hasFocus())
        paintFocus(p, rect(), c.ink);
}

} // namespace ts::app
