#include "core/figures/figure.h"

namespace ts::figures {
namespace {

std::vector<Place> cornersOf(const Area& a)
{
    return {{a.x, a.y}, {a.x + a.width, a.y}, {a.x + a.width, a.y + a.height}, {a.x, a.y + a.height}};
}

} // namespace

void Figure::line(Place from, Place to, Ink ink, double strokeWidth, bool isDashed)
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
    Shape s;
    s.points = cornersOf(area);
    s.isClosed = s.isHatched = true;
    s.fill = ink;
    s.width = 0;
    shapes.push_back(std::move(s));
}

void Figure::label(Place at, std::string text, LabelSize size, Ink ink, Align align, double room)
{
    labels.push_back({at, std::move(text), size, ink, align, room});
}

int Figure::spotAt(Place p) const
{
    for (std::size_t k = spots.size(); k-- > 0;)
        if (spots[k].area.contains(p))
            return static_cast<int>(k);
    return -1;
}

} // namespace ts::figures
