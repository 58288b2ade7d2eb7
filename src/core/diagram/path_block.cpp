#include "core/diagram/path_block.h"

#include <algorithm>
#include <deque>
#include <map>
#include <set>

namespace ts::diagram {
namespace {

constexpr double kNamedEnd = 0.6; ///< cells between a rail and an end with a name

constexpr double kClearOfRail = 0.5; ///< a net that ends above the bottom keeps this away from it

struct Size {
    double columns = 1, cells = 1;
};

bool hasLoad(const WiredGraph& g, const Group& group, const Tree& t)
{
    if (t.kind == Tree::Kind::Leaf)
        return g.edges[static_cast<std::size_t>(group.edges[static_cast<std::size_t>(t.edge)])].isLoad();
    return std::any_of(t.children.begin(), t.children.end(), [&](const Tree& c) { return hasLoad(g, group, c); });
}

Size sizeOf(const Tree& t)
{
    if (t.kind == Tree::Kind::Leaf)
        return {};
    Size s{0, 0};
    for (const Tree& c : t.children) {
        const Size part = sizeOf(c);
        if (t.kind == Tree::Kind::Series) {
            s.columns = std::max(s.columns, part.columns);
            s.cells += part.cells;
        } else {
            s.columns += part.columns;
            s.cells = std::max(s.cells, part.cells);
        }
    }
    return s;
}

class BlockLayout {
public:
    BlockLayout(const WiredGraph& graph, const Group& group)
        : m_graph(graph)
        , m_group(group)
    {
        std::vector<PlainEdge> plain;
        for (std::size_t i = 0; i < group.edges.size(); ++i) {
            const GraphEdge& e = graph.edges[static_cast<std::size_t>(group.edges[i])];
            plain.push_back({static_cast<int>(i), graph.netOf(e.a), graph.netOf(e.b)});
        }
        std::vector<int> keep = group.ports;
        keep.push_back(group.top);
        keep.push_back(group.bottom);
        m_trees = seriesParallel(plain, keep);
        orderVertices();
        m_block.cells = m_needed;
        drawWithBars();
        const auto isShorted = [](const Tree& t) { return t.from == t.to; };
        m_isSideBySide = std::any_of(m_trees.begin(), m_trees.end(), isShorted) || !isClean();
        if (m_isSideBySide) {
            m_needed = 0;
            for (const Tree& t : m_trees)
                m_needed = std::max(m_needed,
                    sizeOf(t).cells + kNamedEnd * (t.from != m_group.top) + kNamedEnd * (t.to != m_group.bottom));
        }
    }

    double needed() const { return m_needed; }

    Block block(double cells)
    {
        m_block = {};
        m_block.cells = std::max(cells, m_needed);
        m_isSideBySide ? drawSideBySide() : drawWithBars();
        return std::move(m_block);
    }

private:
    void drawWithBars()
    {
        m_taken.clear();
        m_columnOf.clear();
        m_reached.clear();
        if (m_group.bottom >= 0)
            m_level[m_group.bottom] = m_block.cells;
        for (const Tree& t : m_trees)
            takeColumn(t);
        drawBars();
    }

    /// Hops from a net over the trees; nets that cannot be reached are missing.
    std::map<int, int> hopsFrom(int start) const
    {
        std::map<int, int> hops;
        if (start < 0)
            return hops;
        hops[start] = 0;
        std::deque<int> queue{start};
        while (!queue.empty()) {
            const int net = queue.front();
            queue.pop_front();
            if (net != start && (net == m_group.top || net == m_group.bottom))
                continue; // a path does not go on through an end
            for (const Tree& t : m_trees)
                for (const auto& [a, b] : {std::pair{t.from, t.to}, {t.to, t.from}})
                    if (a == net && !hops.contains(b)) {
                        hops[b] = hops[net] + 1;
                        queue.push_back(b);
                    }
        }
        return hops;
    }

