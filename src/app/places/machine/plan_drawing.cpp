#include "app/places/machine/plan_drawing.h"

#include "app/widgets/scene_painter.h"
#include "core/diagram/pages.h"
#include "core/diagram/power_layout.h"

#include <QPainter>

#include <algorithm>

namespace ts::app {

PlanDrawing::PlanDrawing(
    const Theme& theme, Which which, const QString& name, const QString& accessible, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
    , m_which(which)
{
    setObjectName(name);
    setAccessibleName(accessible);
    setMinimumHeight(160);
}

bool PlanDrawing::isNew(const diagram::Symbol& symbol) const
{
    return m_newDevices.contains(symbol.device) || m_newTerminals.contains(symbol.upper)
        || m_newTerminals.contains(symbol.lower);
}

void PlanDrawing::show(const Circuit& circuit, std::set<DeviceId> newDevices, std::set<TerminalRef> newTerminals)
{
    constexpr double kLegible = 0.75; // of the drawing's own size
    m_newDevices = std::move(newDevices);
    m_newTerminals = std::move(newTerminals);
    m_scene = {};
    update();
    const auto graph = diagram::wiredGraph(circuit);
    if (!graph)
        return;
    diagram::ControlDrawing whole;
    if (m_which == Which::Control) {
        whole = diagram::controlDrawing(*graph);
    } else {
        whole.scene = diagram::powerDrawing(*graph);
        whole.rowEnds = {whole.scene.height};
    }
    auto pages = diagram::pagesOf(*graph, whole, {width() / kLegible, height() / kLegible});
    const auto holdsNew = [this](const diagram::Page& page) {
        return std::any_of(page.scene.symbols.begin(), page.scene.symbols.end(),
            [this](const diagram::Symbol& s) { return isNew(s); });
    };
    const auto shown = std::find_if(pages.begin(), pages.end(), holdsNew);
    if (!pages.empty())
        m_scene = std::move(shown == pages.end() ? pages.front().scene : shown->scene);
}

void PlanDrawing::paintEvent(QPaintEvent*)
{
    if (m_scene.width <= 0 || m_scene.height <= 0)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double zoom = std::min({width() / m_scene.width, height() / m_scene.height, 1.0});
    p.scale(zoom, zoom);
    SceneLook look;
    look.conductors.resize(m_scene.conductors.size());
    look.symbols.resize(m_scene.symbols.size());
    look.dots.resize(m_scene.dots.size());
    for (std::size_t k = 0; k < look.symbols.size(); ++k)
        look.symbols[k].isNew = isNew(m_scene.symbols[k]);
    paintScene(p, m_scene, look, m_theme, zoom);
}

} // namespace ts::app
