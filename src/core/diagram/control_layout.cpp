#include "core/diagram/control_layout.h"

#include "core/diagram/path_block.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <tuple>

namespace ts::diagram {
namespace {

constexpr double kCell = 62, kColumnGrid = 24, kSmallestColumn = 72;
constexpr double kLeft = 46, kTop = 30, kLoopDrop = 34, kFoot = 34, kFootLine = 14;
constexpr double kAspect = 1.6; ///< width over height of the place in which such drawings are looked at
constexpr double kWorthARow = 1.15; ///< another row must make everything this much larger

std::size_t at(int i)
{
    return static_cast<std::size_t>(i);
}

class ControlLayout {
public:
    explicit ControlLayout(const WiredGraph& graph)
        : m_graph(graph)
    {
    }

    ControlDrawing drawn()
    {
        findGroups();
        sortGroups();
        chooseColumnWidth();
        for (const auto& [first, last] : chosenRows()) {
            const double cells = cellsOf(first, last);
            m_bottom = m_top + cells * kCell;
            m_column = 0;
            for (std::size_t k = first; k < last; ++k)
                draw(m_groups[k], cells);
            drawRails();
            numberPaths();
            m_drawing.scene.width = std::max(m_drawing.scene.width, kLeft + m_column * m_columnWidth);
            m_top = m_bottom + kFoot + footHeight(first, last) + kTop;
            m_firstPath += static_cast<int>(m_column);
        }
        drawFeet();
        std::sort(m_drawing.paths.begin(), m_drawing.paths.end(), [](const DrawnPath& a, const DrawnPath& b) { return a.number < b.number; });
        m_drawing.scene.height = m_top - kTop + 10;
        return std::move(m_drawing);
    }

private:
    /// The unused half of a change-over contact hangs on the common terminal only: it counts as not wired.
    bool isWired(const GraphEdge& e) const
    {
        const bool a = m_graph.terminals[at(e.a)].isWired, b = m_graph.terminals[at(e.b)].isWired;
        return (a && b) || (a && !isShared(e, e.a)) || (b && !isShared(e, e.b));
    }
    bool isShared(const GraphEdge& e, int terminal) const
    {
        return std::any_of(m_graph.edges.begin(), m_graph.edges.end(), [&](const GraphEdge& other) { return &other != &e && (other.a == terminal || other.b == terminal); });
    }
    const GraphNet& net(int n) const { return m_graph.nets[at(n)]; }
    const Device& device(const GraphEdge& e) const { return *m_graph.devices[at(e.device)].device; }
    bool isBetweenRails(const Group& g) const { return g.bottom >= 0 && net(g.bottom).isRail; }
    TerminalRef refOf(int n) const { return m_graph.terminals[at(net(n).terminals.front())].ref; }
    bool hasPort(int n) const
    {
        return std::any_of(net(n).terminals.begin(), net(n).terminals.end(), [&](int t) { return m_graph.terminals[at(t)].isPort; });
    }
    bool isEnd(int n) const { return net(n).isRail || hasPort(n); }

    /// Edges that hang together without going through a rail or a device's input.
    void findGroups()
    {
        std::vector<int> edges;
        for (std::size_t i = 0; i < m_graph.edges.size(); ++i) {
            const GraphEdge& e = m_graph.edges[i];
            if (e.isPole)
                continue;
            if (isWired(e))
                edges.push_back(static_cast<int>(i));
            else
                m_drawing.unwired.push_back(device(e).tag + " " + e.role);
        }
        const auto key = [&](int i) {
            const GraphEdge& e = m_graph.edges[at(i)];
            const bool byHand = e.operated == Operated::ByPush || e.operated == Operated::ByEmergencyPush;
            return std::tuple(!byHand, device(e).id, e.role);
        };
        std::stable_sort(edges.begin(), edges.end(), [&](int a, int b) { return key(a) < key(b); });

        network::DisjointSets sets(static_cast<int>(m_graph.nets.size() + edges.size()));
        for (std::size_t k = 0; k < edges.size(); ++k) {
            const GraphEdge& e = m_graph.edges[at(edges[k])];
            for (int n : {m_graph.netOf(e.a), m_graph.netOf(e.b)})
                if (!isEnd(n))
                    sets.join(n, static_cast<int>(m_graph.nets.size() + k));
        }
        std::map<int, std::size_t> groupOf;
        for (std::size_t k = 0; k < edges.size(); ++k) {
            const int root = sets.find(static_cast<int>(m_graph.nets.size() + k));
            const auto [it, isNew] = groupOf.emplace(root, m_groups.size());
            if (isNew)
                m_groups.push_back({});
            m_groups[it->second].edges.push_back(edges[k]);
        }
        for (Group& g : m_groups)
            chooseEnds(g);
    }

