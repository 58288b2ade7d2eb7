#include "core/figures/figure.h"

#include <algorithm>
#include <cmath>

namespace ts::figures {
namespace {

std::vector<Position> cornersOf(const Area& a)
{
    return {{a.x, a.y}, {a.x + a.width, a.y}, {a.x + a.width, a.y + a.height}, {a.x, a.y + a.height}};
}

} // namespace

void Figure::line(Position from, Position to, Ink ink, double strokeWidth, bool isDashed)
{
    Shape s;
    s.points = {from, to};
    s.stroke = ink;
    s.width = strokeWidth;
    s.isDashed = isDashed;
    shapes.push_back(std::move(s));
}

void Figure::box(const Area& area, Ink fill, Ink stroke, double strokeWidth)
{
    Shape s;
    s.points = cornersOf(area);
    s.isClosed = s.isFilled = true;
    s.fill = fill;
    s.stroke = stroke;
    s.width = strokeWidth;
    shapes.push_back(std::move(s));
}

void Figure::outline(const Area& area, Ink stroke, double strokeWidth)
{
    Shape s;
    s.points = cornersOf(area);
    s.isClosed = true;
    s.stroke = stroke;
    s.width = strokeWidth;
    shapes.push_back(std::move(s));
}

void Figure::hatch(const Area& area, Ink ink)
{
    // Lines x + y = sum, a step apart, each cut at the area's edges.
    constexpr double kStep = 8, kWidth = 1.5;
    const double right = area.x + area.width, bottom = area.y + area.height;
    for (double sum = std::ceil((area.x + area.y) / kStep) * kStep; sum < right + bottom; sum += kStep) {
        line({std::max(area.x, sum - bottom), std::min(bottom, sum - area.x)},
            {std::min(right, sum - area.y), std::max(area.y, sum - right)}, ink, kWidth);
        shapes.back().isHatch = true;
    }
}

void Figure::label(Position at, std::string text, LabelSize size, Ink ink, Align align, double room)
{
    labels.push_back({at, std::move(text), size, ink, align, room});
}

int Figure::spotAt(Position p) const
{
    for (std::size_t k = spots.size(); k-- > 0;)
        if (spots[k].area.contains(p))
            return static_cast<int>(k);
    return -1;
}

} // namespace ts::figures
