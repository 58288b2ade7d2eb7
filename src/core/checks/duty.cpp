#include "core/base/at.h"
#include "core/checks/groups.h"
#include "core/library/registry.h"
#include "core/simulation/frame.h"
#include "core/simulation/scenario_run.h"

#include <algorithm>
#include <map>

namespace ts::checks {
namespace {

constexpr double kSame = 0.95; ///< as the class limits' own tolerance: less is another number

bool claims(const SafetyFunction& f, DeviceId device)
{
    for (const ClaimedSubsystem& s : f.claim)
        for (const ClaimedChannel& c : s.channels)
            for (const ClaimedPart& p : c.parts)
                if (p.device == device)
                    return true;
    return false;
}

/// A claim that reckons with fewer operations than the scenarios show.
void countedOperations(const CheckInput& input, const Analysis& levels, const SafetyFunction& f,
    const safety::FunctionLevel& level, std::vector<Finding>& out)
{
    std::vector<DeviceId> told;
    for (const safety::SubsystemLevel& s : level.subsystems)
        for (const safety::ChannelLevel& c : s.channels)
            for (const safety::PartLevel& p : c.parts) {
                const auto counted = countedPerYear(input.dossier.machine.duty, levels.duties, p.device);
                const Device* device = input.dossier.circuit.device(p.device);
                if (!counted || !device || p.operations < 0
                    || std::find(told.begin(), told.end(), p.device) != told.end())
                    continue;
                const double claimed = level.explanation[p.operations].si;
                if (claimed >= kSame * *counted)
                    continue;
                told.push_back(p.device);
                Finding fewer{{}, Severity::Stop, {device->tag},
                    message("finding.duty.fewer",
                        {f.name, device->tag, Measured{claimed, "1/y"}, Measured{*counted, "1/y"}}),
                    message("consequence.duty.fewer"), message("mend.duty.fewer"), "ISO 13849-1 annex C.4.2", {},
                    {.aspect = Target::Aspect::Claim, .device = p.device, .function = f.id, .subsystem = s.name}};
                fewer.evidence = message("evidence.duty.fewer",
                    {Measured{input.dossier.machine.duty.hoursPerDay, ""},
                        Measured{input.dossier.machine.duty.daysPerYear, ""}});
                out.push_back(std::move(fewer));
            }
}

constexpr std::string_view kSmallLoad = ".small_load"; ///< rows of typical_reliability.csv
constexpr double kSmallShare = 0.2; ///< of the rated current, as in that table

/// Whether a motor is changing its speed under power: then it draws more than it does for long.
bool isRunningUp(const Plant& plant, const State& state)
{
    return std::any_of(plant.motors.begin(), plant.motors.end(), [&state](const PlantMotor& m) {
        const Flow::Law law = state.flows[at(m.flow)].law;
        return law == Flow::Law::Driven || law == Flow::Law::Ramped;
    });
}

/// By device: the largest current through one of its main poles in the scenarios, between steps and at their ends, with
/// all motors up to speed.
std::map<int, double> polesA(const Dossier& dossier, const Plant& plant)
{
    std::map<int, double> largest;
    Workspace workspace;
    for (const Scenario& scenario : dossier.scenarios) {
        const auto stimuli = stimuliOf(plant, scenario);
        State state = initialState(plant);
        for (std::size_t k = 0; stimuli && k <= stimuli->size(); ++k) {
            const TimeNs until = k < stimuli->size() ? (*stimuli)[k].at : timeNs(seconds(scenario.lengthS));
            Trace trace;
            const auto next = std::find_if(stimuli->begin(), stimuli->end(),
                [&state](const Stimulus& s) { return s.at > state.now || (!state.isSettled && s.at == state.now); });
            if (advance(plant, state, {next, stimuli->end()}, {std::max(state.now, until - 1), {}, {}, false}, trace,
                    workspace)
                != Pause::Reached)
                break;
            if (isRunningUp(plant, state))
                continue;
            const Frame frame = observe(plant, state);
            for (std::size_t l = 0; l < plant.links.size(); ++l)
                if (plant.links[l].contact.kind == ContactKind::Main)
                    largest[plant.links[l].device] = std::max(largest[plant.links[l].device], frame.links[l].rmsA());
        }
    }
    return largest;
}

/// Of its rated current; 0 where it has none.
double shareOf(const Circuit& circuit, const Device& contactor, double currentA)
{
    const DeviceKind* kind = deviceKind(contactor.kind);
    const auto parameters = parametersOf(circuit, contactor);
    const bool hasRating = std::any_of(kind->parameters.begin(), kind->parameters.end(),
        [](const ParameterSpec& s) { return s.name == "rated_current_ac3_a"; });
    return parameters && hasRating ? currentA / parameters->number("rated_current_ac3_a") : 0.0;
}

/// A value for small loads, taken for poles that carry a motor's current.
void smallLoads(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& circuit = input.dossier.circuit;
    const auto isSuspect = [&](const Device& d) {
        const Reliability* data = circuit.reliabilityOf(d);
        const auto& functions = input.dossier.functions;
        return data && data->typicalPart.ends_with(kSmallLoad)
            && std::any_of(
                functions.begin(), functions.end(), [&](const SafetyFunction& f) { return claims(f, d.id); });
    };
    if (std::none_of(circuit.devices.begin(), circuit.devices.end(), isSuspect))
        return;
    const auto plant = compile(circuit);
    if (!plant)
        return;
    for (const auto& [place, currentA] : polesA(input.dossier, *plant)) {
        const Device& d = *circuit.device(plant->devices[at(place)].id);
        const double share = shareOf(circuit, d, currentA);
        if (!isSuspect(d) || share <= kSmallShare)
            continue;
        out.push_back({{}, Severity::Stop, {d.tag}, message("finding.duty.small_load", {d.tag, Measured{share, "%"}}),
            message("consequence.duty"), message("mend.duty.small_load"), "ISO 13849-1 annex C, table C.1",
            message("evidence.duty.small_load", {Measured{currentA, "A"}}),
            {.aspect = Target::Aspect::Claim, .device = d.id}});
    }
}

} // namespace

void contactorDuty(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& circuit = input.dossier.circuit;
    const auto levels = input.results.find(kLevels);
    for (const SwitchingDuty& duty : levels ? levels->duties : std::vector<SwitchingDuty>{}) {
        const Device* device = circuit.device(duty.device);
        const Reliability* data = device ? circuit.reliabilityOf(*device) : nullptr;
        if (!duty.breaksRunUp || !data || data->pfhdPerHour)
            continue;
        const auto& functions = input.dossier.functions;
        const auto claiming = std::find_if(
            functions.begin(), functions.end(), [&](const SafetyFunction& f) { return claims(f, duty.device); });
        if (claiming == functions.end())
            continue;
        const bool isTypical = !data->typicalPart.empty();
        Finding f{{}, isTypical ? Severity::Stop : Severity::Note, {device->tag},
            message(isTypical ? "finding.duty.typical" : "finding.duty.sheet", {device->tag, duty.motor}),
            message("consequence.duty"), message("mend.duty"), "IEC 60947-4-1 table 1, ISO 13849-1 annex C.4", {},
            {.aspect = Target::Aspect::Claim, .device = duty.device, .function = claiming->id}};
        f.evidence = message("evidence.duty", {static_cast<long long>(duty.operations)});
        out.push_back(std::move(f));
    }
    smallLoads(input, out);
    forEachFunction(input,
        [&](const SafetyFunction& f, const FunctionResult& r) { countedOperations(input, *levels, f, r.level, out); });
}

} // namespace ts::checks
