#include "app/places/faults/outcome_mark.h"

#include "app/words/words.h"

#include <QPainter>

namespace ts::app {

void paintOutcome(QPainter& painter, const QRectF& box, faults::Outcome outcome, const Colours& colours)
{
    using faults::Outcome;
    const qreal opacity = painter.opacity();
    if (outcome == Outcome::Safe)
        painter.setOpacity(opacity * 0.4);
    const Mark mark = outcome == Outcome::Lost ? Mark::Wrong
        : outcome == Outcome::Hidden           ? Mark::Open
        : outcome == Outcome::Undecided        ? Mark::Stale
        : outcome == Outcome::NotRun           ? Mark::Untouched
                                               : Mark::InOrder;
    paintMark(painter, box, mark, colours);
    painter.setOpacity(opacity);
}

OutcomeCounts::OutcomeCounts(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("faults.counts");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void OutcomeCounts::show(const faults::Sweep* sweep)
{
    using faults::Outcome;
    m_items.clear();
    QStringList said;
    if (sweep)
        for (Outcome o : {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught, Outcome::Safe})
            if (const std::size_t n = sweep->count(o, false)) {
                m_items.emplace_back(
                    o, QStringLiteral("%1 %2").arg(n).arg(words::word("outcome." + std::string(faults::nameOf(o)))));
                said << m_items.back().second;
            }
    setAccessibleName(said.join(QStringLiteral(", ")));
    setVisible(!m_items.empty());
    update();
}

void OutcomeCounts::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(m_theme.bold());
    qreal x = 0;
    for (const auto& [outcome, text] : m_items) {
        paintOutcome(p, QRectF(x, height() / 2.0 - 5.5, 11, 11), outcome, m_theme.colours());
        p.setPen(m_theme.colours().ink);
        p.drawText(QRectF(x + 17, 0, width(), height()), Qt::AlignVCenter | Qt::AlignLeft, text);
        x += 17 + QFontMetricsF(m_theme.bold()).horizontalAdvance(text) + 24;
    }
}

} // namespace ts::app
