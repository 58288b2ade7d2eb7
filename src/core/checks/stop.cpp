#include "core/analysis/response.h"
#include "core/checks/groups.h"
#include "core/safety/decision.h"

#include <algorithm>

namespace ts::checks {
namespace {

Finding blank(const SafetyFunction& f)
{
    Finding finding{{}, Severity::Stop, {}, {}, message("consequence.stop"), message("mend.stop.category"), {}, {},
        {.aspect = Target::Aspect::Demand, .function = f.id}};
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
        finding.what = message(
            "finding.stop.differs", {f.name, s.tag, std::to_string(*s.category), std::to_string(f.stopCategory)});
        out.push_back(finding);
    }
    if (s.restAfter && f.allowedTimeS > 0.0 && s.restAfter->si() > f.allowedTimeS) {
        finding.severity = Severity::Stop;
        finding.what = message(
            "finding.stop.late", {f.name, s.tag, Measured{s.restAfter->si(), "s"}, Measured{f.allowedTimeS, "s"}});
        finding.mend = message("mend.stop.time");
        out.push_back(finding);
    }
}

/// What may start it again is the rule that was decided, held against what did.
void judgeRestart(
    const Circuit& circuit, const SafetyFunction& f, const safety::SeenRestart& r, std::vector<Finding>& out)
{
    const bool byTrigger = r.by == f.trigger.device, byReset = f.resetBy && r.by == f.resetBy;
    const bool isAllowed = byTrigger ? f.restart == RestartRule::Release
        : byReset                    ? f.restart != RestartRule::StartAction
                                     : true;
    if (isAllowed)
        return;
    const Device* device = circuit.device(r.by);
    Finding finding = blank(f);
    finding.devices = {r.motor};
    finding.what = message(byTrigger ? "finding.restart.by_release" : "finding.restart.by_reset",
        {f.name, r.motor, device ? device->tag : "?"});
    finding.consequence = message("consequence.restart");
    finding.mend = message("mend.restart");
    finding.clause = "EN 60204-1 clause 9.2.3.4.2, ISO 13849-1 clause 5.2.2";
    out.push_back(finding);
}

/// The way from the place of detection to the hazard against the one that is needed for the time to rest.
void judgeDistance(const SafetyFunction& f, const std::vector<safety::ActuatorStop>& stops, std::vector<Finding>& out)
{
    if (!f.approach.distanceM || f.emergencyStop)
        return;
    double rest = 0.0;
    for (const safety::ActuatorStop& s : stops)
        rest = std::max(rest, s.restAfter ? s.restAfter->si() : 0.0);
    if (const auto measured = safety::stoppingTimeFrom(f.approach.measuredStopsS))
        rest = std::max(rest, measured->si());
    const auto needed = safety::safetyDistance(seconds(rest + f.approach.sensorS), f.approach.intrusionM);
    if (!needed || needed->metres <= *f.approach.distanceM)
        return;
    Finding finding = blank(f);
    finding.what = message(
        "finding.distance", {f.name, Measured{*f.approach.distanceM, "m"}, Measured{needed->metres, "m"}});
    finding.consequence = message("consequence.distance");
    finding.mend = message("mend.distance");
    finding.evidence = message(
        "evidence.distance", {Measured{rest + f.approach.sensorS, "s"}, Measured{needed->speedMetresPerS, "m/s"}});
    finding.clause = "ISO 13855 clause 5";
    out.push_back(finding);
}

/// An emergency stop never lets its own return or the reset start anything, whatever was chosen.
void judgeRestartRule(const SafetyFunction& f, std::vector<Finding>& out)
{
    if (!f.emergencyStop || f.restart == RestartRule::StartAction)
        return;
    Finding finding = blank(f);
    finding.what = message("finding.restart.rule", {f.name});
    finding.consequence = message("consequence.restart");
    finding.mend = message("mend.restart.rule");
    finding.clause = "EN 60204-1 clause 9.2.3.4.2";
    out.push_back(finding);
}

} // namespace

void stopCategoryAllowed(const CheckInput& input, std::vector<Finding>& out)
{
    forEachFunction(input, [&](const SafetyFunction& f, const FunctionResult& r) {
        const std::vector<safety::ActuatorStop> stops = worstStops(r);
        if (f.emergencyStop && f.stopCategory == 2) {
            Finding finding = blank(f);
            finding.what = message("finding.stop.not_allowed", {f.name, std::to_string(f.stopCategory)});
            finding.evidence = message("stop.category", {std::to_string(f.stopCategory)});
            finding.clause = "EN 60204-1 clause 9.2.3.4.2";
            out.push_back(finding);
        }
        if (stops.empty()) {
            Finding finding = blank(f);
            finding.severity = Severity::Fix;
            finding.what = message("finding.stop.unread", {f.name});
            finding.mend = message("mend.stop.scenario");
            finding.evidence = r.stopTrouble;
            out.push_back(finding);
        }
        for (const safety::ActuatorStop& s : stops)
            judge(f, s, out);
        judgeDistance(f, stops, out);
        judgeRestartRule(f, out);
        for (const safety::SeenRestart& seen : r.nominal ? r.nominal->restarts : std::vector<safety::SeenRestart>{})
            judgeRestart(input.dossier.circuit, f, seen, out);
    });
}

} // namespace ts::checks
