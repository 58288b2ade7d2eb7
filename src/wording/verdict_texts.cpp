#include "wording/verdict_texts.h"

#include <array>

namespace ts::wording {

std::span<const Entry> verdictEntries()
{
#define TS_TEXT(id, text)                                                                                              \
    Entry                                                                                                              \
    {                                                                                                                  \
        id, text                                                                                                       \
    }
    static const std::array entries{
        TS_TEXT("answer.not_asked", "no level is asked for"),
        TS_TEXT("answer.not_known", "not known yet"),
        TS_TEXT("answer.not_reached", "not reached"),
        TS_TEXT("answer.reached", "reached"),
        TS_TEXT("check.in_part", "checked in part only"),
        TS_TEXT("check.limits", "The circuit without faults bears the limits of times and voltage"),
        TS_TEXT("check.made", "checked"),
        TS_TEXT("check.not_made", "not checked"),
        TS_TEXT("check.not_run", "was not run"),
        TS_TEXT("check.orders", "No order of operation shows anything wrong"),
        TS_TEXT("check.second_faults", "Second faults are borne by the claim, and noticed as claimed"),
        TS_TEXT("check.single_faults", "Single faults are borne by the claim"),
        TS_TEXT("check.worst_stop", "The latest stop of all cases is in time"),
        TS_TEXT("report.built_against_claimed", "Verdict"),
        TS_TEXT("report.not_looked_at", "Not looked at"),
        TS_TEXT("study.built", "Claimed against built"),
        TS_TEXT("study.checks", "Design checks"),
        TS_TEXT("study.faults", "Single faults"),
        TS_TEXT("study.levels", "Levels and stops as claimed"),
        TS_TEXT("study.no_faults", "no faults were tried"),
        TS_TEXT("study.no_motor", "there is no such motor"),
        TS_TEXT("study.orders", "Every order of operation"),
        TS_TEXT("study.pairs", "Second faults, limits and excluded faults"),
        TS_TEXT("study.stop", "Stop in its worst case"),
        TS_TEXT("study.too_large",
            "%1: given up, the program would need more than %2 of memory. Make the circuit smaller, or ask for one "
            "function at a time"),
        TS_TEXT("study.too_long",
            "%1: given up after %2. The circuit is too large to be looked at by itself; ask for it on the command "
            "line"),
        TS_TEXT("unknown.built",
            "the level as built: something chatters or was not tried, or no fault of some part counts"),
        TS_TEXT("unknown.condition", "%1: not answered"),
        TS_TEXT("unknown.line", "not known: %1"),
        TS_TEXT("unknown.not_running", "some motors did not run at the demand: nothing was shown of them"),
        TS_TEXT("unknown.required", "the required level is not decided"),
        TS_TEXT("unknown.second_faults", "second faults, limits of times and voltage: not tried"),
        TS_TEXT("unknown.single_faults", "single faults: not tried"),
        TS_TEXT("verdict.at_most", "At most %1 by its single faults"),
        TS_TEXT("verdict.built", "%1 as built"),
        TS_TEXT("verdict.claim_says", "claimed %1"),
        TS_TEXT("verdict.claimed_only", "%1 claimed, no fault tried"),
        TS_TEXT("verdict.no_claim", "No level is claimed"),
        TS_TEXT("verdict.no_level_built", "No level as built"),
        TS_TEXT("verdict.no_level_single", "No level, by its single faults"),
        TS_TEXT("verdict.not_asked", "Protects equipment: no level is asked for"),
        TS_TEXT("verdict.required", "needed %1"),
        TS_TEXT("verdict.required_open", "needed level not decided"),
    };
#undef TS_TEXT
    return entries;
}

std::string verdictText(const FunctionVerdict& verdict)
{
    std::vector<std::string> parts;
    for (const Message& m : phrasesOf(verdict))
        parts.push_back(sentence(m));
    const std::string text = joined(parts, "; ");
    return verdict.answer == FunctionVerdict::Answer::NotAsked
        ? text
        : text + ": " + word("answer." + std::string(nameOf(verdict.answer)));
}

std::string notKnownText(const FunctionVerdict& verdict)
{
    return verdict.notKnown.empty() ? std::string() : said("unknown.line", {Phrases(verdict.notKnown)});
}

std::string studyText(std::string_view study, const Subject& subject, const Dossier& dossier)
{
    const std::string name = word("study." + std::string(study));
    if (const SafetyFunction* f = dossier.function(subject.function()))
        return name + ": " + f->name;
    if (const Device* d = dossier.circuit.device(subject.motor()))
        return name + ": " + d->tag;
    return name;
}

} // namespace ts::wording
