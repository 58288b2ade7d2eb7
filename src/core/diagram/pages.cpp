#include "core/diagram/pages.h"

#include "core/base/at.h"
#include "core/diagram/symbols.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <map>
#include <optional>

namespace ts::diagram {
namespace {

constexpr double kStub = 14; ///< that far a conductor goes on beyond the cut
constexpr double kClear = 1.5; ///< between a cut and what stands beside it
constexpr double kStep = 2; ///< between places where a cut is tried
constexpr double kCrossing = 200; ///< a conductor less is worth that much of an uneven cut
constexpr double kNarrowest = 30; ///< nothing is cut to less
constexpr double kLineOfText = 13;

struct Span {
    double from = 0, to = 0;
    bool holds(double x) const { return x > from && x < to; }
};

bool isPole(SymbolKind kind)
{
    switch (kind) {
    case SymbolKind::MainContact:
    case SymbolKind::FusePole:
    case SymbolKind::BreakerPole:
    case SymbolKind::HeatedPole:
    case SymbolKind::MeasuredPole:
    case SymbolKind::SwitchPole:
        return true;
    default:
        return false;
    }
}

/// A conductor that is cut: where it leaves the piece.
struct CutEnd {
    double along = 0;
    TerminalRef net;
};

/// A part of a row between two cuts. Before and behind: what goes on there.
struct Piece {
    Span across, along;
    std::vector<CutEnd> before, behind;
    double roomBefore = 0, roomBehind = 0; ///< beyond the cuts, for stubs and names
    std::size_t page = 0;
};

class Cutter {
public:
    Cutter(const WiredGraph& graph, const ControlDrawing& drawing, Sheet sheet)
        : m_graph(graph)
        , m_whole(drawing)
        , m_frame{.school = drawing.school}
        , m_room(m_frame.isLadder() ? Sheet{sheet.height, sheet.width} : sheet)
    {
        for (const GraphNet& n : graph.nets)
            for (int t : n.terminals)
                m_nameOf[graph.terminals[at(t)].ref] = n.isRail && !n.railName.empty() ? n.railName : n.name;
    }

    std::vector<Page> pages()
    {
        double from = 0;
        for (double end : m_whole.rowEnds) {
            cutRow({from, end});
            from = end;
        }
        pack();
        std::vector<Page> pages(m_pieces.empty() ? 0 : m_pieces.back().page + 1);
        double along = 0;
        for (std::size_t k = 0; k < m_pieces.size(); ++k) {
            if (k > 0 && m_pieces[k].page != m_pieces[k - 1].page)
                along = 0;
            put(pages[m_pieces[k].page], k, along);
            along += m_pieces[k].along.to - m_pieces[k].along.from;
        }
        return pages;
    }

private:
    double acrossOf(Point p) const { return m_frame.acrossOf(p); }
    double alongOf(Point p) const { return m_frame.alongOf(p); }
    double widthOfDrawing() const { return m_frame.isLadder() ? m_whole.scene.height : m_whole.scene.width; }
    bool isIn(const Span& row, Point p) const { return alongOf(p) >= row.from && alongOf(p) < row.to; }

    /// What no cut may go through: symbols and texts of the row, dots, and conductors that run along it.
    std::vector<Span> solid(const Span& row) const
    {
        std::vector<Span> spans;
        const auto add = [&](double from, double to) { spans.push_back({from - kClear, to + kClear}); };
        for (const Symbol& s : m_whole.scene.symbols)
            if (isIn(row, s.top))
                for (bool closed : {false, true})
                    for (const StrokePath& path : shapeOf(s, closed).paths)
                        for (const Point& p : path.points)
                            add(std::min(acrossOf(p), acrossOf(s.top)), std::max(acrossOf(p), acrossOf(s.top)));
        for (const auto& [device, poles] : polesIn(row)) // poles that work together stay together
            add(poles.from, poles.to);
        for (const Text& t : m_whole.scene.texts)
            if (const Box b = t.box(); isIn(row, t.at))
                add(acrossOf({b.x, b.y}), acrossOf({b.x + b.width, b.y + b.height}));
        for (const Dot& d : m_whole.scene.dots)
            if (isIn(row, d.at))
                add(acrossOf(d.at) - 3, acrossOf(d.at) + 3);
        for (const Conductor& c : m_whole.scene.conductors)
            for (std::size_t k = 1; k < c.points.size(); ++k)
                if (isIn(row, c.points.front()) && acrossOf(c.points[k]) == acrossOf(c.points[k - 1]))
                    add(acrossOf(c.points[k]), acrossOf(c.points[k]));
        return spans;
    }

    std::map<DeviceId, Span> polesIn(const Span& row) const
    {
        std::map<DeviceId, Span> spans;
        for (const Symbol& s : m_whole.scene.symbols)
            if (isPole(s.kind) && isIn(row, s.top)) {
                const auto [known, isNew] = spans.try_emplace(s.device, Span{acrossOf(s.top), acrossOf(s.top)});
                known->second.from = std::min(known->second.from, acrossOf(s.top));
                known->second.to = std::max(known->second.to, acrossOf(s.top));
            }
        return spans;
    }

