#include "core/exploration/joined_poles.h"

#include "core/base/at.h"
#include "core/library/table.h"

#include <algorithm>
#include <map>
#include <numeric>

namespace ts::exploration {
namespace {

/// Longest arc of a contactor breaking alternating current. Source: half a period, device_defaults.csv.
TimeNs longestArc()
{
    static const TimeNs longest = timeNs(seconds(deviceDefault("contactor", "arc_time_ac").high));
    return longest;
}

/// Movers of coils that carry main poles.
std::vector<int> contactorsOf(const Plant& plant)
{
    std::vector<int> result;
    for (const PlantLink& l : plant.links)
        if (l.contact.kind == ContactKind::Main && l.contact.mover >= 0
            && plant.movers[at(l.contact.mover)].spec.driver == MoverSpec::Driver::Coil)
            result.push_back(l.contact.mover);
    std::sort(result.begin(), result.end());
    result.erase(std::unique(result.begin(), result.end()), result.end());
    return result;
}

class Sets {
public:
    explicit Sets(int count)
        : m_parent(at(count))
    {
        std::iota(m_parent.begin(), m_parent.end(), 0);
    }
    int find(int a)
    {
        while (m_parent[at(a)] != a)
            a = m_parent[at(a)] = m_parent[at(m_parent[at(a)])];
        return a;
    }
    void join(int a, int b) { m_parent[at(find(a))] = find(b); }

private:
    std::vector<int> m_parent;
};

/// True if two poles of the supply that differ are joined through contacts and wires.
template <class Closed> bool joinsPoles(const Plant& plant, const std::vector<double>& knobs, const Closed& closed)
{
    Sets sets(plant.nodeCount);
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (closed(l))
            sets.join(plant.links[l].p, plant.links[l].q);
    for (const PlantImpedance& z : plant.impedances) // a long wire
        if (z.kind == PlantImpedance::Kind::Wire)
            sets.join(z.p, z.q);
    for (const PlantVariable& v : plant.variables)
        sets.join(v.p, v.q);
    std::map<int, int> poles; // set -> the pole that is in it
    for (std::size_t s = 0; s < plant.sources.size(); ++s) {
        const PlantSource& source = plant.sources[s];
        if (source.directV != 0.0 || (source.knob >= 0 && knobs[at(source.knob)] <= 0.0))
            continue;
        for (const int node : {source.p, source.q}) {
            const auto [found, isNew] = poles.try_emplace(sets.find(node), node);
            if (!isNew && found->second != node)
                return true;
        }
    }
    return false;
}

std::vector<double> fullSupply(const Plant& plant)
{
    std::vector<double> knobs;
    for (const PlantKnob& k : plant.knobs)
        knobs.push_back(k.initial);
    return knobs;
}

} // namespace

std::vector<Opposed> opposedContactors(const Plant& plant)
{
    const std::vector<int> all = contactorsOf(plant);
    const std::vector<double> knobs = fullSupply(plant);
    const auto joinedWith = [&](std::initializer_list<int> closed) {
        return joinsPoles(plant, knobs, [&](std::size_t l) {
            const ContactElement& c = plant.links[l].contact;
            if (c.mover < 0)
                return true;
            if (std::find(closed.begin(), closed.end(), c.mover) != closed.end())
                return c.kind == ContactKind::Main;
            return c.kind == ContactKind::Pole
                || (c.kind == ContactKind::Main && plant.movers[at(c.mover)].spec.driver != MoverSpec::Driver::Coil);
        });
    };
    std::vector<Opposed> result;
    if (joinedWith({}))
        return result; // a switch by hand that cannot be all closed: nothing is known of the contactors behind it
    for (std::size_t a = 0; a < all.size(); ++a)
        for (std::size_t b = a + 1; b < all.size(); ++b) {
            bool isOpposed = joinedWith({all[a], all[b]}) && !joinedWith({all[a]}) && !joinedWith({all[b]});
            for (std::size_t c = 0; c < all.size() && !isOpposed; ++c)
                isOpposed = c != a && c != b && joinedWith({all[a], all[b], all[c]}) && !joinedWith({all[a], all[c]})
                    && !joinedWith({all[b], all[c]});
            if (isOpposed)
                result.push_back({all[a], all[b]});
        }
    return result;
}

JoinWatch::JoinWatch(const Plant& plant, const std::vector<Fault>& faults)
    : m_plant(plant)
    , m_overlay(overlayOf(plant, faults))
    , m_contactors(contactorsOf(plant))
{
}

bool JoinWatch::joins(const std::vector<std::uint8_t>& travel, const std::vector<double>& knobs) const
{
    return joinsPoles(m_plant, knobs, [&](std::size_t l) {
        if (m_overlay.link[l] != 0)
            return m_overlay.link[l] > 0;
        const ContactElement& c = m_plant.links[l].contact;
        return c.mover < 0 || ((c.closedAt >> travel[at(c.mover)]) & 1u) != 0;
    });
}

std::optional<Opposed> JoinWatch::joinedBy(std::vector<std::uint8_t> travel, const std::vector<double>& knobs) const
{
    if (!joins(travel, knobs))
        return {};
    Opposed needed;
    for (int m : m_contactors) {
        const std::uint8_t was = travel[at(m)];
        travel[at(m)] = 0;
        if (joins(travel, knobs))
            continue; // as well without it
        travel[at(m)] = was;
        needed.push_back(m);
    }
    if (needed.empty())
        return {}; // a fault alone does it
    return needed;
}

std::optional<Join> JoinWatch::read(const State& before, std::span<const Event> events, const State& after) const
{
    std::vector<std::uint8_t> travel = before.travel;
    std::vector<double> knobs = before.knobs;
    std::map<int, TimeNs> opened; // contactors whose arcs may still burn, and until when
    std::optional<Join> byArc;
    const auto isContactor = [this](int m) { return std::binary_search(m_contactors.begin(), m_contactors.end(), m); };
    const auto look = [&](TimeNs now) -> std::optional<Join> {
        if (auto found = joinedBy(travel, knobs))
            return Join{std::move(*found), now, false};
        std::vector<std::uint8_t> burning = travel;
        for (const auto& [mover, until] : opened)
            if (now < until)
                burning[at(mover)] = 2;
        if (!byArc && burning != travel)
            if (auto found = joinedBy(burning, knobs))
                byArc = Join{std::move(*found), now, true};
        return {};
    };
    for (const Event& e : events) {
        if (e.why == Why::KnobSet) {
            knobs[at(e.slot)] = e.si;
            if (auto join = look(e.at))
                return join;
        }
        if (e.why != Why::Moved)
            continue;
        travel[at(e.slot)] = static_cast<std::uint8_t>(e.to);
        if (isContactor(e.slot) && e.from == 2 && e.to < 2)
            opened[e.slot] = e.at + longestArc();
        if (!isContactor(e.slot) || e.to == 2)
            if (auto join = look(e.at))
                return join;
    }
    if (events.empty())
        if (auto join = look(after.now))
            return join;
    return byArc;
}

} // namespace ts::exploration
