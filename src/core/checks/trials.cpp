#include "core/checks/trials.h"

#include "core/checks/groups.h"
#include "core/library/registry.h"
#include "core/library/table.h"

#include <algorithm>
#include <set>

namespace ts::checks {
namespace {

using exploration::TrialSeen;
using What = TrialSeen::What;

constexpr double kSmallMotorW = 500.0; ///< EN 60204-1 clause 7.3.1: above it a motor is protected against overheating

Severity severityOf(const TrialSeen& t)
{
    switch (t.what) {
    case What::OverloadKept:
    case What::StopWireDead:
    case What::StartWins:
    case What::TapCaught:
    case What::EarthKept:
    case What::FrameLive:
    case What::LockLifted:
    case What::OnlyRead:
        return Severity::Stop;
    case What::ResetBeside:
        return t.terminal.empty() ? Severity::Note : Severity::Fix; // a second place to reset from, and nothing else
    case What::TripUnseen:
    case What::NeverPulls:
    case What::NeverLit:
    case What::TripsAlike:
    case What::LossUnseen:
    case What::SequenceUnseen:
    case What::TurnedOver:
        return Severity::Note;
    default:
        return Severity::Fix;
    }
}

std::string tagOf(const Circuit& circuit, DeviceId id)
{
    const Device* device = circuit.device(id);
    return device ? device->tag : std::string();
}

bool isSmall(const Circuit& circuit, DeviceId motor)
{
    const Device* device = circuit.device(motor);
    const auto parameters = device ? parametersOf(circuit, *device)
                                   : Expected<Parameters>(failure(ErrorCode::NotFound, {}));
    return parameters && parameters->number("rated_power_w") <= kSmallMotorW;
}

std::string wireText(const Circuit& circuit, WireId id)
{
    const Wire* w = circuit.wire(id);
    return w ? circuit.nameOf(w->from) + " - " + circuit.nameOf(w->to) : std::string();
}

Finding findingOf(const Circuit& circuit, const TrialSeen& t)
{
    const std::string name = "trial." + std::string(nameOf(t.what));
    const bool isVolts = t.what == What::FrameLive || t.what == What::ReturnLive;
    const bool isTime = t.what == What::TapCaught || t.what == What::LossUnseen || t.what == What::TurnedOver;
    const bool isCount = t.what == What::Unseparated;
    Finding f;
    f.severity = severityOf(t);
    for (DeviceId id : {t.device, t.other, t.actuator})
        if (std::string tag = tagOf(circuit, id);
            !tag.empty() && std::find(f.devices.begin(), f.devices.end(), tag) == f.devices.end())
            f.devices.push_back(std::move(tag));
    f.what = message("finding." + name,
        {tagOf(circuit, t.device), tagOf(circuit, t.other), tagOf(circuit, t.actuator),
            t.wire                            ? wireText(circuit, t.wire)
                : isCount                     ? "@separation." + t.terminal
                : t.what == What::ResetBeside ? "@beside." + (t.terminal.empty() ? "nothing" : t.terminal)
                                              : t.terminal,
            isCount ? Argument(static_cast<long long>(t.value))
                    : Measured{t.value,
                        isVolts      ? "V"
                            : isTime ? "s"
                                     : "A"}});
    f.consequence = message("consequence." + name, f.what.arguments);
    f.mend = message("mend." + name, f.what.arguments);
    f.evidence = t.said.empty() ? message("evidence.trial.hands") : message("evidence.start", {t.said});
    f.target = {.device = t.device ? t.device : t.actuator};
    return f;
}

/// The cell of the table of colours for what a button or lamp is for; empty where it says nothing.
std::string colourWanted(const Device& device, const std::string& meaning, std::string_view school)
{
    const Table& t = coloursTable();
    const std::string_view item = device.kind == "lamp" ? "lamp" : "button";
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "item") == item && t.cell(row, "meaning") == meaning)
            return std::string(t.cell(row, school));
    return {};
}

/// "white (grey or black; green permitted; never red)": every colour that it names, but behind "never".
bool isAllowed(const std::string& wanted, const std::string& colour)
{
    const std::size_t never = std::min(wanted.find("never"), wanted.size());
    const std::size_t at = wanted.find(colour);
    return at != wanted.npos && at < never;
}

} // namespace

