#include "core/checks/groups.h"

namespace ts::checks {
namespace {

Finding blank(const SafetyFunction& f)
{
    Finding finding{"stop", Severity::Stop, {}, {}, message("consequence.stop"), message("mend.stop.category"), {}, {}};
    finding.evidence = message("evidence.text", {f.name});
    return finding;
}

Message evidenceOf(const safety::ActuatorStop& s)
{
    if (!s.removedAfter || !s.restAfter)
        return s.why;
    return message("evidence.stop", {Measured{s.removedAfter->si(), "s"}, Measured{s.restAfter->si(), "s"}});
}

void judge(const SafetyFunction& f, const safety::ActuatorStop& s, std::vector<Finding>& out)
{
    Finding finding = blank(f);
    finding.devices = {s.tag};
    finding.evidence = evidenceOf(s);
    if (!s.runShowsIt) {
        finding.severity = Severity::Fix;
        finding.what = message("finding.stop.unread", {f.name});
        finding.mend = message("mend.stop.scenario");
        out.push_back(finding);
    } else if (!s.category) {
        finding.what = message("finding.stop.no_stop", {f.name, s.tag});
        finding.mend = message("mend.stop.no_stop");
        finding.evidence = s.why;
        out.push_back(finding);
    } else if (*s.category != f.stopCategory) {
        finding.severity = Severity::Fix;
        finding.what = message("finding.stop.differs",
            {f.name, s.tag, std::to_string(*s.category), std::to_string(f.stopCategory)});
        out.push_back(finding);
    }
    if (s.restAfter && f.allowedTimeS > 0.0 && s.restAfter->si() > f.allowedTimeS) {
        finding.severity = Severity::Stop;
        finding.what = message("finding.stop.late", {f.name, s.tag, Measured{s.restAfter->si(), "s"}, Measured{f.allowedTimeS, "s"}});
        finding.mend = message("mend.stop.time");
        out.push_back(finding);
    }
}

} // namespace

void stopCategoryAllowed(const CheckInput& input, std::vector<Finding>& out)
{
    for (const FunctionEvidence& e : input.functions) {
        const SafetyFunction& f = *e.function;
        if (f.emergencyStop && f.stopCategory == 2) {
            Finding finding = blank(f);
            finding.what = message("finding.stop.not_allowed", {f.name, std::to_string(f.stopCategory)});
            finding.evidence = message("stop.category", {std::to_string(f.stopCategory)});
            finding.clause = "EN 60204-1 clause 9.2.3.4.2";
            out.push_back(finding);
        }
        if (e.stops.empty()) {
            Finding finding = blank(f);
            finding.severity = Severity::Fix;
            finding.what = message("finding.stop.unread", {f.name});
            finding.mend = message("mend.stop.scenario");
            finding.evidence = e.stopTrouble;
            out.push_back(finding);
        }
        for (const safety::ActuatorStop& s : e.stops)
            judge(f, s, out);
    }
}

} // namespace ts::checks
