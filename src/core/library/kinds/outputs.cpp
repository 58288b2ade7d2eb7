// What a current moves or heats and a stop must bring to rest: valves, magnets, clamps that are released by current,
// heaters, small motors that are known by their times. Which motion or heat that is, its own sheet knows: the times are
// the user's. And the resistor, which is a load and no hazard.

#include "core/library/kinds/coil.h"
#include "core/library/kinds/kinds.h"

#include <array>
#include <cmath>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kSolenoidParameters{
    ParameterSpec{"coil_voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"coil_current", Type::Word, 0, 0, {}, {}, "dc ac_rectified", {}, true},
    ParameterSpec{"coil_power_w", Type::Number, 0.1, 10000, {}, {}, {}, {}, true},
    ParameterSpec{"acts_in_s", Type::Number, 0.001, 60, {}, {}, {}, {}, true},
    ParameterSpec{"rests_in_s", Type::Number, 0.001, 500, {}, {}, {}, {}, true},
    ParameterSpec{"hazard_when", Type::Word, 0, 0, {}, "acting", "acting let_go", "assumed"},
};
constexpr std::array kSolenoidFaults{FailureModeSpec{"armature", "stuck_in"}, FailureModeSpec{"armature", "stuck_out"},
    FailureModeSpec{"coil", "open"}, FailureModeSpec{"coil", "shorted"}};

