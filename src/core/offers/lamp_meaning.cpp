#include "core/offers/lamp_meaning.h"

#include "core/offers/sight.h"

#include <deque>
#include <set>

namespace ts::offers {
namespace {

bool tellsAFault(const Sight& s, const Sighted& contact)
{
    const Device& d = *s.circuit().device(contact.upper.device);
    return contact.edge->operated == diagram::Operated::ByHeat || d.kind == "phase_monitor" || d.kind == "current_monitor";
}

LampMeaning meaningOf(const Sight& s, const Sighted& lamp)
{
    bool runs = false, stopped = false;
    std::set<int> seen;
    std::deque<int> queue{s.netOf(lamp.upper)};
    while (!queue.empty()) {
        const int net = queue.front();
        queue.pop_front();
        if (s.isRail(net) || !seen.insert(net).second)
            continue;
        for (const Sighted& e : s.elements()) {
            if (e.edge->isLoad() || s.netOf(e.lower) != net)
                continue;
            if (tellsAFault(s, e))
                return LampMeaning::Fault;
            if (e.edge->operated == diagram::Operated::ByCoil && s.coil(e.upper.device))
                (e.edge->kind == diagram::SymbolKind::NormallyOpen ? runs : stopped) = true;
            queue.push_back(s.netOf(e.upper));
        }
    }
    return runs ? LampMeaning::Runs : stopped ? LampMeaning::Stopped : LampMeaning::Other;
}

} // namespace

Expected<std::map<DeviceId, LampMeaning>> lampMeanings(const Dossier& dossier)
{
    const auto sight = Sight::of(dossier);
    if (!sight)
        return Unexpected{sight.error()};
    std::map<DeviceId, LampMeaning> meanings;
    for (const Sighted& e : sight->elements())
        if (e.edge->kind == diagram::SymbolKind::Lamp)
            meanings[e.upper.device] = meaningOf(*sight, e);
    return meanings;
}

} // namespace ts::offers
