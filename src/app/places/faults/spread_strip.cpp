#include "app/places/faults/spread_strip.h"

#include "app/words/words.h"

#include <QPainter>

#include <cmath>

namespace ts::app {
namespace {

constexpr int kLeft = 150, kRight = 24, kStrip = 40, kAxis = 22;

} // namespace

SpreadStrip::SpreadStrip(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    hide();
}

void SpreadStrip::show(std::shared_ptr<const StopStudy> study, double allowedS)
{
    m_study = std::move(study);
    m_allowedS = allowedS;
    m_fromS = 0.01;
    m_toS = std::max(1.0, allowedS);
    QStringList spoken;
    if (m_study)
        for (const ActuatorStudy& a : m_study->actuators)
            for (const StopCase& c : a.cases) {
                if (c.stop.restAfter)
                    m_toS = std::max(m_toS, c.stop.restAfter->si());
                if (c.stop.removedAfter && c.stop.removedAfter->si() > 0.0)
                    m_fromS = std::min(m_fromS, c.stop.removedAfter->si());
            }
    m_toS *= 1.6;
    setFixedHeight(m_study ? kAxis + kStrip * static_cast<int>(m_study->actuators.size()) : 0);
    setVisible(m_study != nullptr);
    if (m_study)
        for (const ActuatorStudy& a : m_study->actuators)
            if (a.latestRest >= 0)
                spoken << tr("%1 at rest after %2 to %3")
                              .arg(QString::fromStdString(a.tag),
                                  words::number(
                                      a.cases[static_cast<std::size_t>(a.earliestRest)].stop.restAfter->si(), "s"),
                                  words::number(
                                      a.cases[static_cast<std::size_t>(a.latestRest)].stop.restAfter->si(), "s"));
    setAccessibleName(spoken.join("; "));
    update();
}

double SpreadStrip::xOf(double timeS) const
{
    const double share = std::log(std::max(timeS, m_fromS) / m_fromS) / std::log(m_toS / m_fromS);
    return kLeft + share * (width() - kLeft - kRight);
}

void SpreadStrip::paintActuator(QPainter& p, const ActuatorStudy& a, double top) const
{
    const Colours& c = m_theme.colours();
    p.setPen(c.ink);
    p.setFont(m_theme.bold());
    p.drawText(QRectF(0, top, 40, kStrip - 8), Qt::AlignVCenter | Qt::AlignLeft, QString::fromStdString(a.tag));
    p.setFont(m_theme.small());
    p.setPen(c.quiet);
    p.drawText(QRectF(40, top, kLeft - 52, (kStrip - 8) / 2.0), Qt::AlignVCenter | Qt::AlignRight, tr("power removed"));
    p.drawText(QRectF(40, top + (kStrip - 8) / 2.0, kLeft - 52, (kStrip - 8) / 2.0), Qt::AlignVCenter | Qt::AlignRight,
        tr("at rest"));
    p.setPen(QPen(c.line, 1));
    p.drawLine(QPointF(kLeft, top + kStrip - 6), QPointF(width() - kRight, top + kStrip - 6));
    for (const StopCase& k : a.cases) {
        if (!k.stop.stops)
            continue;
        const bool isFault = k.kind == StopCase::Kind::Fault;
        QColor removed = isFault ? c.quiet : c.ink, rest = isFault ? c.caught.lighter(130) : c.caught;
        p.setPen(QPen(removed, isFault ? 1 : 2));
        if (k.stop.removedAfter)
            p.drawLine(
                QPointF(xOf(k.stop.removedAfter->si()), top + 3), QPointF(xOf(k.stop.removedAfter->si()), top + 14));
        p.setPen(QPen(rest, isFault ? 1 : 2));
        if (k.stop.restAfter)
            p.drawLine(QPointF(xOf(k.stop.restAfter->si()), top + 18), QPointF(xOf(k.stop.restAfter->si()), top + 30));
    }
    if (a.latestRest < 0)
        return;
    const double latest = a.cases[static_cast<std::size_t>(a.latestRest)].stop.restAfter->si();
    p.setPen(c.ink);
    const QString text = words::number(latest, "s");
    const double x = xOf(latest), w = p.fontMetrics().horizontalAdvance(text);
    p.drawText(QPointF(x + 5 + w < width() ? x + 5 : x - 5 - w, top + 28), text);
}

void SpreadStrip::paintEvent(QPaintEvent*)
{
    if (!m_study)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    const double bottom = height() - kAxis;
    p.setFont(m_theme.small());
    for (double decade : {0.01, 0.1, 1.0, 10.0, 100.0})
        if (decade >= m_fromS * 0.999 && decade <= m_toS) {
            p.setPen(QPen(c.line, 1));
            p.drawLine(QPointF(xOf(decade), 0), QPointF(xOf(decade), bottom));
            p.setPen(c.quiet);
            p.drawText(QRectF(xOf(decade) - 40, bottom + 2, 80, kAxis - 4), Qt::AlignHCenter | Qt::AlignTop,
                words::number(decade, "s"));
        }
    for (std::size_t k = 0; k < m_study->actuators.size(); ++k)
        paintActuator(p, m_study->actuators[k], static_cast<double>(k) * kStrip);
    if (m_allowedS > 0.0) {
        p.setPen(QPen(c.lost, 2, Qt::DashLine));
        p.drawLine(QPointF(xOf(m_allowedS), 0), QPointF(xOf(m_allowedS), bottom));
        p.setPen(c.lost);
        p.setFont(m_theme.small());
        p.drawText(QRectF(xOf(m_allowedS) - 100, bottom + 2, 96, kAxis - 4), Qt::AlignRight | Qt::AlignTop,
            tr("allowed %1").arg(words::number(m_allowedS, "s")));
    }
}

} // namespace ts::app
