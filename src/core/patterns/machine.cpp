#include "core/patterns/machine.h"

#include "core/library/table.h"
#include "core/patterns/sheet.h"

#include <algorithm>
#include <cmath>
#include <numbers>

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
    if (!hasHold(plan) && !plan.is("monitor", "none") && plan.is("monitor_contact", "hold"))
        return refused("pattern.no_hold");
    const std::string& operation = plan.text("operation");
    const bool hasTwoButtons = hasHold(plan) || operation == "inching";
    if (plan.has("interlock", "push_button") && !hasTwoButtons && matters(plan, "interlock"))
        return refused("pattern.no_button_to_interlock");
    const bool hasTwoDirections = plan.is("base", "reversing") || plan.is("base", "drive");
    if (hasTwoDirections && (operation == "two_hand" || operation == "enabling" || operation == "switched"))
        return refused("pattern.one_direction_only");
    if (operation == "separate_inch" && !plan.is("base", "direct"))
        return refused("pattern.separate_inch_direct");
    if (isSmall(plan) && plan.is("guard", "locked"))
        return refused("pattern.small_motor_induces_nothing");
    if (plan.is("selector", "key") && operation == "hand_off_auto")
        return refused("pattern.key_begins_off");
    if (isSmall(plan) && (!plan.is("monitor", "none") || plan.is("brake", "yes")))
        return refused("pattern.small_motor_alone");
    return {};
}

/// The nominal voltages of a system as its plates give them. Source: IEC 60038 table 1; else line voltage over root 3.
double lineToNeutral(double lineV)
{
    for (const auto& [line, neutral] : {std::pair{208.0, 120.0}, {400.0, 230.0}, {480.0, 277.0}, {690.0, 400.0}})
        if (lineV == line)
            return neutral;
    return std::round(lineV / std::numbers::sqrt3);
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

/// What is fed with the control voltage must be made for it: the upper ends of what the kinds take.
Expected<void> checkControlVoltage(const MachineSheet& sheet)
{
    constexpr double kSafetyRelayV = 240.0, kSolidStateV = 300.0, kElectronicsV = 500.0;
    const auto beyond = [&sheet](const char* what, double limitV) {
        return failure(ErrorCode::Refused,
            message("pattern.control_voltage",
                {Measured{sheet.controlV, "V"}, std::string("@") + what, Measured{limitV, "V"}}));
    };
    if (sheet.feedsRelayFromControl() && sheet.usesRelay() && sheet.controlV > kSafetyRelayV)
        return beyond("kind.safety_relay", kSafetyRelayV);
    for (const StarterSheet& s : sheet.starters) {
        if (s.plan.is("base", "solid_state") && sheet.controlV > kSolidStateV)
            return beyond("kind.solid_state_relay", kSolidStateV);
        if (s.plan.is("base", "star_delta") && sheet.controlV > kElectronicsV)
            return beyond("kind.timer", kElectronicsV);
        if (s.plan.is("base", "soft_starter") && sheet.controlV > kElectronicsV)
            return beyond("kind.soft_starter", kElectronicsV);
        const bool readsCurrent = s.plan.is("monitor", "current_in_line")
            || s.plan.text("monitor").ends_with("_transformers");
        if (readsCurrent && sheet.controlV > kElectronicsV)
            return beyond("kind.current_monitor", kElectronicsV);
    }
    return {};
}

} // namespace

bool MachineSheet::hasTwoHand() const
{
    return std::any_of(
        starters.begin(), starters.end(), [](const StarterSheet& s) { return s.plan.is("operation", "two_hand"); });
}

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
    const auto mainsV = shared.number("mains_v", 100, 690);
    if (!mainsV || !*mainsV)
        return mainsV ? Expected<DossierFile>(refused("pattern.mains")) : Unexpected{mainsV.error()};
    const auto controlV = shared.number("control_v", 24, 690);
    if (!controlV)
        return Unexpected{controlV.error()};
    Panel panel(std::move(start), *cable, routeNamed(shared.text("laid")));
    MachineSheet sheet{shared, panel};
    sheet.mainsV = **mainsV;
    sheet.phaseV = lineToNeutral(sheet.mainsV);
    if (auto ok = addStarters(plan, sheet); !ok)
        return Unexpected{ok.error()};
    double currentA = kControlA;
    for (const StarterSheet& s : sheet.starters)
        currentA += s.motor.currentA;
    panel.setMainsArea(areaFor(currentA, false));
    wireControlSupply(sheet);
    if (auto ok = checkControlVoltage(sheet); !ok)
        return Unexpected{ok.error()};
    for (StarterSheet& s : sheet.starters) {
        sheet.begin(s);
        wirePower(s);
        wireMonitor(s);
    }
    wireBonds(sheet);
    wireStopCircuit(sheet);
    for (StarterSheet& s : sheet.starters) {
        sheet.begin(s);
        wireStopLine(s);
        wireOperation(s);
        wireBrake(s);
        wireIndication(s);
    }
    wireGuardLock(sheet);
    addScenarios(sheet);
    auto built = panel.result();
    if (built && shared.is("marks", "north_american"))
        printNorthAmerican(*built);
    return built;
}

} // namespace ts::patterns
