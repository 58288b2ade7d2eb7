#include "app/places/bench/paths_view.h"

#include "app/widgets/marks.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>

#include <algorithm>
#include <cmath>

namespace ts::app {
namespace {
constexpr double kLargestFit = 1.25, kSmallestZoom = 0.3, kLargestZoom = 4.0, kPinReach = 7.0;
}

PathsView::PathsView(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
{
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(200, 160);
    connect(&session, &BenchSession::frameChanged, this, qOverload<>(&QWidget::update));
}

void PathsView::setScene(diagram::Scene scene)
{
    m_scene = std::move(scene);
    m_binding = m_session.hasRun() ? SceneBinding(m_scene, m_session.plant()) : SceneBinding();
    fit();
}

void PathsView::setSelected(DeviceId device, const std::string& role)
{
    m_device = device;
    m_role = role;
    update();
}

void PathsView::setProbes(std::optional<TerminalRef> red, std::optional<TerminalRef> black)
{
    m_red = std::move(red);
    m_black = std::move(black);
    update();
}

void PathsView::fit()
{
    if (m_scene.width <= 0 || m_scene.height <= 0)
        return;
    m_zoom = std::clamp(std::min(width() / m_scene.width, height() / m_scene.height), kSmallestZoom, kLargestFit);
    m_shift = {std::max(0.0, (width() - m_scene.width * m_zoom) / 2), 0};
    m_isFitted = true;
    update();
}

diagram::Point PathsView::inScene(QPointF p) const
{
    const QPointF q = (p - m_shift) / m_zoom;
    return {q.x(), q.y()};
}

void PathsView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.fillRect(rect(), m_theme.colours().paper);
    if (!m_session.hasRun()) {
        p.setFont(m_theme.body());
        p.setPen(m_theme.colours().quiet);
        p.drawText(rect(), Qt::AlignCenter, tr("Nothing is open. Ctrl+O opens a dossier; the demo is in data/demo."));
        return;
    }
    p.save();
    p.translate(m_shift);
    p.scale(m_zoom, m_zoom);
    paintScene(p, m_scene, m_binding.look(m_session.frame(), m_device, m_role), m_theme);
    if (m_red)
        paintProbe(p, *m_red, QStringLiteral("+"), m_theme.colours().lost, Qt::white);
    if (m_black)
        paintProbe(p, *m_black, QStringLiteral("-"), m_theme.colours().ink, m_theme.colours().paper);
    p.restore();
    if (hasFocus())
        paintFocus(p, rect(), m_theme.colours().ink);
}

void PathsView::paintProbe(QPainter& p, const TerminalRef& ref, const QString& letter, const QColor& fill, const QColor& text) const
{
    for (const auto& [terminal, at] : m_scene.pins)
        if (terminal == ref) {
            const QRectF box(at.x - 18, at.y - 7, 14, 14);
            p.setPen(Qt::NoPen);
            p.setBrush(fill);
            p.drawEllipse(box);
            p.drawPolygon(QPolygonF({box.center() + QPointF(3, -6), QPointF(at.x, at.y), box.center() + QPointF(3, 6)}));
            p.setPen(text);
            p.setFont(m_theme.mono(13, true));
            p.drawText(box, Qt::AlignCenter, letter);
        }
}

void PathsView::pickAt(QPointF p)
{
    const diagram::Point at = inScene(p);
    if (const auto* pin = m_scene.pinNear(at, kPinReach))
        emit terminalPicked(pin->first);
    const int symbol = m_scene.symbolAt(at);
    if (symbol >= 0 && m_scene.symbols[static_cast<std::size_t>(symbol)].device) {
        const auto& s = m_scene.symbols[static_cast<std::size_t>(symbol)];
        emit symbolPicked(s.device, s.role);
    } else if (symbol < 0) {
        emit symbolPicked({}, {});
    }
}

void PathsView::mousePressEvent(QMouseEvent* e)
{
    m_pressedAt = m_lastAt = e->position();
    m_dragging = false;
}

void PathsView::mouseMoveEvent(QMouseEvent* e)
{
    if (!(e->buttons() & Qt::LeftButton))
        return;
    m_dragging |= (e->position() - m_pressedAt).manhattanLength() > 6;
    if (m_dragging) {
        m_shift += e->position() - m_lastAt;
        m_isFitted = false;
        update();
    }
    m_lastAt = e->position();
}

void PathsView::mouseReleaseEvent(QMouseEvent* e)
{
    if (e->button() == Qt::LeftButton && !m_dragging)
        pickAt(e->position());
}

void PathsView::zoomAt(QPointF centre, double factor)
{
    const double zoom = std::clamp(m_zoom * factor, kSmallestZoom, kLargestZoom);
    m_shift = centre - (centre - m_shift) * (zoom / m_zoom);
    m_zoom = zoom;
    m_isFitted = false;
    update();
}

void PathsView::wheelEvent(QWheelEvent* e)
{
    zoomAt(e->position(), std::pow(1.0015, e->angleDelta().y()));
}

/// Tab reaches the drawing, N and P walk through its symbols.
void PathsView::stepSelection(int by)
{
    std::vector<const diagram::Symbol*> list;
    for (const diagram::Symbol& s : m_scene.symbols)
        if (s.device && s.kind != diagram::SymbolKind::Port)
            list.push_back(&s);
    if (list.empty())
        return;
    const auto here = std::find_if(list.begin(), list.end(), [this](auto* s) { return s->device == m_device && (m_role.empty() || s->role == m_role); });
    const int count = static_cast<int>(list.size());
    const int index = here == list.end() ? (by > 0 ? 0 : count - 1) : (static_cast<int>(here - list.begin()) + by + count) % count;
    emit symbolPicked(list[static_cast<std::size_t>(index)]->device, list[static_cast<std::size_t>(index)]->role);
}

void PathsView::keyPressEvent(QKeyEvent* e)
{
    switch (e->key()) {
    case Qt::Key_Plus: zoomAt(QRectF(rect()).center(), 1.2); break;
    case Qt::Key_Minus: zoomAt(QRectF(rect()).center(), 1 / 1.2); break;
    case Qt::Key_0: fit(); break;
    case Qt::Key_N: stepSelection(1); break;
    case Qt::Key_P: stepSelection(-1); break;
    case Qt::Key_Left: m_shift += QPointF(24, 0); m_isFitted = false; update(); break;
    case Qt::Key_Right: m_shift -= QPointF(24, 0); m_isFitted = false; update(); break;
    case Qt::Key_Up: m_shift += QPointF(0, 24); m_isFitted = false; update(); break;
    case Qt::Key_Down: m_shift -= QPointF(0, 24); m_isFitted = false; update(); break;
    default: QWidget::keyPressEvent(e);
    }
}

void PathsView::resizeEvent(QResizeEvent*)
{
    if (m_isFitted)
        fit();
}

bool PathsView::event(QEvent* e)
{
    if (e->type() == QEvent::ToolTip && m_session.hasRun()) {
        auto* help = static_cast<QHelpEvent*>(e);
        if (const auto* pin = m_scene.pinNear(inScene(help->pos()), kPinReach)) {
            const Plant& plant = m_session.plant();
            for (const PlantTerminal& t : plant.terminals)
                if (plant.devices[static_cast<std::size_t>(t.device)].id == pin->first.device && t.marking == pin->first.marking && t.net >= 0)
                    QToolTip::showText(help->globalPos(),
                        tr("%1:%2, net %3").arg(QString::fromStdString(plant.devices[static_cast<std::size_t>(t.device)].tag),
                            QString::fromStdString(t.marking), QString::fromStdString(plant.nets[static_cast<std::size_t>(t.net)].name)),
                        this);
        } else {
            QToolTip::hideText();
        }
        return true;
    }
    return QWidget::event(e);
}

} // namespace ts::app
