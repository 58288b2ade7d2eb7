#include "core/patterns/starter.h"

#include "core/library/table.h"
#include "core/patterns/sheet.h"

namespace ts::patterns {
namespace {

/// Smallest listed cross-section that carries the current in a cable on a wall (method C).
double areaFor(double currentA)
{
    const Table& t = conductorTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (const auto area = t.number(row, "area_mm2"); *t.number(row, "c") >= currentA && *area >= 1.5)
            return *area;
    return *t.number(t.rowCount() - 1, "area_mm2");
}

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

} // namespace

Expected<DossierFile> starter(const Plan& plan)
{
    if (auto ok = checkPossible(plan); !ok)
        return Unexpected{ok.error()};
    const auto motor = motorChoice(plan);
    if (!motor)
        return Unexpected{motor.error()};
    const auto cable = numberFrom(plan.text("control_cable_m"));
    if (!cable || !(*cable >= 0.1 && *cable <= 5000.0))
        return failure(ErrorCode::OutOfRange, message("pattern.cable", {plan.text("control_cable_m")}));
    DossierFile start;
    start.dossier.machine.name = plan.text("machine");
    start.dossier.machine.site = plan.text("site");
    Panel panel(std::move(start), *cable, areaFor(motor->currentA));
    StarterSheet sheet{plan, panel, *motor};
    sheet.reverses = plan.is("base", "reversing");
    wireControlSupply(sheet);
    wirePower(sheet);
    wireMonitor(sheet);
    wireStopCircuit(sheet);
    wireOperation(sheet);
    wireBrake(sheet);
    wireIndication(sheet);
    addScenarios(sheet);
    return panel.result();
}

} // namespace ts::patterns
