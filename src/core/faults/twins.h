#pragma once
// What a machine has several times over: starters of one make, wired and operated alike. Exchanged for each other they
// leave the circuit, the cycle and the function as they are, so that a fault in one is the same fault in another. Who
// uses it: same_fault.h.

#include "core/faults/cycle.h"

#include <vector>

namespace ts::faults {

/// The same so many times; what stands at one place of each is what takes the other's part.
struct Twins {
    struct One {
        std::vector<int> devices; ///< plant slots
        std::vector<int> wires; ///< Plant::wires, all with an end at one of the devices
    };
    std::vector<One> ones; ///< at least two, by their first devices
};

/// Found by likeness (kind, part, parameters, how it is wired and operated, over and over until nothing more can be
/// told apart), and only taken where exchanging the two gives the same circuit, to the field, decor apart (decor.h).
/// Nothing that a parameter names by its tag is in one. `plant`: compiled from the circuit. Pure.
std::vector<Twins> twinsOf(const Plant& plant, const Circuit& circuit, const Cycle& cycle);

} // namespace ts::faults