    /// Top: a live rail, else an input of a device. Bottom: a return rail, else another input, else another rail.
    void chooseEnds(Group& g)
    {
        std::set<int> ends, inside;
        for (int i : g.edges)
            for (int n : {m_graph.netOf(m_graph.edges[at(i)].a), m_graph.netOf(m_graph.edges[at(i)].b)})
                (isEnd(n) ? ends : inside).insert(n);
        // Inputs of a device in the order of its terminals: what is fed comes before what is watched.
        const auto portOf = [&](int n) {
            int first = -1;
            for (int t : net(n).terminals)
                if (m_graph.terminals[at(t)].isPort && first < 0)
                    first = t;
            return first;
        };
        std::vector<int> sorted(ends.begin(), ends.end());
        std::stable_sort(sorted.begin(), sorted.end(), [&](int a, int b) { return portOf(a) < portOf(b); });
        const auto take = [&](auto wanted, bool last = false) {
            int found = -1;
            for (int n : sorted)
                if (ends.contains(n) && wanted(n) && (found < 0 || last))
                    found = n;
            if (found >= 0)
                ends.erase(found);
            return found;
        };
        const auto isLive = [&](int n) { return net(n).isRail && !net(n).isReturn; };
        const auto isReturn = [&](int n) { return net(n).isReturn; };
        const auto any = [](int) { return true; };
        g.top = take(isLive);
        g.bottom = take(isReturn);
        if (g.top < 0)
            g.top = take(any);
        if (g.bottom < 0)
            g.bottom = take([&](int n) { return !net(n).isRail; });
        if (g.bottom < 0)
            g.bottom = take(any, true);
        if (g.top < 0 && g.bottom >= 0)
            std::swap(g.top, g.bottom); // hangs on one end only
        if (g.top < 0)
            g.top = *inside.begin();
        g.ports.assign(ends.begin(), ends.end());
    }

    int categoryOf(const Group& g) const
    {
        int category = 3;
        for (int i : g.edges) {
            const SymbolKind kind = m_graph.edges[at(i)].kind;
            category = std::min(category, kind == SymbolKind::Coil ? 0 : kind == SymbolKind::BoxLoad ? 1 : kind == SymbolKind::Lamp ? 3 : 4);
        }
        return !net(g.top).isRail ? 2 : category;
    }

    void sortGroups()
    {
        const auto key = [&](const Group& g) {
            const GraphEdge& first = m_graph.edges[at(g.edges.front())];
            DeviceId id = device(first).id;
            const bool hasLoad = std::any_of(g.edges.begin(), g.edges.end(), [&](int i) { return m_graph.edges[at(i)].isLoad(); });
            if (hasLoad)
                id = DeviceId{1 << 30};
            for (int i : g.edges)
                if (!hasLoad || m_graph.edges[at(i)].isLoad())
                    id = std::min(id, device(m_graph.edges[at(i)]).id);
            const int rail = net(g.top).isRail ? net(g.top).order : -1;
            return std::tuple(categoryOf(g), rail, id, g.edges.front());
        };
        std::stable_sort(m_groups.begin(), m_groups.end(), [&](const Group& a, const Group& b) { return key(a) < key(b); });
        std::vector<int> ranks;
        for (const Group& g : m_groups)
            ranks.push_back(rankOf(m_graph, g.edges));
        std::vector<Group> sorted;
        for (std::size_t k : orderByRank(ranks))
            sorted.push_back(std::move(m_groups[k]));
        m_groups = std::move(sorted);
    }

