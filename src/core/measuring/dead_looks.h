#pragma once
// What could be measured with everything locked off: between the ends of wires, across contacts, coils and windings,
// from what lies before an element to what lies behind it, at rest and with each device at hand operated. Internal to
// measuring/.

#include "core/measuring/deviations.h"

namespace ts::measuring {

struct DeadState {
    std::vector<std::string> bring;
    std::vector<WireId> lifted;
    std::vector<std::uint8_t> travel;
    std::vector<MovedWire> gone; ///< what is lifted
};

struct DeadLook {
    std::size_t state = 0;
    std::vector<int> nodesA, nodesB; ///< one, or the ends of an element: whichever reads least
    std::string a, b; ///< "Q1:13", "P6:X1 or P6:X2"
    Stage stage = Stage::Continuity;
    std::vector<std::string> serves; ///< required by these clauses
    Reading right{}; ///< what the right circuit reads
    Reading expect{}; ///< with the bands of meter and leads
    double seconds = 0;
    bool isLow = false; ///< with a meter for low resistances
    bool isForWires = false; ///< whether anything is wired there, seen with the eye
};

struct DeadLooks {
    std::vector<DeadState> states;
    std::vector<DeadLook> looks;
};
/// "F2:1 wired" or "F2:1 empty".
std::string wiredWord(const std::string& terminal, bool isWired);
bool isWired(const Plant& plant, int node, std::span<const MovedWire> moved);

/// What is said of a reading of the right circuit, as a meter with its leads can show it.
Reading expectedOf(const Reading& right, bool isLow);

DeadLooks deadLooksOf(const Circuit& circuit, const Plant& plant);
/// The same between elements at whichever of their ends, for what the others leave in the dark.
DeadLooks eitherEndLooksOf(const Circuit& circuit, const Plant& plant);
/// Looks at the two ends of wires with another one lifted, for what the others leave in the dark.
DeadLooks liftedLooksOf(const Circuit& circuit, const Plant& plant, const std::vector<const Deviation*>& hidden);

} // namespace ts::measuring
