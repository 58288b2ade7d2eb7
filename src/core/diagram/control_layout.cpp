#include "core/diagram/control_layout.h"

#include "core/base/at.h"
#include "core/diagram/control_groups.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace ts::diagram {
namespace {

constexpr double kWorthARow = 1.15; ///< another row must make everything this much larger
constexpr double kRowFoot = 10; ///< below the last line of a row
constexpr double kLoosePort = 0.5; ///< cells between inputs that are joined by wires alone

std::size_t longestTag(const WiredGraph& graph, const std::vector<Group>& groups)
{
    std::size_t longest = 0;
    for (const Group& g : groups)
        for (int i : g.edges)
            longest = std::max(longest, graph.devices[at(graph.edges[at(i)].device)].device->tag.size());
    return longest;
}

class ControlLayout {
public:
    ControlLayout(const WiredGraph& graph, School school)
        : m_graph(graph)
        , m_groups(controlGroups(graph))
        , m_frame(PathFrame::of(school, longestTag(graph, m_groups.groups)))
        , m_top(m_frame.top)
    {
        for (const Group& g : m_groups.groups)
            m_needs.push_back(needOf(g));
    }

    ControlDrawing drawn()
    {
        double across = 0;
        for (const auto& [first, last] : chosenRows()) {
            const double cells = cellsOf(first, last);
            m_bottom = m_top + cells * m_frame.cell;
            m_column = 0;
            for (std::size_t k = first; k < last; ++k)
                m_groups.groups[k].loose.empty() ? draw(m_groups.groups[k], cells) : drawLoose(m_groups.groups[k]);
            drawRails();
            numberPaths();
            across = std::max(across, m_frame.left + m_column * m_frame.column);
            m_top = m_bottom + m_frame.foot + footRoom(first, last) + m_frame.top;
            m_drawing.rowEnds.push_back(m_top - m_frame.top + kRowFoot);
            m_firstPath += static_cast<int>(m_column);
        }
        drawFeet();
        std::sort(m_drawing.paths.begin(), m_drawing.paths.end(),
            [](const DrawnPath& a, const DrawnPath& b) { return a.number < b.number; });
        const Point far = m_frame.at(across, m_top - m_frame.top + kRowFoot);
        m_drawing.scene.width = far.x;
        m_drawing.scene.height = far.y;
        m_drawing.unwired = m_groups.unwired;
        m_drawing.school = m_frame.school;
        return std::move(m_drawing);
    }

private:
    const GraphNet& net(int n) const { return m_graph.nets[at(n)]; }
    const Device& device(const GraphEdge& e) const { return *m_graph.devices[at(e.device)].device; }
    bool isBetweenRails(const Group& g) const { return g.bottom >= 0 && net(g.bottom).isRail; }
    TerminalRef refOf(int n) const { return m_graph.terminals[at(net(n).terminals.front())].ref; }
    bool isEnd(int n) const { return net(n).isRail || hasPort(m_graph, n); }

    using Range = std::pair<std::size_t, std::size_t>; ///< groups from first to before last

    /// What a group needs: columns, cells with what keeps it away from the rails, entries of its longest contact list.
    struct Need {
        double columns = 1, cells = 1;
        std::size_t entries = 0;
    };

    Need needOf(const Group& g) const
    {
        Need need;
        need.cells = kLoosePort * static_cast<double>(g.loose.size());
        if (g.loose.empty()) {
            need.cells = cellsNeeded(m_graph, g);
            need.columns = placed(m_graph, g, need.cells).columns;
        }
        need.cells += (isBetweenRails(g) ? 0.0 : 0.5) + (net(g.top).isRail ? 0.0 : m_frame.loopDrop / m_frame.cell);
        for (int i : g.edges)
            if (hasFoot(m_graph.edges[at(i)]))
                need.entries = std::max(need.entries, footEntries(m_graph.edges[at(i)]));
        return need;
    }

    /// Contacts that the list of a coil names.
    std::size_t footEntries(const GraphEdge& coil) const
    {
        return static_cast<std::size_t>(
            std::count_if(m_graph.edges.begin(), m_graph.edges.end(), [&](const GraphEdge& e) {
                return e.device == coil.device && !e.isLoad() && !e.isPole && isWired(m_graph, e);
            }));
    }

    double cellsOf(std::size_t first, std::size_t last) const
    {
        double cells = 1;
        for (std::size_t k = first; k < last; ++k)
            cells = std::max(cells, m_needs[k].cells);
        return cells;
    }

    double footRoom(std::size_t first, std::size_t last) const
    {
        std::size_t most = 0;
        for (std::size_t k = first; k < last; ++k)
            most = std::max(most, m_needs[k].entries);
        return m_frame.footRoom(most);
    }

