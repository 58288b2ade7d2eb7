// The motor's plate, and the power circuit from the supply to the motor's terminals.

#include "core/library/registry.h"
#include "core/library/table.h"
#include "core/patterns/sheet.h"

#include <cmath>

namespace ts::patterns {
namespace {

constexpr double kWattsPerHorsepower = 745.7; // textbook: mechanical horsepower
constexpr std::array kPoles{"1", "3", "5"}, kPolesOut{"2", "4", "6"};

Unexpected notAPlate(const Plan& plan)
{
    return failure(ErrorCode::OutOfRange, message("pattern.motor", {plan.text("motor")}));
}

std::optional<double> withUnit(std::string_view text, std::string_view unit)
{
    return text.ends_with(unit) ? numberFrom(text.substr(0, text.size() - unit.size())) : std::nullopt;
}

std::vector<std::string> pieces(std::string_view text)
{
    std::vector<std::string> result;
    while (true) {
        const std::size_t comma = text.find(',');
        result.emplace_back(text.substr(0, comma));
        if (comma == text.npos)
            return result;
        text = text.substr(comma + 1);
    }
}

std::string kindOfMotor(const Plan& plan)
{
    return plan.is("base", "single_phase") ? "motor_single_phase" : plan.is("base", "dc_motor") ? "motor_dc" : "motor";
}

/// Rated power of a sample motor: written, or for those known by their times the last words of the name, "0.37 kW".
std::optional<double> powerOf(const Table& t, std::size_t row)
{
    const std::string_view name = t.cell(row, "name");
    if (const std::size_t end = name.rfind(" kW"); end != name.npos)
        if (const auto kw = numberFrom(name.substr(name.rfind(' ', end - 1) + 1, end - name.rfind(' ', end - 1) - 1)))
            return *kw * 1000.0;
    return {};
}

std::string sizeOf(const StarterSheet& s)
{
    return s.motor.powerW > 7500.0 ? "from_11_to_30_kw" : "to_7_5_kw";
}

} // namespace

std::optional<Part> samplePart(std::string_view kind, double powerW)
{
    const Table& t = samplePartsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        if (t.cell(row, "kind") != kind)
            continue;
        auto p = parametersFromText(deviceKind(kind)->parameters, t.cell(row, "parameters"));
        if (const auto power = powerOf(t, row); p && power && std::abs(*power / powerW - 1.0) < 0.02)
            return Part{std::string(t.cell(row, "id")), std::string(t.cell(row, "name")), std::string(kind), *p, {}};
    }
    return std::nullopt;
}

std::string samplePowers(std::string_view kind)
{
    std::string list;
    const Table& t = samplePartsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "kind") == kind)
            if (const auto power = powerOf(t, row))
                list += (list.empty() ? "" : ", ") + shortestText(*power / 1000.0) + "kW";
    return list;
}

double fuseFor(double currentA)
{
    for (double a : {2.0, 4.0, 6.0, 10.0, 16.0, 20.0, 25.0, 32.0, 40.0, 50.0, 63.0, 80.0, 100.0, 125.0, 160.0, 200.0})
        if (a >= 2.0 * currentA)
            return a;
    return 250.0;
}

std::string addContactor(StarterSheet& s, const std::string& tag, const std::string& label)
{
    ParameterMap p = s.shared.coil(sizeOf(s));
    p["mirror_contacts"] = true;
    p["linked_contacts"] = true;
    p["rated_current_ac3_a"] = std::ceil(std::max(s.motor.currentA, fuseFor(s.motor.currentA) / 2.0)); // type 2
    s.contactors.push_back(s.tag(tag));
    return s.panel.device(tag, "contactor", s.before() + label, "plate", std::move(p));
}

void throughPoles(StarterSheet& s, const std::string& tag)
{
    for (std::size_t k = 0; k < 3; ++k)
        if (!s.lines[k].empty())
            s.lines[k] = s.panel.through(s.lines[k], {tag + ":" + kPoles[k], tag + ":" + kPolesOut[k]}, WireRun::Power);
}

/// Overload relay, and behind it what measures the motor's current.
void addOverload(StarterSheet& s, double settingA)
{
    if (!s.plan.is("overload", "none") && !s.isDrive()) {
        ParameterMap p{{"setting_a", settingA}};
        if (s.plan.is("overload_reset", "automatic"))
            p["reset"] = std::string("automatic");
        s.overload = s.panel.device("F2", "overload_relay", s.moves(), "plate", std::move(p));
        throughPoles(s, s.overload);
    }
    if (s.plan.is("tap", "motor_side"))
        wireCurrentMonitor(s);
}

