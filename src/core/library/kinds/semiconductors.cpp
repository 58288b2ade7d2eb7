// Devices whose outputs are semiconductors: solid-state relay, light curtain, soft starter, drive.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <numbers>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kSolidStateParameters{
    ParameterSpec{"control_voltage_v", Type::Number, 3, 300, 24, {}, {}, "assumed"},
    ParameterSpec{"output_voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"poles", Type::Number, 1, 3, 1, {}, {}, "assumed"},
};
constexpr std::array kOutputFaults{FailureModeSpec{"output", "conducts"}, FailureModeSpec{"output", "open"}};

Expected<Body> solidStateBody(const Parameters& p, Timing timing)
{
    const char* row = "solid-state relay";
    Body b;
    GateLogic gate;
    const double u = p.number("control_voltage_v");
    gate.supply = addSupply(b, u, u * deviceDefault(row, "control_current").nominal);
    gate.onV = u * deviceDefault("timer", "supply_on_from").nominal;
    gate.offV = u * deviceDefault("timer", "supply_off_below").nominal;
    const double time = timed(deviceDefault(row, "switching_time"), timing);
    b.movers.push_back({"output", MoverSpec::Driver::Logic, 0, time, time, 0.0, false});
    gate.outputs = {0};
    const double snubber = p.number("output_voltage_v") / deviceDefault(row, "off_state_leakage").nominal;
    for (int k = 0; k < static_cast<int>(p.number("poles")); ++k) {
        addContact(b, poleName(k), {ContactKind::Main, 0, kActuated});
        addTwoPole(b, "snubber", terminalOf(b, std::to_string(2 * k + 1)), terminalOf(b, std::to_string(2 * k + 2)),
            LoadElement{{0.0, -snubber}, 1e9}); // a capacitor: no direct current
    }
    b.logics.push_back(gate);
    return b;
}

constexpr std::array kCurtainParameters{
    ParameterSpec{"response_time_s", Type::Number, 0.001, 1, {}, {}, {}, "assumed"},
    ParameterSpec{"outputs", Type::WordList, 0, 0, {}, "OSSD1 OSSD2", {}, "assumed"},
};

Expected<Body> curtainBody(const Parameters& p, Timing timing)
{
    const char* row = "light curtain";
    Body b;
    GateLogic gate;
    constexpr double kSupplyV = 24.0; // clause IEC 60204-1: the usual control voltage of such devices
    gate.supply = addSupply(b, kSupplyV, deviceDefault(row, "supply_power").nominal);
    gate.onV = kSupplyV * deviceDefault("timer", "supply_on_from").nominal;
    gate.offV = kSupplyV * deviceDefault("timer", "supply_off_below").nominal;
    const double response = timedParameter(p, "response_time_s", deviceDefault(row, "response_time"), timing);
    const double pick = timed(deviceDefault(row, "pick_up_time"), timing);
    b.movers.push_back({"beam", MoverSpec::Driver::Operator, 0, 0.0, 0.0, 0.0, true});
    gate.obstacle = 0;
    if (p.words("outputs").empty() || p.words("outputs").size() > 2)
        return failure(ErrorCode::Refused, message("kind.contact_count", {p.tag()}));
    for (const std::string& name : p.words("outputs")) {
        if (name.empty() || name.size() > 12 || name.find_first_of(":-+/") != name.npos || terminalOf(b, name) >= 0)
            return failure(ErrorCode::Refused, message("kind.terminal_marking", {p.tag(), name}));
        gate.outputs.push_back(static_cast<int>(b.movers.size()));
        b.movers.push_back({name, MoverSpec::Driver::Logic, 0, pick, response, 0.0, false});
        addTwoPole(b, name, terminalOf(b, "A1"), addTerminal(b, name),
            ContactElement{ContactKind::NormallyOpen, gate.outputs.back(), kActuated});
    }
    b.actions = {{"interrupt", 0, 2}, {"clear", 0, 0}};
    b.logics.push_back(gate);
    return b;
}

constexpr std::array kSoftStarterParameters{
    ParameterSpec{"line_voltage_v", Type::Number, 10, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"motor_current_a", Type::Number, 0.1, 5000, {}, {}, {}, {}, true},
    ParameterSpec{"supply_voltage_v", Type::Number, 5, 500, 24, {}, {}, "assumed"},
    ParameterSpec{"initial_voltage_pct", Type::Number, 20, 90, 40, {}, {}, "assumed"},
    ParameterSpec{"ramp_up_s", Type::Number, 0.2, 120, 5, {}, {}, "assumed"},
    ParameterSpec{"ramp_down_s", Type::Number, 0, 120, 0, {}, {}, "assumed"},
    ParameterSpec{"bypass_contacts", Type::WordList, 0, 0, {}, "13-14", {}, "assumed"},
};
constexpr std::array kSoftStarterFaults{FailureModeSpec{"main", "welded"}, FailureModeSpec{"main", "does_not_close"},
    FailureModeSpec{"timing", "too_long"}, FailureModeSpec{"timing", "too_short"}};