    /// Puts the nets in an order from top to bottom, turns every tree that way, and gives each net its level.
    void orderVertices()
    {
        const auto fromTop = hopsFrom(m_group.top), fromBottom = hopsFrom(m_group.bottom);
        std::set<int> nets;
        for (const Tree& t : m_trees)
            nets.insert({t.from, t.to});
        const auto potential = [&](int net) {
            if (net == m_group.top)
                return -1.0;
            if (net == m_group.bottom)
                return 1e9;
            const auto d = fromTop.find(net), b = fromBottom.find(net);
            if (d == fromTop.end())
                return 1e6; // reached from below only
            return b == fromBottom.end() ? 1e3 + d->second : static_cast<double>(d->second) / (d->second + b->second);
        };
        // What hangs on one net only stands just below it.
        std::map<int, double> height;
        for (int net : nets)
            height[net] = potential(net);
        const auto hanging = hangingNets(nets);
        for (auto it = hanging.rbegin(); it != hanging.rend(); ++it)
            height[it->first] = height[it->second] + 1e-6;
        m_order.assign(nets.begin(), nets.end());
        std::stable_sort(m_order.begin(), m_order.end(), [&](int a, int b) { return height[a] < height[b]; });
        const auto rank = [&](int net) { return std::find(m_order.begin(), m_order.end(), net) - m_order.begin(); };
        for (Tree& t : m_trees)
            if (rank(t.from) > rank(t.to))
                t = t.reversed();
        std::stable_sort(
            m_trees.begin(), m_trees.end(), [&](const Tree& a, const Tree& b) { return rank(a.from) < rank(b.from); });
        for (int net : m_order)
            m_level[net] = 0.0;
        for (int net : m_order)
            for (const Tree& t : m_trees)
                if (t.from == net)
                    m_level[t.to] = std::max(m_level[t.to], m_level[net] + sizeOf(t).cells);
        for (const auto& [net, level] : m_level)
            m_needed = std::max(m_needed, level + (net == m_group.bottom || m_group.bottom < 0 ? 0.0 : kClearOfRail));
    }

    /// Dead ends and what they hang on, outermost first.
    std::vector<std::pair<int, int>> hangingNets(const std::set<int>& nets) const
    {
        std::vector<std::pair<int, int>> hanging;
        std::vector<bool> gone(m_trees.size(), false);
        const auto isKept = [this](int net) {
            return net == m_group.top || net == m_group.bottom
                || std::find(m_group.ports.begin(), m_group.ports.end(), net) != m_group.ports.end();
        };
        for (bool again = true; again;) {
            again = false;
            for (int net : nets) {
                std::vector<std::size_t> at;
                for (std::size_t i = 0; i < m_trees.size(); ++i)
                    if (!gone[i] && (m_trees[i].from == net || m_trees[i].to == net))
                        at.push_back(i);
                if (isKept(net) || at.size() != 1)
                    continue;
                gone[at.front()] = again = true;
                hanging.emplace_back(
                    net, m_trees[at.front()].from == net ? m_trees[at.front()].to : m_trees[at.front()].from);
            }
        }
        return hanging;
    }

    bool isFree(double column, double width, double from, double to) const
    {
        return std::none_of(m_taken.begin(), m_taken.end(), [&](const Box& b) {
            return b.overlaps({column, from, width, to - from});
        });
    }

    void takeColumn(const Tree& t)
    {
        const double from = m_level[t.from], to = m_level[t.to];
        const Size size = sizeOf(t);
        const auto known = m_columnOf.find(t.from);
        double column = known == m_columnOf.end() ? 0.0 : known->second;
        while (!isFree(column, size.columns, from, to))
            column += 1.0;
        m_taken.push_back({column, from, size.columns, to - from});
        m_columnOf.emplace(t.from, column);
        m_columnOf.emplace(t.to, column);
        m_reached[t.from].push_back(column);
        m_reached[t.to].push_back(column);
        m_block.columns = std::max(m_block.columns, column + size.columns);
        place(t, column, from, to);
    }

