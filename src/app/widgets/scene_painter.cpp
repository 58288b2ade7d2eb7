#include "app/widgets/scene_painter.h"

#include "app/widgets/marks.h"
#include "core/diagram/symbols.h"

#include <algorithm>
#include <cmath>

namespace ts::app {
namespace {

using namespace diagram;

constexpr double kFarZoom = 0.45; ///< from here on only contacts and tags
constexpr double kSmallestTagPx = 8; ///< on the screen, in an overview

QPen penFor(Tone tone, const Colours& c, double thin, double thick)
{
    switch (tone) {
    case Tone::Live:
        return QPen(c.live, thick, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin);
    case Tone::Floating:
        return QPen(c.quiet, thin, Qt::DashDotLine, Qt::FlatCap);
    case Tone::Carrying:
        return QPen(c.ink, thick, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin);
    case Tone::Dead:
        break;
    }
    return QPen(c.ink, thin, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin);
}

QPolygonF polygon(const std::vector<Point>& points)
{
    QPolygonF q;
    for (const Point& p : points)
        q << QPointF(p.x, p.y);
    return q;
}

class SymbolPainter {
public:
    SymbolPainter(QPainter& painter, const Colours& colours, bool isFar)
        : m_painter(painter)
        , m_colours(colours)
        , m_isFar(isFar)
    {
    }

    void paint(const Symbol& s, const SymbolLook& look)
    {
        Symbol plain = s;
        if (m_isFar) // what works it would only be a smudge
            plain.operated = Operated::ByNothing;
        const SymbolShape shape = shapeOf(plain, look.isClosed);
        const Tone through = look.isClosed && look.upper == look.lower ? look.upper : Tone::Dead;
        for (const StrokePath& path : shape.paths) {
            m_painter.setBrush(path.isClosed && look.isOn ? QBrush(m_colours.liveFill) : QBrush(Qt::NoBrush));
            m_painter.setPen(penOf(path.part, look, through));
            path.isClosed ? m_painter.drawPolygon(polygon(path.points)) : m_painter.drawPolyline(polygon(path.points));
        }
        for (const Ring& r : shape.rings) {
            m_painter.setPen(penOf(r.part, look, through));
            m_painter.setBrush(look.isOn
                    ? QBrush(m_colours.liveFill)
                    : QBrush(s.kind == SymbolKind::Port ? m_colours.paper : QColor(Qt::transparent)));
            m_painter.drawEllipse(QPointF(r.centre.x, r.centre.y), r.radius, r.radius);
        }
        if (look.isOn && s.kind == SymbolKind::Lamp) // the cross goes over the filled ring
            for (const StrokePath& path : shape.paths)
                if (path.part == StrokePart::Outline)
                    m_painter.drawPolyline(polygon(path.points));
    }

private:
    QPen penOf(StrokePart part, const SymbolLook& look, Tone through) const
    {
        switch (part) {
        case StrokePart::Upper:
            return penFor(look.upper, m_colours, 1.5, 3);
        case StrokePart::Lower:
            return penFor(look.lower, m_colours, 1.5, 3);
        case StrokePart::Through:
            return penFor(through == Tone::Floating ? Tone::Dead : through, m_colours, 1.5, 3);
        case StrokePart::Linkage:
            return QPen(m_colours.ink, 1.2, Qt::DashLine);
        case StrokePart::Outline:
            break;
        }
        return look.isOn ? QPen(m_colours.live, 2) : QPen(m_colours.ink, 1.5);
    }

    QPainter& m_painter;
    const Colours& m_colours;
    bool m_isFar;
};

void paintTexts(QPainter& painter, const Scene& scene, const Theme& theme, double zoom)
{
    const bool isOverview = zoom < kOverviewZoom;
    const QFont tag = theme.mono(
        isOverview ? std::max(13, static_cast<int>(std::lround(kSmallestTagPx / zoom))) : 13, true);
    for (const Text& t : scene.texts) {
        if (isOverview && t.style != TextStyle::Tag)
            continue;
        painter.setFont(t.style == TextStyle::Tag ? tag : theme.mono(11));
        painter.setPen(
            t.style == TextStyle::Tag || t.style == TextStyle::Marking ? theme.colours().ink : theme.colours().quiet);
        const QString text = QString::fromStdString(t.text);
        const double width = t.anchor == Anchor::Left ? 0.0 : painter.fontMetrics().horizontalAdvance(text);
        painter.drawText(QPointF(t.at.x - (t.anchor == Anchor::Middle ? width / 2 : width), t.at.y), text);
    }
}

/// What a change would bring: a full outline and a plus.
void paintNew(QPainter& painter, const Box& b, const Colours& c)
{
    painter.setPen(QPen(c.caught, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(QRectF(b.x, b.y, b.width, b.height), 3, 3);
    const QPointF corner(b.x + b.width - 8, b.y + 8);
    painter.drawLine(corner - QPointF(4, 0), corner + QPointF(4, 0));
    painter.drawLine(corner - QPointF(0, 4), corner + QPointF(0, 4));
}

} // namespace

void paintScene(QPainter& painter, const Scene& scene, const SceneLook& look, const Theme& theme, double zoom)
{
    const Colours& c = theme.colours();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    for (const Tone tone : {Tone::Dead, Tone::Floating, Tone::Carrying, Tone::Live}) // live ones on top
        for (std::size_t i = 0; i < scene.conductors.size(); ++i)
            if (look.conductors[i] == tone) {
                painter.setPen(scene.conductors[i].isRail ? penFor(tone, c, 2.5, 4) : penFor(tone, c, 1.5, 3));
                painter.drawPolyline(polygon(scene.conductors[i].points));
            }
    SymbolPainter symbols(painter, c, zoom < kFarZoom);
    for (std::size_t i = 0; i < scene.symbols.size(); ++i) {
        const Box& b = scene.symbols[i].box;
        if (look.symbols[i].isSelected) {
            painter.setPen(QPen(c.ink, 1.5, Qt::DotLine));
            painter.setBrush(Qt::NoBrush);
            painter.drawRoundedRect(QRectF(b.x, b.y, b.width, b.height), 3, 3);
        }
        if (look.symbols[i].isNew)
            paintNew(painter, b, c);
        symbols.paint(scene.symbols[i], look.symbols[i]);
        if (look.symbols[i].hasFault)
            paintMark(painter, QRectF(b.x + b.width - 12, b.y + b.height / 2 + 8, 10, 10), Mark::Wrong, c);
    }
    painter.setPen(Qt::NoPen);
    for (std::size_t i = 0; i < scene.dots.size(); ++i) {
        painter.setBrush(look.dots[i] == Tone::Live ? c.live : c.ink);
        painter.drawEllipse(QPointF(scene.dots[i].at.x, scene.dots[i].at.y), 3, 3);
    }
    paintTexts(painter, scene, theme, zoom);
}

} // namespace ts::app
