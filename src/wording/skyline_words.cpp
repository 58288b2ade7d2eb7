#include "wording/skyline_words.h"

#include "core/analysis/function_verdict.h"
#include "wording/function_words.h"
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
        return said("skyline.no_stop");
    std::string categories;
    std::optional<double> latest;
    for (const safety::ActuatorStop& a : r->nominal->actuators) {
        const std::string word = a.category ? std::to_string(*a.category) : said("skyline.none");
        if (categories.find(word) == std::string::npos)
            categories += (categories.empty() ? "" : " / ") + word;
        if (a.removedAfter)
            latest = std::max(latest.value_or(0.0), a.removedAfter->si());
    }
    return latest ? said("skyline.stop_facts", {categories, Measured{*latest, "s"}})
                  : said("skyline.stop_category", {categories});
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
    return first ? said("skyline.replace", {first->tag, Measured{soonest, "y"}})
                 : said("skyline.replace_none", {static_cast<long long>(missionYears)});
}

std::string levelWord(safety::Level level)
{
    return "PL " + std::string(safety::nameOf(level));
}

/// "PL d claimed", "PL b at most", "PL d": what counts, with how far it has been tried.
std::string levelText(const FunctionVerdict& v)
{
    const auto level = v.counting();
    if (!level)
        return sentence(message("level.none"));
    const char* how = v.extent == FunctionVerdict::Extent::Claimed ? "skyline.claimed"
        : v.isBuiltKnown                                           ? nullptr
                                                                   : "skyline.at_most";
    return levelWord(*level) + (how ? " " + said(how) : std::string());
}

void takeLevel(Tower& t, const safety::FunctionLevel& level, const FunctionVerdict& verdict, const FaultAnalysis* built)
{
    std::optional<double> claimed;
    if (level.pfhd >= 0)
        claimed = level.explanation[level.pfhd].si;
    t.pfhdPerHour = claimed;
    t.isClaimedOnly = verdict.extent != FunctionVerdict::Extent::Built;
    if (!t.isClaimedOnly) {
        t.pfhdPerHour = built->level ? std::optional(built->level->pfhdPerHour) : std::nullopt;
        if (claimed
            && (!t.pfhdPerHour || *claimed < *t.pfhdPerHour * (1 - 1e-9) || *claimed > *t.pfhdPerHour * (1 + 1e-9)))
            t.claimedPfhdPerHour = claimed;
    }
    for (std::size_t k = 0; k < level.subsystems.size(); ++k) {
        const safety::SubsystemLevel& s = level.subsystems[k];
        std::optional<double> pfhd = s.level && s.pfhd >= 0 ? std::optional(level.explanation[s.pfhd].si)
                                                            : std::nullopt;
        if (!t.isClaimedOnly)
            pfhd = built->pillarsPerHour[k];
        t.pillars.push_back({s.name, pfhd});
    }
    t.level = levelText(verdict);
    t.reaches = verdict.answer == FunctionVerdict::Answer::Reached;
    t.misses = verdict.answer == FunctionVerdict::Answer::NotReached;
}

} // namespace

std::vector<Tower> towersOf(const Dossier& dossier, const Results& results)
{
    std::vector<Tower> towers;
    const auto analysis = results.find(kLevels);
    if (!analysis)
        return towers;
    for (std::size_t k = 0; k < dossier.functions.size(); ++k) {
        const SafetyFunction& f = dossier.functions[k];
        const auto result = std::find_if(analysis->functions.begin(), analysis->functions.end(),
            [&f](const FunctionResult& r) { return r.function == f.id; });
        if (result == analysis->functions.end())
            continue;
        const auto found = results.find(kBuilt, about(f.id));
        Tower t;
        t.name = f.name;
        const std::vector<DeviceId> triggers = triggerDevices(f);
        t.about = said(triggers.size() > 1 ? "skyline.about_many" : "skyline.about",
            {tagsOf(dossier.circuit, triggers), tagsOf(dossier.circuit, f.mustRest)});
        t.hasLevel = f.reliedOnByPerson;
        const auto others = results.find(kOtherTriggers, about(f.id));
        takeLevel(t, result->level, verdictOf(dossier, f, result->level, found.get(), others.get()), found.get());
        if (!f.reliedOnByPerson)
            t.claimedPfhdPerHour.reset();
        t.needs = !f.reliedOnByPerson ? said("skyline.no_level")
            : result->level.required  ? levelWord(*result->level.required)
                                      : said("skyline.not_decided");
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
        t.faultsNote = !found ? said("skyline.not_tried") : found->sweep.hasPairs ? "" : said("skyline.single_only");
        t.words = t.name + ": " + t.about + ". " + (t.hasLevel ? t.level : said("skyline.equipment")) + ", "
            + said("skyline.needs") + " " + t.needs + "; " + said("skyline.stop") + " " + t.stop + "; " + t.due + ". ";
        t.words += t.faults ? said("skyline.fault_counts",
                       {static_cast<long long>((*t.faults)[0]), static_cast<long long>((*t.faults)[1]),
                           static_cast<long long>((*t.faults)[2]), static_cast<long long>((*t.faults)[3])})
                            : said("skyline.no_faults");
        if (found && !t.faultsNote.empty())
            t.words += "; " + t.faultsNote;
        towers.push_back(std::move(t));
    }
    return towers;
}

figures::SkylineWords skylineWords()
{
    return {said("skyline.axis"), said("skyline.needs"), said("skyline.stop"), said("skyline.due"),
        said("skyline.faults"), said("skyline.equipment"), said("skyline.key")};
}

figures::Figure skylineFigure(const Dossier& dossier, const Results& results, double width, double height)
{
    return figures::skyline(towersOf(dossier, results), skylineWords(), width, height);
}

} // namespace ts::wording
