#include "fuzz/targets.h"

#include "cli/sweep_part.h"
#include "core/base/check.h"
#include "core/base/csv.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/edit/function_edits.h"
#include "core/figures/scene_svg.h"
#include "core/io/dossier_text.h"
#include "core/io/lists.h"
#include "core/io/recovery.h"
#include "core/keeping/kept_sweep.h"
#include "core/measuring/plan_text.h"
#include "core/measuring/readings.h"
#include "core/measuring/rehearsal.h"
#include "core/notes/taking.h"
#include "core/patterns/machine.h"
#include "core/record/record.h"
#include "core/simulation/scenario_run.h"
#include "core/studies/standing.h"
#include "core/studies/working_out.h"
#include "core/suggestions/suggestion.h"
#include "report/report.h"

#include <array>
#include <chrono>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace ts::fuzz {
namespace {

constexpr std::chrono::seconds kBudget{10}; ///< then the way is told to stop
constexpr double kRunS = 1.0;

/// Tells a computation to stop when the budget is spent.
class Budget {
public:
    Budget()
        : m_thread([this](std::stop_token left) {
            std::unique_lock lock(m_mutex);
            std::condition_variable_any wait;
            if (!wait.wait_for(lock, left, kBudget, [] { return false; }) && !left.stop_requested())
                m_stop.request_stop();
        })
    {
    }
    std::stop_token token() const { return m_stop.get_token(); }

private:
    std::stop_source m_stop;
    std::mutex m_mutex;
    std::jthread m_thread;
};

/// Compiled, run, drawn, checked and reported on: a refusal with a reason, or a result.
void goTheWay(const Dossier& dossier)
{
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return;
    const Budget budget;
    Workspace workspace;
    for (const Scenario& scenario : dossier.scenarios)
        (void)runScenario(*plant, scenario, {}, std::min(kRunS, scenario.lengthS), workspace, budget.token())
            .has_value();
    if (const auto graph = diagram::wiredGraph(dossier.circuit)) {
        for (diagram::School school : {diagram::School::CurrentPaths, diagram::School::Ladder})
            (void)figures::sceneSvg(diagram::controlDrawing(*graph, school).scene, "control");
        (void)figures::sceneSvg(diagram::powerDrawing(*graph), "power");
    }
    Results results;
    if (!workOut(dossier, {}, results, budget.token()))
        return;
    (void)standingOf(dossier, results);
    (void)report::reportHtml(dossier, results).has_value();
}

void readDossier(std::string_view text)
{
    const auto file = io::parseDossier(text);
    if (!file)
        return;
    const std::string printed = io::printDossier(*file);
    const auto again = io::parseDossier(printed);
    TS_CHECK(again && *again == *file && io::printDossier(*again) == printed);
    goTheWay(file->dossier);
}

void readRecovery(std::string_view text)
{
    const auto copy = io::parseRecovery(text);
    if (!copy)
        return;
    const auto again = io::parseRecovery(io::printRecovery(*copy));
    TS_CHECK(again && *again == *copy);
}

/// Two lists in one text, parted by a line of its own.
void readLists(std::string_view text)
{
    constexpr std::string_view kParting = "\n====\n";
    const std::size_t parting = text.find(kParting);
    const auto devices = text.substr(0, parting);
    const auto wires = parting == std::string_view::npos ? std::string_view{} : text.substr(parting + kParting.size());
    const auto listed = io::circuitFromLists({devices, "devices.csv"}, {wires, "wires.csv"}, {});
    TS_CHECK(listed.value || !listed.errors.empty());
    if (!listed.value)
        return;
    const auto again = io::parseDossier(io::printDossier(*listed.value));
    TS_CHECK(again); // what an import accepts, loading accepts
    goTheWay(again->dossier);
}

void readNotes(std::string_view text)
{
    const notes::TakenText taken = notes::takeAll({}, text, "panel.notes");
    TS_CHECK(taken.file || !taken.errors.empty());
    if (!taken.file)
        return;
    const auto again = io::parseDossier(io::printDossier(*taken.file));
    TS_CHECK(again); // what is typed in loads again
    (void)notes::takeAll({}, notes::notesOf(again->dossier.circuit), "again.notes");
    goTheWay(again->dossier);
}

void readPartsCsv(std::string_view text)
{
    const auto parts = io::partsFromCsv({text, "parts.csv"});
    TS_CHECK(parts.value || !parts.errors.empty());
    if (!parts.value)
        return;
    const std::string printed = io::partsCsv(*parts.value);
    TS_CHECK(io::partsFromCsv({printed, "parts.csv"}).value);
}

void readPartsJson(std::string_view text)
{
    const auto parts = io::partsFromJson(text);
    if (parts)
        TS_CHECK(io::partsFromJson(io::partsJson(*parts)));
}

/// A small starter with its function, for what belongs to a sweep.
Dossier direct()
{
    const DossierFile file = *patterns::machine(*patterns::MachinePlan::from(std::vector<std::string>{"base=direct"}));
    auto functions = *suggestedFunctions(file.dossier);
    for (SafetyFunction& f : functions)
        f.name = "stop";
    const auto whole = edit::withFunctions(file, functions);
    TS_CHECK(whole && !whole->dossier.functions.empty());
    return whole->dossier;
}

/// With all its single faults tried.
struct Swept {
    Dossier dossier = direct();
    Plant plant = *compile(dossier.circuit);
    faults::Sweep sweep = *faults::sweep(dossier, dossier.functions.front(), {.withPairs = false, .withLimits = false});
};
const Swept& swept()
{
    static const Swept one;
    return one;
}

void readKeptSweep(std::string_view text)
{
    const Dossier& dossier = swept().dossier;
    const auto kept = sweepFrom(text, dossier, dossier.functions.front());
    if (kept)
        (void)sweepFrom(keptText(*kept), dossier, dossier.functions.front());
}

void readPart(std::string_view text)
{
    std::vector<bool> seen;
    faults::SecondFaults found;
    if (cli::addPart(text, "part.json", {swept().sweep, swept().plant, "circuit"}, seen, found))
        (void)faults::withSecondFaults(swept().sweep, found);
}

const measuring::TestPlan& planned()
{
    static const measuring::TestPlan plan = *measuring::testPlanOf(swept().dossier.circuit);
    return plan;
}

/// Whatever circuit they say that they are of: what is taken loads again.
void readResults(std::string_view text)
{
    auto results = measuring::resultsFrom(text);
    if (!results)
        return;
    const Dossier& dossier = swept().dossier;
    results->circuit = measuring::circuitHash(dossier.circuit);
    const auto with = measuring::withResults(*results, planned(), {1'000'000, dossier, {}});
    if (!with)
        return;
    const auto again = io::parseDossier(io::printDossier(*with));
    TS_CHECK(again && again->record == with->record && !record::firstBroken(again->record));
    (void)measuring::standingOf(planned(), *again);
}

void readPlan(std::string_view text)
{
    if (const auto plan = measuring::planFrom(text))
        TS_CHECK(measuring::planFrom(measuring::keptText(*plan)) == plan);
}

constexpr std::array kTargets{Target{"dossier", readDossier}, Target{"recovery", readRecovery},
    Target{"lists", readLists}, Target{"notes", readNotes}, Target{"results", readResults},
    Target{"kept_plan", readPlan, [] { return measuring::keptText(planned()); }}, Target{"parts_csv", readPartsCsv},
    Target{"parts_json", readPartsJson}, Target{"kept_sweep", readKeptSweep, [] { return keptText(swept().sweep); }},
    Target{"sweep_part", readPart}};

} // namespace

std::span<const Target> targets()
{
    return kTargets;
}

} // namespace ts::fuzz
