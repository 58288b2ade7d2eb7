#include "core/edit/function_edits.h"

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

Expected<Dossier> withoutFunction(const Dossier& dossier, FunctionId id)
{
    Dossier changed = dossier;
    if (std::erase_if(changed.functions, [id](const SafetyFunction& f) { return f.id == id; }) == 0)
        return failure(ErrorCode::NotFound, message("function.unknown"));
    return changed;
}

} // namespace ts::edit