void judgeTrials(const CheckInput& input, std::span<const What> about, std::vector<Finding>& out)
{
    const auto trials = input.results.find(kTrials);
    if (!trials)
        return;
    const Circuit& circuit = input.dossier.circuit;
    std::set<std::tuple<What, DeviceId, DeviceId, DeviceId>> told; // one of several wires and terminals
    for (const TrialSeen& t : trials->seen) {
        if (std::find(about.begin(), about.end(), t.what) == about.end())
            continue;
        const bool isAboutStop = t.what == What::EarthKept || t.what == What::TwoEarthsKept;
        const bool isSaid = t.what == What::NoOverload && isSmall(circuit, t.actuator);
        if (isSaid || !told.insert({t.what, isAboutStop ? DeviceId{} : t.device, t.other, t.actuator}).second)
            continue;
        out.push_back(findingOf(circuit, t));
        out.back().target.seen = static_cast<int>(&t - trials->seen.data());
    }
}

void linesAreDecidedAbout(const CheckInput& input, std::vector<Finding>& out)
{
    const auto& devices = input.dossier.circuit.devices;
    const auto motors = std::count_if(
        devices.begin(), devices.end(), [](const Device& d) { return d.kind == "motor"; });
    if (input.dossier.machine.plan.starters.size() < static_cast<std::size_t>(motors))
        tried<What::LossUnseen, What::SequenceUnseen>(input, out); // else its plan says what watches each
}

void coloursFit(const CheckInput& input, std::vector<Finding>& out)
{
    const auto trials = input.results.find(kTrials);
    if (!trials)
        return;
    const Circuit& circuit = input.dossier.circuit;
    const auto school = input.dossier.machine.plan.words.find("lamps");
    for (const TrialSeen& t : trials->seen) {
        const Device* device = t.what == What::Serves ? circuit.device(t.device) : nullptr;
        if (!device || !device->parameters.contains("colour"))
            continue; // nobody has said which it is
        const std::string colour = std::get<std::string>(device->parameters.at("colour"));
        const std::string wanted = colourWanted(*device, t.terminal, "iec");
        const bool isChosen = school != input.dossier.machine.plan.words.end() && school->second != "none"
            && isAllowed(colourWanted(*device, t.terminal, school->second), colour);
        if (wanted.empty() || isAllowed(wanted, colour) || isChosen)
            continue;
        out.push_back({{}, Severity::Note, {device->tag},
            message("finding.colour", {device->tag, "@serves." + t.terminal, "@colour." + colour, wanted}),
            message("consequence.colour"), message("mend.colour"), {}, message("evidence.trial.hands"),
            {.device = device->id}});
    }
}

std::vector<NotLookedAt> leftOutOfTrials(const CheckInput& input)
{
    std::vector<NotLookedAt> out;
    const auto trials = input.results.find(kTrials);
    if (!trials)
        return out;
    const std::string study(kTrials.id);
    for (DeviceId id : trials->neverRan)
        out.push_back({study, {}, message("finding.trial.never_ran", {tagOf(input.dossier.circuit, id)})});
    if (trials->leftOut > 0)
        out.push_back({study, {}, message("finding.trial.left_out", {static_cast<long long>(trials->leftOut)})});
    if (trials->undecided > 0)
        out.push_back({study, {}, message("finding.trial.undecided", {static_cast<long long>(trials->undecided)})});
    return out;
}

void everythingWasTried(const CheckInput& input, std::vector<Finding>& out)
{
    const auto trials = input.results.find(kTrials);
    if (!trials)
        return;
    for (DeviceId id : trials->neverRan) {
        const std::string tag = tagOf(input.dossier.circuit, id);
        out.push_back({{}, Severity::Note, {tag}, message("finding.trial.never_ran", {tag}),
            message("consequence.trial.never_ran"), message("mend.trial.never_ran"), {},
            message("evidence.trial.hands"), {.device = id}});
    }
    if (trials->leftOut > 0)
        out.push_back(
            {{}, Severity::Note, {}, message("finding.trial.left_out", {static_cast<long long>(trials->leftOut)}),
                message("consequence.trial.never_ran"), message("mend.trial.left_out"), {},
                message("evidence.trial.hands")});
    if (trials->undecided > 0)
        out.push_back(
            {{}, Severity::Note, {}, message("finding.trial.undecided", {static_cast<long long>(trials->undecided)}),
                message("consequence.trial.never_ran"), message("mend.trial.undecided"), {},
                message("evidence.trial.hands")});
}

} // namespace ts::checks
