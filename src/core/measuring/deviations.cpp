#include "core/measuring/deviations.h"

#include "core/base/at.h"

#include <algorithm>
#include <map>
#include <tuple>

namespace ts::measuring {
namespace {

std::vector<std::string> touchedBy(const Circuit& circuit, const Mistake& m)
{
    std::vector<std::string> touches;
    for (const WireChange& c : m.wires)
        touches.push_back("wire/" + std::to_string(c.wire.value));
    if (const Device* d = circuit.device(m.device))
        touches.push_back(m.contact.empty() ? d->tag : d->tag + "/" + m.contact);
    return touches;
}

Expected<Deviation> deviationOf(const Circuit& circuit, const Plant& plant, const Mistake& m)
{
    Deviation d;
    d.id = m.id;
    d.isHarmless = m.isHarmless;
    d.touches = touchedBy(circuit, m);
    d.moved = movedIn(plant, m);
    d.mistake = m;
    if (m.wires.empty()) {
        auto other = plantWith(circuit, m);
        if (!other)
            return Unexpected{other.error()};
        d.other = std::make_shared<const Plant>(*std::move(other));
    }
    return d;
}

/// What is joined, and how many more or fewer wires than drawn an eye sees at each terminal.
std::vector<int> seenAs(const Plant& plant, const std::vector<MovedWire>& moved)
{
    std::vector<int> seen = netsOf(plant, moved);
    for (const auto& [node, count] : moreWires(plant, moved))
        seen.insert(seen.end(), {node, count});
    return seen;
}

/// A wire that breaks is a mistake already: it is missing.
bool isOfWire(const FaultSite& f)
{
    return f.site.starts_with("wire/");
}

} // namespace

Expected<Deviations> deviationsOf(const Circuit& circuit, const Plant& plant)
{
    const auto mistakes = mistakesOf(circuit);
    if (!mistakes)
        return Unexpected{mistakes.error()};
    Deviations d;
    for (const Mistake& m : *mistakes) {
        auto deviation = deviationOf(circuit, plant, m);
        if (deviation) // a coil that its kind refuses at that voltage cannot be fitted
            d.all.push_back(*std::move(deviation));
    }
    for (const FaultSite& f : faultSites(plant)) {
        if (isOfWire(f))
            continue;
        Deviation fault;
        fault.id = f.text();
        fault.isMistake = false;
        fault.touches = {f.site};
        fault.fault = f.fault;
        d.all.push_back(std::move(fault));
    }
    std::map<std::vector<int>, std::size_t> known;
    for (std::size_t k = 0; k < d.all.size(); ++k) {
        const Deviation& x = d.all[k];
        d.sameAs.push_back(k);
        if (x.moved.empty() || std::any_of(x.moved.begin(), x.moved.end(), [&plant](const MovedWire& m) {
                return plant.wires[at(m.wire)].impedance >= 0; // its resistance goes with it
            }))
            continue;
        d.sameAs.back() = known.try_emplace(seenAs(plant, x.moved), k).first->second;
    }
    return d;
}

} // namespace ts::measuring