    std::vector<CutEnd> cutBy(const Span& row, double across) const
    {
        std::vector<CutEnd> cut;
        for (const Conductor& c : m_whole.scene.conductors)
            for (std::size_t k = 1; k < c.points.size(); ++k) {
                const double a = acrossOf(c.points[k - 1]), b = acrossOf(c.points[k]);
                if (isIn(row, c.points.front()) && std::min(a, b) < across && std::max(a, b) > across)
                    cut.push_back({alongOf(c.points[k]), c.net});
            }
        std::sort(cut.begin(), cut.end(), [](const CutEnd& a, const CutEnd& b) { return a.along < b.along; });
        return cut;
    }

    /// Names of what is cut, those too close for lines of their own together: "11 12 13".
    std::vector<std::pair<double, std::string>> namesOf(const std::vector<CutEnd>& ends) const
    {
        std::vector<std::pair<double, std::string>> names;
        std::string last;
        for (const CutEnd& e : ends) {
            const auto known = m_nameOf.find(e.net);
            const std::string name = known == m_nameOf.end() ? e.net.marking : known->second;
            const bool isClose = !names.empty() && e.along - names.back().first < kLineOfText;
            if (!isClose)
                names.emplace_back(e.along, name);
            else if (name != last)
                names.back().second += " " + name;
            last = name;
        }
        return names;
    }

    double roomFor(const std::vector<CutEnd>& ends) const
    {
        if (ends.empty())
            return 0;
        if (m_frame.isLadder())
            return kStub + 2 * kLineOfText;
        std::size_t longest = 0;
        for (const auto& [along, name] : namesOf(ends))
            longest = std::max(longest, name.size());
        return kStub + 8 + kAdvance * kSmallSize * static_cast<double>(longest + 4); // and to which page
    }

    /// The best place for a cut between two bounds, near where it would be even; nothing if none is free.
    std::optional<double> cutBetween(
        const Span& row, const Span& bounds, double even, const std::vector<Span>& solid) const
    {
        std::optional<double> best;
        double least = std::numeric_limits<double>::max();
        for (double x = std::ceil(bounds.from); x <= bounds.to; x += kStep) {
            if (std::any_of(solid.begin(), solid.end(), [x](const Span& s) { return s.holds(x); }))
                continue;
            const std::vector<CutEnd> cut = cutBy(row, x);
            if (x + roomFor(cut) > bounds.to)
                continue;
            const double cost = kCrossing * static_cast<double>(cut.size()) + std::abs(x - even);
            if (cost < least) {
                least = cost;
                best = x;
            }
        }
        return best;
    }

    void cutRow(const Span& row)
    {
        const std::vector<Span> taken = solid(row);
        double end = 0;
        for (const Span& s : taken)
            end = std::max(end, s.to);
        end = std::min(end + kStub, std::max(end, widthOfDrawing()));
        Piece piece{.across = {0, end}, .along = row};
        while (true) {
            const double room = m_room.width - piece.roomBefore, left = end - piece.across.from;
            if (left <= room || room < kNarrowest)
                break;
            const double parts = std::ceil(left / (0.9 * room)), even = piece.across.from + left / parts;
            const auto cut = cutBetween(row, {piece.across.from + 0.4 * room, piece.across.from + room}, even, taken);
            if (!cut || *cut >= end)
                break;
            piece.across.to = *cut;
            piece.behind = cutBy(row, *cut);
            piece.roomBehind = roomFor(piece.behind);
            m_pieces.push_back(piece);
            Piece next{.across = {*cut, end}, .along = row, .before = piece.behind};
            next.roomBefore = piece.roomBehind;
            piece = std::move(next);
        }
        m_pieces.push_back(piece);
    }

    /// One piece below the other, as far as the sheet goes.
    void pack()
    {
        double used = 0;
        std::size_t page = 0;
        for (std::size_t k = 0; k < m_pieces.size(); ++k) {
            const double needs = m_pieces[k].along.to - m_pieces[k].along.from;
            if (k > 0 && used + needs > m_room.height) {
                ++page;
                used = 0;
            }
            m_pieces[k].page = page;
            used += needs;
        }
    }

