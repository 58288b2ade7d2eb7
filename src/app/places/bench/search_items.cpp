#include "app/places/bench/search_items.h"

#include "app/words/words.h"
#include "core/diagram/wired_graph.h"

#include <QCoreApplication>

namespace ts::app {
namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("SearchBox", text);
}

QString text(const std::string& s)
{
    return QString::fromStdString(s);
}

} // namespace

std::vector<SearchItem> circuitItems(const Circuit& circuit, const SearchTargets& targets)
{
    std::vector<SearchItem> items;
    for (const Device& d : circuit.devices)
        items.push_back({tr("device"), text(d.tag),
            words::word("kind." + d.kind) + (d.label.empty() ? QString() : ", " + text(d.label)),
            [find = targets.find, id = d.id] {
                find({id, {}, {}});
            }});
    for (const Wire& w : circuit.wires)
        items.push_back(
            {tr("wire"), text(w.number), tr("%1 to %2").arg(text(circuit.nameOf(w.from)), text(circuit.nameOf(w.to))),
                [find = targets.find, id = w.id] {
                    find({{}, {}, id});
                }});
    const auto graph = diagram::wiredGraph(circuit);
    if (!graph)
        return items;
    for (std::size_t t = 0; t < graph->terminals.size(); ++t) {
        const diagram::GraphTerminal& terminal = graph->terminals[t];
        offers::Picked target{terminal.ref.device, {}, {}};
        for (const diagram::GraphEdge& e : graph->edges)
            if (e.a == static_cast<int>(t) || e.b == static_cast<int>(t))
                target.role = e.role;
        const QString of = target.role.empty() ? QString() : words::word("element." + target.role) + ", ";
        const QString net = terminal.isWired
            ? tr("net %1").arg(text(graph->nets[static_cast<std::size_t>(terminal.net)].name))
            : tr("free");
        items.push_back({tr("terminal"), text(circuit.nameOf(terminal.ref)), of + net,
            [find = targets.find, target] { find(target); }});
    }
    return items;
}

std::vector<SearchItem> scenarioItems(const Dossier& dossier, const SearchTargets& targets)
{
    std::vector<SearchItem> items;
    for (const Scenario& s : dossier.scenarios)
        items.push_back(
            {tr("scenario"), text(s.name), tr("play it to its end"), [play = targets.play, s] { play(s); }});
    return items;
}

std::vector<SearchItem> offerItems(
    const std::vector<offers::Offer>& offers, const QString& selected, const SearchTargets& targets)
{
    std::vector<SearchItem> items;
    for (const offers::Offer& offer : offers)
        items.push_back(
            {tr("change"), words::word("do." + offer.id), selected, [open = targets.open, offer] { open(offer); }});
    return items;
}

} // namespace ts::app
