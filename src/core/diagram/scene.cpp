#include "core/diagram/scene.h"

#include <algorithm>
#include <cmath>

namespace ts::diagram {

Box Text::box() const
{
    const double size = style == TextStyle::Tag ? kTagSize : kSmallSize;
    std::size_t characters = 0;
    for (char c : text)
        characters += (static_cast<unsigned char>(c) & 0xC0u) != 0x80u; // UTF-8 continuation bytes take no width
    const double width = kAdvance * size * static_cast<double>(characters);
    const double left = anchor == Anchor::Left ? at.x : anchor == Anchor::Middle ? at.x - width / 2 : at.x - width;
    return {left, at.y - size * 0.75, width, size};
}

int Scene::symbolAt(Point p) const
{
    for (std::size_t i = 0; i < symbols.size(); ++i)
        if (symbols[i].box.contains(p))
            return static_cast<int>(i);
    return -1;
}

const std::pair<TerminalRef, Point>* Scene::pinNear(Point p, double within) const
{
    const std::pair<TerminalRef, Point>* best = nullptr;
    double nearest = within * within;
    for (const auto& pin : pins) {
        const double dx = pin.second.x - p.x, dy = pin.second.y - p.y;
        if (dx * dx + dy * dy <= nearest) {
            nearest = dx * dx + dy * dy;
            best = &pin;
        }
    }
    return best;
}

const Conductor* Scene::conductorNear(Point p, double within) const
{
    const Conductor* best = nullptr;
    double nearest = within;
    for (const Conductor& c : conductors)
        for (std::size_t k = 1; k < c.points.size(); ++k) {
            const Point a = c.points[k - 1], b = c.points[k];
            const double dx = b.x - a.x, dy = b.y - a.y, square = dx * dx + dy * dy;
            const double along = square > 0 ? std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / square, 0.0, 1.0)
                                            : 0.0;
            const double away = std::hypot(a.x + along * dx - p.x, a.y + along * dy - p.y);
            if (away <= nearest) {
                nearest = away;
                best = &c;
            }
        }
    return best;
}

} // namespace ts::diagram
