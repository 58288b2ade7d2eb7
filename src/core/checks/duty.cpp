#include "core/checks/groups.h"

#include <algorithm>

namespace ts {

std::optional<double> countedPerYear(const Duty& duty, std::span<const SwitchingDuty> counted, DeviceId device)
{
    double perHour = 0;
    for (const SwitchingDuty& d : counted)
        if (d.device == device)
            perHour = std::max(perHour, d.operationsPerHour);
    if (!(perHour > 0.0))
        return {};
    return perHour * duty.hoursPerDay * duty.daysPerYear;
}

} // namespace ts

namespace ts::checks {
namespace {

constexpr double kSame = 0.95; ///< as the class limits' own tolerance: less is another number

/// A claim that reckons with fewer operations than the scenarios show.
void countedOperations(const CheckInput& input, const FunctionEvidence& e, std::vector<Finding>& out)
{
    std::vector<DeviceId> told;
    for (const safety::SubsystemLevel& s : e.level->subsystems)
        for (const safety::ChannelLevel& c : s.channels)
            for (const safety::PartLevel& p : c.parts) {
                const auto counted = countedPerYear(input.dossier.machine.duty, input.duties, p.device);
                const Device* device = input.dossier.circuit.device(p.device);
                if (!counted || !device || p.operations < 0
                    || std::find(told.begin(), told.end(), p.device) != told.end())
                    continue;
                const double claimed = e.level->explanation[p.operations].si;
                if (claimed >= kSame * *counted)
                    continue;
                told.push_back(p.device);
                Finding f{"level", Severity::Stop, {device->tag},
                    message("finding.duty.fewer",
                        {e.function->name, device->tag, Measured{claimed, "1/y"}, Measured{*counted, "1/y"}}),
                    message("consequence.duty.fewer"), message("mend.duty.fewer"), "ISO 13849-1 annex C.4.2", {}};
                f.evidence = message("evidence.duty.fewer",
                    {Measured{input.dossier.machine.duty.hoursPerDay, ""},
                        Measured{input.dossier.machine.duty.daysPerYear, ""}});
                out.push_back(std::move(f));
            }
}

} // namespace

void contactorDuty(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& circuit = input.dossier.circuit;
    for (const SwitchingDuty& duty : input.duties) {
        const Device* device = circuit.device(duty.device);
        const Reliability* data = device ? circuit.reliabilityOf(*device) : nullptr;
        if (!duty.breaksRunUp || !data || data->pfhdPerHour)
            continue;
        const bool isClaimed = std::any_of(
            input.functions.begin(), input.functions.end(), [&](const FunctionEvidence& e) {
                return std::any_of(e.function->claim.begin(), e.function->claim.end(), [&](const ClaimedSubsystem& s) {
                    return std::any_of(s.channels.begin(), s.channels.end(), [&](const ClaimedChannel& c) {
                        return std::any_of(c.parts.begin(), c.parts.end(),
                            [&](const ClaimedPart& p) { return p.device == duty.device; });
                    });
                });
            });
        if (!isClaimed)
            continue;
        const bool isTypical = !data->typicalPart.empty();
        Finding f{"level", isTypical ? Severity::Stop : Severity::Note, {device->tag},
            message(isTypical ? "finding.duty.typical" : "finding.duty.sheet", {device->tag, duty.motor}),
            message("consequence.duty"), message("mend.duty"), "IEC 60947-4-1 table 1, ISO 13849-1 annex C.4", {}};
        f.evidence = message("evidence.duty", {static_cast<long long>(duty.operations)});
        out.push_back(std::move(f));
    }
    for (const FunctionEvidence& e : input.functions)
        countedOperations(input, e, out);
}

} // namespace ts::checks
