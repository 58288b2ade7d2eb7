// What a coil moves or heats and a stop must bring to rest: valves, magnets, clamps that are released by current,
// heaters. Which motion or heat that is, its own sheet knows: the times are the user's.

#include "core/library/kinds/coil.h"
#include "core/library/kinds/kinds.h"

#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kSolenoidParameters{
    ParameterSpec{"coil_voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"coil_current", Type::Word, 0, 0, {}, {}, "dc ac_rectified", {}, true},
    ParameterSpec{"coil_power_w", Type::Number, 0.1, 10000, {}, {}, {}, {}, true},
    ParameterSpec{"acts_in_s", Type::Number, 0.001, 60, {}, {}, {}, {}, true},
    ParameterSpec{"rests_in_s", Type::Number, 0.001, 500, {}, {}, {}, {}, true},
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
    const double u = p.number("coil_voltage_v"), power = p.number("coil_power_w");
    addCoil(b, "coil", "A1", "A2", p.word("coil_current") == "dc" ? directCoil(u, power) : rectifiedCoil(u, power), 0);
    return b;
}

/// A resistance heats at whatever voltage it has: what is above a tenth of its rated voltage (1 % of its power) counts.
Expected<Body> heaterBody(const Parameters& p, Timing)
{
    constexpr double kHeatsFrom = 0.1;
    Body b;
    b.movers.push_back(output("heat", p.number("heats_in_s"), p.number("cools_in_s")));
    const double u = p.number("rated_voltage_v"), power = p.number("rated_power_w");
    CoilElement coil = p.word("current") == "dc" ? directCoil(u, power) : rectifiedCoil(u, power);
    coil.pickUpV = coil.dropOutV = kHeatsFrom * u;
    coil.hasBand = false;
    addCoil(b, "coil", "1", "2", coil, 0);
    return b;
}

} // namespace

const DeviceKind heater{
    "heater", "E", kHeaterParameters, heaterBody, kHeaterFaults, "contactor", "brake", {}, {.isActuator = true}};
const DeviceKind solenoid{"solenoid", "Y", kSolenoidParameters, solenoidBody, kSolenoidFaults, "contactor", "brake", {},
    {.isOutputPart = true, .isActuator = true}};

} // namespace ts::kinds
