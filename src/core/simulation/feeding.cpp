#include "core/simulation/feeding.h"

#include "core/base/at.h"
#include "core/simulation/advance.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <queue>

namespace ts {
namespace {

/// Costs of one step. A way over fewer open contacts comes first whatever its length; of as many gaps, what a hand
/// closes before what something else must, and a contact of the thing itself last.
constexpr int kStep = 1, kByHand = 10'000, kByOther = 11'000, kByItself = 15'000, kBroken = 40'000;
constexpr int kNever = std::numeric_limits<int>::max() / 4;
constexpr double kSmallOhm = 1.0; ///< a load below it is a conductor, as the impedance of a supply's neutral
constexpr double kLeastShare = 0.5; ///< of the wanted voltage, between two poles that may feed it

/// A conductor of a supply, with its nominal voltage against the others of the same supply.
struct SupplyPole {
    int node = 0;
    int island = 0; ///< equal for those of one supply
    Complex alternatingV;
    double directV = 0;
};

std::vector<SupplyPole> supplyPolesOf(const Plant& plant)
{
    std::vector<SupplyPole> poles;
    const auto add = [&poles](SupplyPole p) {
        if (std::none_of(poles.begin(), poles.end(),
                [&p](const SupplyPole& q) { return q.node == p.node && q.island == p.island; }))
            poles.push_back(p);
    };
    for (const PlantSource& s : plant.sources) {
        add({s.p, s.q, s.emf, s.directV});
        add({s.q, s.q, {}, 0.0});
    }
    for (const PlantConverter& c : plant.converters) {
        add({c.plus, c.minus, {}, c.data.outputV});
        add({c.minus, c.minus, {}, 0.0});
    }
    for (const PlantTransformer& t : plant.transformers)
        if (t.data.nominalSecondaryV > 0.0) {
            add({t.s1, t.s2, t.data.nominalSecondaryV, 0.0});
            add({t.s2, t.s2, {}, 0.0});
        }
    return poles;
}

/// What wants a voltage between its ends.
struct Wanted {
    std::vector<int> nodes; ///< two, or a motor's three
    double volts = 0;
    bool isDirect = false, isAlternating = false;
};

std::optional<Wanted> wantedBy(const Plant& plant, const PlantDevice& device)
{
    for (const PlantCoil& c : plant.coils)
        if (&plant.devices[at(plant.movers[at(c.mover)].device)] == &device) {
            const PlantImpedance& z = plant.impedances[at(c.impedance)];
            return Wanted{{z.p, z.q}, c.data.ratedV, c.data.direct, !c.data.direct};
        }
    for (int l : device.lamps) {
        const PlantLamp& lamp = plant.lamps[at(l)];
        const PlantImpedance& z = plant.impedances[at(lamp.impedance)];
        return Wanted{{z.p, z.q}, lamp.data.ratedA * lamp.data.ohm, true, true};
    }
    for (int m : device.motors) {
        const PlantMotor& motor = plant.motors[at(m)];
        return Wanted{{motor.nodes[0], motor.nodes[1], motor.nodes[2]}, 0.0, false, true};
    }
    return {};
}

Gap gapOf(const Plant& plant, const State& state, const Overlay& overlay, int link)
{
    const PlantLink& l = plant.links[at(link)];
    Gap gap{link, Gap::Closes::Repair, {}};
    if (overlay.link[at(link)] < 0 || l.contact.mover < 0 || l.device < 0)
        return gap;
    const PlantMover& mover = plant.movers[at(l.contact.mover)];
    for (const auto& [word, what] : plant.devices[at(l.device)].actions)
        if (gap.action.empty() && what.first == l.contact.mover && ((l.contact.closedAt >> what.second) & 1u)
            && mover.spec.driver != MoverSpec::Driver::Coil)
            gap.action = word; // the first: "turn to off" before "let go", which a maintained switch does not feel
    switch (mover.spec.driver) {
    case MoverSpec::Driver::Operator:
        gap.closes = Gap::Closes::Hand;
        break;
    case MoverSpec::Driver::Coil:
        gap.closes = (l.contact.closedAt & kActuated) ? Gap::Closes::Coil : Gap::Closes::NoCoil;
        break;
    case MoverSpec::Driver::Protection:
        gap.closes = Gap::Closes::Reset;
        break;
    case MoverSpec::Driver::Logic:
        gap.closes = Gap::Closes::Program;
        break;
    }
    if (gap.closes == Gap::Closes::Hand && gap.action.empty())
        gap.closes = Gap::Closes::Repair;
    if (state.travel[at(l.contact.mover)] == 0 && overlay.highest[at(l.contact.mover)] == 0)
        gap.closes = Gap::Closes::Repair; // stuck
    return gap;
}

class WayFinder {
public:
    WayFinder(const Plant& plant, const State& state, const Frame& frame, int device)
        : m_plant(plant)
        , m_state(state)
        , m_frame(frame)
        , m_overlay(overlayOf(plant, state.faults))
        , m_device(device)
        , m_poles(supplyPolesOf(plant))
        , m_steps(at(plant.nodeCount))
        , m_isPole(at(plant.nodeCount), 0)
    {
        for (const SupplyPole& p : m_poles)
            m_isPole[at(p.node)] = 1;
        for (std::size_t l = 0; l < plant.links.size(); ++l)
            join(plant.links[l].p, plant.links[l].q, static_cast<int>(l),
                frame.links[l].closed ? kStep : costOf(static_cast<int>(l)));
        for (std::size_t z = 0; z < plant.impedances.size(); ++z)
            if (const PlantImpedance& i = plant.impedances[z]; m_overlay.impedance[z] >= 0
                && (i.kind == PlantImpedance::Kind::Wire
                    || (i.kind == PlantImpedance::Kind::Load && network::magnitude(i.alternatingOhm) < kSmallOhm)))
                join(i.p, i.q, -1, kStep);
        for (const PlantTransformer& t : plant.transformers)
            if (t.data.nominalSecondaryV <= 0.0)
                join(t.p1, t.p2, -1, kStep); // a line led through
        for (const PlantVariable& v : plant.variables)
            join(v.p, v.q, -1, kStep);
    }

