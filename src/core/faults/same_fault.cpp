#include "core/faults/same_fault.h"

#include "core/base/at.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/reach.h"

namespace ts::faults {
namespace {

/// What current can only pass through: a contact, a pole, a wire.
struct Piece {
    int p = 0, q = 0;
};

} // namespace

SameFault::SameFault(const Plant& plant)
    : m_linkCount(static_cast<int>(plant.links.size()))
{
    std::vector<Piece> pieces;
    for (const PlantLink& l : plant.links)
        pieces.push_back({l.p, l.q});
    std::vector<int> wireImpedances;
    for (std::size_t z = 0; z < plant.impedances.size(); ++z)
        if (plant.impedances[z].kind == PlantImpedance::Kind::Wire) {
            wireImpedances.push_back(static_cast<int>(z));
            pieces.push_back({plant.impedances[z].p, plant.impedances[z].q});
        }
    // Where two pieces meet and nothing else is, the same current goes through both: open is open in either.
    std::vector<std::vector<int>> meeting(at(plant.nodeCount));
    for (std::size_t k = 0; k < pieces.size(); ++k)
        for (int node : {pieces[k].p, pieces[k].q})
            meeting[at(node)].push_back(static_cast<int>(k));
    std::vector<int> others = endsByNode(plant); // ends of anything but pieces
    for (int z : wireImpedances)
        for (int node : {plant.impedances[at(z)].p, plant.impedances[at(z)].q})
            --others[at(node)];
    network::DisjointSets line(static_cast<int>(pieces.size()));
    for (int node = 1; node < plant.nodeCount; ++node)
        if (const auto& m = meeting[at(node)]; m.size() == 2 && m[0] != m[1] && others[at(node)] == 0)
            line.join(m[0], m[1]);
    m_ofImpedance.assign(plant.impedances.size(), -1);
    for (int l = 0; l < m_linkCount; ++l)
        m_ofLink.push_back(line.find(l));
    for (std::size_t k = 0; k < wireImpedances.size(); ++k)
        m_ofImpedance[at(wireImpedances[k])] = line.find(m_linkCount + static_cast<int>(k));
}

Fault SameFault::standIn(const Fault& fault) const
{
    if (fault.mode == FaultMode::LinkHeldOpen)
        return {FaultMode::LinkHeldOpen, m_ofLink[at(fault.at)]};
    if (fault.mode == FaultMode::ImpedanceOpen && m_ofImpedance[at(fault.at)] >= 0)
        return {FaultMode::LinkHeldOpen, m_ofImpedance[at(fault.at)]};
    return fault;
}

std::vector<std::uint64_t> SameFault::essence(const SweptFault& fault) const
{
    std::vector<std::uint64_t> words;
    for (const std::vector<Fault>& variant : fault.variants) {
        words.push_back(variant.size());
        for (const Fault& f : variant) {
            const Fault s = variant.size() == 1 ? standIn(f) : f;
            words.insert(words.end(),
                {static_cast<std::uint64_t>(s.mode), static_cast<std::uint64_t>(s.at),
                    static_cast<std::uint64_t>(s.with)});
        }
    }
    if (!fault.supply.empty())
        words.insert(words.end(), fault.id.begin(), fault.id.end());
    return words;
}

} // namespace ts::faults