/// Thyristors as a reactance that falls step by step: at standstill the motor gets the wanted share of its voltage.
Expected<Body> softStarterBody(const Parameters& p, Timing timing)
{
    Body b;
    SoftStarterLogic logic;
    const double u = p.number("supply_voltage_v"), power = deviceDefault("soft starter", "supply_power").nominal;
    const double bypass = timed(deviceDefault("soft starter", "bypass_time"), timing);
    b.movers.push_back({"bypass", MoverSpec::Driver::Logic, 0, bypass, bypass, 0.0, false});
    const double lockedA = p.number("motor_current_a") * deviceDefault("motor", "locked_rotor_ratio").nominal;
    const double lockedOhm = p.number("line_voltage_v") / std::numbers::sqrt3 / lockedA;
    for (int k = 0; k < 3; ++k) {
        addContact(b, poleName(k), {ContactKind::Main, 0, kActuated});
        addTwoPole(b, "thyristors " + poleName(k), terminalOf(b, std::to_string(2 * k + 1)),
            terminalOf(b, std::to_string(2 * k + 2)), VariableElement{0, lockedOhm});
    }
    logic.supply = addSupply(b, u, power);
    logic.start = addTwoPole(b, "sense B1", addTerminal(b, "B1"), terminalOf(b, "A2"), SenseElement{u * u / power});
    if (auto ok = addContacts(
            b, p.words("bypass_contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    logic.onV = u * deviceDefault("timer", "supply_on_from").nominal;
    logic.offV = u * deviceDefault("timer", "supply_off_below").nominal;
    logic.initialShare = p.number("initial_voltage_pct") / 100.0;
    logic.rampUpS = p.number("ramp_up_s");
    logic.rampDownS = p.number("ramp_down_s");
    b.levelCount = 1;
    b.logics.push_back(logic);
    return b;
}

constexpr std::array kDriveParameters{
    ParameterSpec{"line_voltage_v", Type::Number, 10, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"ramp_up_s", Type::Number, 0.05, 600, 3, {}, {}, "assumed"},
    ParameterSpec{"ramp_down_s", Type::Number, 0.05, 600, 3, {}, {}, "assumed"},
    ParameterSpec{"running_contacts", Type::WordList, 0, 0, {}, "13-14", {}, "assumed"},
    ParameterSpec{"ready_contacts", Type::WordList, 0, 0, {}, "23-24", {}, "assumed"},
    ParameterSpec{"discharge_time_s", Type::Number, 0, 3600, {}, {}, {}, "sheet"},
    ParameterSpec{"rated_input_a", Type::Number, 0.1, 5000, {}, {}, {}, "sheet"},
    ParameterSpec{"rated_output_a", Type::Number, 0.1, 5000, {}, {}, {}, "sheet"},
    ParameterSpec{"leakage_ma", Type::Number, 0, 1000, {}, {}, {}, "sheet"},
    ParameterSpec{"dc_link_uf", Type::Number, 0, 1e6, {}, {}, {}, "sheet"},
};
constexpr std::array kDriveFaults{FailureModeSpec{"timing", "too_long"}, FailureModeSpec{"timing", "never"}};

/// DI1 runs right, DI2 left, against 0V; STO1 and STO2 both need voltage for torque.
Expected<Body> driveBody(const Parameters& p, Timing timing)
{
    const char* row = "drive";
    Body b;
    DriveLogic logic;
    const double line = p.number("line_voltage_v"), power = deviceDefault(row, "standby_power").nominal;
    Element e;
    e.role = "power part";
    for (std::size_t k = 0; k < 6; ++k)
        e.terminals[k] = addTerminal(b, std::array{"L1", "L2", "L3", "U", "V", "W"}[k]);
    e.what = DriveElement{0, line * line / power, p.number("ramp_up_s"), p.number("ramp_down_s")};
    b.elements.push_back(e);
    logic.supply = addTwoPole(b, "line sense", 0, 1, SenseElement{line * line / power, SenseElement::Use::Tap});
    const int zero = addTerminal(b, "0V");
    const double inputOhm = deviceDefault("controller input", "resistance").nominal;
    for (const auto& [name, sense] : {std::pair{"DI1", &logic.run}, {"DI2", &logic.reverse},
             {"STO1", &logic.torqueOff1}, {"STO2", &logic.torqueOff2}})
        *sense = addTwoPole(b, std::string("sense ") + name, addTerminal(b, name), zero, SenseElement{inputOhm});
    const double time = timed(deviceDefault(row, "torque_off_time"), timing);
    for (const char* name : {"running", "ready"})
        b.movers.push_back({name, MoverSpec::Driver::Logic, 0, time, time, 0.0, false});
    for (const auto& [name, mover] : {std::pair{"running_contacts", 0}, {"ready_contacts", 1}})
        if (auto ok = addContacts(
                b, p.words(name), p.tag(), [mover = mover](ContactKind kind) { return contactOf(mover, kind); });
            !ok)
            return Unexpected{ok.error()};
    logic.supplyOnV = logic.supplyOffV = line * deviceDefault(row, "lowest_input").nominal;
    logic.inputV = deviceDefault("controller input", "on_from").nominal;
    logic.rampUpS = p.number("ramp_up_s");
    logic.rampDownS = p.number("ramp_down_s");
    b.levelCount = 1;
    b.logics.push_back(logic);
    return b;
}

} // namespace

const DeviceKind solidStateRelay{
    "solid_state_relay", "K", kSolidStateParameters, solidStateBody, kOutputFaults, "contactor", "solid_state"};
const DeviceKind lightCurtain{"light_curtain", "B", kCurtainParameters, curtainBody, kOutputFaults, "curtain",
    "curtain", {}, {.protects = KindTraits::Protects::Guard, .safeguard = Safeguard::BodyCurtain}};
const DeviceKind softStarter{
    "soft_starter", "Q", kSoftStarterParameters, softStarterBody, kSoftStarterFaults, "starter", "starter"};
const DeviceKind drive{"drive", "T", kDriveParameters, driveBody, kDriveFaults, "drive", "drive"};

} // namespace ts::kinds
