#pragma once
// Which button resets: found by pressing each of them after the demand has ended.

#include "core/simulation/advance.h"

#include <span>

namespace ts {

/// The device that, pressed and let go once the demand is over, brings back what a device's own logic had taken away (a
/// safety relay's outputs), and starts no motor by that if another one does it without. None where nothing waits for a
/// reset, where it comes by itself, or if cancelled. `stimuli`: a scenario's; `demand`: the place of what stops in it.
DeviceId resetAfter(const Plant& plant, std::span<const Stimulus> stimuli, std::size_t demand, Workspace& workspace,
    std::stop_token stop);

} // namespace ts