namespace {

void addMotor(StarterSheet& s, const std::string& connection)
{
    ParameterMap p{{"load", s.plan.text("load")}, {"connection", connection}};
    s.panel.part(s.motor.part);
    s.panel.device("M1", "motor", s.moves(), "field", std::move(p), s.motor.part.id);
    for (std::size_t k = 0; k < 3; ++k)
        s.panel.wire(s.lines[k], s.tag("M1:") + std::array{"U1", "V1", "W1"}[k], WireRun::MotorCable);
    s.panel.wire("G0:PE", "M1:PE", WireRun::MotorCable);
}

void wireReversing(StarterSheet& s)
{
    const std::string right = addContactor(s, "Q1", "right"), left = addContactor(s, "Q2", "left");
    s.runners = {right, left};
    const auto in = s.lines;
    throughPoles(s, right);
    const bool crossesAhead = s.plan.is("crossing", "ahead"); // first and third line are exchanged before or behind it
    for (std::size_t k = 0; k < 3; ++k) {
        s.panel.wire(right + ":" + kPoles[k], left + ":" + kPoles[crossesAhead ? 2 - k : k], WireRun::Power);
        s.panel.wire(left + ":" + kPolesOut[crossesAhead ? k : 2 - k], right + ":" + kPolesOut[k], WireRun::Power);
    }
    if (s.plan.has("interlock", "mechanical"))
        s.panel.interlock(right, left);
}

void wireStarDelta(StarterSheet& s)
{
    const std::string main = addContactor(s, "Q1", "main"), star = addContactor(s, "Q2", "star"),
                      delta = addContactor(s, "Q3", "delta");
    s.runners = {main};
    throughPoles(s, main);
    const std::array<std::string, 3> feed{main + ":1", main + ":3", main + ":5"};
    addOverload(s, s.motor.currentA / std::sqrt(3.0)); // in the winding's line
    addMotor(s, "delta");
    const std::array<std::string, 3> ends{"M1:U2", "M1:V2", "M1:W2"};
    for (std::size_t k = 0; k < 3; ++k) {
        s.panel.wire(feed[(k + 1) % 3], delta + ":" + kPoles[k], WireRun::Power);
        s.panel.wire(delta + ":" + kPolesOut[k], ends[k], WireRun::MotorCable);
        s.panel.wire(delta + ":" + kPolesOut[k], star + ":" + kPoles[k], WireRun::Power);
    }
    s.panel.wire(star + ":2", star + ":4", WireRun::Power);
    s.panel.wire(star + ":4", star + ":6", WireRun::Power);
    if (s.plan.has("interlock", "mechanical"))
        s.panel.interlock(star, delta);
}

void wireSoftStarter(StarterSheet& s)
{
    s.runners = {addContactor(s, "Q1", "line")};
    throughPoles(s, "Q1");
    s.panel.device("Q2", "soft_starter", s.before() + "soft starter", "plate",
        {{"line_voltage_v", s.shared.mainsV}, {"motor_current_a", s.motor.currentA},
            {"supply_voltage_v", s.shared.controlV}});
    throughPoles(s, "Q2");
}

/// Semiconductors have no contact for the hold: a contactor relay has it, and switches their control.
void wireSolidState(StarterSheet& s)
{
    s.panel.device("K7", "contactor_relay", s.before() + "run", "plate", s.shared.coil());
    s.runners = {s.tag("K7")};
    s.contactors.push_back(s.tag("K7"));
    s.panel.device("T4", "solid_state_relay", s.moves(), "plate",
        {{"control_voltage_v", s.shared.controlV}, {"output_voltage_v", s.shared.mainsV}, {"poles", 3.0}});
    throughPoles(s, "T4");
}

/// A contactor of its own for inching, beside the one that is held.
void wireSeparateInch(StarterSheet& s)
{
    const auto in = s.lines;
    s.runners = {addContactor(s, "Q1", s.number == 1 ? s.moves() : "motor")};
    throughPoles(s, "Q1");
    addContactor(s, "Q5", "inch");
    for (std::size_t k = 0; k < 3; ++k) {
        s.panel.wire(s.tag("Q1:") + kPoles[k], s.tag("Q5:") + kPoles[k], WireRun::Power);
        s.panel.wire(s.tag("Q5:") + kPolesOut[k], s.tag("Q1:") + kPolesOut[k], WireRun::Power);
    }
}

void wireDrive(StarterSheet& s)
{
    s.panel.device("T2", "drive", s.before() + "drive", "plate", {{"line_voltage_v", s.shared.mainsV}});
    for (std::size_t k = 0; k < 3; ++k)
        s.lines[k] = s.panel.through(
            s.lines[k], {std::string("T2:L") + std::to_string(k + 1), std::string("T2:") + "UVW"[k]}, WireRun::Power);
    for (const char* tag : {"K5", "K6"}) {
        s.panel.device(
            tag, "contactor_relay", s.before() + (tag[1] == '5' ? "run right" : "run left"), "plate", s.shared.coil());
        s.runners.push_back(s.tag(tag));
    }
    s.reverses = true;
}

} // namespace

