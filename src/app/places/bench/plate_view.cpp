#include "app/places/bench/plate_view.h"

#include "app/widgets/marks.h"
#include "core/library/registry.h"

#include <QGridLayout>
#include <QScrollBar>

namespace ts::app {

PlateCard::PlateCard(int device, QString tag, QString label, BenchSession& session, const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_device(device)
    , m_tag(std::move(tag))
    , m_label(std::move(label))
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("plate." + m_tag);
    setToolTip(m_label);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Expanding);
    look();
    connect(&session, &BenchSession::frameChanged, this, &PlateCard::look);
}

void PlateCard::look()
{
    if (!m_session.hasRun())
        return;
    DeviceState state = deviceState(m_session.plant(), m_session.frame(), m_device);
    if (state == m_state)
        return;
    m_state = std::move(state);
    setMinimumHeight(sizeHint().height());
    setAccessibleName(m_tag + " " + m_label + ": " + m_state.lines.join(QStringLiteral(", ")));
    update();
}

void PlateCard::setSelected(bool selected)
{
    m_selected = selected;
    update();
}

QSize PlateCard::sizeHint() const
{
    const int lines = static_cast<int>(m_state.lines.size()) + static_cast<int>(m_state.indicators.size() + 1) / 2;
    return {m_state.isWide ? 226 : 109, (m_state.isWide ? 28 : 42) + 15 * std::max(1, lines)};
}

void PlateCard::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.panel, m_selected ? c.ink : c.line);
    if (m_state.isOn) // a bar at the edge: in, driven or on
        p.fillRect(QRectF(2, 4, 4, height() - 8), c.live);
    p.setPen(c.ink);
    p.setFont(m_theme.bold());
    p.drawText(QRectF(12, 4, width() - 16, 18), Qt::AlignVCenter, m_tag);
    const int tagWidth = p.fontMetrics().horizontalAdvance(m_tag) + 8;
    p.setFont(m_theme.small());
    p.setPen(c.quiet);
    const QRectF label = m_state.isWide ? QRectF(12 + tagWidth, 4, width() - tagWidth - 32, 18)
                                        : QRectF(12, 21, width() - 16, 15);
    p.drawText(
        label, Qt::AlignVCenter, p.fontMetrics().elidedText(m_label, Qt::ElideRight, static_cast<int>(label.width())));
    if (m_state.isAlarm)
        paintMark(p, QRectF(width() - 18, 7, 10, 10), Mark::Wrong, c);
    double y = m_state.isWide ? 23 : 37;
    p.setPen(c.ink);
    for (const QString& line : m_state.lines) {
        p.drawText(QRectF(12, y, width() - 14, 15), Qt::AlignVCenter,
            p.fontMetrics().elidedText(line, Qt::ElideRight, width() - 14));
        y += 15;
    }
    for (std::size_t i = 0; i < m_state.indicators.size(); ++i) {
        const auto& light = m_state.indicators[i];
        const double x = i % 2 == 0 ? 12 : width() / 2.0 + 4, row = y + 15 * static_cast<double>(i / 2);
        p.setPen(QPen(light.isAlarm ? c.lost : c.ink, 1));
        const QBrush shining(light.isAlarm ? c.lost : c.live);
        p.setBrush(light.isOn && !light.isBlinking ? shining : QBrush(Qt::NoBrush));
        p.drawRect(QRectF(x, row + 3, 9, 9));
        if (light.isBlinking) // half of it, as half the time
            p.fillRect(QRectF(x + 1, row + 8, 8, 4), shining);
        p.setPen(light.isOn ? c.ink : c.quiet);
        p.drawText(QRectF(x + 15, row, width() / 2.0, 15), Qt::AlignVCenter, light.name);
    }
    if (hasFocus())
        paintFocus(p, rect(), c.ink);
}

PlateView::PlateView(BenchSession& session, const Theme& theme, QWidget* parent)
    : QScrollArea(parent)
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("plate");
    setAccessibleName(tr("Plate"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
}

void PlateView::setCircuit(const Circuit& circuit)
{
    m_cards.clear();
    const int scrolled = verticalScrollBar()->value();
    auto* inside = new QWidget;
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 6, 0);
    grid->setSpacing(8);
    int row = 0, column = 0;
    if (m_session.hasRun())
        for (const bool wide : {true, false})
            for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i) {
                const PlantDevice& d = m_session.plant().devices[i];
                const Device* known = circuit.device(d.id);
                if (!known)
                    continue;
                const Device& device = *known;
                const DeviceState state = deviceState(m_session.plant(), m_session.frame(), static_cast<int>(i));
                if (standsOnDoor(device) || (state.lines.isEmpty() && state.indicators.empty()) || state.isWide != wide)
                    continue;
                auto* card = new PlateCard(static_cast<int>(i), QString::fromStdString(d.tag),
                    QString::fromStdString(device.label), m_session, m_theme, inside);
                connect(card, &PlateCard::clicked, this, [this, id = d.id] { emit devicePicked(id); });
                m_cards.emplace_back(d.id, card);
                grid->addWidget(card, row, wide ? 0 : column, 1, wide ? 2 : 1);
                column = wide ? 0 : 1 - column;
                row += wide || column == 0;
            }
    grid->setRowStretch(row + 1, 1);
    setWidget(inside);
    inside->adjustSize();
    verticalScrollBar()->setValue(scrolled);
}

void PlateView::setSelected(DeviceId device)
{
    for (const auto& [id, card] : m_cards) {
        card->setSelected(id == device);
        if (id == device)
            ensureWidgetVisible(card, 0, 8);
    }
}

} // namespace ts::app
