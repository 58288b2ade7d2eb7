#include "app/places/bench/paths_view.h"

#include "app/widgets/marks.h"
#include "core/base/at.h"

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
                 kFitTop = 6.0, kStrip = 24.0, kInset = 16.0, kLegibleZoom = 9.0 / diagram::kSmallSize;

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
    setAttribute(Qt::WA_OpaquePaintEvent); // it fills its whole ground: nothing behind it is painted first
    connect(&session, &BenchSession::frameChanged, this, qOverload<>(&QWidget::update));
}

const diagram::Page& PathsView::shown() const
{
    static const diagram::Page none;
    return m_pages.empty() ? none : m_pages[at(m_page)];
}

void PathsView::setPages(std::vector<diagram::Page> pages)
{
    m_pages = std::move(pages);
    m_page = std::clamp(m_page, 0, std::max(0, pageCount() - 1));
    takeRun();
    if (m_isFitted)
        fit();
}

void PathsView::takeRun()
{
    m_binding = m_session.hasRun() ? SceneBinding(scene(), m_session.plant()) : SceneBinding();
    m_draggedPath = 0;
    update();
    emit pageChanged();
}

void PathsView::showPage(int page)
{
    const int wanted = std::clamp(page, 0, std::max(0, pageCount() - 1));
    if (wanted == m_page)
        return;
    m_page = wanted;
    takeRun();
    fit();
}

diagram::Sheet PathsView::legibleSheet() const
{
    return {width() / kLegibleZoom, (height() - kFitTop) / kLegibleZoom};
}

int PathsView::pageOf(DeviceId device, const std::string& role) const
{
    const auto hasIt = [&](const diagram::Page& page) {
        return std::any_of(page.scene.symbols.begin(), page.scene.symbols.end(),
            [&](const diagram::Symbol& s) { return s.device == device && (role.empty() || s.role == role); });
    };
    if (hasIt(shown()))
        return m_page;
    const auto page = std::find_if(m_pages.begin(), m_pages.end(), hasIt);
    return page == m_pages.end() ? -1 : static_cast<int>(page - m_pages.begin());
}

void PathsView::setPreview(std::set<std::pair<DeviceId, std::string>> isNew, bool isPreview)
{
    m_isNew = std::move(isNew);
    m_isPreview = isPreview;
    if (m_isFitted)
        fit();
    update();
}

void PathsView::setGaps(std::vector<std::pair<DeviceId, std::string>> gaps)
{
    m_gaps = std::move(gaps);
    update();
}

void PathsView::setFound(const FoundMarks& found)
{
    m_found = found;
    update();
}

void PathsView::setSelectedWire(std::optional<std::pair<TerminalRef, TerminalRef>> ends)
{
    m_wire = std::move(ends);
    update();
}

