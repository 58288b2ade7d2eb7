#include "core/checks/groups.h"

namespace ts::checks {
namespace {

using safety::Contradiction;

Severity severityOf(Contradiction::Weight weight)
{
    switch (weight) {
    case Contradiction::Weight::EndsLevel:
        return Severity::Stop;
    case Contradiction::Weight::Correct:
        return Severity::Fix;
    case Contradiction::Weight::Remark:
        break;
    }
    return Severity::Note;
}

} // namespace

void claimAgreesWithData(const CheckInput& input, std::vector<Finding>& out)
{
    forEachFunction(input, [&](const SafetyFunction& f, const FunctionResult& r) {
        for (const Contradiction& c : r.level.contradictions) {
            Finding finding{{}, severityOf(c.weight), {}, c.what, message("consequence.claim_data"), c.mend, c.clause,
                message("evidence.claim_data"),
                {.aspect = Target::Aspect::Claim, .device = c.device, .function = f.id}};
            if (const Device* device = input.dossier.circuit.device(c.device))
                finding.devices = {device->tag};
            if (c.subsystem)
                finding.target.subsystem = f.claim[*c.subsystem].name;
            out.push_back(std::move(finding));
        }
    });
}

} // namespace ts::checks