    /// Each row takes groups until it has so many columns; and how high and wide they are together.
    struct Rows {
        std::vector<Range> ranges;
        double along = 0, columns = 0;
    };
    Rows rowsOf(double mostColumns) const
    {
        Rows rows;
        double used = 0;
        for (std::size_t k = 0; k < m_needs.size(); ++k) {
            const double columns = m_needs[k].columns;
            if (rows.ranges.empty() || used + columns > mostColumns) {
                rows.ranges.emplace_back(k, k);
                used = 0;
            }
            used += columns;
            rows.ranges.back().second = k + 1;
            rows.columns = std::max(rows.columns, used);
        }
        for (const auto& [first, last] : rows.ranges)
            rows.along += m_frame.top + cellsOf(first, last) * m_frame.cell + m_frame.foot + footRoom(first, last);
        return rows;
    }

    /// Groups in such rows as make the whole drawing largest in its place; another row must be worth it.
    std::vector<Range> chosenRows() const
    {
        double total = 0, widest = 0;
        for (const Need& need : m_needs) {
            total += need.columns;
            widest = std::max(widest, need.columns);
        }
        std::map<std::size_t, std::pair<double, std::vector<Range>>> bestOf; // by number of rows
        for (double most = std::ceil(total); most > 0 && (bestOf.empty() || most >= widest); --most) {
            const Rows rows = rowsOf(std::max(widest, most));
            const double scale = std::min(
                m_frame.aspect / (m_frame.left + rows.columns * m_frame.column), 1.0 / std::max(1.0, rows.along));
            auto& known = bestOf[rows.ranges.size()];
            if (scale > known.first)
                known = {scale, rows.ranges};
        }
        std::vector<Range> best;
        double bestScale = 0;
        for (const auto& [count, found] : bestOf)
            if (best.empty() || found.first > bestScale * kWorthARow) {
                best = found.second;
                bestScale = found.first;
            }
        return best;
    }

    double across(double column) const { return m_frame.left + (m_column + column) * m_frame.column; }

    void draw(const Group& g, double railCells)
    {
        const bool fromRail = net(g.top).isRail, full = isBetweenRails(g);
        const double top = fromRail ? m_top : m_top + m_frame.loopDrop;
        const double cells = full && fromRail ? railCells
            : full                            ? (m_bottom - top) / m_frame.cell
                                              : cellsNeeded(m_graph, g);
        const Block block = placed(m_graph, g, cells);
        const auto along = [&](double cell) { return top + cell * m_frame.cell; };
        for (const PlacedEdge& e : block.edges)
            drawEdge(e, along(e.from), along(e.to));
        for (const PlacedWire& w : block.wires) {
            if (net(w.net).isRail && w.cell0 == w.cell1 && (w.net == g.top || w.net == g.bottom)) { // the rail itself
                                                                                                    // is there
                for (double column : {w.column0, w.column1})
                    reachRail(w.net, w.net == g.top ? 0 : 1, across(column));
                continue;
            }
            m_drawing.scene.conductors.push_back(
                {{m_frame.at(across(w.column0), along(w.cell0)), m_frame.at(across(w.column1), along(w.cell1))},
                    refOf(w.net), false});
        }
        for (const PlacedNode& n : block.junctions)
            if (!(net(n.net).isRail && (n.net == g.top || n.net == g.bottom)))
                addDot(m_frame.at(across(n.column), along(n.cell)), n.net);
        std::map<int, int> timesNamed;
        for (const PlacedNode& n : block.ends)
            ++timesNamed[n.net];
        for (const PlacedNode& n : block.ends)
            drawEnd(g, n, m_frame.at(across(n.column), along(n.cell)), timesNamed[n.net] == 1);
        m_column += block.columns;
    }

    /// Inputs that hang on a rail, or are joined by wires alone: one under the other on a line of their net.
    void drawLoose(const Group& g)
    {
        const GraphNet& n = net(g.top);
        const double x = across(0), step = kLoosePort * m_frame.cell;
        double y = n.isRail ? (n.isReturn ? m_bottom : m_top) : m_top + m_frame.loopDrop - step;
        const double from = n.isRail ? y : y + step;
        if (n.isRail)
            reachRail(g.top, n.isReturn ? 1 : 0, x);
        for (std::size_t k = 0; k < g.loose.size(); ++k) {
            y += n.isReturn ? -step : step;
            drawPort(m_frame.at(x, y), {g.loose[k]}, g.top, n.isReturn || (k == 0 && !n.isRail));
        }
        if (y != from)
            m_drawing.scene.conductors.push_back({{m_frame.at(x, from), m_frame.at(x, y)}, refOf(g.top), false});
        m_column += 1;
    }

