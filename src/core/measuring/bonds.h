#pragma once
// What lies between two nodes with nothing fed: each contact, wire, resistance and winding alone, as it is built, with
// its fault, and with wires that are elsewhere. Internal to measuring/ and finding/.

#include "core/measuring/look.h"
#include "core/simulation/fault.h"
#include "core/simulation/plant.h"

#include <optional>
#include <span>

namespace ts::measuring {

constexpr int kNowhere = -1; ///< where the end of a wire hangs that is on none of the circuit's terminals

/// A wire that is not where it should be: by plant slot, its two nodes; none: it is missing.
struct MovedWire {
    int wire = 0;
    std::optional<std::pair<int, int>> nodes;
    bool isBroken = false; ///< it joins nothing, wherever it is
    bool operator==(const MovedWire&) const = default;
};

struct Bond {
    int p = 0, q = 0;
    double low = 0, high = 0; ///< ohm; both 0: one conductor; high endless: electronics
    bool operator==(const Bond&) const = default;
};

struct BuiltSo {
    const Plant& plant;
    std::span<const std::uint8_t> travel; ///< of every mover
    const Overlay& overlay;
    std::span<const MovedWire> moved;
};

/// None: open.
std::optional<Bond> linkIn(const BuiltSo& built, std::size_t link);
std::optional<Bond> impedanceIn(const BuiltSo& built, std::size_t impedance);
std::optional<Bond> primaryIn(const BuiltSo& built, std::size_t transformer);
Bond secondaryIn(const Plant& plant, std::size_t transformer);
/// Motors and electronics, which no wire and no fault of a list opens.
std::vector<Bond> machinesIn(const Plant& plant);

/// Of as many nodes as names: "F2:1 2 wires, F2:2 empty".
Reading wiresSeen(const Plant& plant, const std::vector<std::string>& terminals, const std::vector<int>& nodes,
    std::span<const MovedWire> moved);
int wiresAt(const Plant& plant, int node, std::span<const MovedWire> moved);
/// How many more wires than drawn are at which nodes, in ascending order; none that has as many.
std::vector<std::pair<int, int>> moreWires(const Plant& plant, std::span<const MovedWire> moved);

} // namespace ts::measuring