    Feeding found(const Wanted& wanted)
    {
        std::vector<Reached> from;
        for (int node : wanted.nodes)
            from.push_back(reachedFrom(node, wanted.nodes));
        const std::vector<const SupplyPole*> best = wanted.nodes.size() == 2 ? twoPoles(wanted, from)
                                                                             : threePoles(from);
        Feeding feeding;
        feeding.hasWay = !best.empty();
        for (std::size_t k = 0; k < best.size(); ++k) {
            std::vector<int> way = wayTo(from[k], best[k]->node);
            if (k == 0 || best.size() > 2) // towards the load
                std::reverse(way.begin(), way.end());
            feeding.way.insert(feeding.way.end(), way.begin(), way.end());
        }
        for (int link : feeding.way)
            if (!m_frame.links[at(link)].closed && !isSameAsLast(feeding.gaps, link))
                feeding.gaps.push_back(gapOf(m_plant, m_state, m_overlay, link));
        return feeding;
    }

private:
    struct Edge {
        int node = 0, link = -1, cost = 0;
    };
    struct Reached {
        int node = 0;
        std::vector<int> cost;
        std::vector<Edge> from; ///< by node: where one came from
    };

    /// Contacts in series inside a device stand for its one output.
    bool isSameAsLast(const std::vector<Gap>& gaps, int link) const
    {
        const PlantLink& l = m_plant.links[at(link)];
        return !gaps.empty() && l.device >= 0 && m_plant.links[at(gaps.back().link)].device == l.device
            && m_plant.links[at(gaps.back().link)].role == l.role;
    }

    void join(int p, int q, int link, int cost)
    {
        m_steps[at(p)].push_back({q, link, cost});
        m_steps[at(q)].push_back({p, link, cost});
    }

    int costOf(int link) const
    {
        const PlantLink& l = m_plant.links[at(link)];
        if (l.device == m_device)
            return kByItself;
        const Gap gap = gapOf(m_plant, m_state, m_overlay, link);
        return gap.closes == Gap::Closes::Repair ? kBroken : gap.closes == Gap::Closes::Hand ? kByHand : kByOther;
    }

    /// Cheapest ways from a node; none goes on past a pole, or through another end of the same load.
    Reached reachedFrom(int start, const std::vector<int>& ends) const
    {
        Reached r{start, std::vector<int>(at(m_plant.nodeCount), kNever), std::vector<Edge>(at(m_plant.nodeCount))};
        std::priority_queue<std::pair<int, int>, std::vector<std::pair<int, int>>, std::greater<>> queue;
        r.cost[at(start)] = 0;
        queue.emplace(0, start);
        while (!queue.empty()) {
            const auto [cost, here] = queue.top();
            queue.pop();
            if (cost > r.cost[at(here)] || (m_isPole[at(here)] && here != start))
                continue;
            for (const Edge& e : m_steps[at(here)]) {
                const bool isOtherEnd = std::find(ends.begin(), ends.end(), e.node) != ends.end();
                const int next = cost + e.cost;
                if (isOtherEnd || next >= r.cost[at(e.node)])
                    continue;
                r.cost[at(e.node)] = next;
                r.from[at(e.node)] = {here, e.link, e.cost};
                queue.emplace(next, e.node);
            }
        }
        return r;
    }

