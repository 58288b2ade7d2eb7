#include "app/places/bench/paths_view.h"

#include "app/widgets/marks.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>

#include <algorithm>
#include <cmath>
#include <utility>

namespace ts::app {
namespace {
constexpr double kLargestFit = 1.25, kSmallestZoom = 0.2, kLargestZoom = 4.0, kPinReach = 7.0, kConductorReach = 5.0,
                 kFitTop = 6.0, kInset = 16.0;

bool isRung(const diagram::DrawnPath& path)
{
    return path.top.y == path.bottom.y;
}

} // namespace

PathsView::PathsView(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
{
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(200, 160);
    connect(&session, &BenchSession::frameChanged, this, qOverload<>(&QWidget::update));
}

void PathsView::setScene(diagram::Scene scene, std::vector<diagram::DrawnPath> paths)
{
    m_scene = std::move(scene);
    m_paths = std::move(paths);
    m_binding = m_session.hasRun() ? SceneBinding(m_scene, m_session.plant()) : SceneBinding();
    m_draggedPath = 0;
    if (m_isFitted)
        fit();
    update();
}

void PathsView::setPreview(std::set<std::pair<DeviceId, std::string>> isNew, bool isPreview)
{
    m_isNew = std::move(isNew);
    m_isPreview = isPreview;
    update();
}

void PathsView::setSelectedWire(std::optional<std::pair<TerminalRef, TerminalRef>> ends)
{
    m_wire = std::move(ends);
    update();
}

bool PathsView::reveal(DeviceId device, const std::string& role)
{
    for (const diagram::Symbol& s : m_scene.symbols)
        if (s.device == device && (role.empty() || s.role == role)) {
            const double zoom = std::max(m_zoom, 0.9);
            const QPointF middle((s.top.x + s.bottom.x) / 2, (s.top.y + s.bottom.y) / 2);
            if (!QRectF(rect()).adjusted(40, 40, -40, -40).contains(m_shift + middle * m_zoom) || m_zoom < 0.6) {
                m_zoom = zoom;
                const auto kept = [](double shift, double view, double drawing) { // no more empty than needed
                    return drawing <= view ? (view - drawing) / 2 : std::clamp(shift, view - drawing - kInset, kInset);
                };
                const QPointF wanted = QRectF(rect()).center() - middle * m_zoom;
                m_shift = {kept(wanted.x(), width(), m_scene.width * m_zoom),
                    kept(wanted.y(), height(), m_scene.height * m_zoom)};
                m_isFitted = false;
            }
            update();
            return true;
        }
    return false;
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
    m_zoom = std::clamp(
        std::min(width() / m_scene.width, (height() - kFitTop) / m_scene.height), kSmallestZoom, kLargestFit);
    m_shift = {std::max(0.0, (width() - m_scene.width * m_zoom) / 2), kFitTop};
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
    SceneLook look = m_binding.look(m_session.frame(), m_device, m_role);
    for (std::size_t k = 0; k < m_scene.symbols.size(); ++k)
        look.symbols[k].isNew = m_isNew.contains({m_scene.symbols[k].device, m_scene.symbols[k].role});
    paintWire(p);
    paintScene(p, m_scene, look, m_theme, m_zoom);
    paintDrag(p);
    if (m_red)
        paintProbe(p, *m_red, QStringLiteral("+"), m_theme.colours().lost, Qt::white);
    if (m_black)
        paintProbe(p, *m_black, QStringLiteral("-"), m_theme.colours().ink, m_theme.colours().paper);
    p.restore();
    if (m_isPreview) {
        const QRect strip(0, height() - 24, width(), 24);
        p.fillRect(strip, m_theme.colours().panel);
        p.setFont(m_theme.bold());
        p.setPen(m_theme.colours().caught);
        p.drawText(strip.adjusted(8, 0, -8, 0), Qt::AlignVCenter | Qt::AlignLeft,
            tr("As it would be: nothing is changed yet"));
    }
    if (!m_isPreview && m_zoom < kOverviewZoom) {
        p.setFont(m_theme.small());
        p.setPen(m_theme.colours().quiet);
        p.drawText(rect().adjusted(8, 0, -10, -6), Qt::AlignBottom | Qt::AlignRight,
            tr("overview: F8 or + shows terminals and wire numbers"));
    }
    if (hasFocus())
        paintFocus(p, rect(), m_theme.colours().ink);
}

void PathsView::paintProbe(
    QPainter& p, const TerminalRef& ref, const QString& letter, const QColor& fill, const QColor& text) const
{
    for (const auto& [terminal, at] : m_scene.pins)
        if (terminal == ref) {
            const QRectF box(at.x - 18, at.y - 7, 14, 14);
            p.setPen(Qt::NoPen);
            p.setBrush(fill);
            p.drawEllipse(box);
            p.drawPolygon(
                QPolygonF({box.center() + QPointF(3, -6), QPointF(at.x, at.y), box.center() + QPointF(3, 6)}));
            p.setPen(text);
            p.setFont(m_theme.mono(13, true));
            p.drawText(box, Qt::AlignCenter, letter);
        }
}

/// The net of the selected wire as a broad band behind its lines, the wire's own ends ringed.
void PathsView::paintWire(QPainter& p) const
{
    if (!m_wire)
        return;
    const int net = m_binding.netOf(m_wire->first);
    p.setPen(QPen(m_theme.colours().line, 9, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    for (std::size_t k = 0; k < m_scene.conductors.size(); ++k)
        if (net >= 0 && m_binding.conductorNets()[k] == net) {
            QPolygonF line;
            for (const diagram::Point& at : m_scene.conductors[k].points)
                line << QPointF(at.x, at.y);
            p.drawPolyline(line);
        }
    p.setPen(QPen(m_theme.colours().ink, 2));
    p.setBrush(Qt::NoBrush);
    for (const auto& [terminal, at] : m_scene.pins)
        if (terminal == m_wire->first || terminal == m_wire->second)
            p.drawEllipse(QPointF(at.x, at.y), 7, 7);
}

void PathsView::paintDrag(QPainter& p) const
{
    if (m_draggedPath == 0 || m_dropBefore == 0)
        return;
    const bool atEnd = m_dropBefore > m_paths.back().number;
    const auto it = std::find_if(
        m_paths.begin(), m_paths.end(), [this](const diagram::DrawnPath& d) { return d.number >= m_dropBefore; });
    const diagram::DrawnPath& path = atEnd ? m_paths.back() : *it;
    const double aside = atEnd ? 30 : -30;
    const QPointF shift = isRung(path) ? QPointF(0, aside) : QPointF(aside, 0);
    p.setPen(QPen(m_theme.colours().caught, 3));
    p.drawLine(QPointF(path.top.x, path.top.y) + shift, QPointF(path.bottom.x, path.bottom.y) + shift);
}

/// Where its number stands: below a current path, left of a rung.
QRectF PathsView::numberBox(const diagram::DrawnPath& path)
{
    return isRung(path) ? QRectF(path.top.x - 60, path.top.y - 14, 44, 28)
                        : QRectF(path.bottom.x - 24, path.bottom.y + 14, 48, 28);
}

int PathsView::pathNumberAt(diagram::Point p) const
{
    for (const diagram::DrawnPath& path : m_paths)
        if (numberBox(path).contains(p.x, p.y))
            return path.number;
    return 0;
}

/// In the row that is nearest: before the first path that lies further on.
int PathsView::pathGapAt(diagram::Point p) const
{
    const auto middle = [](const diagram::DrawnPath& d) {
        return isRung(d) ? (d.top.x + d.bottom.x) / 2 : (d.top.y + d.bottom.y) / 2;
    };
    const auto place = [](const diagram::DrawnPath& d) { return isRung(d) ? d.top.y : d.top.x; };
    double row = 0, nearest = 1e9;
    for (const diagram::DrawnPath& path : m_paths)
        if (const double away = std::abs((isRung(path) ? p.x : p.y) - middle(path)); away < nearest) {
            nearest = away;
            row = middle(path);
        }
    int last = 0;
    for (const diagram::DrawnPath& path : m_paths)
        if (middle(path) == row) {
            if ((isRung(path) ? p.y : p.x) < place(path))
                return path.number;
            last = path.number;
        }
    return last + 1;
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
        const diagram::Conductor* conductor = m_scene.conductorNear(at, kConductorReach / m_zoom);
        conductor ? emit conductorPicked(conductor->net) : emit symbolPicked({}, {});
    }
}

void PathsView::contextMenuEvent(QContextMenuEvent* e)
{
    if (e->reason() == QContextMenuEvent::Mouse)
        pickAt(QPointF(e->pos()));
    emit menuWanted(e->reason() == QContextMenuEvent::Mouse ? e->globalPos() : mapToGlobal(rect().center()));
}

void PathsView::mousePressEvent(QMouseEvent* e)
{
    m_pressedAt = m_lastAt = e->position();
    m_dragging = false;
    m_draggedPath = e->button() == Qt::LeftButton && !m_isPreview ? pathNumberAt(inScene(e->position())) : 0;
    m_dropBefore = 0;
}

void PathsView::mouseMoveEvent(QMouseEvent* e)
{
    if (!(e->buttons() & Qt::LeftButton))
        return;
    m_dragging |= (e->position() - m_pressedAt).manhattanLength() > 6;
    if (m_dragging && m_draggedPath > 0) {
        m_dropBefore = pathGapAt(inScene(e->position()));
        update();
    } else if (m_dragging) {
        m_shift += e->position() - m_lastAt;
        m_isFitted = false;
        update();
    }
    m_lastAt = e->position();
}

void PathsView::mouseReleaseEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton)
        return;
    const int dragged = std::exchange(m_draggedPath, 0), before = std::exchange(m_dropBefore, 0);
    if (!m_dragging)
        pickAt(e->position());
    else if (dragged > 0 && before > 0 && before != dragged && before != dragged + 1)
        emit pathDropped(dragged, before);
    update();
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
    const auto here = std::find_if(list.begin(), list.end(),
        [this](auto* s) { return s->device == m_device && (m_role.empty() || s->role == m_role); });
    const int count = static_cast<int>(list.size());
    const int index = here == list.end() ? (by > 0 ? 0 : count - 1)
                                         : (static_cast<int>(here - list.begin()) + by + count) % count;
    emit symbolPicked(list[static_cast<std::size_t>(index)]->device, list[static_cast<std::size_t>(index)]->role);
}

/// The path on which the selected symbol stands, one place on or back.
void PathsView::moveSelectedPath(int by)
{
    const auto symbol = std::find_if(m_scene.symbols.begin(), m_scene.symbols.end(),
        [this](const auto& s) { return s.device == m_device && m_device && (m_role.empty() || s.role == m_role); });
    if (symbol == m_scene.symbols.end() || m_isPreview)
        return;
    for (std::size_t k = 0; k < m_paths.size(); ++k) {
        const diagram::DrawnPath& path = m_paths[k];
        const bool isIn = isRung(path)
            ? path.top.y == symbol->top.y && symbol->top.x >= path.top.x && symbol->top.x <= path.bottom.x
            : path.top.x == symbol->top.x && symbol->top.y >= path.top.y && symbol->top.y <= path.bottom.y;
        if (!isIn)
            continue;
        if (by < 0 && k > 0)
            emit pathDropped(path.number, m_paths[k - 1].number);
        else if (by > 0 && k + 1 < m_paths.size())
            emit pathDropped(path.number, k + 2 < m_paths.size() ? m_paths[k + 2].number : m_paths.back().number + 1);
        return;
    }
}

void PathsView::keyPressEvent(QKeyEvent* e)
{
    if (e->modifiers() & Qt::ShiftModifier && (e->key() == Qt::Key_Left || e->key() == Qt::Key_Right))
        return moveSelectedPath(e->key() == Qt::Key_Left ? -1 : 1);
    switch (e->key()) {
    case Qt::Key_Plus:
        zoomAt(QRectF(rect()).center(), 1.2);
        break;
    case Qt::Key_Minus:
        zoomAt(QRectF(rect()).center(), 1 / 1.2);
        break;
    case Qt::Key_0:
        fit();
        break;
    case Qt::Key_1:
        zoomAt(QRectF(rect()).center(), 1.0 / m_zoom);
        break;
    case Qt::Key_N:
        stepSelection(1);
        break;
    case Qt::Key_P:
        stepSelection(-1);
        break;
    case Qt::Key_Left:
        m_shift += QPointF(24, 0);
        m_isFitted = false;
        update();
        break;
    case Qt::Key_Right:
        m_shift -= QPointF(24, 0);
        m_isFitted = false;
        update();
        break;
    case Qt::Key_Up:
        m_shift += QPointF(0, 24);
        m_isFitted = false;
        update();
        break;
    case Qt::Key_Down:
        m_shift -= QPointF(0, 24);
        m_isFitted = false;
        update();
        break;
    default:
        QWidget::keyPressEvent(e);
    }
}

void PathsView::resizeEvent(QResizeEvent*)
{
    if (m_isFitted)
        fit();
}

void PathsView::showTerminal(QHelpEvent& help)
{
    const diagram::Point at = inScene(help.pos());
    const auto* pin = m_scene.pinNear(at, kPinReach);
    if (!pin && pathNumberAt(at) > 0)
        return QToolTip::showText(
            help.globalPos(), tr("Drag to move path %1 (Shift and arrows)").arg(pathNumberAt(at)), this);
    if (!pin)
        return QToolTip::hideText();
    const Plant& plant = m_session.plant();
    for (const PlantTerminal& t : plant.terminals)
        if (plant.devices[static_cast<std::size_t>(t.device)].id == pin->first.device && t.marking == pin->first.marking
            && t.net >= 0)
            QToolTip::showText(help.globalPos(),
                tr("%1:%2, net %3")
                    .arg(QString::fromStdString(plant.devices[static_cast<std::size_t>(t.device)].tag),
                        QString::fromStdString(t.marking),
                        QString::fromStdString(plant.nets[static_cast<std::size_t>(t.net)].name)),
                this);
}

bool PathsView::event(QEvent* e)
{
    if (e->type() != QEvent::ToolTip || !m_session.hasRun())
        return QWidget::event(e);
    showTerminal(*static_cast<QHelpEvent*>(e));
    return true;
}

} // namespace ts::app
