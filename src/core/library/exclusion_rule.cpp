#include "core/library/exclusion_rule.h"

#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>

namespace ts {
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
    return {std::string(t.cell(row, "exclusion")), std::string(t.cell(row, "condition")),
        std::string(t.cell(row, "needs"))};
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

bool saysNo(const Circuit& circuit, const Device& device, std::string_view parameter)
{
    const DeviceKind* kind = deviceKind(device.kind);
    const auto parameters = kind ? parametersOf(circuit, device) : Expected<Parameters>(Unexpected{Error{}});
    return parameters && std::any_of(kind->parameters.begin(), kind->parameters.end(), [&](const ParameterSpec& s) {
        return s.name == parameter;
    }) && !parameters->flag(parameter);
}

ExclusionRule exclusionRule(
    const Circuit& circuit, const Device& device, std::string_view element, std::string_view mode, bool isOpener)
{
    ExclusionRule rule = exclusionRule(device.kind, element, mode, isOpener);
    return rule.needs.empty() || !saysNo(circuit, device, rule.needs) ? rule : ExclusionRule{};
}

ExclusionRule shortRule(RouteKind kind, bool toEarth)
{
    if (kind == RouteKind::Cable || kind == RouteKind::MovingCable || (toEarth && kind != RouteKind::Enclosure))
        return {};
    const Table& t = failureModesTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "kind") == "wire" && t.cell(row, "mode") == (toEarth ? "to earth" : "short"))
            return ruleOfRow(row);
    return {};
}

} // namespace ts
