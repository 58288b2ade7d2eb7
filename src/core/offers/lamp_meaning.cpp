#include "core/offers/lamp_meaning.h"

#include "core/offers/sight.h"

namespace ts::offers {
namespace {

bool tellsAFault(const Sight& s, const Sighted& contact)
{
    const Device& d = *s.circuit().device(contact.upper.device);
    return contact.edge->operated == diagram::Operated::ByHeat || d.kind == "phase_monitor"
        || d.kind == "current_monitor";
}

LampMeaning meaningOf(const Sight& s, const Sighted& lamp)
{
    bool runs = false, stopped = false;
    for (const Sighted& e : s.ahead(lamp)) {
        if (tellsAFault(s, e))
            return LampMeaning::Fault;
        if (e.edge->operated == diagram::Operated::ByCoil && s.coil(e.upper.device))
            (e.edge->kind == diagram::SymbolKind::NormallyOpen ? runs : stopped) = true;
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