/// Smallest listed cross-section that carries the current, in a cable on a wall (method C) or in the cabinet (B1).
double areaFor(double currentA, bool isCable)
{
    const Table& t = conductorTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (const auto area = t.number(row, "area_mm2");
            *t.number(row, isCable ? "c" : "b1") >= currentA && *area >= 1.5)
            return *area;
    return *t.number(t.rowCount() - 1, "area_mm2");
}

Expected<MotorChoice> motorChoice(const Plan& plan, int starter)
{
    const auto list = pieces(plan.text("motor"));
    std::optional<double> powerW;
    if (const auto kw = withUnit(list[0], "kW"))
        powerW = *kw * 1000.0;
    else if (const auto hp = withUnit(list[0], "hp"))
        powerW = *hp * kWattsPerHorsepower;
    if (!powerW || !(*powerW > 0.0) || (list.size() != 1 && list.size() != 4))
        return notAPlate(plan);
    const std::string kind = kindOfMotor(plan);
    const double mainsV = plan.number("mains_v", 100, 690).value().value_or(400.0);
    const double frequencyHz = plan.is("frequency", "60") ? 60.0 : 50.0;
    if (list.size() == 1) {
        const auto part = samplePart(kind, *powerW);
        if (!part)
            return failure(ErrorCode::NotFound, message("pattern.no_motor", {list[0], samplePowers(kind)}));
        const bool fits = kind == "motor_dc" || (mainsV == 400.0 && frequencyHz == 50.0);
        if (!fits)
            return failure(ErrorCode::Refused, message("pattern.motor_of_another_mains", {part->name}));
        return MotorChoice{*part, *powerW, std::get<double>(part->parameters.at("current_a"))};
    }
    if (kind != "motor")
        return failure(ErrorCode::Refused, message("pattern.no_motor", {plan.text("motor"), samplePowers(kind)}));
    const auto current = withUnit(list[1], "A"), cosPhi = numberFrom(list[2]), speed = numberFrom(list[3]);
    if (!current || !cosPhi || !speed)
        return notAPlate(plan);
    Part part{"MOTOR-" + std::to_string(starter), "Motor " + list[0], "motor",
        {{"rated_power_w", *powerW}, {"voltage_v", mainsV}, {"current_a", *current}, {"cos_phi", *cosPhi},
            {"speed_per_min", *speed}},
        {}};
    if (frequencyHz != 50.0)
        part.parameters["frequency_hz"] = frequencyHz;
    return MotorChoice{part, *powerW, *current};
}

void wirePower(StarterSheet& s)
{
    if (isSmall(s.plan))
        return wireSmallMotor(s);
    const double fuseA = fuseFor(s.motor.currentA);
    s.panel.device("F1", "fuse", s.moves(), "plate", {{"poles", 3.0}, {"rated_current_a", fuseA}});
    for (std::size_t k = 0; k < 3; ++k) {
        s.shared.mains[k].join(s.panel, s.tag("F1:") + kPoles[k], WireRun::Mains);
        s.lines[k] = s.tag("F1:") + kPolesOut[k];
    }
    if (s.plan.is("tap", "supply_side"))
        wireCurrentMonitor(s);
    if (s.hasLineContactor())
        throughPoles(s, addContactor(s, "Q9", "line, second channel"));
    const std::string& base = s.plan.text("base");
    if (base == "star_delta")
        return wireStarDelta(s);
    if (base == "reversing") {
        wireReversing(s);
    } else if (base == "soft_starter") {
        wireSoftStarter(s);
    } else if (base == "drive") {
        wireDrive(s);
    } else if (base == "solid_state") {
        wireSolidState(s);
    } else if (s.plan.is("operation", "separate_inch")) {
        wireSeparateInch(s);
    } else {
        s.runners = {addContactor(s, "Q1", s.number == 1 ? s.moves() : "motor")};
        throughPoles(s, "Q1");
    }
    addOverload(s, s.motor.currentA);
    addMotor(s, "fixed");
}

} // namespace ts::patterns
