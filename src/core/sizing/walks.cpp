// The way of the current from where power comes in to each motor, and to the coil that has the least voltage while it
// pulls in: read from the runs, so that what is in no way of it is not on it.

#include "core/base/at.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kMine = 0.5; ///< of a coil's current: less is another's
constexpr double kMeantToPull = 0.3; ///< of its rated voltage

/// A closed contact or a wire.
struct Edge {
    int p, q, device, wire; ///< device: slot, or -1 and a wire slot
    int link, impedance;
};

class Walker {
public:
    explicit Walker(Judge& judge)
        : m_judge(judge)
        , m_plant(judge.plant)
    {
        for (std::size_t l = 0; l < m_plant.links.size(); ++l)
            add({m_plant.links[l].p, m_plant.links[l].q, m_plant.links[l].device, m_plant.links[l].wire,
                static_cast<int>(l), -1});
        for (std::size_t i = 0; i < m_plant.impedances.size(); ++i)
            if (const PlantImpedance& z = m_plant.impedances[i]; z.kind == PlantImpedance::Kind::Wire)
                add({z.p, z.q, -1, z.wire, -1, static_cast<int>(i)});
        for (const PlantSource& s : m_plant.sources)
            m_from.insert({s.p, s.q});
        for (const PlantTransformer& t : m_plant.transformers)
            m_from.insert({t.s1, t.s2});
        for (const PlantConverter* c : m_plant.supplies())
            m_from.insert({c->plus, c->minus});
    }

    std::vector<Walk> walks()
    {
        std::vector<Walk> all;
        for (const RunningLoad& r : m_judge.loads.running) {
            if (!r.isFedByDrive && r.lineA > 0)
                if (Walk w = power(r); !w.stations.empty())
                    all.push_back(std::move(w));
            if (r.pulling)
                if (Walk w = control(r); !w.stations.empty())
                    all.push_back(std::move(w));
        }
        std::stable_sort(all.begin(), all.end(), [](const Walk& a, const Walk& b) { return a.motor < b.motor; });
        return all;
    }

private:
    void add(const Edge& e)
    {
        m_at[e.p].push_back(m_edges.size());
        m_at[e.q].push_back(m_edges.size());
        m_edges.push_back(e);
    }

    double through(const Edge& e, const Frame& frame) const
    {
        return e.link >= 0 ? frame.links[at(e.link)].rmsA() : frame.impedancesA[at(e.impedance)];
    }

    /// From the node back to where power comes in, over what carries so much; in the order of the current.
    std::vector<std::size_t> wayTo(int node, const Frame& frame, double leastA) const
    {
        std::map<int, std::size_t> by; // the edge by which a node was met
        std::vector<int> open{node};
        std::set<int> met{node};
        for (std::size_t k = 0; k < open.size(); ++k) {
            const int here = open[k];
            if (here != node && m_from.contains(here))
                return traced(here, node, by);
            const auto edges = m_at.find(here);
            for (std::size_t e : edges == m_at.end() ? std::vector<std::size_t>{} : edges->second) {
                const int next = m_edges[e].p == here ? m_edges[e].q : m_edges[e].p;
                if (next == 0 || through(m_edges[e], frame) < leastA || !met.insert(next).second)
                    continue;
                by[next] = e;
                open.push_back(next);
            }
        }
        return {};
    }

    std::vector<std::size_t> traced(int from, int to, const std::map<int, std::size_t>& by) const
    {
        std::vector<std::size_t> way;
        while (from != to) {
            const std::size_t e = by.at(from);
            way.push_back(e);
            from = m_edges[e].p == from ? m_edges[e].q : m_edges[e].p;
        }
        return way;
    }

    Station station(const Edge& e) const
    {
        Station s;
        if (e.device >= 0)
            s.device = m_judge.deviceOf(e.device).id;
        else
            s.wire = m_plant.wires[at(e.wire)].id;
        return s;
    }

    /// With its terminals joined, before anything opens; of six terminals each three.
    std::vector<Frame> shorted(const RunningLoad& r) const
    {
        std::vector<Frame> frames;
        const PlantMotor& motor = m_plant.motors[r.slot];
        for (std::size_t first = 0; first < (motor.data.sixTerminal ? 6u : 3u); first += 3) {
            const auto node = [&](std::size_t k) { return motor.nodes[first + k]; };
            const std::array joined{
                Fault{FaultMode::Short, node(0), node(1)}, Fault{FaultMode::Short, node(1), node(2)}};
            if (auto frame = frameWith(m_plant, r.state, joined))
                frames.push_back(std::move(*frame));
        }
        return frames;
    }