    void chooseColumnWidth()
    {
        std::size_t longest = 0;
        for (const Group& g : m_groups)
            for (int i : g.edges)
                longest = std::max(longest, device(m_graph.edges[at(i)]).tag.size());
        const double extra = std::max(0.0, static_cast<double>(longest) - 2.0) * kAdvance * kTagSize;
        m_columnWidth = kSmallestColumn + kColumnGrid * std::ceil(extra / kColumnGrid);
    }

    using Range = std::pair<std::size_t, std::size_t>; ///< groups from first to before last

    double columnsOf(const Group& g) const { return placed(m_graph, g, cellsNeeded(m_graph, g)).columns; }

    double cellsOf(std::size_t first, std::size_t last) const
    {
        double cells = 1;
        for (std::size_t k = first; k < last; ++k) { // what does not reach the return keeps away from it
            const Group& g = m_groups[k];
            cells = std::max(cells, cellsNeeded(m_graph, g) + (isBetweenRails(g) ? 0.0 : 0.5) + (net(g.top).isRail ? 0.0 : kLoopDrop / kCell));
        }
        return cells;
    }

    /// Lines of contact lists under the coils of some groups.
    double footHeight(std::size_t first, std::size_t last) const
    {
        std::size_t most = 0;
        for (std::size_t k = first; k < last; ++k)
            for (int i : m_groups[k].edges)
                if (hasFoot(m_graph.edges[at(i)]))
                    most = std::max(most, static_cast<std::size_t>(std::count_if(m_graph.edges.begin(), m_graph.edges.end(), [&](const GraphEdge& e) {
                        return e.device == m_graph.edges[at(i)].device && !e.isLoad() && !e.isPole && isWired(e);
                    })));
        return kFootLine * static_cast<double>(most);
    }

    /// Groups in as many rows as make the whole drawing largest in its place.
    std::vector<Range> chosenRows() const
    {
        std::vector<double> widths;
        double total = 0, widest = 0;
        for (const Group& g : m_groups) {
            widths.push_back(columnsOf(g));
            total += widths.back();
            widest = std::max(widest, widths.back());
        }
        std::vector<Range> best;
        double bestScale = 0;
        for (int count = 1; count <= 8; ++count) {
            const double limit = std::max(widest, std::ceil(total / count));
            std::vector<Range> rows{{0, 0}};
            double used = 0, width = 0, height = 0;
            for (std::size_t k = 0; k < m_groups.size(); ++k) {
                if (used + widths[k] > limit && used > 0) {
                    rows.emplace_back(k, k);
                    used = 0;
                }
                used += widths[k];
                rows.back().second = k + 1;
                width = std::max(width, used);
            }
            for (const auto& [first, last] : rows)
                height += kTop + cellsOf(first, last) * kCell + kFoot + footHeight(first, last);
            const double scale = std::min(kAspect / (kLeft + width * m_columnWidth), 1.0 / height);
            if (best.empty() || scale > bestScale * kWorthARow) {
                best = rows;
                bestScale = scale;
            }
        }
        return best;
    }

    double x(double column) const { return kLeft + (m_column + column) * m_columnWidth; }

