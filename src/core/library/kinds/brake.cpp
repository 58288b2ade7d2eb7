// Spring-applied brake, released by its magnet. It sits on a motor's shaft by Circuit::shafts.

#include "core/library/kinds/coil.h"
#include "core/library/kinds/kinds.h"

#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kBrakeParameters{
    ParameterSpec{"coil_voltage_v", Type::Number, 5, 1000, {}, {}, {}, {}, true},
    ParameterSpec{"coil_current", Type::Word, 0, 0, {}, {}, "dc ac_rectified", {}, true},
    ParameterSpec{"torque_nm", Type::Number, 0.1, 1e5, {}, {}, {}, {}, true},
    ParameterSpec{"switched", Type::Word, 0, 0, {}, "dc_side", "dc_side ac_side", "assumed"},
    ParameterSpec{"application_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"lifting_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"coil_power_w", Type::Number, 1, 10000, {}, {}, {}, "assumed"},
};
constexpr std::array kBrakeFaults{FailureModeSpec{"brake", "does_not_close"}, FailureModeSpec{"brake", "torque_low"},
    FailureModeSpec{"brake", "does_not_open"}, FailureModeSpec{"coil", "open"}, FailureModeSpec{"coil", "shorted"}};

Expected<Body> brakeBody(const Parameters& p, Timing timing)
{
    Body b;
    MoverSpec armature{"brake", MoverSpec::Driver::Coil};
    const char* side = p.word("switched") == "dc_side" ? "application_time_dc_side" : "application_time_ac_side";
    armature.toActuatedS = timedParameter(p, "lifting_time_s", deviceDefault("brake", "lifting_time"), timing);
    armature.toRestS = timedParameter(p, "application_time_s", deviceDefault("brake", side), timing);
    armature.brakesNm = p.number("torque_nm");
    b.movers.push_back(armature);
    const double power = timedParameter(p, "coil_power_w", deviceDefault("brake", "coil_power"), Timing::Nominal),
                 u = p.number("coil_voltage_v");
    addCoil(b, "coil", "A1", "A2", p.word("coil_current") == "dc" ? directCoil(u, power) : rectifiedCoil(u, power), 0);
    return b;
}

} // namespace

const DeviceKind brake{
    "brake", "Y", kBrakeParameters, brakeBody, kBrakeFaults, "contactor", "brake", {}, {.isOutputPart = true}};

} // namespace ts::kinds
