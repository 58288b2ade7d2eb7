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

/// One look at the inputs. Pure.
RelayAnswer relayStep(const SafetyRelayLogic& sheet, const RelayWord& before, const RelayInputs& inputs, TimeNs now);

} // namespace ts
