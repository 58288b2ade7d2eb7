#include "core/faults/twins.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/model/decor.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace ts::faults {
namespace {

/// One end of something that joins devices and routes, seen from a thing.
struct Tie {
    int label = 0, other = 0, third = -1;
    auto operator<=>(const Tie&) const = default;
};

/// The number of a value among those that are equal to it; without an order or a hash there is no quicker way.
template <class Value> int likeness(std::vector<Value>& known, const Value& value)
{
    const auto found = std::find(known.begin(), known.end(), value);
    if (found != known.end())
        return static_cast<int>(found - known.begin());
    known.push_back(value);
    return static_cast<int>(known.size()) - 1;
}

/// Wires by what they are, with their ends: devices, then routes, are counted through.
struct WireEnds {
    int from = 0, to = 0, route = -1, likeness = 0;
    std::string fromMarking, toMarking;
    auto operator<=>(const WireEnds&) const = default;
};

class TwinFinder {
public:
    TwinFinder(const Plant& plant, const Circuit& circuit, const Cycle& cycle)
        : m_circuit(circuit)
    {
        takeDecor(m_circuit);
        std::sort(m_circuit.devices.begin(), m_circuit.devices.end(),
            [](const Device& a, const Device& b) { return a.id < b.id; });
        std::sort(
            m_circuit.wires.begin(), m_circuit.wires.end(), [](const Wire& a, const Wire& b) { return a.id < b.id; });
        TS_CHECK(m_circuit.devices.size() == plant.devices.size() && m_circuit.wires.size() == plant.wires.size());
        for (const Device& d : m_circuit.devices)
            m_placeOf[d.id] = static_cast<int>(m_placeOf.size());
        m_deviceCount = static_cast<int>(m_placeOf.size());
        readThings(markedBy(plant, cycle));
        readWires();
        readLinkages();
        refine();
    }

    std::vector<Twins> found() const
    {
        std::map<std::vector<int>, std::vector<std::vector<int>>> byColours;
        for (std::vector<int>& part : parts()) {
            std::sort(part.begin(), part.end(), [this](int a, int b) { return m_colour[at(a)] < m_colour[at(b)]; });
            std::vector<int> colours;
            colours.reserve(part.size());
            for (int thing : part)
                colours.push_back(m_colour[at(thing)]);
            if (std::adjacent_find(colours.begin(), colours.end()) == colours.end())
                byColours[colours].push_back(std::move(part));
        }
        std::vector<Twins> all;
        for (const auto& [colours, alike] : byColours)
            if (Twins twins = twinsAmong(alike); twins.ones.size() > 1)
                all.push_back(std::move(twins));
        return all;
    }

private:
    /// By device: what is done to it in the cycle, whether the function stops it, and itself where a parameter names
    /// it.
    std::vector<std::vector<std::int64_t>> markedBy(const Plant& plant, const Cycle& cycle) const
    {
        std::vector<std::vector<std::int64_t>> marks(plant.devices.size());
        for (const Stimulus& s : cycle.stimuli)
            if (s.kind == Stimulus::Kind::Drive) {
                const PlantMover& mover = plant.movers[at(s.slot)];
                const auto& own = plant.devices[at(mover.device)].movers;
                const auto place = std::find(own.begin(), own.end(), s.slot) - own.begin();
                for (std::int64_t word :
                    {std::int64_t{s.at}, std::int64_t{place}, std::int64_t{s.target}, std::int64_t{s.letGo}})
                    marks[at(mover.device)].push_back(word);
            }
        for (int m : cycle.motors)
            marks[at(plant.actuators[at(m)].device)].push_back(-1);
        for (const PlantSource& s : plant.sources) // what happens to supplies is not read any closer
            marks[at(s.device)].assign(1, -2 - s.device);
        std::set<std::string, std::less<>> named;
        for (const Device& d : m_circuit.devices)
            for (const auto& [name, value] : d.parameters) {
                if (const auto* word = std::get_if<std::string>(&value))
                    named.insert(*word);
                if (const auto* words = std::get_if<std::vector<std::string>>(&value))
                    named.insert(words->begin(), words->end());
            }
        for (std::size_t d = 0; d < marks.size(); ++d)
            if (named.contains(plant.devices[d].tag))
                marks[d].assign(1, -2 - static_cast<std::int64_t>(d));
        return marks;
    }

