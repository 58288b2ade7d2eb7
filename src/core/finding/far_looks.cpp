#include "core/finding/far_looks.h"

#include "core/base/at.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::finding {

using namespace measuring;

namespace {

constexpr std::size_t kEnds = 4; ///< of each of what is joined
constexpr std::size_t kLargest = 8; ///< of what should be apart

class FarLooks {
public:
    FarLooks(const Plant& plant, DeadLooks& looks)
        : m_plant(plant)
        , m_looks(looks)
        , m_terminalAt(at(plant.nodeCount), -1)
    {
        for (std::size_t t = 0; t < plant.terminals.size(); ++t)
            if (!plant.terminals[t].inner && m_terminalAt[at(plant.terminals[t].node)] < 0)
                m_terminalAt[at(plant.terminals[t].node)] = static_cast<int>(t);
        for (const DeadLook& look : looks.looks)
            if (look.nodesA.size() == 1 && look.nodesB.size() == 1)
                m_known.insert({look.state, look.nodesA.front(), look.nodesB.front()});
    }

    void all()
    {
        for (std::size_t s = 0; s < m_looks.states.size(); ++s) {
            joinIn(m_looks.states[s]);
            const auto parts = partsNew();
            std::vector<int> firsts;
            for (const std::vector<int>& part : parts) {
                const auto ends = endsOf(part);
                for (std::size_t a = 0; a < ends.size(); ++a)
                    for (std::size_t b = a + 1; b < ends.size(); ++b)
                        add(s, ends[a], ends[b]);
                if (firsts.size() < kLargest && !ends.empty())
                    firsts.push_back(ends.front());
            }
            for (std::size_t a = 0; a < firsts.size(); ++a)
                for (std::size_t b = a + 1; b < firsts.size(); ++b)
                    add(s, firsts[a], firsts[b]);
        }
    }

private:
    void joinIn(const DeadState& state)
    {
        m_beside.assign(at(m_plant.nodeCount), {});
        const auto join = [&](int p, int q) {
            m_beside[at(p)].push_back(q);
            m_beside[at(q)].push_back(p);
        };
        for (std::size_t w = 0; w < m_plant.wires.size(); ++w)
            if (std::none_of(state.gone.begin(), state.gone.end(),
                    [&](const MovedWire& m) { return m.wire == static_cast<int>(w); }))
                join(m_plant.wires[w].p, m_plant.wires[w].q);
        for (const PlantLink& l : m_plant.links)
            if (l.device >= 0
                && (l.contact.mover < 0 || ((l.contact.closedAt >> state.travel[at(l.contact.mover)]) & 1u)))
                join(l.p, l.q);
    }

    /// By node, how far from any of these; -1: not joined.
    std::vector<int> distances(const std::vector<int>& from) const
    {
        std::vector<int> distance(m_beside.size(), -1), queue = from;
        for (const int n : from)
            distance[at(n)] = 0;
        for (std::size_t k = 0; k < queue.size(); ++k)
            for (const int next : m_beside[at(queue[k])])
                if (distance[at(next)] < 0) {
                    distance[at(next)] = distance[at(queue[k])] + 1;
                    queue.push_back(next);
                }
        return distance;
    }

    /// What is joined otherwise than in a state before, the largest first.
    std::vector<std::vector<int>> partsNew()
    {
        std::vector<std::vector<int>> parts;
        std::vector<std::uint8_t> isSeen(m_beside.size());
        for (int n = 0; n < m_plant.nodeCount; ++n) {
            if (isSeen[at(n)])
                continue;
            const auto distance = distances({n});
            std::vector<int> part;
            for (int k = 0; k < m_plant.nodeCount; ++k)
                if (distance[at(k)] >= 0) {
                    isSeen[at(k)] = 1;
                    if (m_terminalAt[at(k)] >= 0)
                        part.push_back(k);
                }
            if (part.size() > 1 && m_parts.insert(part).second)
                parts.push_back(std::move(part));
        }
        std::stable_sort(parts.begin(), parts.end(), [](const auto& a, const auto& b) { return a.size() > b.size(); });
        return parts;
    }

    /// The farthest from one another, one after the other.
    std::vector<int> endsOf(const std::vector<int>& part) const
    {
        std::vector<int> ends{part.front()};
        const auto farthest = [&] {
            const auto distance = distances(ends);
            return *std::max_element(
                part.begin(), part.end(), [&](int a, int b) { return distance[at(a)] < distance[at(b)]; });
        };
        ends.front() = farthest(); // the first one was any
        while (ends.size() < std::min(kEnds, part.size()))
            ends.push_back(farthest());
        return ends;
    }

    std::string nameOf(int node) const
    {
        const PlantTerminal& t = m_plant.terminals[at(m_terminalAt[at(node)])];
        return m_plant.devices[at(t.device)].tag + ":" + t.marking;
    }

    bool isAtMotor(int node) const
    {
        const PlantTerminal& t = m_plant.terminals[at(m_terminalAt[at(node)])];
        return node != 0 && !m_plant.devices[at(t.device)].motors.empty();
    }

    void add(std::size_t state, int a, int b)
    {
        if (a == b || !m_known.insert({state, a, b}).second)
            return;
        DeadLook look{state, {a}, {b}, nameOf(a), nameOf(b), Stage::Continuity, {}};
        look.isLow = isAtMotor(a) || isAtMotor(b);
        m_looks.looks.push_back(std::move(look));
    }

    const Plant& m_plant;
    DeadLooks& m_looks;
    std::vector<int> m_terminalAt; ///< by node
    std::vector<std::vector<int>> m_beside; ///< by node, in the state in hand
    std::set<std::vector<int>> m_parts;
    std::set<std::tuple<std::size_t, int, int>> m_known;
};

} // namespace

void addFarLooks(const Plant& plant, DeadLooks& looks)
{
    FarLooks(plant, looks).all();
}

bool isOneTerminal(const Plant& plant, int node)
{
    return std::count_if(plant.terminals.begin(), plant.terminals.end(), [node](const PlantTerminal& t) {
        return !t.inner && t.node == node;
    }) == 1;
}

void addEyeLooks(const Plant& plant, DeadLooks& looks)
{
    constexpr std::size_t kAtOnce = 8;
    for (std::size_t d = 0; d < plant.devices.size(); ++d) {
        DeadLook look;
        const auto done = [&] {
            if (!look.seen.empty())
                looks.looks.push_back(look);
            look = {};
        };
        for (const PlantTerminal& t : plant.terminals) {
            if (t.inner || t.device != static_cast<int>(d) || !isOneTerminal(plant, t.node))
                continue;
            look.nodesA.push_back(t.node);
            look.seen.push_back(plant.devices[d].tag + ":" + t.marking);
            if (look.seen.size() == kAtOnce)
                done();
        }
        done();
    }
}

} // namespace ts::finding