constexpr std::array kHeaterParameters{
    ParameterSpec{"rated_voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"current", Type::Word, 0, 0, {}, "ac", "ac dc", "assumed"},
    ParameterSpec{"rated_power_w", Type::Number, 1, 1e6, {}, {}, {}, {}, true},
    ParameterSpec{"heats_in_s", Type::Number, 0.001, 500, {}, {}, {}, {}, true},
    ParameterSpec{"cools_in_s", Type::Number, 0.001, 500, {}, {}, {}, {}, true},
};
constexpr std::array kHeaterFaults{FailureModeSpec{"coil", "open"}, FailureModeSpec{"coil", "shorted"}};

constexpr std::array kThreePhaseHeaterParameters{
    ParameterSpec{"rated_voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"connection", Type::Word, 0, 0, {}, "star", "star delta", "assumed"},
    kHeaterParameters[2],
    kHeaterParameters[3],
    kHeaterParameters[4],
};

constexpr std::array kSmallMotorParameters{
    ParameterSpec{"voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"current_a", Type::Number, 0.01, 500, {}, {}, {}, {}, true},
    ParameterSpec{"cos_phi", Type::Number, 0.2, 1, 0.9, {}, {}, "assumed"},
    ParameterSpec{"locked_rotor_ratio", Type::Number, 1, 30, {}, {}, {}, "assumed"},
    ParameterSpec{"runs_up_in_s", Type::Number, 0.001, 500, {}, {}, {}, {}, true},
    ParameterSpec{"runs_down_in_s", Type::Number, 0.001, 500, {}, {}, {}, {}, true},
};
constexpr std::array kDirectMotorParameters{kSmallMotorParameters[0], kSmallMotorParameters[1],
    kSmallMotorParameters[3], kSmallMotorParameters[4], kSmallMotorParameters[5]};
constexpr std::array kSmallMotorFaults{
    FailureModeSpec{"armature", "stuck_out"}, FailureModeSpec{"coil", "open"}, FailureModeSpec{"coil", "shorted"}};

constexpr std::array kResistorParameters{
    ParameterSpec{"rated_voltage_v", Type::Number, 1, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"rated_power_w", Type::Number, 0.01, 1e6, {}, {}, {}, {}, true},
};
constexpr std::array kResistorFaults{FailureModeSpec{"load", "open"}, FailureModeSpec{"load", "shorted"}};

MoverSpec output(const char* role, double actsInS, double restsInS)
{
    MoverSpec mover{role, MoverSpec::Driver::Coil};
    mover.toActuatedS = actsInS;
    mover.toRestS = restsInS;
    mover.isOutput = true;
    return mover;
}

Expected<Body> solenoidBody(const Parameters& p, Timing)
{
    Body b;
    b.movers.push_back(output("armature", p.number("acts_in_s"), p.number("rests_in_s")));
    b.movers.back().holds = p.word("hazard_when") == "let_go";
    const double u = p.number("coil_voltage_v"), power = p.number("coil_power_w");
    addCoil(b, "coil", "A1", "A2", p.word("coil_current") == "dc" ? directCoil(u, power) : rectifiedCoil(u, power), 0);
    return b;
}

/// A resistance heats at whatever voltage it has: what is above a tenth of its rated voltage (1 % of its power) counts.
CoilElement heating(CoilElement resistance)
{
    constexpr double kHeatsFrom = 0.1;
    resistance.pickUpV = resistance.dropOutV = kHeatsFrom * resistance.ratedV;
    resistance.hasBand = false;
    return resistance;
}

Expected<Body> heaterBody(const Parameters& p, Timing)
{
    Body b;
    b.movers.push_back(output("heat", p.number("heats_in_s"), p.number("cools_in_s")));
    const double u = p.number("rated_voltage_v"), power = p.number("rated_power_w");
    addCoil(
        b, "coil", "1", "2", heating(p.word("current") == "dc" ? directCoil(u, power) : rectifiedCoil(u, power)), 0);
    return b;
}

/// Three equal resistances; the star point is a terminal, which may stay without a wire. One that is fed makes it hot.
Expected<Body> threePhaseHeaterBody(const Parameters& p, Timing)
{
    Body b;
    b.movers.push_back(output("heat", p.number("heats_in_s"), p.number("cools_in_s")));
    const bool isStar = p.word("connection") == "star";
    const double u = p.number("rated_voltage_v") / (isStar ? std::sqrt(3.0) : 1.0);
    const CoilElement one = heating(rectifiedCoil(u, p.number("rated_power_w") / 3.0));
    const std::array<std::string, 3> lines{"U", "V", "W"};
    for (const std::string& line : lines)
        addTerminal(b, line);
    for (std::size_t k = 0; k < lines.size(); ++k) {
        const std::string& end = isStar ? "N" : lines[(k + 1) % lines.size()];
        addCoil(b, lines[k] + "-" + end, lines[k], end, one, 0);
    }
    addTerminal(b, "PE");
    return b;
}

/// Its current while it stands and while it runs, with the time from one to the other; between them it turns, and
/// nothing more is known of its speed. Held at a standstill (rotor stuck, voltage too low) it goes on taking the first.
CoilElement smallMotor(const Parameters& p, const char* row)
{
    CoilElement winding;
    winding.ratedV = p.number("voltage_v");
    winding.pickUpV = winding.ratedV * deviceDefault(row, "starts_from").nominal;
    winding.dropOutV = winding.ratedV * deviceDefault(row, "stalls_below").nominal;
    winding.hasBand = false;
    return winding;
}

MoverSpec rotor(const Parameters& p)
{
    MoverSpec mover = output("rotor", p.number("runs_up_in_s"), p.number("runs_down_in_s"));
    mover.turnsAtOnce = true;
    return mover;
}

double lockedOhm(const Parameters& p, const char* row)
{
    const double ratio = timedParameter(
        p, "locked_rotor_ratio", deviceDefault(row, "locked_rotor_ratio"), Timing::Nominal);
    return p.number("voltage_v") / (p.number("current_a") * ratio);
}

Expected<Body> singlePhaseMotorBody(const Parameters& p, Timing)
{
    const char* row = "motor single-phase";
    const auto at = [](double ohm, double cosine) { return ohm * Complex(cosine, std::sqrt(1.0 - cosine * cosine)); };
    CoilElement winding = smallMotor(p, row);
    winding.openOhm = at(lockedOhm(p, row), deviceDefault(row, "locked_rotor_power_factor").nominal);
    winding.sealedOhm = at(p.number("voltage_v") / p.number("current_a"), p.number("cos_phi"));
    winding.resistanceOhm = winding.openOhm.real();
    Body b;
    b.movers.push_back(rotor(p));
    addCoil(b, "winding", "U1", "U2", winding, 0);
    addTerminal(b, "PE");
    return b;
}

Expected<Body> directMotorBody(const Parameters& p, Timing)
{
    const char* row = "motor DC";
    CoilElement winding = smallMotor(p, row);
    winding.direct = true;
    winding.openOhm = winding.sealedOhm = winding.resistanceOhm = lockedOhm(p, row);
    winding.sealedResistanceOhm = p.number("voltage_v") / p.number("current_a");
    Body b;
    b.movers.push_back(rotor(p));
    addCoil(b, "winding", "A1", "A2", winding, 0);
    addTerminal(b, "PE");
    return b;
}

Expected<Body> resistorBody(const Parameters& p, Timing)
{
    Body b;
    const double u = p.number("rated_voltage_v"), ohm = u * u / p.number("rated_power_w");
    const int first = addTerminal(b, "1"), second = addTerminal(b, "2");
    addTwoPole(b, "resistor", first, second, LoadElement{{ohm, 0.0}, ohm});
    return b;
}

} // namespace

const DeviceKind motorSinglePhase{"motor_single_phase", "M", kSmallMotorParameters, singlePhaseMotorBody,
    kSmallMotorFaults, "contactor", "motor", {}, {.isActuator = true}};
const DeviceKind motorDirect{"motor_dc", "M", kDirectMotorParameters, directMotorBody, kSmallMotorFaults, "contactor",
    "motor", {}, {.isActuator = true}};
const DeviceKind resistor{"resistor", "E", kResistorParameters, resistorBody, kResistorFaults, "box", "input"};
const DeviceKind heater{
    "heater", "E", kHeaterParameters, heaterBody, kHeaterFaults, "contactor", "brake", {}, {.isActuator = true}};
const DeviceKind heaterThreePhase{"heater_three_phase", "E", kThreePhaseHeaterParameters, threePhaseHeaterBody,
    kHeaterFaults, "contactor", "brake", {}, {.isActuator = true}};
const DeviceKind solenoid{"solenoid", "Y", kSolenoidParameters, solenoidBody, kSolenoidFaults, "contactor", "brake", {},
    {.isOutputPart = true, .isActuator = true}};

} // namespace ts::kinds
