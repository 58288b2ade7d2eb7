#include "app/places/bench/trace_view.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"
#include "core/base/at.h"

#include <QMouseEvent>

#include <algorithm>
#include <cmath>
#include <limits>

namespace ts::app {
namespace {

constexpr double kNames = 86, kTop = 28, kBottom = 42, kReach = 5, kSmallestSpan = 1, kLargestSpan = 60,
                 kSmallestRow = 14;

bool isWorthAReason(const Event& e)
{
    switch (e.why) {
    case Why::Lit:
    case Why::Dark:
    case Why::PathChanged:
    case Why::RanUp:
    case Why::ChannelChanged:
        return false;
    case Why::Moved:
        return e.to != 1;
    default:
        return true;
    }
}

/// What the line under the strips speaks of by itself: what a machine does, not what a hand did.
bool isNews(const Plant& plant, const Event& e)
{
    if (e.why == Why::Moved)
        return e.to != 1 && plant.movers[static_cast<std::size_t>(e.slot)].spec.driver != MoverSpec::Driver::Operator
            && plant.movers[static_cast<std::size_t>(e.slot)].spec.driver != MoverSpec::Driver::Logic;
    return e.why != Why::Operated && e.why != Why::Lit && e.why != Why::Dark && e.why != Why::PathChanged
        && e.why != Why::RanUp;
}

/// Whatever leaves its rest position for a while, and every selector.
bool isLane(const MoverSpec& spec)
{
    return spec.initial == 0 || spec.role == "selector";
}

} // namespace

QStringList causeChain(const Plant& plant, const Trace& trace, int event)
{
    QStringList chain;
    for (int i = event; i >= 0 && chain.size() < 8; i = trace.events[at(i)].cause) {
        const QString text = words::eventText(plant, trace.events[at(i)]);
        if (!text.isEmpty() && (chain.isEmpty() || chain.last() != text))
            chain << text;
    }
    return chain;
}

TraceView::TraceView(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("trace");
    setAccessibleName(tr("Trace"));
    setMouseTracking(true);
    setMinimumHeight(120);
    connect(&session, &BenchSession::runChanged, this, &TraceView::findRows);
    connect(&session, &BenchSession::frameChanged, this, [this] {
        readTrace();
        update();
    });
}

void TraceView::findRows()
{
    m_rows.clear();
    m_read = 0;
    m_chosen = -1;
    if (!m_session.hasRun())
        return;
    const Plant& plant = m_session.plant();
    for (std::size_t i = 0; i < plant.devices.size(); ++i) {
        const PlantDevice& d = plant.devices[i];
        Row row{QString::fromStdString(d.tag), static_cast<int>(i), -1, -1, -1, {}};
        if (!d.motors.empty())
            row.motor = d.motors.front(), row.name += tr(" speed");
        else if (!d.relays.empty())
            row.relay = d.relays.back(), row.name += tr(" outputs");
        else if (!d.movers.empty() && isLane(plant.movers[at(d.movers.front())].spec)
            && (d.protections.empty() || d.links.size() > d.protections.size() * 3))
            row.mover = d.movers.front();
        else
            continue;
        m_rows.push_back(std::move(row));
    }
    // In the order in which a command travels: hands, relays, contactors and trips, motors.
    const auto order = [&](const Row& r) {
        if (r.motor >= 0)
            return 3;
        if (r.relay >= 0)
            return 1;
        return plant.movers[at(r.mover)].spec.driver == MoverSpec::Driver::Operator ? 0 : 2;
    };
    std::stable_sort(m_rows.begin(), m_rows.end(), [&](const Row& a, const Row& b) { return order(a) < order(b); });
}

void TraceView::readTrace()
{
    if (!m_session.hasRun())
        return;
    const auto& events = m_session.run().trace().events;
    for (; m_read < events.size(); ++m_read) {
        const Event& e = events[m_read];
        for (Row& r : m_rows) {
            if (e.why == Why::Moved && r.mover == e.slot)
                r.changes.emplace_back(e.at, e.to != 1 && e.to != m_session.plant().movers[at(e.slot)].spec.initial);
            if ((e.why == Why::OutputsOn || e.why == Why::OutputsOff) && r.relay == e.slot)
                r.changes.emplace_back(e.at, e.why == Why::OutputsOn);
        }
    }
}

TimeNs TraceView::left() const
{
    return m_session.run().now() - timeNs(seconds(m_spanS));
}

double TraceView::xOf(TimeNs t) const
{
    return kNames + (width() - kNames - 14) * secondsOf(t - left()).si() / m_spanS;
}

double TraceView::rowHeight() const
{
    return m_rows.empty()
        ? 16
        : std::clamp((height() - kTop - kBottom) / static_cast<double>(shownRows().size()), kSmallestRow, 24.0);
}

std::vector<const TraceView::Row*> TraceView::shownRows() const
{
    const auto fit = static_cast<std::size_t>(std::max(1.0, (height() - kTop - kBottom) / kSmallestRow));
    std::vector<const Row*> rows;
    for (const Row& r : m_rows)
        rows.push_back(&r);
    if (rows.size() <= fit)
        return rows;
    const auto newest = [](const Row* r) {
        return r->motor >= 0 ? std::numeric_limits<TimeNs>::max() : r->changes.empty() ? -1 : r->changes.back().first;
    };
    std::vector<const Row*> byAge = rows;
    std::stable_sort(byAge.begin(), byAge.end(), [&](const Row* a, const Row* b) { return newest(a) > newest(b); });
    byAge.resize(fit);
    std::erase_if(
        rows, [&](const Row* r) { return newest(r) < 0 || std::find(byAge.begin(), byAge.end(), r) == byAge.end(); });
    return rows;
}

QString TraceView::folded() const
{
    const auto shown = shownRows();
    QStringList names;
    for (const Row& r : m_rows)
        if (std::find(shown.begin(), shown.end(), &r) == shown.end())
            names << r.name;
    return names.isEmpty() ? QString()
                           : tr("%n not shown", nullptr, static_cast<int>(names.size())) + QStringLiteral(": ")
            + names.join(QStringLiteral(", "));
}

void TraceView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.panel, c.line);
    p.setPen(c.ink);
    p.setFont(m_theme.bold());
    p.drawText(QRectF(12, 6, 120, 18), Qt::AlignVCenter, tr("Trace"));
    if (!m_session.hasRun())
        return;
    paintAxis(p);
    p.setFont(m_theme.small());
    p.setPen(c.quiet);
    const QString rest = folded();
    p.drawText(QRectF(58, 6, kNames - 54, 18), Qt::AlignVCenter,
        rest.isEmpty() ? rest : QStringLiteral("+%1").arg(m_rows.size() - shownRows().size()));
    if (toolTip() != rest)
        setToolTip(rest); // which ones
    double y = kTop;
    for (const Row* row : shownRows()) {
        const Row& r = *row;
        p.setFont(m_theme.mono(11));
        p.setPen(c.ink);
        p.drawText(QRectF(12, y, kNames - 14, rowHeight()), Qt::AlignVCenter,
            p.fontMetrics().elidedText(r.name, Qt::ElideRight, static_cast<int>(kNames) - 14));
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(kNames, y + rowHeight() - 2), QPointF(width() - 14, y + rowHeight() - 2));
        p.save();
        p.setClipRect(QRectF(kNames, 0, width() - kNames - 14, height()));
        r.motor >= 0 ? paintSpeed(p, r, y) : paintRow(p, r, y);
        p.restore();
        y += rowHeight();
    }
    if (m_chosen >= 0 && m_chosen < static_cast<int>(m_session.run().trace().events.size())) {
        p.setPen(QPen(c.ink, 1, Qt::DashLine));
        const double x = xOf(m_session.run().trace().events[at(m_chosen)].at);
        p.drawLine(QPointF(x, kTop), QPointF(x, y));
    }
    p.setFont(m_theme.small());
    p.setPen(c.ink);
    const QRectF area(12, height() - kBottom + 6, width() - 24, kBottom - 8);
    QString text = reason();
    while (p.fontMetrics().boundingRect(area.toRect(), Qt::TextWordWrap, text).height() > area.height()
        && text.contains(QLatin1Char(' ')))
        text = text.left(text.lastIndexOf(QLatin1Char(' '), text.endsWith(QStringLiteral(" ...")) ? -6 : -1))
            + QStringLiteral(" ...");
    p.drawText(area, Qt::AlignVCenter | Qt::TextWordWrap, text);
}

