#include "core/patterns/machine.h"

#include "core/library/table.h"
#include "core/patterns/sheet.h"

#include <algorithm>

namespace ts::patterns {
namespace {

constexpr double kControlA = 4.0; ///< what the fuse of the control supply lets through for long

Unexpected refused(const char* id)
{
    return failure(ErrorCode::Refused, message(id));
}

Expected<void> checkPossible(const Plan& plan)
{
    const bool direct = plan.is("control", "dc24") || plan.is("control", "dc24_unbonded");
    if (plan.is("base", "drive") && !direct)
        return refused("pattern.drive_needs_24v");
    if (plan.is("base", "drive") && plan.is("tap", "motor_side") && !plan.is("monitor", "none"))
        return refused("pattern.drive_output_has_its_own_frequency");
    const bool hasNoHold = plan.is("operation", "inching") || plan.is("operation", "hand_off_auto");
    if (hasNoHold && !plan.is("monitor", "none") && plan.is("monitor_contact", "hold"))
        return refused("pattern.no_hold");
    if (plan.has("interlock", "push_button") && (plan.is("operation", "hand_off_auto")))
        return refused("pattern.no_button_to_interlock");
    return {};
}

/// Days and hours, where both were said.
Expected<void> takeDuty(const Plan& plan, Duty& duty)
{
    const auto days = plan.number("days_per_year", 1, 366), hours = plan.number("hours_per_day", 0.1, 24);
    if (!days || !hours)
        return Unexpected{days ? hours.error() : days.error()};
    duty.isEntered = *days && *hours;
    if (duty.isEntered) {
        duty.daysPerYear = **days;
        duty.hoursPerDay = **hours;
    }
    return {};
}

Expected<void> addStarters(const MachinePlan& plan, MachineSheet& sheet)
{
    for (const MachinePlan::Starter& s : plan.starters()) {
        if (auto ok = checkPossible(s.plan); !ok)
            return ok;
        for (const char* rate : {"starts_per_hour", "inches_per_hour", "reversals_per_hour"})
            if (const auto ok = s.plan.number(rate, 0, 3600); !ok)
                return Unexpected{ok.error()};
        const auto motor = motorChoice(s.plan, s.number);
        if (!motor)
            return Unexpected{motor.error()};
        sheet.starters.push_back({sheet, s.number, s.plan, *motor});
    }
    return {};
}

} // namespace

bool MachineSheet::hasDrive() const
{
    return std::any_of(starters.begin(), starters.end(), [](const StarterSheet& s) { return s.isDrive(); });
}

void MachineSheet::begin(const StarterSheet& starter)
{
    const double currentA = starter.motor.currentA;
    panel.beginStarter(starter.number, areaFor(currentA, false), areaFor(currentA, true));
}

Expected<DossierFile> machine(const MachinePlan& plan)
{
    const Plan& shared = plan.shared();
    const auto cable = numberFrom(shared.text("control_cable_m"));
    if (!cable || !(*cable >= 0.1 && *cable <= 5000.0))
        return failure(ErrorCode::OutOfRange, message("pattern.cable", {shared.text("control_cable_m")}));
    if (const auto level = shared.number("short_circuit_ka", 0.1, 150); !level)
        return Unexpected{level.error()};
    DossierFile start;
    start.dossier.machine.name = shared.text("machine");
    start.dossier.machine.site = shared.text("site");
    start.dossier.machine.plan = plan.kept();
    if (auto ok = takeDuty(shared, start.dossier.machine.duty); !ok)
        return Unexpected{ok.error()};
    Panel panel(std::move(start), *cable, routeNamed(shared.text("laid")));
    MachineSheet sheet{shared, panel};
    if (auto ok = addStarters(plan, sheet); !ok)
        return Unexpected{ok.error()};
    double currentA = kControlA;
    for (const StarterSheet& s : sheet.starters)
        currentA += s.motor.currentA;
    panel.setMainsArea(areaFor(currentA, false));
    wireControlSupply(sheet);
    for (StarterSheet& s : sheet.starters) {
        sheet.begin(s);
        wirePower(s);
        wireMonitor(s);
    }
    wireStopCircuit(sheet);
    for (StarterSheet& s : sheet.starters) {
        sheet.begin(s);
        wireStopLine(s);
        wireOperation(s);
        wireBrake(s);
        wireIndication(s);
    }
    addScenarios(sheet);
    return panel.result();
}

} // namespace ts::patterns
