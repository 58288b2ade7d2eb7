#pragma once
// Faults as an overlay: every wire and contact can be opened or held, shorts are extra connections,
// movers can be bounded. A circuit with a fault is the same plant with a longer State::faults.

#include "core/base/expected.h"

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace ts {

struct Plant;
struct State;

enum class FaultMode : std::uint8_t {
    LinkHeldClosed, ///< at: link
    LinkHeldOpen, ///< at: link
    PolesWelded, ///< at: mover, all its main poles
    PolesOpen, ///< at: mover
    BlockFallenOff, ///< at: mover, all its contacts stay as at rest, or open where the block is monitored
    MoverStuckAtRest, ///< at: mover
    MoverStuckActuated, ///< at: mover
    LatchFails, ///< at: mover: it returns as soon as it is let go
    ImpedanceOpen, ///< at: impedance
    ImpedanceShorted, ///< at: impedance
    Short, ///< at, with: nodes
    SourceLost, ///< at: source
    PhasesExchanged, ///< at, with: sources that give each other's voltage
    SupplyMissing, ///< at: converter
    SupplyLevel, ///< at: converter, with: per cent of its rated output
    TransformerOpen, ///< at: transformer
    TimingTooLong, ///< at: logic
    TimingTooShort, ///< at: logic
    TimingNever, ///< at: logic
    TorqueLow ///< at: mover of a brake
};

struct Fault {
    FaultMode mode = FaultMode::LinkHeldClosed;
    int at = 0;
    int with = -1;
    bool operator==(const Fault&) const = default;
};

/// A fault as people write it: "Q1/main:welded", "S0/11-12:welded", "wire/12:open", "A2:S12+A2:S22:short".
struct FaultSite {
    std::string site;
    std::string mode;
    Fault fault;
    std::string text() const { return site + ":" + mode; }
};

/// Levels at which a 24 V supply can fail, in per cent of its rated output: two that are too low, one too high. Source:
/// device_defaults.csv.
std::vector<int> failedOutputPercent();

/// All single faults of devices and wires, in order of slots. Shorts between terminals are not listed: their
/// number is that of pairs; faultFrom takes them.
std::vector<FaultSite> faultSites(const Plant& plant);

/// Fails with NotFound, naming what could have been meant.
Expected<FaultSite> faultFrom(const Plant& plant, std::string_view text);

/// The text of a fault that is in a state.
std::string faultId(const Plant& plant, const Fault& fault);

/// What the faults of a state do to links and movers.
struct Overlay {
    std::vector<std::int8_t> link; ///< 0 as built, 1 held closed, -1 held open
    std::vector<std::int8_t> impedance; ///< 0 as built, 1 shorted, -1 open
    std::vector<std::uint8_t> lowest, highest; ///< bounds of each mover's travel
    std::vector<std::uint8_t> losesLatch; ///< by mover
    std::vector<std::uint8_t> sourceLost; ///< by source
    std::vector<int> voltageOf; ///< by source: the one whose voltage it gives, itself unless phases are exchanged
    std::vector<std::uint8_t> converterMissing; ///< by converter
    std::vector<std::uint8_t> converterPercent; ///< by converter, of the rated output
    std::vector<std::uint8_t> transformerOpen; ///< by transformer
    std::vector<std::uint8_t> timing; ///< by logic, TimingFault
    std::vector<std::uint8_t> torqueLow; ///< by mover
    bool operator==(const Overlay&) const = default;
    std::vector<std::pair<int, int>> shorts; ///< nodes
};
Overlay overlayOf(const Plant& plant, const std::vector<Fault>& faults);

} // namespace ts
