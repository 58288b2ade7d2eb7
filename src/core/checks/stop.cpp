#include "core/analysis/response.h"
#include "core/checks/groups.h"
#include "core/library/registry.h"
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
    } else if (s.stops && !s.category) {
        finding.severity = Severity::Fix;
        finding.what = message("finding.stop.no_category", {f.name, s.tag});
        finding.evidence = s.why;
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

/// A guard or light curtain that nothing locks: whoever opens it walks on.
bool isFreeGuard(const Circuit& circuit, const SafetyFunction& f)
{
    const Device* device = circuit.device(f.trigger.device);
    const DeviceKind* kind = device ? deviceKind(device->kind) : nullptr;
    if (!kind || kind->traits.protects != KindTraits::Protects::Guard)
        return false;
    const bool canLock = std::any_of(kind->parameters.begin(), kind->parameters.end(),
        [](const ParameterSpec& spec) { return spec.name == "locking"; });
    const auto parameters = parametersOf(circuit, *device);
    return !canLock || !parameters || parameters->word("locking") == "none";
}

/// The way from the place of detection to the hazard against the one that is needed for the time to rest.
void judgeDistance(const Circuit& circuit, const SafetyFunction& f, const std::optional<ResponseBudget>& budget,
    std::vector<Finding>& out)
{
    if (!budget || !budget->needed || (!f.approach.distanceM && !isFreeGuard(circuit, f)))
        return;
    const Measured needed{budget->needed->metres, "m"};
    if (f.approach.distanceM && budget->needed->metres <= *f.approach.distanceM)
        return;
    Finding finding = blank(f);
    finding.what = f.approach.distanceM
        ? message("finding.distance", {f.name, Measured{*f.approach.distanceM, "m"}, needed})
        : message("finding.distance.open", {f.name, needed});
    if (!f.approach.distanceM)
        finding.severity = Severity::Fix;
    finding.consequence = message("consequence.distance");
    finding.mend = message(f.approach.distanceM ? "mend.distance" : "mend.distance.open");
    finding.evidence = message("evidence.distance",
        {Measured{budget->wholeS(), "s"}, Measured{budget->needed->speedMetresPerS, "m/s"},
            Measured{budget->needed->intrusionMetres, "m"},
            "@safeguard." + std::string(safeguardWord(budget->needed->by))});
    finding.clause = budget->needed->clause;
    out.push_back(finding);
}

void judgeMeasured(const SafetyFunction& f, std::vector<Finding>& out)
{
    const std::size_t count = f.approach.measuredStopsS.size();
    if (count == 0 || count >= safety::kFewestStops)
        return;
    Finding finding = blank(f);
    finding.severity = Severity::Fix;
    finding.what = message(
        "finding.measured.few", {f.name, static_cast<long long>(count), static_cast<long long>(safety::kFewestStops)});
    finding.consequence = message("consequence.measured.few");
    finding.mend = message("mend.measured.few");
    finding.evidence = message("evidence.claim_data");
    out.push_back(finding);
}

/// Without any load it may rest much later than with the one that was entered: how far the time goes is not decided.
void judgeLoad(const SafetyFunction& f, const FunctionResult& r, std::vector<Finding>& out)
{
    constexpr double kMuch = 1.2;
    if (r.slow && !r.lowestLoad) {
        Finding finding = blank(f);
        finding.severity = Severity::Fix;
        finding.what = message("finding.stop.load_untried", {f.name});
        finding.mend = message("mend.stop.no_stop");
        finding.evidence = r.lowestLoadTrouble;
        out.push_back(finding);
    }
    for (std::size_t k = 0; r.slow && r.lowestLoad && k < r.slow->actuators.size(); ++k) {
        const safety::ActuatorStop &entered = r.slow->actuators[k], &least = r.lowestLoad->actuators[k];
        if (!r.isLeastLoadAssumed[k] || !entered.restAfter)
            continue;
        Finding finding = blank(f);
        if (!least.restAfter) {
            finding.severity = Severity::Fix;
            finding.devices = {entered.tag};
            finding.what = message("finding.stop.load_keeps", {f.name, entered.tag});
            finding.mend = message("mend.stop.load");
            finding.evidence = least.why;
            out.push_back(finding);
            continue;
        }
        if (least.restAfter->si() < kMuch * entered.restAfter->si())
            continue;
        finding.severity = f.allowedTimeS > 0.0 && least.restAfter->si() > f.allowedTimeS ? Severity::Fix
                                                                                          : Severity::Note;
        finding.devices = {entered.tag};
        finding.what = message("finding.stop.load",
            {f.name, entered.tag, Measured{entered.restAfter->si(), "s"}, Measured{least.restAfter->si(), "s"}});
        finding.mend = message("mend.stop.load");
        finding.evidence = message("evidence.stop.load", {entered.tag});
        out.push_back(finding);
    }
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
        const Circuit& circuit = input.dossier.circuit;
        judgeLoad(f, r, out);
        judgeRestartRule(f, out);
        for (const safety::SeenRestart& seen : r.nominal ? r.nominal->restarts : std::vector<safety::SeenRestart>{})
            judgeRestart(circuit, f, seen, out);
    });
}

void distanceKept(const CheckInput& input, std::vector<Finding>& out)
{
    forEachFunction(input, [&](const SafetyFunction& f, const FunctionResult& r) {
        const auto single = input.results.find(kSingleFaults, about(f.id));
        if (!single)
            return;
        const auto second = input.results.find(kSecondFaults, about(f.id));
        judgeDistance(input.dossier.circuit, f,
            responseOf(input.dossier.circuit, f, worstStops(r), widerOf(single.get(), second.get())), out);
        judgeMeasured(f, out);
    });
}

} // namespace ts::checks
