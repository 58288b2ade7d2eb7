#include "app/places/bench/door_view.h"

#include "app/places/bench/door_selector.h"
#include "app/widgets/marks.h"
#include "core/library/registry.h"

#include <QBoxLayout>
#include <QGridLayout>
#include <QHash>
#include <QKeyEvent>
#include <QMouseEvent>

#include <algorithm>

namespace ts::app {
namespace {

QColor capColour(const QString& word)
{
    static const QHash<QString, QColor> colours{{"black", "#20282C"}, {"white", "#F4F4F0"}, {"grey", "#9AA2A4"},
        {"green", "#2E8B57"}, {"red", "#B3261E"}, {"blue", "#2A5CAA"}, {"yellow", "#E5BE01"}};
    return colours.value(word, QColor("#9AA2A4"));
}

QString parameterWord(const Circuit& circuit, const Device& device, std::string_view name)
{
    for (const ParameterSpec& spec : deviceKind(device.kind)->parameters)
        if (spec.name == name)
            if (const auto p = parametersOf(circuit, device))
                return QString::fromStdString(p->word(name));
    return {};
}

bool has(const PlantDevice& d, std::string_view action)
{
    return std::any_of(
        d.actions.begin(), d.actions.end(), [action](const auto& a) { return a.first.starts_with(action); });
}

} // namespace

DoorButton::DoorButton(Look look, BenchSession& session, const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_look(std::move(look))
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("door." + m_look.tag);
    setAccessibleName(m_look.label + " " + m_look.tag);
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(m_look.latches ? tr("%1: click to press, click again to unlatch").arg(m_look.tag)
                              : tr("%1: Shift+click holds it down").arg(m_look.tag));
    connect(&session, &BenchSession::frameChanged, this, [this] {
        if (isActuated() != m_wasActuated)
            update();
        m_wasActuated = isActuated();
    });
}

QSize DoorButton::sizeHint() const
{
    return m_look.latches ? QSize(116, 132) : QSize(76, 84);
}

bool DoorButton::isActuated() const
{
    return m_session.hasRun() && m_session.frame().travel[static_cast<std::size_t>(m_look.mover)] == 2;
}

void DoorButton::pressDown()
{
    if (!m_session.hasRun())
        return;
    const std::string tag = m_look.tag.toStdString();
    if (m_look.latches) {
        m_session.act(tag, isActuated() ? "unlatch" : "press");
        return;
    }
    m_session.act(tag, "press");
    m_isHeld = true;
}

void DoorButton::letGo()
{
    if (!m_session.hasRun())
        return;
    m_session.act(m_look.tag.toStdString(), "release");
    m_isHeld = m_keep = false;
}

void DoorButton::mousePressEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton)
        return;
    if (m_keep) { // was held by Shift+click
        letGo();
        return;
    }
    pressDown();
    m_keep = m_isHeld && (e->modifiers() & Qt::ShiftModifier);
    setDown(true);
}

void DoorButton::mouseReleaseEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton)
        return;
    setDown(false);
    if (m_look.latches)
        m_session.act(m_look.tag.toStdString(), "release");
    else if (m_isHeld && !m_keep)
        letGo();
}

void DoorButton::keyPressEvent(QKeyEvent* e)
{
    const bool presses = e->key() == Qt::Key_Space || e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter;
    if (presses && !e->isAutoRepeat() && !m_isHeld)
        pressDown();
    else if (!presses)
        QAbstractButton::keyPressEvent(e);
}

void DoorButton::keyReleaseEvent(QKeyEvent* e)
{
    const bool presses = e->key() == Qt::Key_Space || e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter;
    if (presses && !e->isAutoRepeat() && m_isHeld)
        letGo();
    else if (!presses)
        QAbstractButton::keyReleaseEvent(e);
}

void DoorButton::paintPush(QPainter& p, const QRectF& area) const
{
    const Colours& c = m_theme.colours();
    const bool in = isActuated();
    const QRectF ring(area.center().x() - 22, area.top() + 2, 44, 44);
    p.setPen(QPen(c.quiet, 2));
    p.setBrush(c.panel);
    p.drawEllipse(ring);
    p.setPen(QPen(c.ink, in ? 3 : 1.2));
    p.setBrush(capColour(m_look.colour));
    p.drawEllipse(in ? ring.adjusted(8, 8, -8, -8) : ring.adjusted(5, 5, -5, -5));
}

void DoorButton::paintEmergency(QPainter& p, const QRectF& area) const
{
    const bool in = isActuated();
    const QRectF plate(area.center().x() - 44, area.top() + 2, 88, 88);
    p.setPen(QPen(m_theme.colours().ink, 1));
    p.setBrush(QColor("#E5BE01"));
    p.drawEllipse(plate);
    const QRectF head = in ? plate.adjusted(19, 19, -19, -19) : plate.adjusted(13, 13, -13, -13);
    p.setPen(QPen(QColor("#5E120D"), in ? 5 : 2));
    p.setBrush(QColor("#B3261E"));
    p.drawEllipse(head);
    p.setPen(QPen(QColor("#F6D6D2"), 2));
    if (in) // latched: the arrows that show how to turn it out
        for (int start : {30, 150, 270})
            p.drawArc(head.adjusted(12, 12, -12, -12), start * 16, 70 * 16);
    else
        p.drawArc(head.adjusted(9, 9, -9, -9), 100 * 16, 70 * 16);
}

