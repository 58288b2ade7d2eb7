#include "wording/skyline_words.h"

#include "wording/level_pictures.h"
#include "wording/wording.h"

#include <algorithm>

namespace ts::wording {
namespace {

using figures::Tower;

std::string tagsOf(const Circuit& circuit, const std::vector<DeviceId>& ids)
{
    std::string tags;
    for (DeviceId id : ids)
        if (const Device* d = circuit.device(id))
            tags += (tags.empty() ? "" : ", ") + d->tag;
    return tags;
}

/// "cat. 0, 41 ms"; "cat. 0 / 1" where motors differ.
std::string stopOf(const FunctionResult* r)
{
    if (!r || !r->nominal)
        return told("skyline.no_stop");
    std::string categories;
    std::optional<double> latest;
    for (const safety::ActuatorStop& a : r->nominal->actuators) {
        const std::string word = a.category ? std::to_string(*a.category) : told("skyline.none");
        if (categories.find(word) == std::string::npos)
            categories += (categories.empty() ? "" : " / ") + word;
        if (a.removedAfter)
            latest = std::max(latest.value_or(0.0), a.removedAfter->si());
    }
    return latest ? told("skyline.stop_facts", {categories, Measured{*latest, "s"}})
                  : told("skyline.stop_category", {categories});
}

/// The part that has to be replaced first within the mission time.
std::string dueOf(const safety::FunctionLevel& level, double missionYears)
{
    const safety::PartLevel* first = nullptr;
    double soonest = missionYears;
    for (const auto& s : level.subsystems)
        for (const auto& c : s.channels)
            for (const auto& p : c.parts)
                if (p.t10d >= 0 && level.explanation[p.t10d].si < soonest) {
                    soonest = level.explanation[p.t10d].si;
                    first = &p;
                }
    return first ? told("skyline.replace", {first->tag, Measured{soonest, "y"}})
                 : told("skyline.replace_none", {static_cast<long long>(missionYears)});
}

std::string levelWord(safety::Level level)
{
    return "PL " + std::string(safety::nameOf(level));
}

void takeLevel(Tower& t, const safety::FunctionLevel& level, const FaultAnalysis* swept)
{
    std::optional<double> claimed;
    if (level.pfhd >= 0)
        claimed = level.explanation[level.pfhd].si;
    std::optional<safety::Level> shown = level.level;
    t.pfhdPerHour = claimed;
    t.isClaimedOnly = !swept || !swept->sweep.hasPairs;
    if (!t.isClaimedOnly) {
        shown = swept->level ? std::optional(swept->level->level) : std::nullopt;
        t.pfhdPerHour = swept->level ? std::optional(swept->level->pfhdPerHour) : std::nullopt;
        if (claimed
            && (!t.pfhdPerHour || *claimed < *t.pfhdPerHour * (1 - 1e-9) || *claimed > *t.pfhdPerHour * (1 + 1e-9)))
            t.claimedPfhdPerHour = claimed;
    }
    for (std::size_t k = 0; k < level.subsystems.size(); ++k) {
        const safety::SubsystemLevel& s = level.subsystems[k];
        std::optional<double> pfhd = s.level && s.pfhd >= 0 ? std::optional(level.explanation[s.pfhd].si)
                                                            : std::nullopt;
        if (!t.isClaimedOnly)
            pfhd = swept->pillarsPerHour[k];
        t.pillars.push_back({s.name, pfhd});
    }
    t.level = shown ? levelWord(*shown) : sentence(message("level.none")).toStdString();
    if (shown && t.isClaimedOnly)
        t.level += " " + told("skyline.claimed");
    t.reaches = shown && level.required && *shown >= *level.required;
}

} // namespace

std::vector<Tower> towersOf(
    const Dossier& dossier, const Analysis& analysis, const std::vector<const FaultAnalysis*>& swept)
{
    std::vector<Tower> towers;
    for (std::size_t k = 0; k < dossier.functions.size(); ++k) {
        const SafetyFunction& f = dossier.functions[k];
        const auto result = std::find_if(analysis.functions.begin(), analysis.functions.end(),
            [&f](const FunctionResult& r) { return r.function == f.id; });
        if (result == analysis.functions.end())
            continue;
        const FaultAnalysis* found = k < swept.size() ? swept[k] : nullptr;
        Tower t;
        t.name = f.name;
        const Device* trigger = dossier.circuit.device(f.trigger.device);
        t.about = told("skyline.about", {trigger ? trigger->tag : "?", tagsOf(dossier.circuit, f.mustRest)});
        t.hasLevel = f.reliedOnByPerson;
        takeLevel(t, result->level, found);
        if (!f.reliedOnByPerson)
            t.claimedPfhdPerHour.reset();
        t.needs = !f.reliedOnByPerson ? told("skyline.no_level")
            : result->level.required  ? levelWord(*result->level.required)
                                      : told("skyline.not_decided");
        if (f.reliedOnByPerson && result->level.required)
            t.requiredBelow = pfhdLimit(*result->level.required);
        t.stop = stopOf(&*result);
        t.due = dueOf(result->level, dossier.arithmetic.missionYears);
        if (found) {
            using faults::Outcome;
            t.faults = {found->sweep.count(Outcome::Safe, false), found->sweep.count(Outcome::Caught, false),
                found->sweep.count(Outcome::Hidden, false),
                found->sweep.count(Outcome::Lost, false) + found->sweep.count(Outcome::Undecided, false)};
        }
        t.words = t.name + ": " + t.about + ". " + (t.hasLevel ? t.level : told("skyline.equipment")) + ", "
            + told("skyline.needs") + " " + t.needs + "; " + told("skyline.stop") + " " + t.stop + "; " + t.due + ". ";
        t.words += t.faults ? told("skyline.fault_counts",
                       {static_cast<long long>((*t.faults)[0]), static_cast<long long>((*t.faults)[1]),
                           static_cast<long long>((*t.faults)[2]), static_cast<long long>((*t.faults)[3])})
                            : told("skyline.no_faults");
        towers.push_back(std::move(t));
    }
    return towers;
}

figures::SkylineWords skylineWords()
{
    return {told("skyline.axis"), told("skyline.needs"), told("skyline.stop"), told("skyline.due"),
        told("skyline.faults"), told("skyline.not_tried"), told("skyline.equipment"), told("skyline.key")};
}

} // namespace ts::wording