    std::vector<int> wayTo(const Reached& r, int node) const
    {
        std::vector<int> links;
        for (int n = node; n != r.node; n = r.from[at(n)].node)
            if (r.from[at(n)].link >= 0)
                links.push_back(r.from[at(n)].link);
        std::reverse(links.begin(), links.end());
        return links;
    }

    std::vector<const SupplyPole*> twoPoles(const Wanted& wanted, const std::vector<Reached>& from) const
    {
        std::vector<const SupplyPole*> best;
        int least = kNever;
        for (const SupplyPole& a : m_poles)
            for (const SupplyPole& b : m_poles) {
                if (a.island != b.island || a.node == b.node)
                    continue;
                const double volts = std::max(wanted.isDirect ? std::abs(a.directV - b.directV) : 0.0,
                    wanted.isAlternating ? network::magnitude(a.alternatingV - b.alternatingV) : 0.0);
                const int cost = from[0].cost[at(a.node)] + from[1].cost[at(b.node)];
                if (volts >= kLeastShare * wanted.volts && cost < least) {
                    least = cost;
                    best = {&a, &b};
                }
            }
        return best;
    }

    std::vector<const SupplyPole*> threePoles(const std::vector<Reached>& from) const
    {
        std::vector<const SupplyPole*> best;
        int least = kNever;
        const auto isLive = [](const SupplyPole& p) { return network::magnitude(p.alternatingV) > 0.0; };
        for (const SupplyPole& a : m_poles)
            for (const SupplyPole& b : m_poles)
                for (const SupplyPole& c : m_poles) {
                    if (!isLive(a) || !isLive(b) || !isLive(c) || a.island != b.island || b.island != c.island
                        || a.node == b.node || b.node == c.node || a.node == c.node)
                        continue;
                    const int cost = from[0].cost[at(a.node)] + from[1].cost[at(b.node)] + from[2].cost[at(c.node)];
                    if (cost < least) {
                        least = cost;
                        best = {&a, &b, &c};
                    }
                }
        return best;
    }

    const Plant& m_plant;
    const State& m_state;
    const Frame& m_frame;
    Overlay m_overlay;
    int m_device;
    std::vector<SupplyPole> m_poles;
    std::vector<std::vector<Edge>> m_steps;
    std::vector<std::uint8_t> m_isPole;
};

bool doesItsWork(const Plant& plant, const Frame& frame, int device)
{
    const PlantDevice& d = plant.devices[at(device)];
    if (d.actuator >= 0) // a motor that still runs up is fed, one that runs down is not
        return frame.actuators[at(d.actuator)] == MotorMode::Driven;
    for (const PlantCoil& c : plant.coils)
        if (plant.movers[at(c.mover)].device == device)
            return frame.travel[at(c.mover)] == 2;
    return std::any_of(d.lamps.begin(), d.lamps.end(), [&frame](int l) { return frame.lampLit[at(l)] != 0; });
}

} // namespace

std::optional<Feeding> feedingOf(const Plant& plant, const State& state, const Frame& frame, int device)
{
    const auto wanted = wantedBy(plant, plant.devices[at(device)]);
    if (!wanted)
        return {};
    Feeding feeding = WayFinder(plant, state, frame, device).found(*wanted);
    feeding.isFed = doesItsWork(plant, frame, device);
    return feeding;
}

bool feedsWhenTried(const Plant& plant, const State& state, const Feeding& feeding, int device, Workspace& workspace)
{
    constexpr double kApartS = 0.1, kWaitS = 2.0; // hands one after the other; longer than any relay takes
    State fork = state;
    Trace trace;
    for (const Gap& gap : feeding.gaps) {
        if (gap.action.empty())
            continue;
        const auto stimulus = stimulusFor(
            plant, plant.devices[at(plant.links[at(gap.link)].device)].tag, gap.action, fork.now);
        if (!stimulus)
            return false;
        advance(plant, fork, {&*stimulus, 1}, {fork.now + timeNs(seconds(kApartS))}, trace, workspace);
    }
    advance(plant, fork, {}, {fork.now + timeNs(seconds(kWaitS))}, trace, workspace);
    return doesItsWork(plant, observe(plant, fork), device);
}

} // namespace ts
