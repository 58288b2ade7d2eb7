// Three-phase induction motor from its plate, with its load.

#include "core/library/kinds/build.h"
#include "core/library/kinds/kinds.h"
#include "core/library/motor_plate.h"

#include <array>
#include <cmath>
#include <numbers>

namespace ts {

MotorPlate plateOf(const Parameters& p)
{
    MotorPlate plate{p.number("rated_power_w"), p.number("voltage_v"), p.number("current_a"), p.number("cos_phi"),
        p.number("speed_per_min"), p.number("frequency_hz"),
        kinds::timedParameter(p, "locked_rotor_ratio", deviceDefault("motor", "locked_rotor_ratio"), Timing::Nominal),
        0.0};
    plate.frictionW = plate.powerW * deviceDefault("motor", "friction_share").nominal;
    return plate;
}

bool isMotor(const Device& device)
{
    return device.kind == kinds::motor.id;
}

} // namespace ts

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kMotorParameters{
    ParameterSpec{"rated_power_w", Type::Number, 10, 1e6, {}, {}, {}, {}, true},
    ParameterSpec{"voltage_v", Type::Number, 10, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"current_a", Type::Number, 0.05, 5000, {}, {}, {}, {}, true},
    ParameterSpec{"cos_phi", Type::Number, 0.2, 0.99, {}, {}, {}, {}, true},
    ParameterSpec{"speed_per_min", Type::Number, 50, 24000, {}, {}, {}, {}, true},
    ParameterSpec{"frequency_hz", Type::Number, 10, 400, 50, {}, {}, "assumed"},
    ParameterSpec{"locked_rotor_ratio", Type::Number, 2, 12, {}, {}, {}, "assumed"},
    ParameterSpec{"rotor_inertia_kgm2", Type::Number, 1e-6, 1e5, {}, {}, {}, "assumed"},
    ParameterSpec{"connection", Type::Word, 0, 0, {}, "fixed", "fixed star delta", "assumed"},
    ParameterSpec{"load", Type::Word, 0, 0, {}, "none", "none constant fan hanging", "assumed"},
    ParameterSpec{"load_share", Type::Number, 0, 2, 0.75, {}, {}, "assumed"},
    ParameterSpec{"lowest_load_share", Type::Number, 0, 2, 0, {}, {}, "assumed"},
    ParameterSpec{"load_inertia_x", Type::Number, 0, 1000, {}, {}, {}, "assumed"},
    ParameterSpec{"service_factor", Type::Number, 1, 1.5, 1, {}, {}, "assumed"},
    ParameterSpec{"efficiency", Type::Number, 0.3, 0.99, {}, {}, {}, "sheet"},
    ParameterSpec{"no_load_current_x", Type::Number, 0.1, 0.9, {}, {}, {}, "sheet"},
    ParameterSpec{"stall_time_s", Type::Number, 1, 600, {}, {}, {}, "sheet"},
    ParameterSpec{"starts_per_hour_max", Type::Number, 0.1, 3600, {}, {}, {}, "sheet"},
};
constexpr std::array kMotorFaults{FailureModeSpec{"winding", "to_earth"}, FailureModeSpec{"winding", "shorted"}};

Expected<Body> motorBody(const Parameters& p, Timing timing)
{
    const MotorPlate plate = plateOf(p);
    auto fitted = fittedMotor(plate);
    if (!fitted) {
        Error error = fitted.error();
        error.message.arguments.insert(error.message.arguments.begin(), p.tag());
        return Unexpected{error};
    }
    const double rotor = p.isWritten("rotor_inertia_kgm2")
        ? p.number("rotor_inertia_kgm2")
        : deviceDefault("motor", "rotor_inertia_per_power").nominal * plate.powerW / 1000.0;
    const double ratedRadPerS = plate.speedPerMin * std::numbers::pi / 30.0;
    const double loadNm = p.word("load") == "none" ? 0.0 : p.number("load_share") * plate.powerW / ratedRadPerS;
    const bool fan = p.word("load") == "fan", hanging = p.word("load") == "hanging";
    const double loadInertia = p.word("load") == "none"
        ? 0.0
        : rotor * timedParameter(p, "load_inertia_x", deviceDefault("motor", "load_inertia"), Timing::Nominal);
    MotorElement motor;
    motor.circuit = fitted->circuit;
    motor.synchronousRadPerS = fitted->synchronousRadPerS;
    motor.inertiaKgm2 = rotor + loadInertia;
    motor.frictionNm = plate.frictionW / ratedRadPerS + (fan || hanging ? 0.0 : loadNm);
    motor.ownFrictionNm = plate.frictionW / ratedRadPerS;
    motor.lowestLoad = p.number("load_share") > 0.0 ? p.number("lowest_load_share") / p.number("load_share") : 1.0;
    motor.isLowestLoadEntered = p.isWritten("lowest_load_share");
    motor.hangingNm = hanging ? loadNm : 0.0;
    motor.fanNms2 = fan ? loadNm / (ratedRadPerS * ratedRadPerS) : 0.0;
    motor.standstillRadPerS = deviceDefault("motor", "standstill_limit").nominal * motor.synchronousRadPerS;
    motor.ratedA = plate.currentA;
    motor.voltageV = plate.voltageV;
    motor.remanentShare = timed(deviceDefault("motor", "remanent_voltage"), timing);
    Body b;
    Element e;
    e.role = "winding";
    // Star or delta: all six ends are led out, and the plate's values are those of that connection.
    const std::string& connection = p.word("connection");
    motor.sixTerminal = connection != "fixed";
    motor.starWindings = connection != "delta";
    for (std::size_t k = 0; k < (motor.sixTerminal ? 6u : 3u); ++k)
        e.terminals[k] = addTerminal(b, std::array{"U1", "V1", "W1", "U2", "V2", "W2"}[k]);
    addTerminal(b, "PE");
    e.what = motor;
    b.elements.push_back(e);
    return b;
}

} // namespace

const DeviceKind motor{
    "motor", "M", kMotorParameters, motorBody, kMotorFaults, "motor", "motor", {}, {.isActuator = true}};

} // namespace ts::kinds
