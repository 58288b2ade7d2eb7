#include "core/faults/exclusion.h"

#include "core/library/table.h"

#include <algorithm>
#include <charconv>

namespace ts::faults {
namespace {

/// The word of a device kind or mode as the table writes it.
std::string tableWord(std::string_view word)
{
    if (word == "emergency_stop")
        return "emergency stop device";
    if (word == "control_transformer")
        return "transformer";
    if (word == "through")
        return "primary to secondary";
    std::string text(word);
    std::replace(text.begin(), text.end(), '_', ' ');
    return text;
}

ExclusionRule ruleOfRow(std::size_t row)
{
    const Table& t = failureModesTable();
    return {std::string(t.cell(row, "exclusion")), std::string(t.cell(row, "condition"))};
}

bool isElement(std::string_view cell, std::string_view element, bool isOpener)
{
    if (isOpener)
        return cell == "NC contact" || cell == "auxiliary NC";
    return element.starts_with(cell);
}

} // namespace

ExclusionRule exclusionRule(std::string_view kind, std::string_view element, std::string_view mode, bool isOpener)
{
    const Table& t = failureModesTable();
    const std::string kindWord = tableWord(kind), modeWord = tableWord(mode);
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "kind") == kindWord && isElement(t.cell(row, "element"), element, isOpener)
            && t.cell(row, "mode").find(modeWord) != std::string_view::npos) {
            ExclusionRule rule = ruleOfRow(row);
            if (rule.table.empty()) // a condition without a table forbids
                rule.condition.clear();
            return rule;
        }
    return {};
}

ExclusionRule shortRule(RouteKind kind)
{
    if (kind == RouteKind::Cable || kind == RouteKind::MovingCable)
        return {};
    const Table& t = failureModesTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "kind") == "wire" && t.cell(row, "mode") == "short")
            return ruleOfRow(row);
    return {};
}

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
        const ExclusionRule rule = shortRule(route.kind);
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
