#include "wording/function_words.h"

#include "core/library/registry.h"
#include "wording/event_text.h"
#include "wording/wording.h"

#include <algorithm>

namespace ts::wording {
namespace {

std::string labelled(const Circuit& circuit, DeviceId id)
{
    const Device* d = circuit.device(id);
    if (!d)
        return "?";
    return d->label.empty() ? d->tag : d->tag + " (" + d->label + ")";
}

/// "M1", "M1 and M2", "M1, M2 and M3".
std::string listed(const Circuit& circuit, const std::vector<DeviceId>& ids, const char* last = "words.and")
{
    std::string text;
    for (std::size_t k = 0; k < ids.size(); ++k)
        text += (k == 0 ? "" : k + 1 == ids.size() ? said(last) : ", ") + labelled(circuit, ids[k]);
    return text.empty() ? said("words.nothing") : text;
}

/// Whether a drive stands before one of the motors: without one nothing can bring it to rest under control.
bool hasDrive(const Circuit& circuit)
{
    return std::any_of(circuit.devices.begin(), circuit.devices.end(), [&](const Device& d) {
        const auto body = bodyOf(circuit, d);
        return body && std::any_of(body->elements.begin(), body->elements.end(), [](const Element& e) {
            return std::holds_alternative<DriveElement>(e.what);
        });
    });
}

} // namespace

std::string suggestedName(const SafetyFunction& f, const Circuit& circuit)
{
    const Device* d = circuit.device(f.trigger.device);
    const std::string tag = d ? d->tag + (f.emergencyStop || d->label.empty() ? "" : " (" + d->label + ")") : "?";
    return said(f.emergencyStop ? "function.name.emergency_stop" : "function.name.stop", {tag});
}

std::vector<DeviceId> triggerDevices(const SafetyFunction& f)
{
    std::vector<DeviceId> devices{f.trigger.device};
    for (const Trigger& t : f.alsoBy)
        if (std::find(devices.begin(), devices.end(), t.device) == devices.end())
            devices.push_back(t.device);
    return devices;
}

std::string functionSentence(const SafetyFunction& f, const Circuit& circuit)
{
    std::string how = actionWord(f.trigger.action); // lines of one supply are named each
    for (const Trigger& t : f.alsoBy)
        if (t.device == f.trigger.device)
            how += said("words.or") + actionWord(t.action);
    std::string text = said(
        "function.when", {listed(circuit, triggerDevices(f), "words.or"), how, listed(circuit, f.mustRest)});
    if (f.allowedTimeS > 0.0)
        text += said("function.within", {Measured{f.allowedTimeS, "s"}});
    text += said("function.by", {static_cast<long long>(f.stopCategory)});
    const char* then = f.restart == RestartRule::StartAction ? "function.then_start"
        : f.restart == RestartRule::Reset                    ? "function.then_reset"
                                                             : "function.then_release";
    text += f.resetBy ? said("function.until", {labelled(circuit, f.resetBy), "@" + std::string(then)})
                      : said("function.until_unknown", {"@" + std::string(then)});
    if (!f.reliedOnByPerson)
        text += ' ' + said("function.equipment");
    return text;
}

std::string riskText(const SafetyFunction& f)
{
    if (!f.risk)
        return said("risk.unanswered");
    const safety::RequiredLevel r = safety::requiredLevelOf(*f.risk, f.emergencyStop);
    std::string text = said("risk.path", {r.path, std::string(safety::nameOf(r.level))});
    if (r.isLowered)
        text += ' ' + said("risk.lowered", {f.risk->lowProbabilityReason});
    else if (f.risk->lowProbability)
        text += ' ' + said("risk.needs_reason");
    if (r.isRaised)
        text += ' ' + said("risk.raised");
    return text;
}

std::vector<std::string> categoryConsequences(
    const SafetyFunction& f, const Dossier& dossier, const FunctionResult* result)
{
    std::vector<std::string> lines;
    if (result && result->nominal)
        for (const safety::ActuatorStop& a : result->nominal->actuators) {
            if (a.category && a.removedAfter && a.restAfter)
                lines.push_back(said("function.stops_now",
                    {a.tag, static_cast<long long>(*a.category), Measured{a.removedAfter->si(), "s"},
                        Measured{a.restAfter->si(), "s"}}));
            else if (a.stops)
                lines.push_back(said("function.stops_without_category", {a.tag, Phrases{a.why}}));
            else
                lines.push_back(said("function.no_stop_now", {a.tag}));
        }
    lines.push_back(said("function.category_0"));
    lines.push_back(
        (hasDrive(dossier.circuit) ? said("function.category_1") : said("function.category_1_without_drive")));
    lines.push_back((f.emergencyStop ? said("function.category_2_forbidden") : said("function.category_2")));
    return lines;
}

std::vector<std::pair<std::string, std::string>> responseLines(const SafetyFunction& f, const ResponseBudget& b)
{
    std::vector<std::pair<std::string, std::string>> lines;
    lines.emplace_back(said("response.sensor"), number(b.sensorS, "s"));
    lines.emplace_back(said("response.circuit", {b.motor}), number(b.circuitS, "s"));
    lines.emplace_back(said("response.run_down", {b.motor}), number(b.runDownS, "s"));
    if (b.withFaultS)
        lines.emplace_back(
            said(b.areLimitsTried ? "response.with_fault" : "response.with_fault_only"), number(*b.withFaultS, "s"));
    else
        lines.emplace_back(said("response.with_fault_untried"), std::string());
    if (b.measuredS)
        lines.emplace_back(said("response.measured"), number(*b.measuredS, "s"));
    lines.emplace_back(said("response.whole"), number(b.wholeS(), "s"));
    if (f.allowedTimeS > 0.0)
        lines.emplace_back(said("response.allowed"), number(f.allowedTimeS, "s"));
    if (b.needed)
        lines.emplace_back(said("response.distance",
                               {Measured{b.needed->speedMetresPerS, "m/s"}, Measured{b.needed->intrusionMetres, "m"},
                                   "@safeguard." + std::string(safeguardWord(b.needed->by)), b.needed->clause}),
            number(b.needed->metres, "m"));
    else
        lines.emplace_back(said("response.no_distance"), std::string());
    return lines;
}

} // namespace ts::wording