    void draw(const Group& g, double railCells)
    {
        const bool fromRail = net(g.top).isRail, full = isBetweenRails(g);
        const double top = fromRail ? m_top : m_top + kLoopDrop;
        const double cells = full && fromRail ? railCells : full ? (m_bottom - top) / kCell : cellsNeeded(m_graph, g);
        const Block block = placed(m_graph, g, cells);
        const auto y = [&](double cell) { return top + cell * kCell; };
        for (const PlacedEdge& e : block.edges)
            drawEdge(e, y(e.from), y(e.to));
        for (const PlacedWire& w : block.wires)
            if (!(net(w.net).isRail && w.cell0 == w.cell1 && (w.net == g.top || w.net == g.bottom)))
                m_drawing.scene.conductors.push_back({{{x(w.column0), y(w.cell0)}, {x(w.column1), y(w.cell1)}}, refOf(w.net), false});
        for (const PlacedNode& n : block.junctions)
            if (!(net(n.net).isRail && (n.net == g.top || n.net == g.bottom)))
                addDot({x(n.column), y(n.cell)}, n.net);
        std::map<int, int> timesNamed;
        for (const PlacedNode& n : block.ends)
            ++timesNamed[n.net];
        for (const PlacedNode& n : block.ends)
            drawEnd(g, n, {x(n.column), y(n.cell)}, timesNamed[n.net] == 1);
        m_column += block.columns;
    }

    void addDot(Point p, int n)
    {
        auto& dots = m_drawing.scene.dots;
        if (std::none_of(dots.begin(), dots.end(), [&](const Dot& d) { return d.at == p; }))
            dots.push_back({p, refOf(n)});
    }

    void drawEdge(const PlacedEdge& placedEdge, double y0, double y1)
    {
        const GraphEdge& e = m_graph.edges[at(placedEdge.edge)];
        const double cx = x(placedEdge.column);
        Symbol s;
        s.kind = e.kind;
        s.operated = e.operated;
        s.top = {cx, y0};
        s.bottom = {cx, y1};
        s.device = device(e).id;
        s.role = e.role;
        const int upper = placedEdge.isTurned ? e.b : e.a, lower = placedEdge.isTurned ? e.a : e.b;
        s.upper = m_graph.terminals[at(upper)].ref;
        s.lower = m_graph.terminals[at(lower)].ref;
        s.box = {cx - 26, y0 + 6, 64, y1 - y0 - 12};
        Scene& scene = m_drawing.scene;
        scene.symbols.push_back(s);
        scene.texts.push_back({{cx + (e.isLoad() ? 26 : 18), (y0 + y1) / 2 + 4}, device(e).tag, TextStyle::Tag, Anchor::Left});
        scene.texts.push_back({{cx + 6, y0 + 11}, s.upper.marking, TextStyle::Marking, Anchor::Left});
        scene.texts.push_back({{cx + 6, y1 - 5}, s.lower.marking, TextStyle::Marking, Anchor::Left});
        scene.pins.push_back({s.upper, {cx, y0 + 10}});
        scene.pins.push_back({s.lower, {cx, y1 - 10}});
        const int below = m_graph.netOf(lower);
        if (!isEnd(below) && m_numbered.insert(below).second)
            scene.texts.push_back({{cx - 5, y1 - 4}, net(below).name, TextStyle::WireNumber, Anchor::Right});
        m_pathOf.emplace_back(placedEdge.edge, m_firstPath + static_cast<int>(std::lround(m_column + placedEdge.column)) + 1);
        notePath(e, m_pathOf.back().second, cx);
        if (hasFoot(e))
            m_feet.push_back({placedEdge.edge, {cx - 16, m_bottom + kFoot + 16}});
    }

    void notePath(const GraphEdge& e, int number, double cx)
    {
        auto& paths = m_drawing.paths;
        const auto it = std::find_if(paths.begin(), paths.end(), [number](const DrawnPath& p) { return p.number == number; });
        if (it == paths.end())
            paths.push_back({number, device(e).id, number == m_firstPath + static_cast<int>(m_column) + 1, {cx, m_top}, m_bottom});
        else if (e.isLoad())
            it->lead = device(e).id;
    }

