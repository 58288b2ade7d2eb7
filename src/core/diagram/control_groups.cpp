#include "core/diagram/control_groups.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace ts::diagram {
namespace {

class Grouping {
public:
    explicit Grouping(const WiredGraph& graph)
        : m_graph(graph)
    {
    }

    ControlGroups made()
    {
        findGroups();
        addLoosePorts();
        sortGroups();
        return {std::move(m_groups), std::move(m_unwired)};
    }

private:
    const GraphNet& net(int n) const { return m_graph.nets[at(n)]; }
    const Device& device(const GraphEdge& e) const { return *m_graph.devices[at(e.device)].device; }
    bool isEnd(int n) const { return net(n).isRail || hasPort(m_graph, n); }

    /// Edges that hang together without going through a rail or a device's input.
    void findGroups()
    {
        std::vector<int> edges;
        for (std::size_t i = 0; i < m_graph.edges.size(); ++i) {
            const GraphEdge& e = m_graph.edges[i];
            if (e.isPole)
                continue;
            if (isWired(m_graph, e))
                edges.push_back(static_cast<int>(i));
            else
                m_unwired.push_back(device(e).tag + " " + e.role);
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

    /// Inputs of devices on nets that no element ends on: each net by itself, so that nothing wired is left out.
    void addLoosePorts()
    {
        std::set<int> drawn;
        for (const Group& g : m_groups)
            for (int i : g.edges)
                for (int t : {m_graph.edges[at(i)].a, m_graph.edges[at(i)].b})
                    drawn.insert(m_graph.netOf(t));
        for (std::size_t n = 0; n < m_graph.nets.size(); ++n) {
            Group g;
            for (int t : m_graph.nets[n].terminals)
                if (m_graph.terminals[at(t)].isPort && m_graph.terminals[at(t)].isWired)
                    g.loose.push_back(t);
            if (g.loose.empty() || (drawn.contains(static_cast<int>(n)) && !m_graph.nets[n].isRail))
                continue;
            g.top = static_cast<int>(n);
            m_groups.push_back(std::move(g));
        }
    }

    int categoryOf(const Group& g) const
    {
        if (!g.loose.empty())
            return 5;
        int category = 3;
        for (int i : g.edges) {
            const SymbolKind kind = m_graph.edges[at(i)].kind;
            category = std::min(category,
                kind == SymbolKind::Coil          ? 0
                    : kind == SymbolKind::BoxLoad ? 1
                    : kind == SymbolKind::Lamp    ? 3
                                                  : 4);
        }
        return !net(g.top).isRail ? 2 : category;
    }

    void sortGroups()
    {
        const auto key = [&](const Group& g) {
            if (!g.loose.empty())
                return std::tuple(categoryOf(g), net(g.top).isRail ? net(g.top).order : -1, DeviceId{1 << 30}, g.top);
            const GraphEdge& first = m_graph.edges[at(g.edges.front())];
            DeviceId id = device(first).id;
            const bool hasLoad = std::any_of(
                g.edges.begin(), g.edges.end(), [&](int i) { return m_graph.edges[at(i)].isLoad(); });
            if (hasLoad)
                id = DeviceId{1 << 30};
            for (int i : g.edges)
                if (!hasLoad || m_graph.edges[at(i)].isLoad())
                    id = std::min(id, device(m_graph.edges[at(i)]).id);
            const int rail = net(g.top).isRail ? net(g.top).order : -1;
            return std::tuple(categoryOf(g), rail, id, g.edges.front());
        };
        std::stable_sort(
            m_groups.begin(), m_groups.end(), [&](const Group& a, const Group& b) { return key(a) < key(b); });
        std::vector<int> ranks;
        for (const Group& g : m_groups)
            ranks.push_back(rankOf(m_graph, g.edges));
        std::vector<Group> sorted;
        for (std::size_t k : orderByRank(ranks))
            sorted.push_back(std::move(m_groups[k]));
        m_groups = std::move(sorted);
    }

    const WiredGraph& m_graph;
    std::vector<Group> m_groups;
    std::vector<std::string> m_unwired;
};

} // namespace

ControlGroups controlGroups(const WiredGraph& graph)
{
    return Grouping(graph).made();
}

bool isWired(const WiredGraph& graph, const GraphEdge& e)
{
    const auto isShared = [&](int terminal) {
        return std::any_of(graph.edges.begin(), graph.edges.end(),
            [&](const GraphEdge& other) { return &other != &e && (other.a == terminal || other.b == terminal); });
    };
    const bool a = graph.terminals[at(e.a)].isWired, b = graph.terminals[at(e.b)].isWired;
    return (a && b) || (a && !isShared(e.a)) || (b && !isShared(e.b));
}

bool hasPort(const WiredGraph& graph, int net)
{
    const auto& terminals = graph.nets[at(net)].terminals;
    return std::any_of(terminals.begin(), terminals.end(), [&](int t) { return graph.terminals[at(t)].isPort; });
}

} // namespace ts::diagram
