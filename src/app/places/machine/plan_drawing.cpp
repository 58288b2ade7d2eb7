#include "app/places/machine/plan_drawing.h"

#include "app/widgets/scene_painter.h"
#include "core/diagram/control_layout.h"

#include <QPainter>

#include <algorithm>

namespace ts::app {

PlanDrawing::PlanDrawing(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("machine.drawing");
    setAccessibleName(tr("Control circuit of the new starter"));
    setMinimumHeight(160);
}

void PlanDrawing::show(const Circuit& circuit)
{
    if (const auto graph = diagram::wiredGraph(circuit))
        m_scene = diagram::controlDrawing(*graph).scene;
    else
        m_scene = {};
    update();
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
    paintScene(p, m_scene, look, m_theme, zoom);
}

} // namespace ts::app
