#include "core/checks/groups.h"

namespace ts::checks {
namespace {

/// Its PFHd; where subsystems were counted there is none.
Message figureOf(const safety::FunctionLevel& level)
{
    return level.pfhd >= 0 ? message("evidence.pfhd", {Measured{level.explanation[level.pfhd].si, "1/h"}})
                           : message("evidence.by_count");
}

using safety::FunctionLevel;

std::string levelWord(safety::Level level)
{
    return std::string(safety::nameOf(level));
}

/// What keeps the function from its level: the first unmet condition, else the largest share.
Message weakPoint(const FunctionLevel& level)
{
    if (!level.unmet.empty())
        return level.unmet.front();
    const int weakest = level.weakest();
    if (weakest < 0)
        return message("level.no_claim");
    const auto& s = level.subsystems[static_cast<std::size_t>(weakest)];
    return s.unmet.empty() ? message("evidence.text", {s.name}) : s.unmet.front();
}

std::vector<std::string> tagsOf(const FunctionLevel& level)
{
    std::vector<std::string> tags;
    const int weakest = level.weakest();
    if (weakest >= 0)
        for (const auto& c : level.subsystems[static_cast<std::size_t>(weakest)].channels)
            for (const auto& p : c.parts)
                if (!p.tag.empty())
                    tags.push_back(p.tag);
    return tags;
}

void judge(const Circuit& circuit, const SafetyFunction& f, const FunctionLevel& level, std::vector<Finding>& out)
{
    if (!f.reliedOnByPerson)
        return;
    Finding finding{{}, Severity::Stop, tagsOf(level), {}, message("consequence.level"), {}, {}, {},
        {.aspect = Target::Aspect::Claim, .function = f.id}};
    if (const int weakest = level.weakest(); weakest >= 0)
        finding.target.subsystem = level.subsystems[static_cast<std::size_t>(weakest)].name;
    if (!level.required) {
        finding.severity = Severity::Fix;
        finding.what = message("finding.level.not_required", {f.name});
        finding.mend = message("mend.level.enter");
        finding.evidence = message("evidence.text", {f.name});
        out.push_back(finding);
        return;
    }
    if (f.emergencyStop && f.requiredLevel < safety::Level::C) {
        Finding low = finding;
        low.what = message("finding.level.estop", {f.name, levelWord(*f.requiredLevel)});
        low.mend = message("mend.level.enter");
        low.evidence = message("evidence.text", {levelWord(*f.requiredLevel)});
        low.clause = "ISO 13850 clause 4.1.5.1";
        out.push_back(low);
    }
    if (!level.level || *level.level < *level.required) {
        finding.what = level.level
            ? message("finding.level.short", {f.name, "PL " + levelWord(*level.level), levelWord(*level.required)})
            : message("finding.level.none", {f.name, levelWord(*level.required)});
        finding.mend = message("mend.level", {f.name});
        finding.evidence = level.level ? figureOf(level) : weakPoint(level);
        const int weakest = level.weakest();
        if (!level.unmet.empty())
            finding.mend = level.unmet.front();
        else if (weakest >= 0)
            finding.mend = message("mend.level", {level.subsystems[static_cast<std::size_t>(weakest)].name});
        out.push_back(finding);
    } else if (!level.conditionsAnswered) {
        finding.severity = Severity::Fix;
        finding.what = message("finding.level.conditions", {f.name, levelWord(*level.level)});
        finding.consequence = message("consequence.conditions");
        const auto open = safety::unansweredConditions(circuit, f);
        finding.mend = message("mend.conditions", {"@" + open.front()});
        finding.evidence = figureOf(level);
        out.push_back(finding);
    }
}

} // namespace

bool hasFunctions(const Dossier& dossier, const Subject&)
{
    return !dossier.functions.empty();
}

void levelReached(const CheckInput& input, std::vector<Finding>& out)
{
    forEachFunction(input,
        [&](const SafetyFunction& f, const FunctionResult& r) { judge(input.dossier.circuit, f, r.level, out); });
}

} // namespace ts::checks
