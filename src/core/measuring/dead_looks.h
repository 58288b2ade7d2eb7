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
    bool isInsulation = false; ///< with 500 V
    std::vector<std::string> seen; ///< by node in nodesA: terminals whose wires are counted with the eye
    bool isForWires() const { return !seen.empty(); }
};

struct DeadLooks {
    std::vector<DeadState> states;
    std::vector<DeadLook> looks;
};
Situation situationOf(const DeadState& state);
Look lookOf(const DeadLook& look);
/// Of one reading with what it takes to get there (assumed, measuring.csv).
double secondsOf(const DeadState& state, const DeadLook& look);

/// The wires that are elsewhere, or off, in that state of the built panel.
std::vector<MovedWire> movedIn(const DeadState& state, const Deviation& built);
/// The built panel in that state. `overlay`: of the deviation's fault.
Ohms ohmsIn(const Plant& right, const DeadState& state, const Deviation& built, const Overlay& overlay);

/// How a panel is brought there with everything locked off. Fails with NotFound for what is not there.
Expected<DeadState> deadStateOf(const Plant& plant, const Situation& in);
/// "Q1:13", or several as "P6:X1 or P6:X2".
Expected<std::vector<int>> nodesOf(const Plant& plant, std::string_view terminals);
/// A look of ohms, or at one terminal for wires. Fails with NotFound for any other.
Expected<DeadLook> deadLookOf(const Plant& plant, const Look& look);

DeadLooks deadLooksOf(const Circuit& circuit, const Plant& plant);
/// The same between elements at whichever of their ends, for what the others leave in the dark.
DeadLooks eitherEndLooksOf(const Circuit& circuit, const Plant& plant);
/// Looks at the two ends of wires with another one lifted, for what the others leave in the dark.
DeadLooks liftedLooksOf(const Circuit& circuit, const Plant& plant, const std::vector<const Deviation*>& hidden);

} // namespace ts::measuring