    /// A rail notes how far it must reach; anything else becomes a named port.
    void drawEnd(const Group& g, const PlacedNode& n, Point p, bool isOnlyOne)
    {
        const bool isMain = n.net == g.top || n.net == g.bottom;
        const bool isOnRail = n.net == g.top ? p.y == m_top : std::abs(p.y - m_bottom) < 0.01;
        if (net(n.net).isRail && isMain && isOnRail) {
            auto& reach = m_rails[{n.net == g.top ? 0 : 1, n.net}];
            if (reach.empty() || isRailBetween(n.net, n.net == g.top ? 0 : 1, reach.back().second, p.x))
                reach.emplace_back(p.x, p.x);
            reach.back().second = p.x;
            return;
        }
        if (isMain && !isEnd(n.net) && isOnlyOne)
            return; // hangs free
        Scene& scene = m_drawing.scene;
        Symbol s;
        s.kind = SymbolKind::Port;
        s.top = s.bottom = p;
        s.box = {p.x - 6, p.y - 6, 12, 12};
        std::string name = net(n.net).isRail ? net(n.net).railName : net(n.net).name;
        s.upper = s.lower = refOf(n.net);
        for (int t : net(n.net).terminals)
            if (m_graph.terminals[at(t)].isPort) {
                const GraphTerminal& terminal = m_graph.terminals[at(t)];
                name = m_graph.devices[at(terminal.device)].device->tag + ":" + terminal.ref.marking;
                s.device = terminal.ref.device;
                s.upper = s.lower = terminal.ref;
                if (m_pinned.insert(t).second) // several groups may end here: they bear the same name
                    scene.pins.push_back({terminal.ref, p});
            }
        scene.symbols.push_back(s);
        scene.texts.push_back({{p.x, n.isUpper ? p.y - 9 : p.y + 19}, name, TextStyle::Marking, Anchor::Middle});
    }

    bool isRailBetween(int n, int side, double from, double to) const
    {
        for (const auto& [key, reach] : m_rails)
            if (key.first == side && key.second != n)
                for (const auto& [a, b] : reach)
                    if (b > from && a < to)
                        return true;
        return false;
    }

    void drawRails()
    {
        Scene& s = m_drawing.scene;
        for (const auto& [key, reach] : m_rails) {
            const double y = key.first == 0 ? m_top : m_bottom;
            for (const auto& [from, to] : reach) {
                s.conductors.push_back({{{from - 18, y}, {to + 18, y}}, refOf(key.second), true});
                s.texts.push_back({{from - 18, key.first == 0 ? y - 8 : y + 16}, net(key.second).railName, TextStyle::Marking, Anchor::Left});
            }
        }
    }

    static bool hasFoot(const GraphEdge& e) { return e.kind == SymbolKind::Coil || e.kind == SymbolKind::BoxLoad; }

    void numberPaths()
    {
        for (int c = 0; c < static_cast<int>(m_column); ++c)
            m_drawing.scene.texts.push_back(
                {{kLeft + c * m_columnWidth, m_bottom + kFoot}, std::to_string(m_firstPath + c + 1), TextStyle::Note, Anchor::Middle});
        m_rails.clear();
    }

    /// Under each coil where its contacts are.
    void drawFeet()
    {
        for (const auto& [coil, where] : m_feet) {
            double y = where.y;
            for (const auto& [other, path] : m_pathOf) {
                const GraphEdge& contact = m_graph.edges[at(other)];
                if (contact.device != m_graph.edges[at(coil)].device || contact.isLoad())
                    continue;
                m_drawing.scene.texts.push_back({{where.x, y}, contact.role + " /" + std::to_string(path), TextStyle::Note, Anchor::Left});
                y += kFootLine;
            }
        }
    }

    const WiredGraph& m_graph;
    std::vector<Group> m_groups;
    ControlDrawing m_drawing;
    double m_columnWidth = kSmallestColumn, m_top = kTop, m_bottom = 0, m_column = 0;
    int m_firstPath = 0; ///< paths in the rows before
    std::vector<std::pair<int, Point>> m_feet; ///< coil, where its list begins
    std::map<std::pair<int, int>, std::vector<std::pair<double, double>>> m_rails; ///< (side, net) -> from, to
    std::set<int> m_numbered, m_pinned;
    std::vector<std::pair<int, int>> m_pathOf; ///< edge, path number
};

} // namespace

ControlDrawing controlDrawing(const WiredGraph& graph)
{
    return ControlLayout(graph).drawn();
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
