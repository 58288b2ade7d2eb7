#pragma once
// What a study is about: the whole machine, one safety function, or one motor.

#include "core/base/ids.h"

#include <cstdint>

namespace ts {

struct Subject {
    enum class Kind : std::uint8_t { Machine, Function, Motor };
    Kind kind = Kind::Machine;
    int id = 0; ///< of the function, or of the motor's device; 0 for the machine
    auto operator<=>(const Subject&) const = default;

    FunctionId function() const { return {kind == Kind::Function ? id : 0}; }
    DeviceId motor() const { return {kind == Kind::Motor ? id : 0}; }
};

inline Subject wholeMachine()
{
    return {};
}
inline Subject about(FunctionId function)
{
    return {Subject::Kind::Function, function.value};
}
inline Subject about(DeviceId motor)
{
    return {Subject::Kind::Motor, motor.value};
}

} // namespace ts