void TraceView::paintRow(QPainter& p, const Row& r, double y) const
{
    const Colours& c = m_theme.colours();
    TimeNs from = -1;
    const auto bar = [&](TimeNs a, TimeNs b) {
        const QRectF box(QPointF(xOf(a), y + 2), QPointF(std::max(xOf(b), xOf(a) + 1.5), y + rowHeight() - 3));
        if (box.right() >= kNames)
            p.fillRect(box,
                r.mover >= 0 && m_session.plant().movers[at(r.mover)].spec.driver == MoverSpec::Driver::Operator
                    ? c.ink
                    : c.live);
    };
    for (const auto& [when, on] : r.changes) {
        if (on && from < 0)
            from = when;
        if (!on && from >= 0) {
            bar(from, when);
            from = -1;
        }
    }
    if (from >= 0)
        bar(from, m_session.run().now());
}

void TraceView::paintSpeed(QPainter& p, const Row& r, double y) const
{
    const double full = m_session.plant().motors[at(r.motor)].data.synchronousRadPerS;
    const auto& samples = m_session.run().speeds();
    auto first = std::lower_bound(
        samples.begin(), samples.end(), left(), [](const BenchRun::SpeedSample& s, TimeNs t) { return s.at < t; });
    if (first != samples.begin())
        --first; // a straight line may begin before the left edge
    QPolygonF line;
    double lastX = -10;
    for (auto it = first; it != samples.end(); ++it) {
        const double x = xOf(it->at);
        if (x - lastX < 1.0)
            continue;
        lastX = x;
        line << QPointF(
            x, y + rowHeight() - 2 - (rowHeight() - 4) * std::min(1.0, std::abs(it->radPerS[at(r.motor)]) / full));
    }
    p.setPen(QPen(m_theme.colours().ink, 1.8));
    p.drawPolyline(line);
}

