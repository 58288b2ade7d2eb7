#include "core/edit/exclusion_edits.h"

#include <algorithm>

namespace ts::edit {

Expected<Dossier> withExclusion(const Dossier& dossier, FaultExclusion exclusion)
{
    if (exclusion.reason.find_first_not_of(" \t\n") == std::string::npos)
        return failure(ErrorCode::Refused, message("edit.no_reason", {exclusion.fault}));
    Dossier d = dossier;
    const auto there = std::find_if(
        d.exclusions.begin(), d.exclusions.end(), [&](const FaultExclusion& e) { return e.fault == exclusion.fault; });
    if (there != d.exclusions.end())
        *there = std::move(exclusion);
    else
        d.exclusions.push_back(std::move(exclusion));
    return d;
}

Expected<Dossier> withoutExclusion(const Dossier& dossier, std::string_view fault)
{
    Dossier d = dossier;
    if (std::erase_if(d.exclusions, [fault](const FaultExclusion& e) { return e.fault == fault; }) == 0)
        return failure(ErrorCode::NotFound, message("edit.not_excluded", {std::string(fault)}));
    return d;
}

} // namespace ts::edit