    void addDot(Point p, int n)
    {
        auto& dots = m_drawing.scene.dots;
        if (std::none_of(dots.begin(), dots.end(), [&](const Dot& d) { return d.at == p; }))
            dots.push_back({p, refOf(n)});
    }

    void drawEdge(const PlacedEdge& placedEdge, double from, double to)
    {
        const GraphEdge& e = m_graph.edges[at(placedEdge.edge)];
        const double x = across(placedEdge.column);
        Symbol s;
        s.kind = e.kind;
        s.operated = e.operated;
        s.top = m_frame.at(x, from);
        s.bottom = m_frame.at(x, to);
        s.device = device(e).id;
        s.role = e.role;
        const int upper = placedEdge.isTurned ? e.b : e.a, lower = placedEdge.isTurned ? e.a : e.b;
        s.upper = m_graph.terminals[at(upper)].ref;
        s.lower = m_graph.terminals[at(lower)].ref;
        s.box = m_frame.symbolBox(x, from, to);
        Scene& scene = m_drawing.scene;
        scene.symbols.push_back(s);
        scene.texts.push_back(m_frame.tag(x, from, to, device(e).tag, e.isLoad()));
        scene.texts.push_back(m_frame.upperMarking(x, from, s.upper.marking));
        scene.texts.push_back(m_frame.lowerMarking(x, to, s.lower.marking));
        scene.pins.push_back({s.upper, m_frame.at(x, from + 10)});
        scene.pins.push_back({s.lower, m_frame.at(x, to - 10)});
        const int below = m_graph.netOf(lower);
        if (!isEnd(below) && m_numbered.insert(below).second)
            scene.texts.push_back(m_frame.wireNumber(x, to, net(below).name));
        const int path = m_firstPath + static_cast<int>(std::lround(m_column + placedEdge.column)) + 1;
        m_pathOf.emplace_back(placedEdge.edge, path);
        notePath(e, path, x);
        if (hasFoot(e))
            m_feet.push_back({placedEdge.edge, {x, m_bottom}});
    }

    void notePath(const GraphEdge& e, int number, double x)
    {
        auto& paths = m_drawing.paths;
        const auto it = std::find_if(
            paths.begin(), paths.end(), [number](const DrawnPath& p) { return p.number == number; });
        if (it == paths.end())
            paths.push_back({number, device(e).id, number == m_firstPath + static_cast<int>(m_column) + 1,
                m_frame.at(x, m_top), m_frame.at(x, m_bottom)});
        else if (e.isLoad())
            it->lead = device(e).id;
    }

    /// A rail notes how far it must reach; anything else becomes a named port.
    void drawEnd(const Group& g, const PlacedNode& n, Point p, bool isOnlyOne)
    {
        const bool isMain = n.net == g.top || n.net == g.bottom;
        const double along = m_frame.alongOf(p);
        const bool isOnRail = n.net == g.top ? along == m_top : std::abs(along - m_bottom) < 0.01;
        if (net(n.net).isRail && isMain && isOnRail)
            return reachRail(n.net, n.net == g.top ? 0 : 1, m_frame.acrossOf(p));
        if (isMain && !isEnd(n.net) && isOnlyOne)
            return; // hangs free
        std::vector<int> ports;
        for (int t : net(n.net).terminals)
            if (m_graph.terminals[at(t)].isPort && !net(n.net).isRail)
                ports.push_back(t);
        drawPort(p, ports, n.net, n.isUpper);
    }

    /// A named end: the inputs of devices on it, else the net's own name. Several groups may end on one net and bear
    /// one name.
    void drawPort(Point p, const std::vector<int>& terminals, int n, bool isUpper)
    {
        Scene& scene = m_drawing.scene;
        Symbol s;
        s.kind = SymbolKind::Port;
        s.top = s.bottom = p;
        s.box = {p.x - 6, p.y - 6, 12, 12};
        s.upper = s.lower = refOf(n);
        std::string name;
        for (int t : terminals) {
            const GraphTerminal& terminal = m_graph.terminals[at(t)];
            name += (name.empty() ? "" : " ") + m_graph.devices[at(terminal.device)].device->tag + ":"
                + terminal.ref.marking;
            s.device = terminal.ref.device;
            s.upper = s.lower = terminal.ref;
            if (m_pinned.insert(t).second)
                scene.pins.push_back({terminal.ref, p});
        }
        if (name.empty())
            name = net(n).isRail ? net(n).railName : net(n).name;
        scene.symbols.push_back(s);
        scene.texts.push_back(m_frame.portName(p, isUpper, std::move(name)));
    }