    void place(const Tree& t, double column, double from, double to)
    {
        switch (t.kind) {
        case Tree::Kind::Leaf:
            placeLeaf(t, column, from, to);
            break;
        case Tree::Kind::Series:
            placeSeries(t, column, from, to);
            break;
        case Tree::Kind::Parallel:
            placeParallel(t, column, from, to);
            break;
        }
    }

    void placeLeaf(const Tree& t, double column, double from, double to)
    {
        const int edge = m_group.edges[static_cast<std::size_t>(t.edge)];
        const GraphEdge& e = m_graph.edges[static_cast<std::size_t>(edge)];
        const bool turned = m_graph.netOf(e.a) != t.from;
        if (e.isLoad()) { // loads stand on one line at the bottom
            if (to - 1.0 > from)
                m_block.wires.push_back({t.from, column, from, column, to - 1.0});
            m_block.edges.push_back({edge, turned, column, to - 1.0, to});
        } else {
            m_block.edges.push_back({edge, turned, column, from, from + 1.0});
            if (to > from + 1.0)
                m_block.wires.push_back({t.to, column, from + 1.0, column, to});
        }
    }

    void placeSeries(const Tree& t, double column, double from, double to)
    {
        double slack = to - from - sizeOf(t).cells;
        double y = from;
        for (std::size_t i = 0; i < t.children.size(); ++i) {
            const Tree& c = t.children[i];
            double end = y + sizeOf(c).cells;
            if (slack > 0 && (hasLoad(m_graph, m_group, c) || i + 1 == t.children.size())) {
                end += slack;
                slack = 0;
            }
            place(c, column, y, end);
            if (i + 1 < t.children.size())
                markJunction(c.to, column, end,
                    t.children[i].kind == Tree::Kind::Parallel || t.children[i + 1].kind == Tree::Kind::Parallel);
            y = end;
        }
    }

    void markJunction(int net, double column, double cell, bool joins)
    {
        if (joins)
            m_block.junctions.push_back({net, column, cell});
    }

    void placeParallel(const Tree& t, double column, double from, double to)
    {
        double x = column;
        std::vector<double> columns;
        std::vector<int> ranks;
        for (const Tree& c : t.children) {
            std::vector<int> edges;
            collect(c, edges);
            ranks.push_back(hasLoad(m_graph, m_group, c) ? rankOf(m_graph, edges) : 0);
        }
        for (std::size_t k : orderByRank(ranks)) {
            const Tree& c = t.children[k];
            place(c, x, from, to);
            columns.push_back(x);
            x += sizeOf(c).columns;
        }
        for (const auto& [net, cell] : {std::pair{t.from, from}, {t.to, to}}) {
            m_block.wires.push_back({net, columns.front(), cell, columns.back(), cell});
            for (std::size_t i = 1; i + 1 < columns.size(); ++i)
                m_block.junctions.push_back({net, columns[i], cell});
        }
    }

    void collect(const Tree& t, std::vector<int>& edges) const
    {
        if (t.kind == Tree::Kind::Leaf)
            edges.push_back(m_group.edges[static_cast<std::size_t>(t.edge)]);
        for (const Tree& c : t.children)
            collect(c, edges);
    }

    /// The nets of the core as horizontal bars from their leftmost to their rightmost tree.
    void drawBars()
    {
        for (auto& [net, columns] : m_reached) {
            std::sort(columns.begin(), columns.end());
            columns.erase(std::unique(columns.begin(), columns.end()), columns.end());
            const double cell = m_level[net];
            const bool isEnd = net == m_group.top || net == m_group.bottom;
            if (columns.size() > 1)
                m_block.wires.push_back({net, columns.front(), cell, columns.back(), cell});
            if (!isEnd)
                for (double c : columns)
                    m_block.junctions.push_back({net, c, cell});
            for (double c : columns)
                if (isEnd
                    || (c == columns.front()
                        && std::find(m_group.ports.begin(), m_group.ports.end(), net) != m_group.ports.end()))
                    m_block.ends.push_back({net, c, cell, net == m_group.top});
        }
    }

