// patterns: what can be chosen. new: a machine from choices, written to a file, with each of its scenarios run. plan:
// other choices for such a machine.

#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "core/patterns/replan.h"
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
        s.out << name << (c.own ? " (each motor its own): " : ": ") << said("choice." + name) << '\n';
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
        list.push_back({{"name", c.name}, {"default", c.fallback}, {"many", c.many}, {"own", c.own}, {"words", words}});
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

/// Functions that the machine's scenarios show, with the level that the plan's answers ask for.
Expected<DossierFile> withFunctions(DossierFile file, const ts::patterns::MachinePlan& plan)
{
    return withSuggestedFunctions(std::move(file), wording::suggestedName, ts::patterns::riskOf(plan.shared()));
}

int write(const Expected<DossierFile>& file, const std::string& path, Session& s)
{
    if (!file)
        return fail(file.error(), s);
    if (auto ok = io::saveDossier(path, *file); !ok)
        return fail(ok.error(), s);
    s.out << fmt::format(
        "{}: {} devices, {} wires\n", path, file->dossier.circuit.devices.size(), file->dossier.circuit.wires.size());
    for (const SafetyFunction& f : file->dossier.functions)
        s.out << wording::functionSentence(f, file->dossier.circuit) << '\n';
    const auto inOrder = showConsequences(file->dossier, s);
    if (!inOrder)
        return fail(inOrder.error(), s);
    return *inOrder ? kInOrder : kFindings;
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

int newMachine(const Request& r, Session& s)
{
    std::vector<std::string> assignments{"base=" + r.pattern};
    assignments.insert(assignments.end(), r.with.begin(), r.with.end());
    const auto plan = r.isAdvised ? ts::patterns::advised(assignments) : ts::patterns::MachinePlan::from(assignments);
    if (!plan)
        return fail(plan.error(), s);
    auto built = ts::patterns::machine(*plan);
    if (!built)
        return fail(built.error(), s);
    return write(withFunctions(std::move(*built), *plan), r.output, s);
}

int replan(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto was = ts::patterns::MachinePlan::of(file->dossier.machine.plan);
    if (!was)
        return fail({ErrorCode::NotFound, message("replan.not_planned")}, s);
    const auto plan = was->with(r.with, r.without);
    if (!plan)
        return fail(plan.error(), s);
    auto changed = ts::patterns::replanned(*file, *plan);
    if (!changed)
        return fail(changed.error(), s);
    for (const Message& m : changed->said)
        s.out << wording::sentence(m) << '\n';
    if (r.output.empty()) {
        s.out << said("replan.nothing_written") << '\n';
        return kInOrder;
    }
    return write(withFunctions(std::move(changed->file), *plan), r.output, s);
}

} // namespace ts::cli
