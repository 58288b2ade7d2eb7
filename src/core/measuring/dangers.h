#pragma once
// What would hurt somebody or break something while a step is taken on a panel that is not as it should be: seen by
// running it beside the right one.

#include "core/measuring/panel.h"

namespace ts::measuring {

enum class DangerKind : std::uint8_t {
    Moves, ///< something moves, heats or holds that should not
    TwoPhases, ///< a motor runs on two lines, or takes so much that its overload relay trips
    Unstoppable, ///< a motor runs that nothing stops that should
    FrameLive, ///< an exposed part is above the voltage that may be touched
    LivePolesJoined, ///< a fuse, a breaker or a supply gives way
    OverVoltage ///< a coil or lamp is above what it is made for
};
std::string_view wordOf(DangerKind); ///< "moves", "two_phases" ...

struct Danger {
    DangerKind kind = DangerKind::Moves;
    std::string device;
    bool operator==(const Danger&) const = default;
};

/// Both have been brought to the same situation; `trail`: the right one's. `stops`: what stops motors, as bring() reads
/// it, tried where the built one runs. The first of all dangers.
std::optional<Danger> dangerIn(
    StandIn& built, const Plant& right, const Trail& trail, const std::vector<std::string>& stops);

} // namespace ts::measuring