    void reachRail(int n, int side, double across) { m_rails[{side, n}].insert(across); }

    /// Another rail of that side is reached between two places.
    bool isRailBetween(int n, int side, double from, double to) const
    {
        return std::any_of(m_rails.begin(), m_rails.end(), [&](const auto& rail) {
            const auto next = rail.second.upper_bound(from);
            return rail.first.first == side && rail.first.second != n && next != rail.second.end() && *next < to;
        });
    }

    void drawRails()
    {
        for (const auto& [key, reached] : m_rails) {
            const auto& [side, n] = key;
            double from = *reached.begin(), to = from;
            for (double across : reached) {
                if (isRailBetween(n, side, to, across)) {
                    drawRail(n, side, from, to);
                    from = across;
                }
                to = across;
            }
            drawRail(n, side, from, to);
        }
        m_rails.clear();
    }

    void drawRail(int n, int side, double from, double to)
    {
        const double along = side == 0 ? m_top : m_bottom;
        m_drawing.scene.conductors.push_back(
            {{m_frame.at(from - 18, along), m_frame.at(to + 18, along)}, refOf(n), true});
        m_drawing.scene.texts.push_back(m_frame.railName(from, along, side == 0, net(n).railName));
    }

    static bool hasFoot(const GraphEdge& e) { return e.kind == SymbolKind::Coil || e.kind == SymbolKind::BoxLoad; }

    void numberPaths()
    {
        for (int c = 0; c < static_cast<int>(m_column); ++c)
            m_drawing.scene.texts.push_back(m_frame.pathNumber(
                m_frame.left + c * m_frame.column, m_top, m_bottom, std::to_string(m_firstPath + c + 1)));
    }

    /// With each coil where its contacts are.
    void drawFeet()
    {
        for (const auto& [coil, where] : m_feet) {
            std::size_t line = 0;
            for (const auto& [other, path] : m_pathOf) {
                const GraphEdge& contact = m_graph.edges[at(other)];
                if (contact.device == m_graph.edges[at(coil)].device && !contact.isLoad())
                    m_drawing.scene.texts.push_back(m_frame.footLineAt(
                        where.first, where.second, line++, contact.role + " /" + std::to_string(path)));
            }
        }
    }

    const WiredGraph& m_graph;
    ControlGroups m_groups;
    PathFrame m_frame;
    std::vector<Need> m_needs; ///< by group
    ControlDrawing m_drawing;
    double m_top = 0, m_bottom = 0, m_column = 0;
    int m_firstPath = 0; ///< paths in the rows before
    std::vector<std::pair<int, std::pair<double, double>>> m_feet; ///< coil, its place across, its return rail along
    std::map<std::pair<int, int>, std::set<double>> m_rails; ///< (side, net) -> where something hangs on it
    std::set<int> m_numbered, m_pinned;
    std::vector<std::pair<int, int>> m_pathOf; ///< edge, path number
};

} // namespace

ControlDrawing controlDrawing(const WiredGraph& graph, School school)
{
    return ControlLayout(graph, school).drawn();
}

std::vector<DeviceId> orderWithPathMoved(const std::vector<DrawnPath>& paths, int number, int before)
{
    const auto groupStart = [&](std::size_t k) {
        while (k > 0 && !paths[k].isFirstOfGroup)
            --k;
        return k;
    };
    std::vector<DeviceId> order, moved;
    std::size_t from = 0, to = paths.size();
    for (std::size_t k = paths.size(); k-- > 0;) {
        if (paths[k].number >= number)
            from = k;
        if (paths[k].number >= before)
            to = k;
    }
    if (paths.empty())
        return order;
    const std::size_t start = groupStart(from);
    std::size_t end = start + 1;
    while (end < paths.size() && !paths[end].isFirstOfGroup)
        ++end;
    const bool isWithin = to >= start && to < end && to != start;
    for (std::size_t k = isWithin ? from : start; k < (isWithin ? from + 1 : end); ++k)
        moved.push_back(paths[k].lead);
    const auto add = [&](DeviceId lead) {
        if (std::find(order.begin(), order.end(), lead) == order.end())
            order.push_back(lead);
    };
    const auto isMoved = [&](DeviceId lead) { return std::find(moved.begin(), moved.end(), lead) != moved.end(); };
    for (std::size_t k = 0; k <= paths.size(); ++k) {
        if (k == (isWithin ? to : to < paths.size() ? groupStart(to) : to))
            for (DeviceId lead : moved)
                add(lead);
        if (k < paths.size() && !isMoved(paths[k].lead))
            add(paths[k].lead);
    }
    return order;
}

} // namespace ts::diagram
