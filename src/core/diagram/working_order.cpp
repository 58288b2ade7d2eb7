#include "core/diagram/working_order.h"

#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"

#include <algorithm>
#include <deque>
#include <limits>
#include <map>
#include <set>
#include <tuple>

namespace ts::diagram {
namespace {

constexpr int kNowhere = std::numeric_limits<int>::max();

std::map<TerminalRef, int> placesIn(const Scene& scene)
{
    std::map<TerminalRef, int> places;
    for (std::size_t k = 0; k < scene.pins.size(); ++k)
        places.emplace(scene.pins[k].first, static_cast<int>(k));
    return places;
}

bool isShown(const GraphEdge& e)
{
    return e.kind == SymbolKind::Lamp || e.kind == SymbolKind::Horn;
}

/// Terminals of lamps, horns, and of contacts that nothing else hangs on.
std::set<TerminalRef> indicating(const WiredGraph& graph)
{
    const auto isRail = [&](int net) { return graph.nets[static_cast<std::size_t>(net)].isRail; };
    const auto onlyShown = [&](int start) { // what hangs together with a net over contacts, rails left out
        std::set<int> seen{start};
        std::deque<int> queue{start};
        bool any = false;
        while (!queue.empty()) {
            const int net = queue.front();
            queue.pop_front();
            for (const GraphEdge& e : graph.edges) {
                const int a = graph.netOf(e.a), b = graph.netOf(e.b);
                if (e.isPole || (a != net && b != net))
                    continue;
                if (e.isLoad() && !isShown(e))
                    return false;
                any |= isShown(e);
                const int other = a == net ? b : a;
                if (!e.isLoad() && !isRail(other) && seen.insert(other).second)
                    queue.push_back(other);
            }
        }
        return any;
    };
    std::set<TerminalRef> found;
    for (const GraphEdge& e : graph.edges) {
        if (e.isPole)
            continue;
        const int a = graph.netOf(e.a), b = graph.netOf(e.b);
        const bool shows = isShown(e)
            || (!e.isLoad() && ((!isRail(a) && onlyShown(a)) || (!isRail(b) && onlyShown(b))));
        if (shows)
            for (int t : {e.a, e.b})
                found.insert(graph.terminals[static_cast<std::size_t>(t)].ref);
    }
    return found;
}

} // namespace

std::vector<WorkStep> workingOrder(const Circuit& circuit, const WiredGraph& graph)
{
    const auto power = placesIn(powerDrawing(graph)), control = placesIn(controlDrawing(graph).scene);
    const auto shown = indicating(graph);
    const auto place = [](const std::map<TerminalRef, int>& places, const TerminalRef& t) {
        const auto it = places.find(t);
        return it == places.end() ? kNowhere : it->second;
    };
    struct Keyed {
        std::tuple<WorkSection, int, int, int> key;
        WorkStep step;
    };
    std::vector<Keyed> all;
    for (const Wire& w : circuit.wires) {
        const bool isControl = control.contains(w.from) || control.contains(w.to);
        const WorkSection section = !isControl               ? WorkSection::Power
            : shown.contains(w.from) || shown.contains(w.to) ? WorkSection::Indication
                                                             : WorkSection::Control;
        const auto& places = isControl ? control : power;
        const int a = place(places, w.from), b = place(places, w.to);
        all.push_back({{section, std::min(a, b), std::max(a, b), w.id.value}, {w.id, section}});
    }
    std::sort(all.begin(), all.end(), [](const Keyed& x, const Keyed& y) { return x.key < y.key; });
    std::vector<WorkStep> steps;
    for (const Keyed& k : all)
        steps.push_back(k.step);
    return steps;
}

} // namespace ts::diagram
