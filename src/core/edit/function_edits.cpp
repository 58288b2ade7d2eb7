#include "core/edit/function_edits.h"

#include "core/base/date.h"

#include <algorithm>

namespace ts::edit {

Expected<DossierFile> withFunctions(const DossierFile& file, const std::vector<SafetyFunction>& functions)
{
    DossierFile changed = file;
    for (SafetyFunction f : functions) {
        if (f.name.empty())
            return failure(ErrorCode::Refused, message("function.no_name"));
        f.id = {changed.nextId++};
        changed.dossier.functions.push_back(std::move(f));
    }
    return changed;
}

Expected<Dossier> withFunctionChanged(const Dossier& dossier, const SafetyFunction& function)
{
    if (function.name.empty())
        return failure(ErrorCode::Refused, message("function.no_name"));
    if (!dossier.circuit.device(function.trigger.device)
        || std::any_of(function.alsoBy.begin(), function.alsoBy.end(),
            [&](const Trigger& t) { return !dossier.circuit.device(t.device); }))
        return failure(ErrorCode::Refused, message("stop.no_demand"));
    if (!function.manualTest.lastOn.empty() && !isDate(function.manualTest.lastOn))
        return failure(ErrorCode::OutOfRange, message("file.not_a_date", {"last_on", function.manualTest.lastOn}));
    if (function.mustRest.empty())
        return failure(ErrorCode::Refused, message("stop.no_motor"));
    if (!(function.allowedTimeS >= 0.0 && function.allowedTimeS <= 3600.0) || function.stopCategory < 0
        || function.stopCategory > 2)
        return failure(ErrorCode::OutOfRange, message("function.out_of_range"));
    Dossier changed = dossier;
    const auto old = std::find_if(changed.functions.begin(), changed.functions.end(),
        [&](const SafetyFunction& f) { return f.id == function.id; });
    if (old == changed.functions.end())
        return failure(ErrorCode::NotFound, message("function.unknown"));
    *old = function;
    return changed;
}

Expected<Dossier> withoutFunction(const Dossier& dossier, FunctionId id)
{
    Dossier changed = dossier;
    if (std::erase_if(changed.functions, [id](const SafetyFunction& f) { return f.id == id; }) == 0)
        return failure(ErrorCode::NotFound, message("function.unknown"));
    return changed;
}

} // namespace ts::edit
