// stop FILE: the stop of each actuator in every operating state, at the limits and with each single fault.

#include "cli/commands.h"
#include "core/analysis/stop_study.h"
#include "core/io/dossier_file.h"
#include "wording/fault_texts.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using Json = nlohmann::ordered_json;

Json secondsOf(const std::optional<Seconds>& s)
{
    return s ? Json(s->si()) : Json();
}

Json jsonOf(const StopCase& c)
{
    return {{"state", c.state.value}, {"case", nameOf(c.kind)}, {"fault", c.fault},
        {"category", c.stop.category ? Json(*c.stop.category) : Json()},
        {"removed_after_s", secondsOf(c.stop.removedAfter)}, {"rest_after_s", secondsOf(c.stop.restAfter)},
        {"one_terminal_live", c.stop.terminalsLive}, {"removal_speed_rad_per_s", c.stop.removalSpeedRadPerS}};
}

void printJson(const StopStudy& study, Session& s)
{
    Json actuators = Json::array();
    for (const ActuatorStudy& a : study.actuators) {
        Json cases = Json::array();
        for (const StopCase& c : a.cases)
            cases.push_back(jsonOf(c));
        actuators.push_back({{"motor", a.tag}, {"category", a.category ? Json(*a.category) : Json()},
            {"latest_removal", a.latestRemoval}, {"latest_rest", a.latestRest}, {"earliest_rest", a.earliestRest},
            {"fastest_removal", a.fastestRemoval}, {"no_stop", a.noStop}, {"no_category", a.noCategory},
            {"other_category", a.otherCategory}, {"cases", std::move(cases)}});
    }
    print({{"format", "stop-1"}, {"function", study.function.value}, {"runs", study.runCount},
              {"faults", study.faultCount}, {"actuators", std::move(actuators)}},
        s);
}

struct Told {
    const Dossier& dossier;
    std::vector<faults::SweptFault> faults;
    Session& session;

    std::string words(const StopCase& c) const { return wording::stopCaseText(c, faults, dossier); }
    void line(const char* what, const ActuatorStudy& a, int place,
        const std::optional<Seconds> safety::ActuatorStop::*time) const
    {
        if (place < 0)
            return;
        const StopCase& c = a.cases[static_cast<std::size_t>(place)];
        if (const auto& t = c.stop.*time)
            session.out << fmt::format("  {:<26}{:>9}  {}\n", what, wording::number(t->si(), "s"), words(c));
    }
};

void printActuator(const ActuatorStudy& a, const Told& t)
{
    std::ostream& out = t.session.out;
    out << a.tag << ": " << wording::stopCategoryText(a) << '\n';
    t.line("latest removal of power", a, a.latestRemoval, &safety::ActuatorStop::removedAfter);
    t.line("latest rest", a, a.latestRest, &safety::ActuatorStop::restAfter);
    t.line("earliest rest", a, a.earliestRest, &safety::ActuatorStop::restAfter);
    if (a.fastestRemoval >= 0) {
        const StopCase& c = a.cases[static_cast<std::size_t>(a.fastestRemoval)];
        out << fmt::format("  {:<26}{:>9}  {}\n", "highest speed at removal",
            wording::number(c.stop.removalSpeedRadPerS, "rad/s"), t.words(c));
    }
    for (int k : a.noStop) {
        const StopCase& c = a.cases[static_cast<std::size_t>(k)];
        out << "  no stop: " << t.words(c) << ": " << wording::sentence(c.stop.why) << '\n';
    }
    for (int k : a.noCategory) {
        const StopCase& c = a.cases[static_cast<std::size_t>(k)];
        out << "  stops, no category: " << t.words(c) << ": " << wording::sentence(c.stop.why) << '\n';
    }
    for (int k : a.otherCategory) {
        const StopCase& c = a.cases[static_cast<std::size_t>(k)];
        out << fmt::format("  category {}: {}\n", *c.stop.category, t.words(c));
    }
}

} // namespace

int stopCategory(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto function = functionNamed(file->dossier, r.function);
    if (!function)
        return fail(function.error(), s);
    const auto study = stopStudy(file->dossier, **function, {r.threads, !r.withoutFaults}, {}, s.stop);
    if (!study)
        return fail(study.error(), s);
    if (r.json) {
        printJson(*study, s);
    } else {
        const Told told{file->dossier, faults::faultList(*compile(file->dossier.circuit), file->dossier), s};
        s.out << (*function)->name << '\n';
        for (const ActuatorStudy& a : study->actuators)
            printActuator(a, told);
        s.out << fmt::format("{} runs; operating states: {}, single faults: {}\n", study->runCount,
            study->states.size(), study->faultCount)
              << wording::word("caution.text") << '\n';
    }
    const bool isWhole = std::all_of(study->actuators.begin(), study->actuators.end(),
        [](const ActuatorStudy& a) { return a.category && a.noStop.empty(); });
    return isWhole ? kInOrder : kFindings;
}

} // namespace ts::cli
