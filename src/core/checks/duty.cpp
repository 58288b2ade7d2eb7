#include "core/checks/groups.h"

#include <algorithm>

namespace ts::checks {

void contactorDuty(const CheckInput& input, std::vector<Finding>& out)
{
    const Circuit& circuit = input.dossier.circuit;
    for (const SwitchingDuty& duty : input.duties) {
        const Device* device = circuit.device(duty.device);
        const Reliability* data = device ? circuit.reliabilityOf(*device) : nullptr;
        if (!duty.breaksRunUp || !data || data->pfhdPerHour)
            continue;
        const bool isClaimed = std::any_of(input.functions.begin(), input.functions.end(), [&](const FunctionEvidence& e) {
            return std::any_of(e.function->claim.begin(), e.function->claim.end(), [&](const ClaimedSubsystem& s) {
                return std::any_of(s.channels.begin(), s.channels.end(), [&](const ClaimedChannel& c) {
                    return std::any_of(c.parts.begin(), c.parts.end(), [&](const ClaimedPart& p) { return p.device == duty.device; });
                });
            });
        });
        if (!isClaimed)
            continue;
        const bool isTypical = !data->typicalPart.empty();
        Finding f{"level", isTypical ? Severity::Stop : Severity::Note, {device->tag}, message(isTypical ? "finding.duty.typical" : "finding.duty.sheet", {device->tag, duty.motor}),
            message("consequence.duty"), message("mend.duty"), "IEC 60947-4-1 table 1, ISO 13849-1 annex C.4", {}};
        f.evidence = message("evidence.duty", {static_cast<long long>(duty.operations)});
        out.push_back(std::move(f));
    }
}

} // namespace ts::checks
