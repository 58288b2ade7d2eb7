#include "wording/function_pictures.h"

#include "core/library/registry.h"
#include "wording/function_words.h"
#include "wording/wording.h"

#include <algorithm>

namespace ts::wording {
namespace {

using figures::MapItem;
using Protects = KindTraits::Protects;

bool rests(const SafetyFunction& f, DeviceId id)
{
    return std::find(f.mustRest.begin(), f.mustRest.end(), id) != f.mustRest.end();
}

/// Those that demand the function first.
std::vector<DeviceId> demanding(const Dossier& dossier, const SafetyFunction& function)
{
    std::vector<DeviceId> devices = triggerDevices(function);
    for (const Device& d : dossier.circuit.devices)
        if (deviceKind(d.kind)->traits.protects != Protects::Nothing
            && std::find(devices.begin(), devices.end(), d.id) == devices.end())
            devices.push_back(d.id);
    return devices;
}

std::vector<DeviceId> resting(const Dossier& dossier)
{
    std::vector<DeviceId> devices;
    for (const Device& d : dossier.circuit.devices)
        if (isActuator(d))
            devices.push_back(d.id);
    return devices;
}

MapItem itemOf(const Dossier& dossier, DeviceId id, MapItem::Part part)
{
    const Device* d = dossier.circuit.device(id);
    MapItem item{d ? d->tag : "?", d ? d->label : std::string(), part, {}};
    item.words = item.tag + (item.about.empty() ? "" : " " + item.about) + ": "
        + said(part == MapItem::Part::Here         ? "map.here"
                : part == MapItem::Part::Elsewhere ? "map.elsewhere"
                                                   : "map.nowhere");
    return item;
}

template <class IsIn> MapItem::Part partOf(const Dossier& dossier, const SafetyFunction& function, IsIn isIn)
{
    if (isIn(function))
        return MapItem::Part::Here;
    const auto& all = dossier.functions;
    return std::any_of(all.begin(), all.end(), isIn) ? MapItem::Part::Elsewhere : MapItem::Part::Nowhere;
}

} // namespace

std::vector<DeviceId> mapDevices(const Dossier& dossier, const SafetyFunction& function)
{
    std::vector<DeviceId> devices = demanding(dossier, function);
    for (DeviceId id : resting(dossier))
        devices.push_back(id);
    return devices;
}

figures::MapContent mapContent(const Dossier& dossier, const SafetyFunction& function)
{
    figures::MapContent content;
    for (DeviceId id : demanding(dossier, function))
        content.demands.push_back(itemOf(
            dossier, id, partOf(dossier, function, [id](const SafetyFunction& f) { return f.isTriggeredBy(id); })));
    for (DeviceId id : resting(dossier))
        content.rests.push_back(
            itemOf(dossier, id, partOf(dossier, function, [id](const SafetyFunction& f) { return rests(f, id); })));
    if (const Device* reset = dossier.circuit.device(function.resetBy))
        content.reset = reset->tag + (reset->label.empty() ? "" : " " + reset->label);
    return content;
}

figures::MapWords mapWords()
{
    return {said("path.demands"), said("path.rests"), said("map.elsewhere"), said("map.nowhere"), said("map.reset")};
}

figures::ApproachContent approachContent(const SafetyFunction& f, const std::optional<ResponseBudget>& budget)
{
    figures::ApproachContent content;
    if (!budget)
        return content;
    content.parts = {{said("response.sensor"), budget->sensorS},
        {said("response.circuit", {budget->motor}), budget->circuitS},
        {said("response.run_down", {budget->motor}), budget->runDownS}};
    if (budget->withFaultS)
        content.others.push_back(
            {said(budget->areLimitsTried ? "response.with_fault" : "response.with_fault_only"), *budget->withFaultS});
    if (budget->measuredS)
        content.others.push_back({said("response.measured"), *budget->measuredS});
    content.countsS = budget->wholeS();
    content.allowedS = f.allowedTimeS;
    content.builtM = f.approach.distanceM;
    if (budget->needed) {
        content.neededM = budget->needed->metres;
        content.speedMetresPerS = budget->needed->speedMetresPerS;
        content.intrusionM = budget->needed->intrusionMetres;
        content.clause = budget->needed->clause;
    }
    return content;
}

figures::ApproachWords approachWords()
{
    return {said("response.allowed"), said("approach.opening"), said("approach.hazard"), said("approach.needed"),
        said("approach.missing"), said("approach.intrusion"), said("response.no_distance"), said("approach.none")};
}

} // namespace ts::wording
