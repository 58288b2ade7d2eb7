// simulate FILE: the trace of one scenario, and whether its expectations came about.

#include "cli/commands.h"
#include "cli/names.h"
#include "core/io/dossier_file.h"
#include "core/simulation/logic.h"
#include "core/simulation/scenario_run.h"
#include "wording/event_text.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

Expected<const Scenario*> chosen(const Dossier& d, const std::string& name)
{
    if (d.scenarios.empty())
        return failure(ErrorCode::NotFound, message("scenario.none"));
    if (name.empty())
        return &d.scenarios.front();
    if (const Scenario* s = d.scenario(name))
        return s;
    std::string known;
    for (const Scenario& s : d.scenarios)
        known += fmt::format("{}{} ({})", known.empty() ? "" : ", ", s.id.value, s.name);
    return failure(ErrorCode::NotFound, message("scenario.unknown", {name, known}));
}

void printEvents(const Plant& plant, const ScenarioRun& run, Session& s)
{
    for (std::size_t i = 0; i < run.trace.events.size(); ++i) {
        const TimeNs when = run.trace.events[i].at;
        const std::string text = wording::eventText(plant, run.trace.events[i]);
        if (!text.empty() && wording::isNews(run.trace, i))
            s.out << fmt::format("{:>14} s  {}\n", exactSeconds(when).substr(0, exactSeconds(when).size() - 4), text);
    }
}

} // namespace

bool printRun(const Plant& plant, const Scenario& scenario, const ScenarioRun& run, bool withEvents, Session& s)
{
    s.out << scenario.name << '\n';
    if (withEvents)
        printEvents(plant, run, s);
    bool inOrder = run.pause != Pause::Chatter;
    if (!inOrder)
        s.out << wording::sentence(message("pause.chatter", {Measured{secondsOf(run.end.now).si(), "s"}})) << '\n';
    for (const ExpectationResult& r : run.expectations) {
        inOrder &= r.isMet;
        s.out << wording::sentence(message(r.isMet ? "expect.met" : "expect.not_met",
            {Measured{r.expectation.atS, "s"}, r.expectation.subject, wording::stateWord(r.expectation.state)}))

              << '\n';
    }
    return inOrder;
}

namespace {

void printJson(const Plant& plant, const Scenario& scenario, const ScenarioRun& run, Session& s)
{
    nlohmann::ordered_json events = nlohmann::ordered_json::array();
    for (std::size_t i = 0; i < run.trace.events.size(); ++i) {
        const Event& e = run.trace.events[i];
        nlohmann::ordered_json o;
        o["index"] = i;
        o["at_s"] = exactSeconds(e.at);
        o["what"] = nameOf(e.why);
        if (e.device >= 0)
            o["device"] = plant.devices[static_cast<std::size_t>(e.device)].tag;
        if (e.why == Why::FaultOn || e.why == Why::FaultOff) {
            o["fault"] = faultId(plant, Fault{static_cast<FaultMode>(e.slot), e.from, e.to});
        } else {
            if (e.why == Why::Moved || e.why == Why::Operated)
                o["mover"] = plant.movers[static_cast<std::size_t>(e.slot)].spec.role;
            if (e.why == Why::LogicMode)
                o["mode"] = modeName(
                    plant.logics[static_cast<std::size_t>(e.slot)].data, static_cast<std::uint8_t>(e.to));
            if (e.why == Why::KnobSet)
                o["knob"] = plant.knobs[static_cast<std::size_t>(e.slot)].name;
            o["from"] = e.from;
            o["to"] = e.to;
        }
        if (e.net >= 0)
            o["net"] = plant.nets[static_cast<std::size_t>(e.net)].name;
        o["value_si"] = e.si;
        o["cause"] = e.cause;
        events.push_back(std::move(o));
    }
    nlohmann::ordered_json expectations = nlohmann::ordered_json::array();
    for (const ExpectationResult& r : run.expectations)
        expectations.push_back({{"at_s", r.expectation.atS}, {"subject", r.expectation.subject},
            {"state", r.expectation.state}, {"met", r.isMet}});
    print({{"format", "simulate-1"}, {"scenario", scenario.id.value}, {"name", scenario.name},
              {"end_s", exactSeconds(run.end.now)}, {"chatter", run.pause == Pause::Chatter}, {"events", events},
              {"expectations", expectations}},
        s);
}

} // namespace

int simulate(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto scenario = chosen(file->dossier, r.scenario);
    if (!scenario)
        return fail(scenario.error(), s);
    const auto plant = compile(file->dossier.circuit);
    if (!plant)
        return fail(plant.error(), s);
    std::vector<Fault> faults;
    for (const std::string& text : r.faults) {
        const auto site = faultFrom(*plant, text);
        if (!site)
            return fail(site.error(), s);
        faults.push_back(site->fault);
    }
    Workspace workspace;
    const auto run = runScenario(*plant, **scenario, faults, r.untilS, workspace, s.stop);
    if (!run)
        return fail(run.error(), s);
    if (!r.json)
        return printRun(*plant, **scenario, *run, true, s) ? kInOrder : kFindings;
    printJson(*plant, **scenario, *run, s);
    bool inOrder = run->pause != Pause::Chatter;
    for (const ExpectationResult& e : run->expectations)
        inOrder &= e.isMet;
    return inOrder ? kInOrder : kFindings;
}

} // namespace ts::cli
