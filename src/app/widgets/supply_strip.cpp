#include "app/widgets/supply_strip.h"

#include <QPainter>

namespace ts::app {
namespace {

constexpr int kHeight = 30, kHatched = 26, kIndent = 34;

} // namespace

SupplyStrip::SupplyStrip(const QString& name, const Theme& theme, QWidget* parent)
    : QLabel(parent)
    , m_theme(theme)
{
    setObjectName(name);
    setTextFormat(Qt::PlainText);
    setFont(theme.bold());
    setFixedHeight(kHeight);
    setIndent(kIndent);
}

void SupplyStrip::show(const QString& words, bool isLive)
{
    m_isLive = isLive;
    setText(words);
    update();
}

void SupplyStrip::paintEvent(QPaintEvent* event)
{
    const Colours& c = m_theme.colours();
    QPainter p(this);
    if (m_isLive) {
        p.fillRect(rect(), c.liveFill);
        p.fillRect(QRect(0, 0, kHatched, height()), QBrush(c.live, Qt::BDiagPattern));
    }
    p.setPen(QPen(m_isLive ? c.live : c.line, m_isLive ? 2 : 1));
    p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    p.end();
    QLabel::paintEvent(event);
}

} // namespace ts::app