void TraceView::paintAxis(QPainter& p) const
{
    const Colours& c = m_theme.colours();
    p.setFont(m_theme.mono(11));
    const double step = m_spanS > 30 ? 10 : m_spanS > 12 ? 5 : m_spanS > 3 ? 1 : 0.2;
    const double end = secondsOf(m_session.run().now()).si();
    for (double t = std::ceil(std::max(0.0, end - m_spanS) / step) * step; t <= end; t += step) {
        const double x = xOf(timeNs(seconds(t)));
        p.setPen(QPen(c.line, 1, Qt::DotLine));
        p.drawLine(QPointF(x, kTop - 4), QPointF(x, kTop + rowHeight() * static_cast<double>(shownRows().size())));
        p.setPen(c.quiet);
        if (x > kNames + 90 && x < width() - 24)
            p.drawText(QRectF(x - 30, 8, 60, 14), Qt::AlignCenter,
                QString::number(t, 'f', step < 1 ? 1 : 0) + QStringLiteral(" s"));
    }
}

int TraceView::newestReason() const
{
    const auto& events = m_session.run().trace().events;
    for (int i = static_cast<int>(events.size()) - 1; i >= 0; --i)
        if (isNews(m_session.plant(), events[at(i)]))
            return i;
    return -1;
}

QString TraceView::reason() const
{
    if (!m_session.hasRun())
        return {};
    if (m_session.isChattering())
        return tr("The circuit chatters: something switches itself on and off. The run is paused; take the cause away "
                  "and go on.");
    const int event = m_chosen >= 0 ? m_chosen : newestReason();
    const auto& trace = m_session.run().trace();
    if (event < 0 || event >= static_cast<int>(trace.events.size()))
        return {};
    const QStringList chain = causeChain(m_session.plant(), trace, event);
    return QStringLiteral("%1 s  ").arg(secondsOf(trace.events[at(event)].at).si(), 0, 'f', 3)
        + chain.join(tr("  because  "));
}

int TraceView::eventNear(QPointF pos) const
{
    if (!m_session.hasRun() || pos.x() < kNames)
        return -1;
    const int row = static_cast<int>((pos.y() - kTop) / rowHeight());
    const auto shown = shownRows();
    const auto& events = m_session.run().trace().events;
    int best = -1;
    double nearest = kReach;
    for (int i = static_cast<int>(events.size()) - 1; i >= 0; --i) {
        const Event& e = events[at(i)];
        if (e.at < left())
            break;
        const bool ofRow = row >= 0 && row < static_cast<int>(shown.size()) && shown[at(row)]->device == e.device;
        const double distance = std::abs(xOf(e.at) - pos.x()) - (ofRow ? 2.0 : 0.0);
        if (isWorthAReason(e) && distance < nearest) {
            nearest = distance;
            best = i;
        }
    }
    return best;
}

void TraceView::mouseMoveEvent(QMouseEvent* e)
{
    m_chosen = eventNear(e->position());
    update();
}

void TraceView::mousePressEvent(QMouseEvent* e)
{
    const int row = static_cast<int>((e->position().y() - kTop) / rowHeight());
    const auto shown = shownRows();
    if (row >= 0 && row < static_cast<int>(shown.size()))
        emit devicePicked(shown[at(row)]->device);
}

void TraceView::leaveEvent(QEvent*)
{
    m_chosen = -1;
    update();
}

void TraceView::wheelEvent(QWheelEvent* e)
{
    m_spanS = std::clamp(m_spanS * std::pow(1.0015, -e->angleDelta().y()), kSmallestSpan, kLargestSpan);
    update();
}

} // namespace ts::app