bool PathsView::reveal(DeviceId device, const std::string& role)
{
    if (const int page = pageOf(device, role); page >= 0)
        showPage(page);
    for (const diagram::Symbol& s : scene().symbols)
        if (s.device == device && (role.empty() || s.role == role)) {
            const double zoom = std::max(m_zoom, 0.9);
            const QPointF middle((s.top.x + s.bottom.x) / 2, (s.top.y + s.bottom.y) / 2);
            if (!QRectF(rect()).adjusted(40, 40, -40, -40).contains(m_shift + middle * m_zoom) || m_zoom < 0.6) {
                m_zoom = zoom;
                const auto kept = [](double shift, double view, double drawing) { // no more empty than needed
                    return drawing <= view ? (view - drawing) / 2 : std::clamp(shift, view - drawing - kInset, kInset);
                };
                const QPointF wanted = QRectF(rect()).center() - middle * m_zoom;
                m_shift = {kept(wanted.x(), width(), scene().width * m_zoom),
                    kept(wanted.y(), height(), scene().height * m_zoom)};
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
    if (scene().width <= 0 || scene().height <= 0)
        return;
    const double below = m_isPreview ? kStrip : 0.0;
    m_zoom = std::clamp(
        std::min(width() / scene().width, (height() - kFitTop - below) / scene().height), kSmallestZoom, kLargestFit);
    m_shift = {std::max(0.0, (width() - scene().width * m_zoom) / 2), kFitTop};
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
    for (std::size_t k = 0; k < scene().symbols.size(); ++k)
        look.symbols[k].isNew = m_isNew.contains({scene().symbols[k].device, scene().symbols[k].role});
    paintWire(p);
    paintScene(p, scene(), look, m_theme, m_zoom);
    paintDrag(p);
    paintGaps(p);
    if (!m_isPreview)
        m_found.paint(p, scene(), m_theme);
    if (m_red)
        paintProbe(p, *m_red, QStringLiteral("+"), m_theme.colours().lost, Qt::white);
    if (m_black)
        paintProbe(p, *m_black, QStringLiteral("-"), m_theme.colours().ink, m_theme.colours().paper);
    p.restore();
    if (m_isPreview) {
        const QRectF strip(0, height() - kStrip, width(), kStrip);
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
    for (const auto& [terminal, at] : scene().pins)
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
    for (std::size_t k = 0; k < scene().conductors.size(); ++k)
        if (net >= 0 && m_binding.conductorNets()[k] == net) {
            QPolygonF line;
            for (const diagram::Point& at : scene().conductors[k].points)
                line << QPointF(at.x, at.y);
            p.drawPolyline(line);
        }
    p.setPen(QPen(m_theme.colours().ink, 2));
    p.setBrush(Qt::NoBrush);
    for (const auto& [terminal, at] : scene().pins)
        if (terminal == m_wire->first || terminal == m_wire->second)
            p.drawEllipse(QPointF(at.x, at.y), 7, 7);
}

/// A broken box around what is open, with its number on the way.
void PathsView::paintGaps(QPainter& p) const
{
    if (m_isPreview)
        return;
    for (std::size_t k = 0; k < m_gaps.size(); ++k)
        for (const diagram::Symbol& s : scene().symbols) {
            if (s.device != m_gaps[k].first || s.role != m_gaps[k].second)
                continue;
            const QRectF box = QRectF(s.box.x, s.box.y, s.box.width, s.box.height).adjusted(-3, -3, 3, 3);
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(m_theme.colours().lost, 1.6, Qt::DashLine));
            p.drawRoundedRect(box, 4, 4);
            const QRectF number(box.right() - 8, box.top() - 8, 16, 16);
            p.setBrush(m_theme.colours().paper);
            p.setPen(QPen(m_theme.colours().lost, 1.2));
            p.drawEllipse(number);
            p.setFont(m_theme.small());
            p.drawText(number, Qt::AlignCenter, QString::number(k + 1));
        }
}

void PathsView::paintDrag(QPainter& p) const
{
    if (m_draggedPath == 0 || m_dropBefore == 0)
        return;
    const bool atEnd = m_dropBefore > shown().paths.back().number;
    const auto it = std::find_if(shown().paths.begin(), shown().paths.end(),
        [this](const diagram::DrawnPath& d) { return d.number >= m_dropBefore; });
    const diagram::DrawnPath& path = atEnd ? shown().paths.back() : *it;
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
    for (const diagram::DrawnPath& path : shown().paths)
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
    for (const diagram::DrawnPath& path : shown().paths)
        if (const double away = std::abs((isRung(path) ? p.x : p.y) - middle(path)); away < nearest) {
            nearest = away;
            row = middle(path);
        }
    int last = 0;
    for (const diagram::DrawnPath& path : shown().paths)
        if (middle(path) == row) {
            if ((isRung(path) ? p.y : p.x) < place(path))
                return path.number;
            last = path.number;
        }
    return last + 1;
}

void PathsView::pickAt(QPointF p)
{
    const diagram::Point where = inScene(p);
    if (const auto* pin = scene().pinNear(where, kPinReach))
        emit terminalPicked(pin->first);
    const int symbol = scene().symbolAt(where);
    if (symbol >= 0 && scene().symbols[at(symbol)].device) {
        const auto& s = scene().symbols[at(symbol)];
        emit symbolPicked(s.device, s.role);
    } else if (symbol < 0) {
        const diagram::Conductor* conductor = scene().conductorNear(where, kConductorReach / m_zoom);
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
    std::vector<const diagram::Symbol*> list; // each once, in the order of the pages
    for (const diagram::Page& page : m_pages)
        for (const diagram::Symbol& s : page.scene.symbols)
            if (s.device && s.kind != diagram::SymbolKind::Port
                && std::none_of(list.begin(), list.end(),
                    [&s](const auto* known) { return known->device == s.device && known->role == s.role; }))
                list.push_back(&s);
    if (list.empty())
        return;
    const auto here = std::find_if(list.begin(), list.end(),
        [this](auto* s) { return s->device == m_device && (m_role.empty() || s->role == m_role); });
    const int count = static_cast<int>(list.size());
    const int index = here == list.end() ? (by > 0 ? 0 : count - 1)
                                         : (static_cast<int>(here - list.begin()) + by + count) % count;
    const diagram::Symbol next = *list[at(index)];
    showPage(pageOf(next.device, next.role));
    emit symbolPicked(next.device, next.role);
}

/// The path on which the selected symbol stands, one place on or back.
void PathsView::moveSelectedPath(int by)
{
    const auto symbol = std::find_if(scene().symbols.begin(), scene().symbols.end(),
        [this](const auto& s) { return s.device == m_device && m_device && (m_role.empty() || s.role == m_role); });
    if (symbol == scene().symbols.end() || m_isPreview)
        return;
    std::vector<int> numbers; // of all pages
    for (const diagram::Page& page : m_pages)
        for (const diagram::DrawnPath& path : page.paths)
            numbers.push_back(path.number);
    std::sort(numbers.begin(), numbers.end());
    numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
    for (const diagram::DrawnPath& path : shown().paths) {
        const bool isIn = isRung(path)
            ? path.top.y == symbol->top.y && symbol->top.x >= path.top.x && symbol->top.x <= path.bottom.x
            : path.top.x == symbol->top.x && symbol->top.y >= path.top.y && symbol->top.y <= path.bottom.y;
        if (!isIn)
            continue;
        const auto k = static_cast<std::size_t>(
            std::find(numbers.begin(), numbers.end(), path.number) - numbers.begin());
        if (by < 0 && k > 0)
            emit pathDropped(path.number, numbers[k - 1]);
        else if (by > 0 && k + 1 < numbers.size())
            emit pathDropped(path.number, k + 2 < numbers.size() ? numbers[k + 2] : numbers.back() + 1);
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
    case Qt::Key_PageUp:
        showPage(m_page - 1);
        break;
    case Qt::Key_PageDown:
        showPage(m_page + 1);
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
    emit resized();
}

void PathsView::showTerminal(QHelpEvent& help)
{
    const diagram::Point at = inScene(help.pos());
    const auto* pin = scene().pinNear(at, kPinReach);
    if (const FoundMarks::Here* found = m_found.at(scene(), at); found && !m_isPreview)
        return QToolTip::showText(help.globalPos(),
            QStringLiteral("<p>%1</p>").arg(found->said.join('\n').toHtmlEscaped().replace('\n', "<br>")), this);
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
