#include "core/simulation/conductors.h"

#include "core/base/at.h"

#include <algorithm>
#include <queue>

namespace ts {
namespace {

struct Step {
    int node;
    int link = -1, impedance = -1; ///< over which of them
};
using Steps = std::vector<std::vector<Step>>; ///< by node

Steps stepsOf(const Plant& plant, const Frame& frame, const Joins& joins)
{
    Steps steps(at(plant.nodeCount));
    const auto join = [&steps](int p, int q, int link, int impedance) {
        steps[at(p)].push_back({q, link, impedance});
        steps[at(q)].push_back({p, link, impedance});
    };
    for (std::size_t l = 0; l < plant.links.size(); ++l)
        if (frame.links[l].closed || (joins.semiconductors && isSemiconductor(plant, plant.links[l])))
            join(plant.links[l].p, plant.links[l].q, static_cast<int>(l), -1);
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire)
            join(plant.impedances[z].p, plant.impedances[z].q, -1, static_cast<int>(z));
    if (joins.variables)
        for (const PlantVariable& v : plant.variables)
            join(v.p, v.q, -1, -1);
    if (joins.linesLedThrough)
        for (const PlantTransformer& t : plant.transformers)
            if (t.data.nominalSecondaryV <= 0)
                join(t.p1, t.p2, -1, -1);
    return steps;
}

} // namespace

bool isSemiconductor(const Plant& plant, const PlantLink& l)
{
    return l.contact.kind == ContactKind::Main && l.contact.mover >= 0
        && plant.movers[at(l.contact.mover)].spec.driver == MoverSpec::Driver::Logic;
}

std::vector<std::uint8_t> joinedNodes(
    const Plant& plant, const Frame& frame, const std::vector<int>& from, const Joins& joins)
{
    const Steps steps = stepsOf(plant, frame, joins);
    std::vector<std::uint8_t> met(at(plant.nodeCount), 0);
    std::vector<int> open;
    const auto reach = [&](int node) {
        if ((node != 0 || joins.overEarth) && std::exchange(met[at(node)], 1) == 0)
            open.push_back(node);
    };
    for (const int node : from)
        reach(node);
    while (!open.empty()) {
        const int node = open.back();
        open.pop_back();
        for (const Step& s : steps[at(node)])
            reach(s.node);
    }
    return met;
}

std::optional<Conductors> wayBetween(const Plant& plant, const Frame& frame, int from, const std::vector<int>& to)
{
    const Steps steps = stepsOf(plant, frame, {});
    std::vector<Step> cameBy(at(plant.nodeCount), Step{-1});
    cameBy[at(from)].node = from;
    std::queue<int> open({from});
    const auto isThere = [&to](int node) { return std::find(to.begin(), to.end(), node) != to.end(); };
    while (!open.empty() && !isThere(open.front())) {
        const int here = open.front();
        open.pop();
        for (const Step& s : steps[at(here)])
            if (cameBy[at(s.node)].node < 0) {
                cameBy[at(s.node)] = {here, s.link, s.impedance};
                open.push(s.node);
            }
    }
    if (open.empty())
        return std::nullopt;
    Conductors way;
    for (int node = open.front(); node != from; node = cameBy[at(node)].node) {
        const Step& s = cameBy[at(node)];
        const PlantLink* link = s.link >= 0 ? &plant.links[at(s.link)] : nullptr;
        if (link && link->device >= 0)
            way.links.push_back(s.link);
        else if (link && link->wire >= 0)
            way.wires.push_back(link->wire);
        else if (s.impedance >= 0 && plant.impedances[at(s.impedance)].wire >= 0)
            way.wires.push_back(plant.impedances[at(s.impedance)].wire);
    }
    std::reverse(way.links.begin(), way.links.end());
    std::reverse(way.wires.begin(), way.wires.end());
    return way;
}

} // namespace ts
