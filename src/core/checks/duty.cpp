#include "core/checks/groups.h"

#include <algorithm>

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
    forEachFunction(input,
        [&](const SafetyFunction& f, const FunctionResult& r) { countedOperations(input, *levels, f, r.level, out); });
}

} // namespace ts::checks
