#include "core/safety/shared_means.h"

#include "core/library/registry.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace ts::safety {
namespace {

using Kind = ChannelMeans::Kind;

/// Wires that meet: the name of each net by its smallest wire number.
class Nets {
public:
    explicit Nets(const Circuit& circuit)
        : m_places(placesOf(circuit))
        , m_sets(static_cast<int>(m_places.size()))
    {
        for (const Wire& w : circuit.wires)
            m_sets.join(placeOf(w.from), placeOf(w.to));
        for (const Wire& w : circuit.wires) {
            std::string& name = m_names[netOf(w)];
            if (name.empty() || w.number < name)
                name = w.number;
        }
    }
    int netOf(const Wire& w) { return m_sets.find(placeOf(w.from)); }
    const std::string& nameOf(const Wire& w) { return m_names[netOf(w)]; }

private:
    using Places = std::map<std::pair<int, std::string>, int>;
    static Places placesOf(const Circuit& circuit)
    {
        Places places;
        for (const Wire& w : circuit.wires)
            for (const TerminalRef& t : {w.from, w.to})
                places.emplace(std::pair{t.device.value, t.marking}, static_cast<int>(places.size()));
        return places;
    }
    int placeOf(const TerminalRef& t) const { return m_places.at({t.device.value, t.marking}); }

    Places m_places;
    network::DisjointSets m_sets;
    std::map<int, std::string> m_names;
};

} // namespace

std::vector<const Wire*> wiresOf(const Circuit& circuit, const ClaimedPart& part)
{
    std::vector<const Wire*> wires;
    const Device* device = circuit.device(part.device);
    const auto body = device ? bodyOf(circuit, *device) : Expected<Body>(Unexpected{Error{}});
    if (!body)
        return wires;
    const auto element = std::find_if(
        body->elements.begin(), body->elements.end(), [&part](const Element& e) { return e.role == part.element; });
    if (element == body->elements.end())
        return wires;
    const auto isAt = [&](const TerminalRef& t) {
        return t.device == part.device && std::any_of(element->terminals.begin(), element->terminals.end(), [&](int k) {
            return k >= 0 && body->terminals[static_cast<std::size_t>(k)].marking == t.marking;
        });
    };
    for (const Wire& w : circuit.wires)
        if (isAt(w.from) || isAt(w.to))
            wires.push_back(&w);
    return wires;
}

namespace {

/// Of main poles, an armature, a whole device: with all that moves them.
std::vector<const Wire*> wiresAround(const Circuit& circuit, const ClaimedPart& part)
{
    std::vector<const Wire*> wires = wiresOf(circuit, part);
    if (wires.empty())
        for (const Wire& w : circuit.wires)
            if (w.from.device == part.device || w.to.device == part.device)
                wires.push_back(&w);
    return wires;
}

} // namespace

std::vector<ChannelMeans> meansOfChannels(const Circuit& circuit, const ClaimedSubsystem& subsystem)
{
    if (subsystem.channels.size() != 2)
        return {};
    Nets nets(circuit);
    std::map<std::tuple<Kind, std::string, int>, ChannelMeans> all; // the number tells equal names apart
    for (std::size_t c = 0; c < 2; ++c) {
        const auto note = [&](Kind kind, const std::string& name, int number = 0) {
            if (name.empty())
                return;
            ChannelMeans& m = all[{kind, name, number}];
            m.kind = kind;
            m.name = name;
            (c == 0 ? m.isInFirst : m.isInSecond) = true;
        };
        for (const ClaimedPart& p : subsystem.channels[c].parts) {
            const Device* device = circuit.device(p.device);
            if (!device)
                continue;
            note(Kind::Device, device->tag);
            note(Kind::Part, device->part);
            note(Kind::Place, device->place);
            for (const Wire* w : wiresAround(circuit, p)) {
                if (const Route* route = circuit.route(w->route))
                    note(Kind::Route, route->name, route->id.value);
                note(Kind::Conductor, nets.nameOf(*w), nets.netOf(*w));
            }
        }
    }
    std::vector<ChannelMeans> list;
    for (auto& [key, means] : all)
        list.push_back(std::move(means));
    std::stable_partition(list.begin(), list.end(), [](const ChannelMeans& m) { return m.isShared(); });
    return list;
}

} // namespace ts::safety
