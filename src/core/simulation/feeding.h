#pragma once
// What feeds a coil, a lamp or a motor, or keeps it off: the way from one pole of a supply through it to another, with
// what stands open on it and what would close each. Found in the wires and contacts as they are at one instant; that it
// then really gets its voltage is tried by a fork.

#include "core/simulation/electrics.h"
#include "core/simulation/frame.h"

#include <optional>
#include <string>
#include <vector>

namespace ts {

/// A contact on the way that is open, and what would close it.
struct Gap {
    enum class Closes : std::uint8_t {
        Hand, ///< a person, by `action`
        Coil, ///< its coil gets its voltage
        NoCoil, ///< its coil loses its voltage
        Reset, ///< it has tripped or melted: by `action`
        Program, ///< what is inside the device: a timer, a monitor, a relay
        Repair ///< it is broken
    };
    int link = 0; ///< plant slot
    Closes closes = Closes::Hand;
    std::string action; ///< "press"; empty where no hand does it
    bool operator==(const Gap&) const = default;
};

struct Feeding {
    bool isFed = false; ///< it has the voltage at which it does what it is for
    std::vector<int> way; ///< links, from one pole of the supply to the other; of a motor from each of three poles
    std::vector<Gap> gaps; ///< in that order; empty: nothing stands open, or no way leads from any supply
    bool hasWay = false;
    bool operator==(const Feeding&) const = default;
};

/// Of the device's first coil, lamp or motor; nothing if it has none of them. Of several ways the one with the fewest
/// gaps, those that a hand closes before others, a contact of its own last. Pure.
std::optional<Feeding> feedingOf(const Plant& plant, const State& state, const Frame& frame, int device);

/// True if the device does what it is for within two seconds of all hands named in the gaps. `workspace` as for
/// advance().
bool feedsWhenTried(const Plant& plant, const State& state, const Feeding& feeding, int device, Workspace& workspace);

} // namespace ts
