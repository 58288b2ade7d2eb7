#include "core/faults/same_fault.h"

#include "core/base/at.h"
#include "core/faults/sweep.h"
#include "core/network/disjoint_sets.h"
#include "core/simulation/reach.h"

#include <algorithm>

namespace ts::faults {
namespace {

/// What current can only pass through: a contact, a pole, a wire.
struct Piece {
    int p = 0, q = 0;
};

} // namespace

SameFault::SameFault(const Plant& plant, const Circuit& circuit, const Cycle& cycle)
    : m_plant(plant)
    , m_twins(plant, twinsOf(plant, circuit, cycle))
    , m_linkCount(static_cast<int>(plant.links.size()))
{
    std::vector<Piece> pieces;
    pieces.reserve(plant.links.size());
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
    std::vector<std::uint64_t> words = told(fault, ordered(fault));
    if (!fault.supply.empty())
        words.insert(words.end(), fault.id.begin(), fault.id.end());
    return words;
}

/// With what it touches in the parts of the first ones.
std::vector<std::uint64_t> SameFault::told(const SweptFault& fault, const Touched& touched) const
{
    const Exchange exchange = m_twins.exchange(touched, TwinSlots::firstOf(touched));
    std::vector<std::uint64_t> words;
    for (const std::vector<Fault>& variant : fault.variants) {
        words.push_back(variant.size());
        for (const Fault& f : variant) {
            const Fault first = m_twins.exchanged(f, exchange);
            Fault s = variant.size() == 1 ? standIn(first) : first;
            if (s.mode == FaultMode::Short && s.with < s.at)
                std::swap(s.at, s.with);
            words.insert(words.end(),
                {static_cast<std::uint64_t>(s.mode), static_cast<std::uint64_t>(s.at),
                    static_cast<std::uint64_t>(s.with)});
        }
    }
    return words;
}

/// Between two of one kind it makes no difference which is which: the order that is told first.
Touched SameFault::ordered(const SweptFault& fault) const
{
    Touched touched = m_twins.touchedBy(fault.variants);
    for (std::vector<int>& ones : touched)
        if (ones.size() == 2) {
            auto words = told(fault, touched);
            std::swap(ones[0], ones[1]);
            if (words < told(fault, touched))
                std::swap(ones[0], ones[1]);
        }
    return touched;
}

/// Faults in line with each other may touch different things and are one all the same: then nothing is exchanged.
Exchange SameFault::between(const SweptFault& from, const SweptFault& to) const
{
    const Touched own = ordered(from), other = ordered(to);
    const bool isOfOneForm = std::equal(own.begin(), own.end(), other.begin(), other.end(),
        [](const std::vector<int>& a, const std::vector<int>& b) { return a.size() == b.size(); });
    return isOfOneForm ? m_twins.exchange(own, other) : m_twins.exchange(own, own);
}

std::string SameFault::forgottenBy(const std::string& words, const Exchange& exchange) const
{
    if (!words.starts_with(kForgottenByOperating))
        return words;
    const int device = m_plant.deviceIndex(words.substr(kForgottenByOperating.size()));
    return std::string(kForgottenByOperating) + m_plant.devices[at(m_twins.device(device, exchange))].tag;
}

FaultOutcome SameFault::outcomeOf(const SweptFault& other, const SweptFault& run, FaultOutcome outcome) const
{
    const Exchange exchange = between(run, other);
    for (RunResult& r : outcome.runs) {
        r.lostMotor = m_twins.device(r.lostMotor, exchange);
        r.notice.device = m_twins.device(r.notice.device, exchange);
    }
    outcome.forgottenBy = forgottenBy(outcome.forgottenBy, exchange);
    return outcome;
}

std::vector<int> SameFault::weldsOf(const SweptFault& other, const SweptFault& run) const
{
    const Exchange exchange = between(run, other);
    std::vector<int> welds;
    welds.reserve(run.welds.size());
    for (int link : run.welds)
        welds.push_back(m_twins.link(link, exchange));
    std::sort(welds.begin(), welds.end());
    return welds;
}

} // namespace ts::faults
