#include "core/analysis/function_verdict.h"

#include "core/library/registry.h"

#include <algorithm>
#include <array>

namespace ts {
namespace {

using Answer = FunctionVerdict::Answer;
using Extent = FunctionVerdict::Extent;
using safety::Level;

std::optional<Level> worse(std::optional<Level> a, std::optional<Level> b)
{
    return a && b ? std::optional(safety::lower(*a, *b)) : std::nullopt;
}

bool reaches(std::optional<Level> level, Level required)
{
    return level && *level >= required;
}

/// Whether something that was found speaks against the required level.
bool isMissed(const FunctionVerdict& v)
{
    if (!v.required)
        return !v.claimed;
    if (!reaches(v.claimed, *v.required))
        return true;
    if (v.extent == Extent::Claimed)
        return false;
    if (!reaches(v.atMost, *v.required))
        return true;
    return v.isBuiltKnown && !reaches(v.built, *v.required);
}

/// Second faults, and the limits of times and voltage.
bool isWhole(const faults::Sweep& s)
{
    return s.hasPairs && (s.limitRunCount > 0 || !s.limitTrouble.empty());
}

void nameWhatIsNotKnown(FunctionVerdict& v, const Dossier& dossier, const SafetyFunction& f, const FaultAnalysis* built,
    const OtherTriggers* others)
{
    if (!v.required)
        v.notKnown.push_back(message("unknown.required"));
    if (v.extent == Extent::Claimed)
        v.notKnown.push_back(message("unknown.single_faults"));
    if (v.extent != Extent::Built)
        v.notKnown.push_back(message("unknown.second_faults"));
    if (v.extent == Extent::Built && !v.isBuiltKnown)
        v.notKnown.push_back(message("unknown.built"));
    if (built && !built->sweep.notRunning.empty())
        v.notKnown.push_back(message("unknown.not_running"));
    const Circuit& circuit = dossier.circuit;
    if (const auto nowhere = std::count_if(
            circuit.wires.begin(), circuit.wires.end(), [&circuit](const Wire& w) { return !circuit.route(w.route); }))
        v.notKnown.push_back(message("unknown.routes", {static_cast<long long>(nowhere)}));
    std::string contacts;
    for (const Device& d : circuit.devices)
        for (const std::string& pair : unknownContacts(circuit, d))
            contacts += (contacts.empty() ? "" : ", ") + d.tag + " " + pair;
    if (!contacts.empty())
        v.notKnown.push_back(message("unknown.contacts", {contacts}));
    std::string untried, singly;
    for (std::size_t k = 0; k < f.alsoBy.size(); ++k) {
        const bool isTried = others && others->tried[k].analysis;
        if (isTried && isWhole(others->tried[k].analysis->sweep))
            continue;
        std::string& list = isTried ? singly : untried;
        list += (list.empty() ? "" : ", ") + nameOf(circuit, f.alsoBy[k]);
    }
    if (!untried.empty())
        v.notKnown.push_back(message("unknown.other_triggers", {untried}));
    if (!singly.empty())
        v.notKnown.push_back(message("unknown.other_triggers_second", {singly}));
    for (const std::string& condition : safety::unansweredConditions(dossier.circuit, f))
        v.notKnown.push_back(message("unknown.condition", {"@" + condition}));
}

/// The worst trigger counts.
void takeTheWorst(FunctionVerdict& v, const OtherTriggers& others)
{
    for (const TriedTrigger& t : others.tried)
        if (t.analysis) {
            v.atMost = worse(v.atMost, t.analysis->atMost);
            const bool isKnown = t.analysis->sweep.hasPairs && t.analysis->isLevelKnown;
            v.isBuiltKnown = v.isBuiltKnown && (isKnown || !t.analysis->sweep.hasPairs);
            v.built = worse(v.built,
                !isKnown                ? t.analysis->atMost
                    : t.analysis->level ? std::optional(t.analysis->level->level)
                                        : std::nullopt);
        }
}

std::string word(const std::optional<Level>& level)
{
    return level ? "PL " + std::string(safety::nameOf(*level)) : "@level.none";
}

} // namespace

std::optional<safety::Level> FunctionVerdict::counting() const
{
    return extent == Extent::Claimed ? claimed : worse(claimed, isBuiltKnown ? built : atMost);
}

std::string_view nameOf(Extent extent)
{
    constexpr std::array<std::string_view, 3> names{"claimed", "single_faults", "built"};
    return names[static_cast<std::size_t>(extent)];
}

std::string_view nameOf(Answer answer)
{
    constexpr std::array<std::string_view, 4> names{"not_asked", "not_reached", "not_known", "reached"};
    return names[static_cast<std::size_t>(answer)];
}

FunctionVerdict verdictOf(const Dossier& dossier, const SafetyFunction& function, const safety::FunctionLevel& level,
    const FaultAnalysis* built, const OtherTriggers* others)
{
    FunctionVerdict v;
    v.function = function.id;
    if (!function.reliedOnByPerson) {
        v.answer = Answer::NotAsked;
        return v;
    }
    v.required = level.required;
    v.claimed = level.level;
    if (built) {
        v.extent = built->sweep.hasPairs ? Extent::Built : Extent::SingleFaults;
        v.atMost = built->atMost;
        v.isBuiltKnown = v.extent == Extent::Built && built->isLevelKnown;
        if (v.isBuiltKnown && built->level)
            v.built = built->level->level;
    }
    if (others && built)
        takeTheWorst(v, *others);
    nameWhatIsNotKnown(v, dossier, function, built, others);
    v.answer = isMissed(v) ? Answer::NotReached : v.notKnown.empty() ? Answer::Reached : Answer::NotKnown;
    return v;
}

Phrases phrasesOf(const FunctionVerdict& v)
{
    if (v.answer == Answer::NotAsked)
        return {message("verdict.not_asked")};
    Phrases said;
    if (v.extent == Extent::Claimed)
        said.push_back(message(v.claimed ? "verdict.claimed_only" : "verdict.no_claim", {word(v.claimed)}));
    else if (v.isBuiltKnown)
        said.push_back(message(v.counting() ? "verdict.built" : "verdict.no_level_built", {word(v.counting())}));
    else
        said.push_back(message(v.counting() ? "verdict.at_most" : "verdict.no_level_single", {word(v.counting())}));
    if (v.extent != Extent::Claimed && v.claimed != v.counting())
        said.push_back(message("verdict.claim_says", {word(v.claimed)}));
    said.push_back(v.required ? message("verdict.required", {word(v.required)}) : message("verdict.required_open"));
    return said;
}

} // namespace ts