    /// How many times the running current a fuse on the way sees at the start; 0: not known.
    double startTimes(const RunningLoad& r) const
    {
        double times = 0;
        for (const auto& [link, start] : r.starts) {
            const double runs = r.frame.links[at(link)].rmsA();
            if (runs >= kCarries * r.lineA)
                times = std::max(times, start.largestA / runs);
        }
        return times;
    }

    Walk power(const RunningLoad& r)
    {
        Walk w{r.motor, r.motor, false, 0, 0, r.said, {}};
        const PlantMotor& motor = m_plant.motors[r.slot];
        const auto p = m_judge.parameters(r.motor);
        w.ratedV = p ? p->number("voltage_v") : 0.0;
        const auto volt = [&](std::size_t k) { return r.frame.nodes[at(motor.nodes[k])].alternatingV; };
        w.volts = std::abs(volt(0) - volt(1));
        const double times = startTimes(r);
        const auto ends = shorted(r);
        for (std::size_t k = 0; k < (motor.data.sixTerminal ? 6u : 3u); ++k) {
            std::size_t place = 0; // of one terminal after the other: what is new goes where it comes on that way
            for (std::size_t e : wayTo(motor.nodes[k], r.frame, kCarries * r.lineA)) {
                Station s = station(m_edges[e]);
                const auto same = std::find_if(w.stations.begin(), w.stations.end(),
                    [&s](const Station& o) { return o.device == s.device && o.wire == s.wire; });
                if (same != w.stations.end()) {
                    place = static_cast<std::size_t>(same - w.stations.begin()) + 1;
                    continue;
                }
                const double runs = through(m_edges[e], r.frame);
                s.runA = r.ratedA > 0 ? runs / r.lineA * r.ratedA : runs;
                s.startA = times * runs;
                for (const Frame& end : ends)
                    s.shortA = std::max(s.shortA, through(m_edges[e], end));
                w.stations.insert(w.stations.begin() + static_cast<std::ptrdiff_t>(place++), s);
            }
        }
        return w;
    }

    double across(const Frame& frame, int p, int q) const
    {
        const auto &a = frame.nodes[at(p)], &b = frame.nodes[at(q)];
        return std::max(std::abs(a.alternatingV - b.alternatingV), std::abs(a.directV - b.directV));
    }

    /// Of the coils that are meant to pull in with this motor the one with the least of its voltage.
    Walk control(const RunningLoad& r)
    {
        const Frame& pulling = *r.pulling;
        const PlantCoil* worst = nullptr;
        double least = 0;
        for (std::size_t c = 0; c < m_plant.coils.size(); ++c) {
            const bool isMeant = pulling.coilShare[c] >= kMeantToPull && m_judge.loads.rest.coilShare[c] < kMeantToPull;
            if (isMeant && (!worst || pulling.coilShare[c] < least)) {
                worst = &m_plant.coils[c];
                least = pulling.coilShare[c];
            }
        }
        if (!worst)
            return {};
        const PlantImpedance& winding = m_plant.impedances[at(worst->impedance)];
        const double own = pulling.impedancesA[at(worst->impedance)];
        const auto there = wayTo(winding.p, pulling, kMine * own), back = wayTo(winding.q, pulling, kMine * own);
        const bool isTurned = contacts(back) > contacts(there);
        const int other = isTurned ? winding.p : winding.q;
        Walk w{m_judge.deviceOf(winding.device).id, r.motor, true, worst->data.ratedV,
            across(pulling, winding.p, winding.q), r.said, {}};
        int here = -1;
        for (std::size_t e : isTurned ? back : there) {
            Station s = station(m_edges[e]);
            s.runA = through(m_edges[e], r.frame);
            s.startA = through(m_edges[e], pulling);
            here = behind(e, here);
            s.volts = across(pulling, here, other);
            if (!w.stations.empty() && s.device && w.stations.back().device == s.device)
                w.stations.back() = s;
            else
                w.stations.push_back(s);
        }
        return w;
    }

    std::size_t contacts(const std::vector<std::size_t>& way) const
    {
        return static_cast<std::size_t>(
            std::count_if(way.begin(), way.end(), [this](std::size_t e) { return m_edges[e].device >= 0; }));
    }

    /// The far end of an edge, coming from a node; at the first one that is where power does not come in.
    int behind(std::size_t e, int from) const
    {
        const Edge& edge = m_edges[e];
        if (from < 0)
            return m_from.contains(edge.p) ? edge.q : edge.p;
        return edge.p == from ? edge.q : edge.p;
    }

    Judge& m_judge;
    const Plant& m_plant;
    std::vector<Edge> m_edges;
    std::map<int, std::vector<std::size_t>> m_at;
    std::set<int> m_from;
};

} // namespace

std::vector<Walk> walksOf(Judge& judge)
{
    return Walker(judge).walks();
}

} // namespace ts::sizing
