#include "core/finding/knowledge.h"

#include "core/base/at.h"
#include "core/faults/parallel.h"
#include "core/finding/far_looks.h"
#include "core/network/disjoint_sets.h"

#include <algorithm>

namespace ts::finding {

using namespace measuring;

Expected<std::shared_ptr<const Knowledge>> Knowledge::of(const Circuit& circuit)
{
    auto plant = compile(circuit);
    if (!plant)
        return Unexpected{plant.error()};
    const std::shared_ptr<Knowledge> k(new Knowledge(circuit));
    k->m_plant = std::make_shared<const Plant>(*std::move(plant));
    k->m_memory = std::make_shared<CircuitMemory>();
    auto deviations = deviationsOf(circuit, *k->m_plant);
    if (!deviations)
        return Unexpected{deviations.error()};
    k->m_deviations = *std::move(deviations);
    k->addOpenWires();
    k->m_deviations.sameAs.push_back(k->m_deviations.all.size());
    k->m_deviations.all.push_back({"as_drawn", false, false, {}, {}, {}, nullptr, {}});
    k->m_electrically.push_back(k->asDrawn());
    for (std::size_t d = 0; d < k->all().size(); ++d) {
        const Deviation& x = k->all()[d];
        k->m_overlays.push_back(overlayOf(*k->m_plant, x.fault ? std::vector{*x.fault} : std::vector<Fault>{}));
        k->m_moreWires.push_back(measuring::moreWires(*k->m_plant, x.moved));
        if (k->m_deviations.sameAs[d] == d)
            k->m_candidates.push_back(d);
    }
    k->m_looks = deadLooksOf(circuit, *k->m_plant);
    addFarLooks(*k->m_plant, k->m_looks);
    addEyeLooks(*k->m_plant, k->m_looks);
    k->m_looksIn.resize(k->m_looks.states.size());
    for (std::size_t l = 0; l < k->m_looks.looks.size(); ++l)
        k->m_looksIn[k->m_looks.looks[l].state].push_back(l);
    k->findNear();
    return std::shared_ptr<const Knowledge>(k);
}

/// A wire that is there and joins nothing: to a meter it is missing, an eye sees the difference.
void Knowledge::addOpenWires()
{
    std::map<WireId, std::size_t> missing;
    for (std::size_t d = 0; d < all().size(); ++d) {
        const Deviation& x = all()[d];
        m_electrically.push_back(m_deviations.sameAs[d]);
        if (x.isMistake && x.mistake.kind == MistakeKind::Missing)
            missing.emplace(x.mistake.wires.front().wire, m_deviations.sameAs[d]);
    }
    const auto add = [&](int wire, std::string id, MistakeKind kind, int p, int q) {
        const WireId w = m_plant->wires[at(wire)].id;
        Deviation x{std::move(id), false, false, {"wire/" + std::to_string(w.value)}, {}, {}, nullptr, {}};
        x.moved = {{wire, std::pair{p, q}, kind == MistakeKind::Broken}};
        x.mistake = {x.id, kind, {{w, {}}}, {}, {}};
        m_electrically.push_back(missing.at(w));
        m_deviations.sameAs.push_back(all().size());
        m_deviations.all.push_back(std::move(x));
    };
    for (std::size_t k = 0; k < m_plant->wires.size(); ++k) {
        const PlantWire& w = m_plant->wires[k];
        const std::string id = std::to_string(w.id.value);
        if (!missing.contains(w.id))
            continue;
        add(static_cast<int>(k), "off/" + id + "/from", MistakeKind::OffOneEnd, kNowhere, w.q);
        add(static_cast<int>(k), "off/" + id + "/to", MistakeKind::OffOneEnd, w.p, kNowhere);
        add(static_cast<int>(k), "wire/" + id + ":open", MistakeKind::Broken, w.p, w.q);
    }
}

void Knowledge::findNear()
{
    network::DisjointSets joined(m_plant->nodeCount);
    for (const PlantWire& w : m_plant->wires)
        joined.join(w.p, w.q);
    for (int n = 0; n < m_plant->nodeCount; ++n)
        m_netOf.push_back(joined.find(n));
    m_near.resize(all().size());
    for (std::size_t d = 0; d < all().size(); ++d) {
        const Deviation& x = all()[d];
        const auto add = [&](int node) {
            if (node != kNowhere)
                m_near[d].insert(m_netOf[at(node)]);
        };
        for (const MovedWire& m : x.moved) {
            add(m_plant->wires[at(m.wire)].p);
            add(m_plant->wires[at(m.wire)].q);
            if (m.nodes) {
                add(m.nodes->first);
                add(m.nodes->second);
            }
        }
        for (const std::string& touched : x.touches)
            for (const PlantTerminal& t : m_plant->terminals)
                if (const std::string& tag = m_plant->devices[at(t.device)].tag;
                    touched == tag || touched.starts_with(tag + "/"))
                    add(t.node);
    }
}

std::vector<std::size_t> Knowledge::alike(std::size_t candidate) const
{
    std::vector<std::size_t> same;
    for (std::size_t d = 0; d < all().size(); ++d)
        if (m_deviations.sameAs[d] == candidate)
            same.push_back(d);
    return same;
}

bool Knowledge::isNear(const DeadLook& look, std::size_t candidate) const
{
    const auto touches = [&](int node) { return m_near[candidate].contains(m_netOf[at(node)]); };
    return std::any_of(look.nodesA.begin(), look.nodesA.end(), touches)
        || std::any_of(look.nodesB.begin(), look.nodesB.end(), touches);
}

Ohms Knowledge::ohms(std::size_t candidate, const DeadState& state) const
{
    return ohmsIn(*m_plant, state, all()[candidate], m_overlays[candidate]);
}

Reading Knowledge::dead(std::size_t candidate, Ohms& ohms, const DeadState& state, const DeadLook& look) const
{
    if (look.isForWires())
        return wiresSeen(*m_plant, look.seen, look.nodesA, movedIn(state, all()[candidate]));
    return expectedBy(lookOf(look).with, ohms.lowest(look.nodesA, look.nodesB));
}

Reading Knowledge::deadWith(
    std::size_t candidate, std::vector<MovedWire> moved, const DeadState& state, const DeadLook& look) const
{
    Deviation other = all()[candidate];
    other.moved = std::move(moved);
    if (look.isForWires())
        return wiresSeen(*m_plant, look.seen, look.nodesA, movedIn(state, other));
    Ohms ohms = ohmsIn(*m_plant, state, other, m_overlays[candidate]);
    return expectedBy(lookOf(look).with, ohms.lowest(look.nodesA, look.nodesB));
}

std::unique_ptr<StandIn> Knowledge::panel(std::size_t candidate, std::stop_token stop) const
{
    const Deviation& x = all()[candidate];
    if (candidate != electrically(candidate))
        return panel(electrically(candidate), std::move(stop));
    if (candidate == asDrawn() || x.fault)
        return std::make_unique<StandIn>(
            m_plant, x.fault ? std::vector{*x.fault} : std::vector<Fault>{}, m_memory, std::move(stop));
    if (x.other)
        return std::make_unique<StandIn>(x.other, std::vector<Fault>{}, nullptr, std::move(stop));
    auto plant = plantWith(m_circuit, x.mistake);
    if (!plant)
        return nullptr;
    return std::make_unique<StandIn>(
        std::make_shared<const Plant>(*std::move(plant)), std::vector<Fault>{}, nullptr, std::move(stop));
}

std::shared_ptr<const State> Knowledge::endOf(
    std::size_t candidate, const Situation& in, const std::stop_token& stop) const
{
    constexpr std::size_t kKept = 6;
    candidate = electrically(candidate);
    {
        const std::scoped_lock lock(m_ending);
        if (m_ends.size() > kKept)
            m_ends.clear();
        const auto& known = m_ends[in];
        if (const auto it = known.find(candidate); it != known.end())
            return it->second;
    }
    const auto built = panel(candidate, stop);
    if (!built || !built->bring(in))
        return nullptr;
    auto end = std::make_shared<const State>(built->trail().back());
    const std::scoped_lock lock(m_ending);
    m_ends[in][candidate] = end;
    return end;
}

std::vector<Beep> Knowledge::beepsOf(std::size_t candidate) const
{
    const Deviation& built = all()[candidate];
    const auto slots = slotsOf(*m_plant, m_overlays[candidate], built.moved);
    std::vector<Beep> others;
    for (std::size_t s = 0; s < m_beepers.size(); ++s) {
        const DeadState& state = m_looks.states[s];
        std::vector<Beep> here;
        if (built.other) { // a plant of its own: gone over as a whole
            Ohms measured = ohms(candidate, state);
            for (const Beep& right : m_beepers[s].right()) {
                const DeadLook& look = m_looks.looks[right.look];
                const Path path = measured.pathBetween(look.nodesA.front(), look.nodesB.front());
                if (path != right.path)
                    here.push_back({right.look, path});
            }
        } else {
            here = m_beepers[s].others(slots, m_overlays[candidate], movedIn(state, built));
        }
        others.insert(others.end(), here.begin(), here.end());
    }
    return others;
}

const Beeps* Knowledge::beeps(const std::vector<std::size_t>& candidates, const std::stop_token& stop) const
{
    const std::scoped_lock lock(m_finding);
    if (m_beeps.of.empty()) {
        m_beeps.right.assign(m_looks.looks.size(), Path::None);
        for (std::size_t s = 0; s < m_looks.states.size(); ++s) {
            m_beepers.emplace_back(*m_plant, m_looks.states[s], m_looks.looks, m_looksIn[s]);
            for (const Beep& b : m_beepers.back().right())
                m_beeps.right[b.look] = b.path;
        }
        m_beeps.of.resize(all().size());
        m_beeps.of[asDrawn()].emplace();
    }
    std::vector<std::size_t> unknown; // that one itself may be ruled out by eye
    for (const std::size_t c : candidates)
        if (!m_beeps.of[electrically(c)])
            unknown.push_back(electrically(c));
    std::sort(unknown.begin(), unknown.end());
    unknown.erase(std::unique(unknown.begin(), unknown.end()), unknown.end());
    const auto job = [&](std::size_t k, Workspace&) { m_beeps.of[unknown[k]] = beepsOf(unknown[k]); };
    return faults::forEachIndex(unknown.size(), 0, job, stop) ? &m_beeps : nullptr;
}

Expected<std::shared_ptr<const LiveSteps>> Knowledge::live(std::stop_token stop) const
{
    const std::scoped_lock lock(m_finding);
    if (m_live)
        return m_live;
    const auto behaviour = exploration::behaviourOf(m_circuit, {}, stop);
    if (!behaviour)
        return Unexpected{behaviour.error()};
    auto live = liveStepsOf(m_plant, *behaviour, m_memory, stop);
    if (!live)
        return Unexpected{live.error()};
    m_live = std::make_shared<const LiveSteps>(*std::move(live));
    return m_live;
}

} // namespace ts::finding
