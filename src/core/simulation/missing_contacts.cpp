#include "core/simulation/missing_contacts.h"

#include "core/base/at.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <limits>

namespace ts {
namespace {

double voltsBetween(const Frame& f, int node, int reference)
{
    return std::max(std::abs(f.nodes[at(node)].directV - f.nodes[at(reference)].directV),
        std::abs(f.nodes[at(node)].alternatingV - f.nodes[at(reference)].alternatingV));
}

struct Step {
    int node = 0, link = -1;
    bool isOpen = false;
};

std::vector<std::vector<Step>> stepsOf(const Plant& plant, const Frame& f)
{
    std::vector<std::vector<Step>> steps(at(plant.nodeCount));
    const auto join = [&](int p, int q, int link, bool open) {
        steps[at(p)].push_back({q, link, open});
        steps[at(q)].push_back({p, link, open});
    };
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        join(plant.links[l].p, plant.links[l].q, static_cast<int>(l), !f.links[l].closed);
    for (const PlantImpedance& z : plant.impedances)
        if (z.kind == PlantImpedance::Kind::Wire)
            join(z.p, z.q, -1, false);
    return steps;
}

} // namespace

std::vector<int> missingContacts(const Plant& plant, const Frame& f, int node, int reference, double volts)
{
    // Breadth first with two costs: closed ways come before those over one more open contact.
    const auto steps = stepsOf(plant, f);
    std::vector<int> cost(at(plant.nodeCount), std::numeric_limits<int>::max());
    std::vector<Step> cameFrom(at(plant.nodeCount));
    std::deque<int> queue{node};
    cost[at(node)] = 0;
    while (!queue.empty()) {
        const int here = queue.front();
        queue.pop_front();
        if (here != reference && !f.nodes[at(here)].floating && voltsBetween(f, here, reference) >= volts) {
            std::vector<int> open;
            for (int n = here; n != node; n = cameFrom[at(n)].node)
                if (cameFrom[at(n)].isOpen)
                    open.push_back(cameFrom[at(n)].link);
            std::reverse(open.begin(), open.end());
            return open;
        }
        if (here == reference)
            continue;
        for (const Step& s : steps[at(here)]) {
            const int next = cost[at(here)] + s.isOpen;
            if (next >= cost[at(s.node)])
                continue;
            cost[at(s.node)] = next;
            cameFrom[at(s.node)] = {here, s.link, s.isOpen};
            s.isOpen ? queue.push_back(s.node) : queue.push_front(s.node);
        }
    }
    return {};
}

std::vector<int> missingForReset(const Plant& plant, const Frame& f, int relay)
{
    const PlantRelay& r = plant.relays[at(relay)];
    if (!f.relays[at(relay)].ready)
        return {};
    const PlantImpedance& sense = plant.impedances[at(r.data.reset)];
    return missingContacts(plant, f, sense.p, sense.q, r.data.senseV);
}

} // namespace ts
