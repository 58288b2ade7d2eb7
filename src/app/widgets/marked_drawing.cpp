#include "app/widgets/marked_drawing.h"

#include "app/widgets/scene_painter.h"
#include "core/diagram/pages.h"
#include "core/diagram/power_layout.h"
#include "core/network/disjoint_sets.h"

#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace ts::app {
namespace {

constexpr double kLegible = 0.75; // of the drawing's own size
constexpr int kLeastWidth = 10; // px: before it has its place
constexpr double kBand = 9, kProbe = 9, kProbeGap = 3; // scene px

QPolygonF polyline(const std::vector<diagram::Point>& points)
{
    QPolygonF line;
    for (const diagram::Point& p : points)
        line << QPointF(p.x, p.y);
    return line;
}

} // namespace

MarkedDrawing::MarkedDrawing(
    Sign sign, const QString& name, const QString& accessible, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_sign(sign)
    , m_theme(theme)
{
    setObjectName(name);
    setAccessibleName(accessible);
    setMinimumSize(300, 200);
}

void MarkedDrawing::setCircuit(const Circuit& circuit)
{
    m_circuit = circuit;
    m_netOf.clear();
    m_wiresOf.clear();
    for (const Wire& w : circuit.wires)
        for (const TerminalRef& t : {w.from, w.to})
            m_netOf.try_emplace(t, static_cast<int>(m_netOf.size()));
    network::DisjointSets joined(static_cast<int>(m_netOf.size()));
    for (const Wire& w : circuit.wires)
        joined.join(m_netOf[w.from], m_netOf[w.to]);
    for (auto& [terminal, net] : m_netOf)
        net = joined.find(net);
    for (const Wire& w : circuit.wires)
        m_wiresOf[m_netOf[w.from]].push_back(w.id.value);
    layOut();
}

void MarkedDrawing::setMarked(const std::vector<std::string>& whole, const std::vector<std::string>& part)
{
    m_whole = {whole.begin(), whole.end()};
    m_part = {part.begin(), part.end()};
    update();
}

void MarkedDrawing::setProbes(const std::vector<std::vector<std::string>>& probes)
{
    m_probes.clear();
    m_devices.clear();
    for (const std::vector<std::string>& alternatives : probes) {
        std::set<TerminalRef> probe;
        for (const std::string& one : alternatives) {
            const std::size_t colon = one.find(':');
            if (const Device* d = m_circuit.device(one.substr(0, colon)))
                colon == one.npos ? void(m_devices.insert(d->tag)) : void(probe.insert({d->id, one.substr(colon + 1)}));
        }
        if (!probe.empty())
            m_probes.push_back(std::move(probe));
    }
    turnUp();
}

bool MarkedDrawing::isMarked(const diagram::Symbol& symbol) const
{
    const Device* d = m_circuit.device(symbol.device);
    return d && (m_whole.contains(d->tag + "/" + symbol.role) || m_whole.contains(d->tag));
}

MarkedDrawing::Share MarkedDrawing::markedOf(const diagram::Conductor& conductor) const
{
    const auto net = m_netOf.find(conductor.net);
    if (net == m_netOf.end())
        return Share::None;
    const auto& wires = m_wiresOf.at(net->second);
    std::size_t proved = 0, begun = 0;
    for (const int w : wires) {
        proved += m_whole.contains("wire/" + std::to_string(w));
        begun += m_part.contains("wire/" + std::to_string(w));
    }
    return proved == wires.size() ? Share::All : proved + begun > 0 ? Share::Some : Share::None;
}

int MarkedDrawing::probesOn(const diagram::Scene& scene) const
{
    return static_cast<int>(
        std::count_if(m_probes.begin(), m_probes.end(), [&scene](const std::set<TerminalRef>& probe) {
            return std::any_of(
                scene.pins.begin(), scene.pins.end(), [&probe](const auto& pin) { return probe.contains(pin.first); });
        }));
}

void MarkedDrawing::layOut()
{
    m_pages.clear();
    const auto graph = diagram::wiredGraph(m_circuit);
    if (!graph || width() < kLeastWidth)
        return turnUp();
    diagram::ControlDrawing power;
    power.scene = diagram::powerDrawing(*graph);
    power.rowEnds = {power.scene.height};
    for (const diagram::ControlDrawing& whole : {diagram::controlDrawing(*graph), power})
        for (diagram::Page& page : diagram::pagesOf(*graph, whole, {width() / kLegible, height() / kLegible}))
            m_pages.push_back(std::move(page.scene));
    turnUp();
}

/// The page on which most of the probes stand, else of what is watched.
void MarkedDrawing::turnUp()
{
    int best = -1;
    m_page = 0;
    for (std::size_t k = 0; k < m_pages.size(); ++k) {
        int worth = 10 * probesOn(m_pages[k]);
        for (const diagram::Symbol& s : m_pages[k].symbols)
            if (const Device* d = m_circuit.device(s.device))
                worth += m_devices.contains(d->tag);
        if (worth > best) {
            best = worth;
            m_page = k;
        }
    }
    update();
}

const diagram::Scene& MarkedDrawing::scene() const
{
    static const diagram::Scene none;
    return m_page < m_pages.size() ? m_pages[m_page] : none;
}

void MarkedDrawing::resizeEvent(QResizeEvent*)
{
    layOut();
}

double MarkedDrawing::zoom() const
{
    return std::min({width() / scene().width, height() / scene().height, 1.0});
}

void MarkedDrawing::mousePressEvent(QMouseEvent* event)
{
    const QPointF at = event->position() / zoom();
    constexpr double kReach = 12; // scene px
    double nearest = kReach;
    QString chosen;
    for (const auto& [terminal, pin] : scene().pins) {
        const double away = std::hypot(pin.x - at.x(), pin.y - at.y());
        if (away < nearest) {
            nearest = away;
            chosen = QString::fromStdString(m_circuit.nameOf(terminal));
        }
    }
    if (!chosen.isEmpty())
        emit terminalChosen(chosen);
}

void MarkedDrawing::paintEvent(QPaintEvent*)
{
    if (scene().width <= 0 || scene().height <= 0)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.scale(zoom(), zoom());
    paintBands(p);
    SceneLook look;
    look.conductors.resize(scene().conductors.size());
    look.symbols.resize(scene().symbols.size());
    look.dots.resize(scene().dots.size());
    for (std::size_t k = 0; k < look.symbols.size(); ++k)
        if (const Device* d = m_circuit.device(scene().symbols[k].device))
            look.symbols[k].isSelected = m_devices.contains(d->tag);
    paintScene(p, scene(), look, m_theme, zoom());
    paintProbes(p);
}

void MarkedDrawing::paintBands(QPainter& p) const
{
    QColor ink = m_sign == Sign::Proved ? m_theme.colours().caught : m_theme.colours().hidden;
    ink.setAlpha(90);
    for (const diagram::Conductor& c : scene().conductors) {
        const Share share = markedOf(c);
        if (share == Share::None)
            continue;
        QPen pen(ink, kBand, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin);
        if (share == Share::Some)
            pen.setDashPattern({0.8, 1.2});
        p.setPen(pen);
        p.drawPolyline(polyline(c.points));
    }
    for (const diagram::Symbol& s : scene().symbols)
        if (isMarked(s))
            paintSign(p, {s.box.x + 2, s.box.y + s.box.height - 6});
}

/// A tick, or a question mark.
void MarkedDrawing::paintSign(QPainter& p, QPointF at) const
{
    if (m_sign == Sign::Proved) {
        p.setPen(QPen(m_theme.colours().caught, 2));
        p.drawPolyline(QPolygonF({at, at + QPointF(3, 4), at + QPointF(9, -6)}));
        return;
    }
    p.setPen(m_theme.colours().ink);
    p.setFont(m_theme.bold());
    p.drawText(at + QPointF(0, 6), QStringLiteral("?"));
}

/// A disc for the first probe, a square for the second, numbered; left of the terminal, whose number is on the right.
void MarkedDrawing::paintProbes(QPainter& p) const
{
    const Colours& c = m_theme.colours();
    p.setFont(m_theme.bold());
    for (std::size_t k = 0; k < m_probes.size(); ++k)
        for (const auto& [terminal, at] : scene().pins) {
            if (!m_probes[k].contains(terminal))
                continue;
            const QRectF box(at.x - 2 * kProbe - kProbeGap, at.y - kProbe, 2 * kProbe, 2 * kProbe);
            p.setPen(QPen(c.ink, 2));
            p.drawLine(QPointF(box.right(), at.y), QPointF(at.x, at.y));
            p.setBrush(c.liveFill);
            k == 0 ? p.drawEllipse(box) : p.drawRect(box);
            p.drawText(box, Qt::AlignCenter, QString::number(k + 1));
        }
}

} // namespace ts::app
