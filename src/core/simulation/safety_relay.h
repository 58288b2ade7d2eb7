#pragma once
// The logic of a safety relay: what its inputs are now, what it remembers, what it wants. It never sees other
// devices. Encapsulated, so the only faults it meets are in the wiring around it.

#include "core/library/kind.h"
#include "core/simulation/state.h"

#include <optional>

namespace ts {

struct RelayInputs {
    double supplyV = 0, channel1V = 0, channel2V = 0, resetV = 0;
    bool relaysAtRest = true; ///< both inner relays have dropped out
};

struct RelayAnswer {
    RelayWord word;
    std::optional<TimeNs> wakeAt; ///< look again then, even if nothing changes
};

enum class Light : std::uint8_t { Off, Steady, Blinking };

/// What the lights on its front say. The codes are ours; a maker's sheet may have others.
struct RelayLights {
    Light supply = Light::Off; ///< blinking: a controller without a configuration
    Light channel1 = Light::Off, channel2 = Light::Off; ///< steady: closed; blinking: open while the other is closed
    Light outputs = Light::Off; ///< blinking: only the delayed ones are still on
    Light reset = Light::Off; ///< blinking: waits for it
    Light fault = Light::Off; ///< steady: locked out; blinking: the channels differ, or no configuration
};
RelayLights lightsOf(const SafetyRelayLogic& sheet, const RelayWord& word);

/// One look at the inputs. Pure.
RelayAnswer relayStep(const SafetyRelayLogic& sheet, const RelayWord& before, const RelayInputs& inputs, TimeNs now);

} // namespace ts
