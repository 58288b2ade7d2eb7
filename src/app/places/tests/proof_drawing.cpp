#include "app/places/tests/proof_drawing.h"

#include "app/widgets/scene_painter.h"
#include "core/diagram/pages.h"
#include "core/diagram/power_layout.h"
#include "core/measuring/look.h"
#include "core/network/disjoint_sets.h"

#include <QPainter>

#include <algorithm>

namespace ts::app {
namespace {

constexpr double kLegible = 0.75; // of the drawing's own size
constexpr int kLeastWidth = 10; // px: before it has its place
constexpr double kBand = 9, kProbe = 9; // scene px

QPolygonF polyline(const std::vector<diagram::Point>& points)
{
    QPolygonF line;
    for (const diagram::Point& p : points)
        line << QPointF(p.x, p.y);
    return line;
}

} // namespace

ProofDrawing::ProofDrawing(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("tests.drawing");
    setAccessibleName(tr("The circuit, with what is proved gone over with a highlighter"));
    setMinimumSize(300, 200);
}

void ProofDrawing::setCircuit(const Circuit& circuit)
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

void ProofDrawing::setProof(const measuring::Proof& proof)
{
    m_proved = {proof.proved.begin(), proof.proved.end()};
    m_begun = {proof.begun.begin(), proof.begun.end()};
    update();
}

void ProofDrawing::setProbes(const std::vector<std::string>& terminals)
{
    m_probes.clear();
    m_devices.clear();
    for (const std::string& text : terminals) {
        std::set<TerminalRef> probe;
        for (std::size_t from = 0; from <= text.size();) {
            const std::size_t end = std::min(text.find(measuring::kOr, from), text.size());
            const std::string one = text.substr(from, end - from);
            const std::size_t colon = one.find(':');
            if (const Device* d = m_circuit.device(one.substr(0, colon)))
                colon == one.npos ? void(m_devices.insert(d->tag)) : void(probe.insert({d->id, one.substr(colon + 1)}));
            from = end + measuring::kOr.size();
        }
        if (!probe.empty())
            m_probes.push_back(std::move(probe));
    }
    turnUp();
}

bool ProofDrawing::isProved(const diagram::Symbol& symbol) const
{
    const Device* d = m_circuit.device(symbol.device);
    return d && (m_proved.contains(d->tag + "/" + symbol.role) || m_proved.contains(d->tag));
}

ProofDrawing::Share ProofDrawing::provedOf(const diagram::Conductor& conductor) const
{
    const auto net = m_netOf.find(conductor.net);
    if (net == m_netOf.end())
        return Share::None;
    const auto& wires = m_wiresOf.at(net->second);
    std::size_t proved = 0, begun = 0;
    for (const int w : wires) {
        proved += m_proved.contains("wire/" + std::to_string(w));
        begun += m_begun.contains("wire/" + std::to_string(w));
    }
    return proved == wires.size() ? Share::All : proved + begun > 0 ? Share::Some : Share::None;
}

int ProofDrawing::probesOn(const diagram::Scene& scene) const
{
    return static_cast<int>(
        std::count_if(m_probes.begin(), m_probes.end(), [&scene](const std::set<TerminalRef>& probe) {
            return std::any_of(
                scene.pins.begin(), scene.pins.end(), [&probe](const auto& pin) { return probe.contains(pin.first); });
        }));
}

void ProofDrawing::layOut()
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
void ProofDrawing::turnUp()
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

const diagram::Scene& ProofDrawing::scene() const
{
    static const diagram::Scene none;
    return m_page < m_pages.size() ? m_pages[m_page] : none;
}

void ProofDrawing::resizeEvent(QResizeEvent*)
{
    layOut();
}

void ProofDrawing::paintEvent(QPaintEvent*)
{
    if (scene().width <= 0 || scene().height <= 0)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double zoom = std::min({width() / scene().width, height() / scene().height, 1.0});
    p.scale(zoom, zoom);
    paintBands(p);
    SceneLook look;
    look.conductors.resize(scene().conductors.size());
    look.symbols.resize(scene().symbols.size());
    look.dots.resize(scene().dots.size());
    for (std::size_t k = 0; k < look.symbols.size(); ++k)
        if (const Device* d = m_circuit.device(scene().symbols[k].device))
            look.symbols[k].isSelected = m_devices.contains(d->tag);
    paintScene(p, scene(), look, m_theme, zoom);
    paintProbes(p);
}

void ProofDrawing::paintBands(QPainter& p) const
{
    QColor ink = m_theme.colours().caught;
    ink.setAlpha(90);
    for (const diagram::Conductor& c : scene().conductors) {
        const Share share = provedOf(c);
        if (share == Share::None)
            continue;
        QPen pen(ink, kBand, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin);
        if (share == Share::Some)
            pen.setDashPattern({0.8, 1.2});
        p.setPen(pen);
        p.drawPolyline(polyline(c.points));
    }
    p.setPen(QPen(m_theme.colours().caught, 2));
    for (const diagram::Symbol& s : scene().symbols)
        if (isProved(s)) {
            const QPointF at(s.box.x + 2, s.box.y + s.box.height - 6);
            p.drawPolyline(QPolygonF({at, at + QPointF(3, 4), at + QPointF(9, -6)}));
        }
}

/// A disc for the first probe, a square for the second, numbered.
void ProofDrawing::paintProbes(QPainter& p) const
{
    const Colours& c = m_theme.colours();
    p.setFont(m_theme.bold());
    for (std::size_t k = 0; k < m_probes.size(); ++k)
        for (const auto& [terminal, at] : scene().pins) {
            if (!m_probes[k].contains(terminal))
                continue;
            const QRectF box(at.x - kProbe, at.y - kProbe, 2 * kProbe, 2 * kProbe);
            p.setPen(QPen(c.ink, 2));
            p.setBrush(c.liveFill);
            k == 0 ? p.drawEllipse(box) : p.drawRect(box);
            p.drawText(box, Qt::AlignCenter, QString::number(k + 1));
        }
}

} // namespace ts::app