    void put(Page& page, std::size_t k, double along) const
    {
        const Piece& piece = m_pieces[k];
        const auto moved = [&](Point p) {
            return m_frame.at(
                acrossOf(p) - piece.across.from + piece.roomBefore, alongOf(p) - piece.along.from + along);
        };
        const auto isHere = [&](Point p) {
            return isIn(piece.along, p) && acrossOf(p) >= piece.across.from && acrossOf(p) < piece.across.to;
        };
        const Point shift = moved({0, 0});
        Scene& scene = page.scene;
        for (Symbol s : m_whole.scene.symbols)
            if (isHere(s.top)) {
                s.top = moved(s.top);
                s.bottom = moved(s.bottom);
                s.box.x += shift.x;
                s.box.y += shift.y;
                scene.symbols.push_back(std::move(s));
            }
        for (Text t : m_whole.scene.texts) {
            const Box b = t.box();
            if (isHere({b.x + b.width / 2, t.at.y})) {
                t.at = moved(t.at);
                scene.texts.push_back(std::move(t));
            }
        }
        for (Dot d : m_whole.scene.dots)
            if (isHere(d.at)) {
                d.at = moved(d.at);
                scene.dots.push_back(std::move(d));
            }
        for (const auto& [ref, p] : m_whole.scene.pins)
            if (isHere(p))
                scene.pins.emplace_back(ref, moved(p));
        for (DrawnPath p : m_whole.paths)
            if (isHere(p.top)) {
                p.top = moved(p.top);
                p.bottom = moved(p.bottom);
                page.paths.push_back(p);
            }
        for (const Conductor& c : m_whole.scene.conductors)
            if (isIn(piece.along, c.points.front()))
                putConductor(scene, piece, c, moved);
        const double across = piece.roomBefore + (piece.across.to - piece.across.from) + piece.roomBehind;
        const Point far = m_frame.at(across, along + piece.along.to - piece.along.from);
        scene.width = std::max(scene.width, far.x);
        scene.height = std::max(scene.height, far.y);
        if (k > 0)
            nameCuts(scene, piece.before, moved, piece.across.from, m_pieces[k - 1].page, false);
        if (k + 1 < m_pieces.size())
            nameCuts(scene, piece.behind, moved, piece.across.to, m_pieces[k + 1].page, true);
    }

    /// What of it lies between the cuts, and a stub beyond.
    void putConductor(
        Scene& scene, const Piece& piece, const Conductor& c, const std::function<Point(Point)>& moved) const
    {
        const double from = piece.before.empty() ? piece.across.from : piece.across.from - kStub;
        const double to = piece.behind.empty() ? piece.across.to : piece.across.to + kStub;
        std::vector<Point> run;
        const auto finish = [&] {
            if (run.size() > 1)
                scene.conductors.push_back({run, c.net, c.isRail});
            run.clear();
        };
        for (std::size_t k = 1; k < c.points.size(); ++k) {
            const double a = acrossOf(c.points[k - 1]), b = acrossOf(c.points[k]);
            const bool crosses = std::max(a, b) > piece.across.from && std::min(a, b) < piece.across.to;
            if (!crosses && !(a == b && a >= piece.across.from && a < piece.across.to)) {
                finish();
                continue;
            }
            const Point start = moved(m_frame.at(std::clamp(a, from, to), alongOf(c.points[k - 1])));
            const Point end = moved(m_frame.at(std::clamp(b, from, to), alongOf(c.points[k])));
            if (run.empty() || !(run.back() == start)) {
                finish();
                run.push_back(start);
            }
            run.push_back(end);
        }
        finish();
    }

    void nameCuts(Scene& scene, const std::vector<CutEnd>& ends, const std::function<Point(Point)>& moved,
        double across, std::size_t page, bool isBehind) const
    {
        const std::string number = std::to_string(page + 1);
        for (const auto& [along, name] : namesOf(ends)) {
            const Point p = moved(m_frame.at(across + (isBehind ? kStub : -kStub), along));
            Text t{.at = p,
                .text = isBehind ? name + " \u2192" + number : number + "\u2192 " + name,
                .style = TextStyle::WireNumber};
            if (m_frame.isLadder()) {
                t.anchor = Anchor::Middle;
                t.at.y += isBehind ? kLineOfText : -4;
            } else {
                t.anchor = isBehind ? Anchor::Left : Anchor::Right;
                t.at.x += isBehind ? 4 : -4;
                t.at.y += 4;
            }
            scene.texts.push_back(std::move(t));
        }
    }

    const WiredGraph& m_graph;
    const ControlDrawing& m_whole;
    PathFrame m_frame;
    Sheet m_room; ///< across and along
    std::map<TerminalRef, std::string> m_nameOf;
    std::vector<Piece> m_pieces;
};

} // namespace

std::vector<Page> pagesOf(const WiredGraph& graph, const ControlDrawing& drawing, Sheet sheet)
{
    if (drawing.scene.width <= sheet.width && drawing.scene.height <= sheet.height)
        return {{drawing.scene, drawing.paths}};
    return Cutter(graph, drawing, sheet).pages();
}

std::vector<std::string> subjectsOf(const WiredGraph& graph, const Page& page)
{
    const auto tagsOf = [&](std::initializer_list<SymbolKind> kinds) {
        std::vector<std::string> tags;
        for (const Symbol& s : page.scene.symbols)
            if (s.device && (kinds.size() == 0 || std::find(kinds.begin(), kinds.end(), s.kind) != kinds.end()))
                for (const GraphDevice& g : graph.devices)
                    if (g.device->id == s.device && std::find(tags.begin(), tags.end(), g.device->tag) == tags.end())
                        tags.push_back(g.device->tag);
        return tags;
    };
    for (const std::initializer_list<SymbolKind>& kinds : {std::initializer_list<SymbolKind>{SymbolKind::Device},
             {SymbolKind::Coil, SymbolKind::BoxLoad}, {SymbolKind::Lamp, SymbolKind::Horn}})
        if (auto tags = tagsOf(kinds); !tags.empty())
            return tags;
    return tagsOf({});
}

} // namespace ts::diagram
