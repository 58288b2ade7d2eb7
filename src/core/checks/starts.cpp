#include "core/checks/groups.h"
#include "core/exploration/directed.h"

#include <algorithm>

namespace ts::checks {
namespace {

using exploration::Departure;
using exploration::StartedBy;
using exploration::StartSeen;

bool isHeld(StartedBy by)
{
    return by == StartedBy::HeldAtReturn || by == StartedBy::HeldAtReset;
}

/// A guard that controls the start, or a reset that does, where somebody has decided so (EN 60204-1 clause 9.2.3.4.2).
bool isAllowed(const Dossier& dossier, const StartSeen& s)
{
    if (s.departure != Departure::Guard)
        return false;
    const RestartRule rule = s.by == StartedBy::Return ? RestartRule::Release : RestartRule::Reset;
    return std::any_of(dossier.functions.begin(), dossier.functions.end(),
        [&](const SafetyFunction& f) { return f.isTriggeredBy(s.what) && f.restart == rule && !f.emergencyStop; });
}

} // namespace

namespace {

std::string tagOf(const Dossier& dossier, DeviceId id)
{
    const Device* device = dossier.circuit.device(id);
    return device ? device->tag : std::string();
}

Finding startFinding(const Dossier& dossier, const StartSeen& s, int seen)
{
    const bool isReset = s.by == StartedBy::Reset;
    const std::string what = tagOf(dossier, s.what);
    Finding f{{}, Severity::Stop, {tagOf(dossier, s.motor)},
        message(isReset ? "finding.start.reset" : "finding.start.return",
            {tagOf(dossier, s.motor), "@departure." + std::string(nameOf(s.departure)),
                what.empty() ? what : " (" + what + ")"}),
        message(isReset ? "consequence.start.reset" : "consequence.start.return"),
        message(isReset ? "mend.start.reset" : "mend.start.return"), {}, message("evidence.start", {s.said}),
        {.aspect = Target::Aspect::Order, .device = s.motor, .seen = seen}};
    if (!what.empty())
        f.devices.push_back(what);
    return f;
}

/// One for a motor, whatever had stopped it: the button is the same.
Finding heldFinding(const Dossier& dossier, const std::vector<const StartSeen*>& held, const StartSeen* all)
{
    const StartSeen& first = *held.front();
    std::vector<std::string> stops;
    for (const StartSeen* s : held)
        if (const std::string what = s->what ? tagOf(dossier, s->what) : std::string(nameOf(s->departure));
            std::find(stops.begin(), stops.end(), what) == stops.end())
            stops.push_back(what);
    std::string said;
    for (const std::string& s : stops)
        said += (said.empty() ? "" : ", ") + (s.find('_') == s.npos ? s : s.substr(0, s.find('_')));
    return {{}, Severity::Note, {tagOf(dossier, first.motor)},
        message("finding.start.held", {tagOf(dossier, first.motor), said}), message("consequence.start.held"),
        message("mend.start.held"), {}, message("evidence.start", {first.said}),
        {.aspect = Target::Aspect::Order, .device = first.motor, .seen = static_cast<int>(&first - all)}};
}

Finding raceFinding(const Dossier& dossier, const exploration::RaceSeen& r)
{
    const std::string first = tagOf(dossier, r.first), second = tagOf(dossier, r.second);
    return {{}, Severity::Note, {first, second}, message("finding.race", {first, second}), message("consequence.race"),
        message("mend.race"), {}, message("evidence.start", {r.said}),
        {.aspect = Target::Aspect::Order, .device = r.first}};
}

} // namespace

void startsOnlyWhenAsked(const CheckInput& input, std::vector<Finding>& out)
{
    const auto seen = input.results.find(kDirected);
    if (!seen)
        return;
    for (const StartSeen& s : seen->starts)
        if (!isHeld(s.by) && !isAllowed(input.dossier, s))
            out.push_back(startFinding(input.dossier, s, static_cast<int>(&s - seen->starts.data())));
    for (const exploration::RaceSeen& r : seen->races)
        out.push_back(raceFinding(input.dossier, r));
    std::vector<DeviceId> told;
    for (const StartSeen& s : seen->starts) {
        if (!isHeld(s.by) || std::find(told.begin(), told.end(), s.motor) != told.end())
            continue;
        told.push_back(s.motor);
        std::vector<const StartSeen*> same;
        for (const StartSeen& o : seen->starts)
            if (isHeld(o.by) && o.motor == s.motor)
                same.push_back(&o);
        out.push_back(heldFinding(input.dossier, same, seen->starts.data()));
    }
}

void linesAreWatched(const CheckInput& input, std::vector<Finding>& out)
{
    const auto seen = input.results.find(kDirected);
    if (!seen)
        return;
    const auto runsOn = [&](const exploration::RunsWithoutLine& r) {
        return std::any_of(seen->lines.begin(), seen->lines.end(), [&r](const exploration::RunsWithoutLine& o) {
            return o.motor == r.motor && o.line == r.line && !o.isStartHeld;
        });
    };
    for (const exploration::RunsWithoutLine& r : seen->lines) {
        if (r.isStartHeld && runsOn(r))
            continue; // whatever is held
        const std::string tag = tagOf(input.dossier, r.motor);
        const Message what = r.isStartHeld
            ? message("finding.line.held", {tag, r.line, r.start, Measured{r.watched.si(), "s"}})
            : message("finding.line.runs_on", {tag, r.line, Measured{r.watched.si(), "s"}});
        out.push_back({{}, Severity::Fix, {tag}, what, message("consequence.line"),
            message(r.isStartHeld ? "mend.line.held" : "mend.line.runs_on"), {}, message("evidence.directed"),
            {.aspect = Target::Aspect::Order, .device = r.motor}});
    }
}

} // namespace ts::checks