    /// No bar runs over a symbol, or over the end of a conductor of another net.
    bool isClean() const
    {
        for (const PlacedWire& bar : m_block.wires) {
            if (bar.cell0 != bar.cell1 || bar.column0 == bar.column1)
                continue;
            const auto isUnder = [&bar](double column) { return column >= bar.column0 && column <= bar.column1; };
            for (const PlacedEdge& e : m_block.edges) {
                const GraphEdge& edge = m_graph.edges[static_cast<std::size_t>(e.edge)];
                const int upper = m_graph.netOf(e.isTurned ? edge.b : edge.a),
                          lower = m_graph.netOf(e.isTurned ? edge.a : edge.b);
                const bool crosses = e.from < bar.cell0 && bar.cell0 < e.to;
                const bool touches = (e.from == bar.cell0 && upper != bar.net)
                    || (e.to == bar.cell0 && lower != bar.net);
                if (isUnder(e.column) && (crosses || touches))
                    return false;
            }
            for (const PlacedWire& w : m_block.wires) {
                const bool isVertical = w.column0 == w.column1;
                const bool ends = isVertical
                    ? isUnder(w.column0) && (w.cell0 == bar.cell0 || w.cell1 == bar.cell0)
                    : w.cell0 == bar.cell0 && w.column0 <= bar.column1 && bar.column0 <= w.column1;
                if (w.net != bar.net && ends)
                    return false;
            }
        }
        return true;
    }

    /// Every tree by itself, its ends named: always right, whatever is wired.
    void drawSideBySide()
    {
        const double cells = m_block.cells;
        m_block = {};
        m_block.cells = cells;
        for (const Tree& t : m_trees) {
            const Size size = sizeOf(t);
            const bool hangs = t.from == m_group.top, stands = t.to == m_group.bottom;
            const double from = hangs ? 0.0 : stands ? cells - size.cells : kNamedEnd;
            const double to = stands ? cells : from + size.cells;
            place(t, m_block.columns, from, to);
            m_block.ends.push_back({t.from, m_block.columns, from, true});
            m_block.ends.push_back({t.to, m_block.columns, to, false});
            m_block.columns += size.columns;
        }
    }

    const WiredGraph& m_graph;
    const Group& m_group;
    std::vector<Tree> m_trees;
    std::vector<int> m_order;
    std::map<int, double> m_level, m_columnOf;
    std::map<int, std::vector<double>> m_reached;
    std::vector<Box> m_taken;
    double m_needed = 1;
    bool m_isSideBySide = false;
    Block m_block;
};

} // namespace

int rankOf(const WiredGraph& graph, const std::vector<int>& edges)
{
    const bool anyLoad = std::any_of(
        edges.begin(), edges.end(), [&](int i) { return graph.edges[static_cast<std::size_t>(i)].isLoad(); });
    int lowest = 0;
    for (int i : edges) {
        const GraphEdge& e = graph.edges[static_cast<std::size_t>(i)];
        const int rank = graph.devices[static_cast<std::size_t>(e.device)].device->rank;
        if (rank > 0 && (e.isLoad() || !anyLoad) && (lowest == 0 || rank < lowest))
            lowest = rank;
    }
    return lowest;
}

std::vector<std::size_t> orderByRank(const std::vector<int>& ranks)
{
    std::vector<std::pair<int, std::size_t>> keyed;
    int last = 0;
    for (std::size_t k = 0; k < ranks.size(); ++k) {
        last = ranks[k] > 0 ? ranks[k] : last;
        keyed.emplace_back(last, k);
    }
    std::stable_sort(keyed.begin(), keyed.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<std::size_t> order;
    for (const auto& [rank, k] : keyed)
        order.push_back(k);
    return order;
}

double cellsNeeded(const WiredGraph& graph, const Group& group)
{
    return BlockLayout(graph, group).needed();
}

Block placed(const WiredGraph& graph, const Group& group, double cells)
{
    return BlockLayout(graph, group).block(cells);
}

} // namespace ts::diagram
