#include "core/faults/exclusion.h"

#include "core/library/exclusion_rule.h"

#include <charconv>

namespace ts::faults {
const Route* routeOfExclusion(const Circuit& circuit, std::string_view text)
{
    constexpr std::string_view before = "route/", after = ":short";
    if (!text.starts_with(before) || !text.ends_with(after))
        return nullptr;
    const std::string_view digits = text.substr(before.size(), text.size() - before.size() - after.size());
    int id = 0;
    const auto read = std::from_chars(digits.data(), digits.data() + digits.size(), id);
    return read.ec == std::errc() && read.ptr == digits.data() + digits.size() ? circuit.route({id}) : nullptr;
}

void applyExclusions(SweptFault& fault, const Dossier& dossier)
{
    std::size_t routesLeftOut = 0;
    bool mayAll = !fault.routes.empty();
    for (RouteId id : fault.routes) {
        const Route& route = *dossier.circuit.route(id);
        const ExclusionRule rule = shortRule(route.kind, fault.mode == "to_earth");
        mayAll = mayAll && !rule.table.empty();
        if (!rule.table.empty()) {
            fault.table = rule.table;
            fault.condition = rule.condition;
        }
        for (const FaultExclusion& e : dossier.exclusions)
            if (!rule.table.empty() && routeOfExclusion(dossier.circuit, e.fault) == &route) {
                ++routesLeftOut;
                fault.reason = e.reason;
                break;
            }
    }
    if (fault.family == Family::Short && !mayAll)
        fault.table.clear(); // one of its routes keeps it
    if (fault.table.empty()) {
        fault.reason.clear();
        return;
    }
    if (mayAll && routesLeftOut == fault.routes.size())
        fault.isExcluded = true;
    for (const FaultExclusion& e : dossier.exclusions)
        if (e.fault == fault.id) {
            fault.isExcluded = true;
            fault.reason = e.reason;
        }
    if (!fault.isExcluded)
        fault.reason.clear();
}

} // namespace ts::faults
