#include "core/checks/worst_stop.h"

#include "core/base/at.h"
#include "core/checks/groups.h"

namespace ts::checks {

std::vector<Finding> stopFindings(const SafetyFunction& function, const StopStudy& study)
{
    std::vector<Finding> out;
    for (const ActuatorStudy& a : study.actuators) {
        if (a.latestRest < 0 || function.allowedTimeS <= 0.0)
            continue;
        const StopCase& c = a.cases[at(a.latestRest)];
        if (c.stop.restAfter->si() <= function.allowedTimeS)
            continue;
        out.push_back({{}, c.kind == StopCase::Kind::Fault ? Severity::Fix : Severity::Stop, {a.tag},
            message("finding.stop.worst_case",
                {function.name, a.tag, Measured{c.stop.restAfter->si(), "s"}, Measured{function.allowedTimeS, "s"}}),
            message("consequence.stop"), message("mend.stop.time"), "EN 60204-1 clause 9.2.2",
            message("evidence.text", {c.fault.empty() ? std::string(nameOf(c.kind)) : c.fault}),
            {.aspect = Target::Aspect::WorstStop, .device = a.motor, .function = function.id, .fault = c.fault}});
    }
    return out;
}

void worstStop(const CheckInput& input, std::vector<Finding>& out)
{
    for (const SafetyFunction& f : input.dossier.functions)
        if (const auto study = input.results.find(kWorstStop, about(f.id)))
            for (Finding& finding : stopFindings(f, *study))
                out.push_back(std::move(finding));
}

} // namespace ts::checks
