// scenario: what a circuit does, found out by trying, and the scenarios and functions that show it; or a run of given
// steps, kept with what it shows.

#include "cli/commands.h"
#include "core/edit/circuit_edits.h"
#include "core/io/dossier_file.h"
#include "core/library/table.h"
#include "core/suggestions/scenario_suggestion.h"
#include "wording/behaviour_text.h"
#include "wording/function_words.h"
#include "wording/wording.h"

#include <algorithm>
#include <sstream>

namespace ts::cli {
namespace {

/// Lines "2.0 press S2"; an empty line or one that begins with # says nothing.
Expected<std::vector<Step>> stepsIn(const std::string& path)
{
    const auto text = io::systemFiles().read(path);
    if (!text)
        return Unexpected{text.error()};
    std::vector<Step> steps;
    std::istringstream lines(*text);
    std::string line;
    for (int number = 1; std::getline(lines, line); ++number) {
        std::istringstream words(line);
        std::string at, value;
        Step step;
        if (!(words >> at) || at.starts_with('#'))
            continue;
        const auto atS = writtenNumber(at);
        const bool isStep = atS && *atS >= 0 && *atS <= kLongestScenarioS && (words >> step.action >> step.target);
        const auto given = words >> value ? writtenNumber(value) : std::optional(0.0);
        if (!isStep || !given)
            return failure(ErrorCode::Syntax, message("scenario.step_line"), {path, number, 1, {}});
        step.atS = *atS;
        step.value = *given;
        steps.push_back(std::move(step));
    }
    std::stable_sort(steps.begin(), steps.end(), [](const Step& a, const Step& b) { return a.atS < b.atS; });
    return steps;
}

/// What a run of these steps shows, kept as a scenario.
int fromRun(DossierFile file, const Plant& plant, const Request& r, Session& s)
{
    auto steps = stepsIn(r.fromRun);
    if (!steps)
        return fail(steps.error(), s);
    Scenario run;
    run.name = r.name.empty() ? wording::word("scenario.kept_run") : r.name;
    run.lengthS = r.untilS > 0 ? r.untilS : (steps->empty() ? 0.0 : steps->back().atS) + 5.0;
    run.steps = std::move(*steps);
    auto seen = withWhatIsSeen(plant, std::move(run), s.stop);
    if (!seen)
        return fail(seen.error(), s);
    for (const Expectation& e : seen->expectations)
        s.out << wording::number(e.atS, "s") << "  " << e.subject << ' ' << wording::word("state." + e.state) << '\n';
    if (r.output.empty())
        return kInOrder;
    if (auto ok = io::saveDossier(r.output, edit::withScenario(file, std::move(*seen))); !ok)
        return fail(ok.error(), s);
    return kInOrder;
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
    if (!r.fromRun.empty())
        return fromRun(std::move(*file), *plant, r, s);
    if (!r.suggests)
        return fail({ErrorCode::Syntax, message("scenario.which")}, s);
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
