// improve FILE: changes and pairs of changes that make a function's level better, the least effort first.

#include "cli/commands.h"
#include "core/improving/improvement.h"
#include "core/io/dossier_file.h"
#include "core/keeping/kept_sweep.h"
#include "core/results/study_ids.h"
#include "core/studies/kept_studies.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using improving::Improvement;
using Json = nlohmann::ordered_json;

std::string said(const improving::Change& c)
{
    return wording::sentence(message("improve." + c.id, c.words));
}

Json levelOf(const std::optional<safety::Level>& level)
{
    return level ? Json(safety::nameOf(*level)) : Json();
}

void printJson(const improving::Improved& found, const SafetyFunction& f, Session& s)
{
    Json list = Json::array();
    for (const Improvement& i : found.list) {
        Json changes = Json::array(), again;
        for (const improving::Change& c : i.changes)
            changes.push_back({{"change", c.id}, {"words", said(c)}, {"changes_circuit", c.changesCircuit}});
        if (i.rerun)
            again = {{"still_stops", i.rerun->stillStops}, {"tried", i.rerun->tried}, {"mended", i.rerun->mended}};
        list.push_back({{"changes", changes}, {"effort", i.effort()}, {"level", levelOf(i.level)},
            {"pfhd_per_hour", i.pfhdPerHour}, {"reaches", i.reaches}, {"run_again", again}});
    }
    print({{"format", "improve-1"}, {"function", f.id.value}, {"level_now", levelOf(found.now)},
              {"pfhd_now_per_hour", found.pfhdNow}, {"combinations", found.combinations}, {"improvements", list}},
        s);
}

void printText(const improving::Improved& found, const SafetyFunction& f, Session& s)
{
    const auto level = [](const std::optional<safety::Level>& l) {
        return l ? "PL " + std::string(safety::nameOf(*l)) : wording::word("level.none");
    };
    s.out << f.name << ": " << level(found.now) << " now, needed "
          << (!f.requiredLevel ? "not decided" : "PL " + std::string(safety::nameOf(*f.requiredLevel))) << '\n';
    for (const Improvement& i : found.list) {
        s.out << fmt::format("effort {:<3}{}{}, PFHd {}", i.effort(), level(i.level), i.reaches ? " reaches" : "",
            wording::number(i.pfhdPerHour, "1/h"));
        if (i.rerun)
            s.out << fmt::format(", run again: {}, {} of {} mended",
                i.rerun->stillStops ? "starts and stops" : "no longer starts or stops", i.rerun->mended,
                i.rerun->tried);
        else
            s.out << ", estimated";
        s.out << '\n';
        for (const improving::Change& c : i.changes)
            s.out << "  " << said(c) << '\n';
    }
    s.out << fmt::format("{} combinations were calculated\n", found.combinations) << wording::word("caution.text")
          << '\n';
}

/// The sweep with second faults, remembered or made.
Expected<FaultAnalysis> swept(const Dossier& d, const SafetyFunction& f, const Request& r, Session& s)
{
    const io::ResultStore store(r.keptIn());
    const Study& study = *studyNamed(kSecondFaults.id);
    const std::string key = sweepKey(d, f);
    if (const auto known = recalled(study, key, d, about(f.id), store))
        return analysedSweep(d, f, *known->as<faults::Sweep>());
    auto sweep = faults::sweep(d, f, {}, {}, s.stop);
    if (!sweep)
        return Unexpected{sweep.error()};
    keep(study, key, Value::of(*sweep), store);
    return analysedSweep(d, f, std::move(*sweep));
}

} // namespace

int improve(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto function = functionNamed(file->dossier, r.function);
    if (!function)
        return fail(function.error(), s);
    std::optional<FaultAnalysis> built;
    if (r.isSwept) {
        auto made = swept(file->dossier, **function, r, s);
        if (!made)
            return fail(made.error(), s);
        built = std::move(*made);
    }
    const auto found = improving::improvementsOf(*file, (*function)->id, built ? &*built : nullptr, {}, s.stop);
    if (!found)
        return fail(found.error(), s);
    r.json ? printJson(*found, **function, s) : printText(*found, **function, s);
    return kInOrder;
}

} // namespace ts::cli
