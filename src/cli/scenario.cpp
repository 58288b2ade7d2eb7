// scenario: what a circuit does, found out by trying, and the scenarios and functions that show it.

#include "cli/commands.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/function_edits.h"
#include "core/io/dossier_file.h"
#include "core/suggestions/scenario_suggestion.h"
#include "core/suggestions/suggestion.h"
#include "wording/behaviour_text.h"
#include "wording/function_words.h"
#include "wording/wording.h"

#include <fmt/format.h>

namespace ts::cli {
namespace {

/// The dossier with what was seen as scenarios, and the functions that those show.
Expected<DossierFile> withSuggestions(
    DossierFile file, const Plant& plant, const exploration::Behaviour& behaviour, Session& s)
{
    const std::size_t before = file.dossier.scenarios.size(), functions = file.dossier.functions.size();
    for (SuggestedScenario& suggested : suggestedScenarios(plant, behaviour)) {
        suggested.scenario.name = wording::sentence(suggested.name);
        if (!file.dossier.scenario(suggested.scenario.name))
            file = edit::withScenario(file, std::move(suggested.scenario));
    }
    auto found = suggestedFunctions(file.dossier, s.stop);
    if (!found)
        return Unexpected{found.error()};
    for (SafetyFunction& f : *found)
        f.name = wording::suggestedName(f, file.dossier.circuit);
    auto whole = edit::withFunctions(file, *found);
    if (whole)
        s.out << wording::said("deed.kept",
            {static_cast<long long>(whole->dossier.scenarios.size() - before),
                static_cast<long long>(whole->dossier.functions.size() - functions)})
              << '\n';
    return whole;
}

} // namespace

int scenario(const Request& r, Session& s)
{
    auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto plant = compile(file->dossier.circuit);
    if (!plant)
        return fail(plant.error(), s);
    const auto behaviour = exploration::behaviourOf(file->dossier.circuit, {}, s.stop);
    if (!behaviour)
        return fail(behaviour.error(), s);
    for (const std::string& line : wording::behaviourLines(*behaviour, file->dossier.circuit, *plant))
        s.out << line << '\n';
    if (r.output.empty())
        return kInOrder;
    const auto whole = withSuggestions(std::move(*file), *plant, *behaviour, s);
    if (!whole)
        return fail(whole.error(), s);
    if (auto ok = io::saveDossier(r.output, *whole); !ok)
        return fail(ok.error(), s);
    return kInOrder;
}

} // namespace ts::cli
