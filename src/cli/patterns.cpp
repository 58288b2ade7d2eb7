// patterns: what can be chosen. new: a starter from choices, written to a file, with each of its scenarios run.

#include "cli/commands.h"
#include "core/edit/function_edits.h"
#include "core/io/dossier_file.h"
#include "core/patterns/starter.h"
#include "core/suggestions/suggestion.h"
#include "wording/function_words.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

std::string said(const std::string& id)
{
    return wording::sentence(message(id));
}

void printChoices(Session& s)
{
    for (const ts::patterns::PlanChoice& c : ts::patterns::choices()) {
        const std::string name(c.name);
        s.out << name << ": " << said("choice." + name) << '\n';
        for (std::string_view word : ts::patterns::wordsOf(c))
            s.out << fmt::format("  {} {:<20} {}\n", c.fallback == word ? '*' : ' ', word,
                said("choice." + name + "." + std::string(word)));
        if (c.words.empty() || c.many)
            s.out << "    (" << c.fallback << ")\n";
    }
}

nlohmann::ordered_json choicesAsJson()
{
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (const ts::patterns::PlanChoice& c : ts::patterns::choices()) {
        nlohmann::ordered_json words = nlohmann::ordered_json::array();
        for (std::string_view word : ts::patterns::wordsOf(c))
            words.push_back(word);
        list.push_back({{"name", c.name}, {"default", c.fallback}, {"many", c.many}, {"words", words}});
    }
    return {{"format", "patterns-1"}, {"choices", list}};
}

/// Runs every scenario that the pattern brought along and says what came about.
Expected<bool> showConsequences(const Dossier& dossier, Session& s)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    Workspace workspace;
    bool inOrder = true;
    for (const Scenario& scenario : dossier.scenarios) {
        const auto run = runScenario(*plant, scenario, {}, 0.0, workspace, s.stop);
        if (!run)
            return Unexpected{run.error()};
        inOrder &= printRun(*plant, scenario, *run, false, s);
    }
    return inOrder;
}

} // namespace

int patterns(const Request& r, Session& s)
{
    if (r.json)
        print(choicesAsJson(), s);
    else
        printChoices(s);
    return kInOrder;
}

int newStarter(const Request& r, Session& s)
{
    std::vector<std::string> assignments{"base=" + r.pattern};
    assignments.insert(assignments.end(), r.with.begin(), r.with.end());
    const auto plan = ts::patterns::Plan::from(assignments);
    if (!plan)
        return fail(plan.error(), s);
    auto file = ts::patterns::starter(*plan);
    if (!file)
        return fail(file.error(), s);
    auto functions = suggestedFunctions(file->dossier);
    if (!functions)
        return fail(functions.error(), s);
    for (SafetyFunction& f : *functions)
        f.name = wording::suggestedName(f, file->dossier.circuit);
    file = edit::withFunctions(*file, *functions);
    if (!file)
        return fail(file.error(), s);
    if (auto ok = io::saveDossier(r.output, *file); !ok)
        return fail(ok.error(), s);
    s.out << fmt::format("{}: {} devices, {} wires\n", r.output, file->dossier.circuit.devices.size(),
        file->dossier.circuit.wires.size());
    for (const SafetyFunction& f : file->dossier.functions)
        s.out << wording::functionSentence(f, file->dossier.circuit) << '\n';
    const auto inOrder = showConsequences(file->dossier, s);
    if (!inOrder)
        return fail(inOrder.error(), s);
    return *inOrder ? kInOrder : kFindings;
}

} // namespace ts::cli
