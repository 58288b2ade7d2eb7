#include "core/model/dossier.h"

#include <algorithm>

namespace ts {

const SafetyFunction* Dossier::function(FunctionId id) const
{
    const auto it = std::find_if(functions.begin(), functions.end(), [id](const auto& f) { return f.id == id; });
    return it == functions.end() ? nullptr : &*it;
}

const Scenario* Dossier::scenario(std::string_view idOrName) const
{
    const auto it = std::find_if(scenarios.begin(), scenarios.end(),
        [idOrName](const Scenario& s) { return s.name == idOrName || std::to_string(s.id.value) == idOrName; });
    return it == scenarios.end() ? nullptr : &*it;
}

const Scenario* Dossier::scenario(ScenarioId id) const
{
    const auto it = std::find_if(scenarios.begin(), scenarios.end(), [id](const Scenario& s) { return s.id == id; });
    return it == scenarios.end() ? nullptr : &*it;
}

} // namespace ts
