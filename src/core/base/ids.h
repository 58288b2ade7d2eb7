#pragma once
// Distinct id types, so that a wire's id is never taken for a device's. Ids are never reused.

#include <compare>
#include <cstdint>

namespace ts {

template <class Tag> struct Id {
    int value = 0; ///< 0 means "none"
    constexpr auto operator<=>(const Id&) const = default;
    constexpr explicit operator bool() const { return value != 0; }
};

using DeviceId = Id<struct DeviceTag>;
using WireId = Id<struct WireTag>;
using RouteId = Id<struct RouteTag>;
using FunctionId = Id<struct FunctionTag>;
using ScenarioId = Id<struct ScenarioTag>;

} // namespace ts
