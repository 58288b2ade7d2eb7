#pragma once
// What instruments other than a voltmeter show of a circuit under voltage: a clamp around a wire, a tester of the phase
// sequence.

#include "core/simulation/frame.h"

namespace ts {

/// A wire at a terminal and its current, A RMS.
struct ClampReading {
    int wire = 0; ///< plant slot
    double rmsA = 0;
    bool operator==(const ClampReading&) const = default;
};
/// One for each wire at the terminal, in their order. Pure.
std::vector<ClampReading> clampAt(const Plant& plant, const Frame& frame, int terminal);

/// Which way a motor turns that is wired to three conductors in this order.
enum class PhaseSequence : std::uint8_t { None, Right, Left };
/// None where a line is dead or two are the same. Pure.
PhaseSequence sequenceOf(const Frame& frame, const std::array<int, 3>& nodes);

} // namespace ts