    void readThings(const std::vector<std::vector<std::int64_t>>& marks)
    {
        std::vector<Device> devices;
        std::vector<std::vector<std::int64_t>> known;
        std::map<std::pair<int, int>, int> colours;
        for (std::size_t d = 0; d < m_circuit.devices.size(); ++d) {
            Device value = m_circuit.devices[d];
            value.id = {};
            value.tag.clear();
            const std::pair<int, int> colour{likeness(devices, value), likeness(known, marks[d])};
            m_colour.push_back(colours.try_emplace(colour, static_cast<int>(colours.size())).first->second);
        }
        std::vector<Route> routes;
        for (const Route& r : m_circuit.routes) {
            Route value = r;
            value.id = {};
            value.name.clear();
            m_routeOf[r.id] = static_cast<int>(m_colour.size());
            m_colour.push_back(static_cast<int>(m_circuit.devices.size()) + likeness(routes, value));
        }
        m_ties.resize(m_colour.size());
    }

    template <class... Words> int labelOf(const Words&... words)
    {
        const std::vector<std::string> all{words...};
        return m_labels.try_emplace(all, static_cast<int>(m_labels.size())).first->second;
    }

    void readWires()
    {
        std::vector<Wire> values;
        for (const Wire& w : m_circuit.wires) {
            Wire value = w;
            value.id = {};
            value.number.clear();
            value.from = value.to = {};
            value.route = {};
            const auto route = m_routeOf.find(w.route);
            const WireEnds ends{m_placeOf.at(w.from.device), m_placeOf.at(w.to.device),
                route == m_routeOf.end() ? -1 : route->second, likeness(values, value), w.from.marking, w.to.marking};
            const std::string kind = std::to_string(ends.likeness);
            m_ties[at(ends.from)].push_back(
                {labelOf("from", ends.fromMarking, ends.toMarking, kind), ends.to, ends.route});
            m_ties[at(ends.to)].push_back(
                {labelOf("to", ends.fromMarking, ends.toMarking, kind), ends.from, ends.route});
            if (ends.route >= 0)
                m_ties[at(ends.route)].push_back(
                    {labelOf("along", ends.fromMarking, ends.toMarking, kind), ends.from, ends.to});
            m_wires.push_back(ends);
        }
    }

    void readLinkages()
    {
        const auto tie = [&](const char* one, int a, const char* other, int b) {
            m_ties[at(a)].push_back({labelOf(one), b, -1});
            m_ties[at(b)].push_back({labelOf(other), a, -1});
            m_linkages.emplace(one, a, b);
        };
        for (const MechanicalInterlock& i : m_circuit.interlocks) {
            const auto [a, b] = std::minmax(m_placeOf.at(i.first), m_placeOf.at(i.second));
            tie("interlock", a, "interlock", b);
        }
        for (const Shaft& s : m_circuit.shafts)
            tie("brake", m_placeOf.at(s.brake), "motor", m_placeOf.at(s.motor));
    }

    /// Things are told apart by what they are tied to, until that tells no more of them apart.
    void refine()
    {
        for (std::size_t before = 0, now = 1; now != before;) {
            std::map<std::pair<int, std::vector<Tie>>, int> colours;
            std::vector<int> next;
            for (std::size_t thing = 0; thing < m_colour.size(); ++thing) {
                std::vector<Tie> seen = m_ties[thing];
                for (Tie& t : seen) {
                    t.other = m_colour[at(t.other)];
                    t.third = t.third < 0 ? -1 : m_colour[at(t.third)];
                }
                std::sort(seen.begin(), seen.end());
                next.push_back(colours.try_emplace({m_colour[thing], std::move(seen)}, static_cast<int>(colours.size()))
                                   .first->second);
            }
            m_colour = std::move(next);
            before = now;
            now = colours.size();
        }
    }

    /// What hangs together without what is there only once.
    std::vector<std::vector<int>> parts() const
    {
        std::map<int, int> count;
        for (int colour : m_colour)
            ++count[colour];
        const auto isOnce = [&](int thing) { return count.at(m_colour[at(thing)]) == 1; };
        network::DisjointSets sets(static_cast<int>(m_colour.size()));
        for (std::size_t thing = 0; thing < m_ties.size(); ++thing)
            for (const Tie& t : m_ties[thing])
                for (int other : {t.other, t.third})
                    if (other >= 0 && !isOnce(static_cast<int>(thing)) && !isOnce(other))
                        sets.join(static_cast<int>(thing), other);
        std::map<int, std::vector<int>> byRoot;
        for (int thing = 0; thing < static_cast<int>(m_colour.size()); ++thing)
            if (!isOnce(thing))
                byRoot[sets.find(thing)].push_back(thing);
        std::vector<std::vector<int>> parts;
        parts.reserve(byRoot.size());
        for (auto& [root, part] : byRoot)
            parts.push_back(std::move(part));
        return parts;
    }

