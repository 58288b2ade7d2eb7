#include "core/diagram/symbols.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace ts::diagram {
namespace {

class ShapeMaker {
public:
    ShapeMaker(const Symbol& s, bool closed)
        : m_s(s)
        , m_closed(closed)
        , m_x(s.top.x)
        , m_y0(s.top.y)
        , m_y1(s.bottom.y)
        , m_middle((s.top.y + s.bottom.y) / 2)
    {
    }

    SymbolShape made()
    {
        switch (m_s.kind) {
        case SymbolKind::NormallyOpen:
            contact();
            break;
        case SymbolKind::NormallyClosed:
            openingContact();
            break;
        case SymbolKind::MainContact:
            mainContact();
            break;
        case SymbolKind::BreakerPole:
            breakerPole();
            break;
        case SymbolKind::FusePole:
            fusePole();
            break;
        case SymbolKind::HeatedPole:
            heatedPole();
            break;
        case SymbolKind::Coil:
            load(18, 11);
            break;
        case SymbolKind::BoxLoad:
            load(22, 15);
            break;
        case SymbolKind::Lamp:
            lamp();
            break;
        case SymbolKind::Horn:
            horn();
            break;
        case SymbolKind::MeasuredPole:
            measuredPole();
            break;
        case SymbolKind::SwitchPole:
            switchPole();
            break;
        case SymbolKind::Port:
            ring(StrokePart::Upper, {m_x, m_y0}, 3.5);
            break;
        case SymbolKind::Earth:
            earth();
            break;
        case SymbolKind::Device:
            box(m_s.top.x, m_s.top.y, m_s.bottom.x, m_s.bottom.y);
            break;
        }
        return std::move(m_shape);
    }

private:
    void path(StrokePart part, std::vector<Point> points, bool closed = false)
    {
        m_shape.paths.push_back({part, std::move(points), closed});
    }
    void ring(StrokePart part, Point centre, double radius) { m_shape.rings.push_back({part, centre, radius}); }
    void box(double x0, double y0, double x1, double y1)
    {
        path(StrokePart::Outline, {{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}, true);
    }
    void leads(double half)
    {
        path(StrokePart::Upper, {{m_x, m_y0}, {m_x, m_middle - half}});
        path(StrokePart::Lower, {{m_x, m_middle + half}, {m_x, m_y1}});
    }
    void arc(StrokePart part, Point centre, double radius, double fromDeg, double toDeg)
    {
        std::vector<Point> points;
        for (int i = 0; i <= 12; ++i) {
            const double a = (fromDeg + (toDeg - fromDeg) * i / 12.0) * std::numbers::pi / 180.0;
            points.push_back({centre.x + radius * std::cos(a), centre.y + radius * std::sin(a)});
        }
        path(part, std::move(points));
    }

    void blade(Point open)
    {
        path(m_closed ? StrokePart::Through : StrokePart::Lower,
            {{m_x, m_middle + 15}, m_closed ? Point{m_x, m_middle - 15} : open});
    }
    void contact()
    {
        leads(15);
        blade({m_x - 12, m_middle - 12});
        actuator(m_closed ? m_x : m_x - 6);
    }
    /// The fixed contact is a hook; the blade leans on it when closed and stands away from it when open.
    void openingContact()
    {
        leads(15);
        path(StrokePart::Upper, {{m_x, m_middle - 15}, {m_x + 9, m_middle - 15}});
        const Point tip = m_closed ? Point{m_x + 6, m_middle - 19} : Point{m_x + 16, m_middle - 10};
        path(m_closed ? StrokePart::Through : StrokePart::Lower, {{m_x, m_middle + 15}, tip});
        actuator(m_x + 2);
    }
    void mainContact()
    {
        leads(13);
        arc(StrokePart::Upper, {m_x, m_middle - 13}, 4, 0, 180);
        path(m_closed ? StrokePart::Through : StrokePart::Lower,
            {{m_x, m_middle + 13}, m_closed ? Point{m_x, m_middle - 13} : Point{m_x - 10, m_middle - 10}});
    }
    void breakerPole()
    {
        leads(13);
        path(StrokePart::Upper, {{m_x - 4, m_middle - 17}, {m_x + 4, m_middle - 9}});
        path(StrokePart::Upper, {{m_x + 4, m_middle - 17}, {m_x - 4, m_middle - 9}});
        path(m_closed ? StrokePart::Through : StrokePart::Lower,
            {{m_x, m_middle + 13}, m_closed ? Point{m_x, m_middle - 13} : Point{m_x - 10, m_middle - 10}});
    }
    void fusePole()
    {
        leads(13);
        box(m_x - 5, m_middle - 13, m_x + 5, m_middle + 13);
        if (m_closed)
            path(StrokePart::Through, {{m_x, m_middle - 13}, {m_x, m_middle + 13}});
        else
            path(StrokePart::Outline, {{m_x - 5, m_middle + 5}, {m_x + 5, m_middle - 5}});
    }
    void heatedPole()
    {
        leads(9);
        path(StrokePart::Through,
            {{m_x, m_middle - 9}, {m_x + 8, m_middle - 9}, {m_x + 8, m_middle + 9}, {m_x, m_middle + 9}});
        box(m_x - 12, m_middle - 14, m_x + 14, m_middle + 14);
    }
    void load(double halfWidth, double halfHeight)
    {
        leads(halfHeight);
        box(m_x - halfWidth, m_middle - halfHeight, m_x + halfWidth, m_middle + halfHeight);
    }
    void lamp()
    {
        leads(11);
        ring(StrokePart::Outline, {m_x, m_middle}, 11);
        const double d = 11 / std::numbers::sqrt2;
        path(StrokePart::Outline, {{m_x - d, m_middle - d}, {m_x + d, m_middle + d}});
        path(StrokePart::Outline, {{m_x + d, m_middle - d}, {m_x - d, m_middle + d}});
    }
    void horn()
    {
        leads(11);
        arc(StrokePart::Outline, {m_x - 6, m_middle}, 14, -90, 90);
        path(StrokePart::Outline, {{m_x - 6, m_middle - 14}, {m_x - 6, m_middle + 14}});
    }
    /// A line led through a ring.
    void measuredPole()
    {
        path(StrokePart::Through, {{m_x, m_y0}, {m_x, m_y1}});
        ring(StrokePart::Outline, {m_x, m_middle}, 8);
    }
    void switchPole()
    {
        leads(13);
        path(StrokePart::Upper, {{m_x - 5, m_middle - 13}, {m_x + 5, m_middle - 13}});
        path(m_closed ? StrokePart::Through : StrokePart::Lower,
            {{m_x, m_middle + 13}, m_closed ? Point{m_x, m_middle - 13} : Point{m_x - 10, m_middle - 10}});
    }
    void earth()
    {
        const double direction = m_y1 > m_y0 ? 1 : -1;
        path(StrokePart::Upper, {{m_x, m_y0}, {m_x, m_y1 - 6 * direction}});
        for (int i = 0; i < 3; ++i) {
            const double y = m_y1 - (6 - 3 * i) * direction, half = 8 - 3 * i;
            path(StrokePart::Outline, {{m_x - half, y}, {m_x + half, y}});
        }
    }

    void actuator(double bladeX)
    {
        const double far = m_x - 22;
        switch (m_s.operated) {
        case Operated::ByNothing:
        case Operated::ByCoil:
            return;
        case Operated::ByPush:
            path(StrokePart::Linkage, {{bladeX, m_middle}, {far, m_middle}});
            path(StrokePart::Outline,
                {{far + 5, m_middle - 7}, {far, m_middle - 7}, {far, m_middle + 7}, {far + 5, m_middle + 7}});
            return;
        case Operated::ByEmergencyPush:
            path(StrokePart::Linkage, {{bladeX, m_middle}, {far, m_middle}});
            arc(StrokePart::Outline, {far, m_middle}, 8, 90, 270);
            path(StrokePart::Outline, {{far, m_middle - 8}, {far, m_middle + 8}});
            return;
        case Operated::ByTurn:
            path(StrokePart::Linkage, {{bladeX, m_middle}, {far, m_middle}});
            path(StrokePart::Outline,
                {{far - 5, m_middle - 7}, {far, m_middle - 7}, {far, m_middle + 7}, {far + 5, m_middle + 7}});
            return;
        case Operated::ByGuard:
            path(StrokePart::Linkage, {{bladeX, m_middle}, {far, m_middle}});
            path(StrokePart::Outline, {{far, m_middle - 8}, {far - 7, m_middle}, {far, m_middle + 8}}, true);
            return;
        case Operated::ByPlant:
            path(StrokePart::Linkage, {{bladeX, m_middle}, {far, m_middle}});
            path(StrokePart::Outline,
                {{far - 6, m_middle - 6}, {far, m_middle - 6}, {far, m_middle + 6}, {far - 6, m_middle + 6}}, true);
            return;
        case Operated::ByHeat:
            path(StrokePart::Linkage, {{bladeX, m_middle}, {far + 4, m_middle}});
            path(StrokePart::Outline,
                {{far - 4, m_middle - 5}, {far, m_middle - 5}, {far, m_middle + 5}, {far + 4, m_middle + 5},
                    {far + 4, m_middle - 5}, {far + 8, m_middle - 5}});
            return;
        }
    }

    const Symbol& m_s;
    bool m_closed;
    double m_x, m_y0, m_y1, m_middle;
    SymbolShape m_shape;
};

} // namespace

SymbolShape shapeOf(const Symbol& symbol, bool isClosed)
{
    const bool liesAcross = symbol.kind != SymbolKind::Device && symbol.kind != SymbolKind::Earth
        && symbol.top.y == symbol.bottom.y && symbol.top.x != symbol.bottom.x;
    if (!liesAcross)
        return ShapeMaker(symbol, isClosed).made();
    const auto turn = [](Point& p) { std::swap(p.x, p.y); };
    Symbol upright = symbol;
    turn(upright.top);
    turn(upright.bottom);
    SymbolShape shape = ShapeMaker(upright, isClosed).made();
    for (StrokePath& path : shape.paths)
        std::for_each(path.points.begin(), path.points.end(), turn);
    for (Ring& ring : shape.rings)
        turn(ring.centre);
    return shape;
}

} // namespace ts::diagram
