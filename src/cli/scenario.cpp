// scenario: what a circuit does, found out by trying, and the scenarios and functions that show it.

#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "core/suggestions/scenario_suggestion.h"
#include "wording/behaviour_text.h"
#include "wording/function_words.h"
#include "wording/wording.h"

namespace ts::cli {
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
    const std::size_t scenarios = file->dossier.scenarios.size(), functions = file->dossier.functions.size();
    const SuggestionNames names{[](const Message& m) { return wording::sentence(m); }, &wording::suggestedName};
    const auto whole = withBehaviour(std::move(*file), *plant, *behaviour, names, s.stop);
    if (!whole)
        return fail(whole.error(), s);
    s.out << wording::said("deed.kept",
        {static_cast<long long>(whole->dossier.scenarios.size() - scenarios),
            static_cast<long long>(whole->dossier.functions.size() - functions)})
          << '\n';
    if (auto ok = io::saveDossier(r.output, *whole); !ok)
        return fail(ok.error(), s);
    return kInOrder;
}

} // namespace ts::cli