    /// Those that can be exchanged with the first one.
    Twins twinsAmong(const std::vector<std::vector<int>>& alike) const
    {
        Twins twins;
        for (const std::vector<int>& part : alike) {
            const auto wires = exchanged(alike.front(), part);
            if (!wires)
                continue;
            Twins::One one;
            for (int thing : part)
                if (thing < m_deviceCount)
                    one.devices.push_back(thing);
            one.wires = *wires;
            twins.ones.push_back(std::move(one));
        }
        if (twins.ones.front().devices.empty()) // routes in which nothing of theirs lies
            return {};
        return twins;
    }

    /// The second one's wires in the order of the first one's; none if the circuit is not the same afterwards.
    std::optional<std::vector<int>> exchanged(const std::vector<int>& first, const std::vector<int>& second) const
    {
        if (first == second)
            return wiresOf(first);
        std::vector<int> takes(m_colour.size());
        for (std::size_t thing = 0; thing < takes.size(); ++thing)
            takes[thing] = static_cast<int>(thing);
        for (std::size_t k = 0; k < first.size(); ++k) {
            takes[at(first[k])] = second[k];
            takes[at(second[k])] = first[k];
        }
        const auto touches = [&](const WireEnds& w) { return takes[at(w.from)] != w.from || takes[at(w.to)] != w.to; };
        std::map<WireEnds, std::vector<int>> before, after;
        for (std::size_t w = 0; w < m_wires.size(); ++w) {
            WireEnds ends = m_wires[w];
            if (!touches(ends) && (ends.route < 0 || takes[at(ends.route)] == ends.route))
                continue;
            before[ends].push_back(static_cast<int>(w));
            ends.from = takes[at(ends.from)];
            ends.to = takes[at(ends.to)];
            ends.route = ends.route < 0 ? -1 : takes[at(ends.route)];
            after[ends].push_back(static_cast<int>(w));
        }
        std::set<std::tuple<std::string, int, int>> linkages;
        for (const auto& [word, a, b] : m_linkages) {
            const int one = takes[at(a)], other = takes[at(b)];
            const bool isTurned = word == "interlock" && other < one;
            linkages.emplace(word, isTurned ? other : one, isTurned ? one : other);
        }
        if (linkages != m_linkages || before.size() != after.size())
            return {};
        std::map<int, int> wireOf; // of the first one -> of the second
        for (const auto& [ends, wires] : before) {
            const auto same = after.find(ends);
            if (same == after.end() || same->second.size() != wires.size())
                return {};
            for (std::size_t k = 0; k < wires.size(); ++k)
                wireOf[same->second[k]] = wires[k];
        }
        std::vector<int> wires;
        for (int own : wiresOf(first))
            wires.push_back(wireOf.at(own));
        return wires;
    }

    /// With an end at one of the things.
    std::vector<int> wiresOf(const std::vector<int>& things) const
    {
        const std::set<int> ends(things.begin(), things.end());
        std::vector<int> wires;
        for (std::size_t w = 0; w < m_wires.size(); ++w)
            if (ends.contains(m_wires[w].from) || ends.contains(m_wires[w].to))
                wires.push_back(static_cast<int>(w));
        return wires;
    }

    Circuit m_circuit; ///< without decor, devices and wires as the plant counts them
    std::map<DeviceId, int> m_placeOf;
    std::map<RouteId, int> m_routeOf; ///< counted behind the devices
    int m_deviceCount = 0;
    std::vector<int> m_colour; ///< by thing: equal where nothing tells two apart
    std::vector<std::vector<Tie>> m_ties; ///< by thing
    std::vector<WireEnds> m_wires;
    std::set<std::tuple<std::string, int, int>> m_linkages;
    std::map<std::vector<std::string>, int> m_labels;
};

} // namespace

std::vector<Twins> twinsOf(const Plant& plant, const Circuit& circuit, const Cycle& cycle)
{
    return TwinFinder(plant, circuit, cycle).found();
}

} // namespace ts::faults