void DoorButton::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF area = rect();
    m_look.latches ? paintEmergency(p, area) : paintPush(p, area);
    const Colours& c = m_theme.colours();
    const double top = m_look.latches ? 92 : 48;
    p.setPen(c.ink);
    p.setFont(m_theme.small());
    const QString label = p.fontMetrics().elidedText(m_look.label, Qt::ElideRight, width());
    p.drawText(QRectF(0, top, width(), 16), Qt::AlignCenter, label);
    p.setPen(c.quiet);
    p.setFont(m_theme.mono(11));
    QString state = m_look.tag;
    if (m_look.latches && isActuated())
        state += tr(" latched");
    else if (m_keep)
        state += tr(" held");
    p.drawText(QRectF(0, top + 15, width(), 16), Qt::AlignCenter, state);
    if (hasFocus())
        paintFocus(p, area, c.ink);
}

DoorLamp::DoorLamp(
    QString tag, QString label, QString colour, int lamp, BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_tag(std::move(tag))
    , m_label(std::move(label))
    , m_colour(std::move(colour))
    , m_lamp(lamp)
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("door." + m_tag);
    setAccessibleName(tr("%1 %2, %3").arg(m_label, m_tag, tr("dark")));
    connect(&session, &BenchSession::frameChanged, this, [this] {
        if (isLit() != m_wasLit) {
            m_wasLit = isLit();
            setAccessibleName(tr("%1 %2, %3").arg(m_label, m_tag, m_wasLit ? tr("lit") : tr("dark")));
            update();
        }
    });
}

bool DoorLamp::isLit() const
{
    return m_session.hasRun() && m_session.frame().lampLit[static_cast<std::size_t>(m_lamp)];
}

void DoorLamp::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    const QRectF glass(6, 5, 20, 20);
    const bool lit = isLit();
    QColor fill = capColour(m_colour);
    if (lit) {
        p.setPen(QPen(c.live, 2));
        for (int k = 0; k < 8; ++k) { // rays: lit is told by shape, not by colour
            p.save();
            p.translate(glass.center());
            p.rotate(45 * k);
            p.drawLine(QPointF(11.5, 0), QPointF(15, 0));
            p.restore();
        }
    } else {
        fill = m_theme.isDark() ? fill.darker(260) : fill.darker(140);
        fill.setAlphaF(0.35F);
    }
    p.setPen(QPen(c.ink, 1.2));
    p.setBrush(fill);
    p.drawEllipse(glass.adjusted(1, 1, -1, -1));
    p.setPen(c.ink);
    p.setFont(m_theme.small());
    p.drawText(QRectF(34, 1, width() - 34, 14), Qt::AlignVCenter,
        p.fontMetrics().elidedText(m_label, Qt::ElideRight, width() - 34));
    p.setPen(c.quiet);
    p.setFont(m_theme.mono(11));
    p.drawText(QRectF(34, 14, width() - 34, 14), Qt::AlignVCenter, m_tag + (lit ? tr(" lit") : QString()));
}

DoorView::DoorView(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("door");
    setAccessibleName(tr("Cabinet door"));
}

void DoorView::setCircuit(const Circuit& circuit, const std::map<DeviceId, QString>& lampColours)
{
    for (QList<QWidget*>* list : {&m_pushes, &m_stops, &m_lamps}) {
        qDeleteAll(*list);
        list->clear();
    }
    if (m_session.hasRun())
        for (const PlantDevice& d : m_session.plant().devices) {
            const Device* known = circuit.device(d.id);
            if (!known || !standsOnDoor(*known))
                continue;
            const Device& device = *known;
            const auto colour = lampColours.find(d.id);
            if (!d.lamps.empty())
                addLamp(device, d.lamps.front(),
                    colour == lampColours.end() ? parameterWord(circuit, device, "colour") : colour->second);
            else if (has(d, "press"))
                addButton(circuit, device, d);
            else if (has(d, "turn_to_"))
                m_pushes.append(new DoorSelector(m_session.plant().deviceIndex(d.tag),
                    QString::fromStdString(device.label), m_session, m_theme, this));
        }
    arrange();
}

void DoorView::addButton(const Circuit& circuit, const Device& device, const PlantDevice& plant)
{
    const int mover = plant.movers.front();
    DoorButton::Look look{QString::fromStdString(device.tag), QString::fromStdString(device.label),
        parameterWord(circuit, device, "colour"),
        m_session.plant().movers[static_cast<std::size_t>(mover)].spec.latches, mover};
    auto* button = new DoorButton(look, m_session, m_theme, this);
    (look.latches ? m_stops : m_pushes).append(button);
}

void DoorView::addLamp(const Device& device, int lamp, const QString& colour)
{
    m_lamps.append(new DoorLamp(QString::fromStdString(device.tag), QString::fromStdString(device.label), colour, lamp,
        m_session, m_theme, this));
}

void DoorView::arrange()
{
    delete layout();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 30, 8, 8);
    column->setSpacing(4);
    auto* pushes = new QGridLayout;
    for (int i = 0; i < m_pushes.size(); ++i)
        pushes->addWidget(m_pushes[i], i / 3, i % 3, Qt::AlignCenter);
    column->addLayout(pushes);
    auto* row = new QHBoxLayout;
    auto* stops = new QVBoxLayout;
    for (QWidget* w : m_stops)
        stops->addWidget(w);
    auto* lamps = new QVBoxLayout;
    for (QWidget* w : m_lamps)
        lamps->addWidget(w);
    row->addLayout(stops);
    row->addLayout(lamps, 1);
    column->addLayout(row);
}

void DoorView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.door, c.line);
    p.setPen(c.ink);
    p.setFont(m_theme.bold());
    p.drawText(QRectF(12, 8, width() - 24, 18), Qt::AlignLeft | Qt::AlignVCenter, tr("Door"));
    p.setPen(c.quiet);
    p.setFont(m_theme.small());
    p.drawText(QRectF(12, 8, width() - 24, 18), Qt::AlignRight | Qt::AlignVCenter, tr("click to press, Shift holds"));
}

} // namespace ts::app
