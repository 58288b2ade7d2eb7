#pragma once
// What people get wrong when they wire a panel, one by one: a wire left out, an end on the terminal beside it, two ends
// exchanged, a contact left out, the same marking on the device beside it, another coil voltage, a contact of the other
// sense. Only single mistakes. What makes the same connections is none; what only turns an element round is harmless.

#include "core/measuring/ohms.h"
#include "core/model/circuit.h"

#include <memory>

namespace ts::measuring {

enum class MistakeKind : std::uint8_t {
    Missing, ///< a wire is not there
    Beside, ///< an end is on the terminal beside the right one
    Exchanged, ///< two ends at one device are exchanged
    LeftOut, ///< a contact is bridged: all its wires are on one end
    OtherDevice, ///< an end is on the same marking of another device of the kind
    CoilVoltage, ///< a coil for another voltage
    Inverted, ///< a contact block of the other sense
    OffOneEnd, ///< an end is loose, or where no list has it; on no list of mistakes, but in a search
    Broken ///< both ends are on and it does not conduct; in a search, too
};
std::string_view wordOf(MistakeKind); ///< "missing", "beside" ...

struct WireChange {
    WireId wire;
    std::optional<std::pair<TerminalRef, TerminalRef>> ends; ///< none: the wire is not there
    bool operator==(const WireChange&) const = default;
};

struct Mistake {
    std::string id; ///< "missing/12", "beside/12/from/Q1:14", "inverted/S1/11-12"; the same while the wires are
    MistakeKind kind = MistakeKind::Missing;
    std::vector<WireChange> wires;
    DeviceId device; ///< of a coil or a contact block
    std::string contact; ///< "11-12" of an inverted one
    double coilV = 0; ///< of another coil
    bool isHarmless = false;
    bool operator==(const Mistake&) const = default;
};

/// Fails as compile() does. Pure.
Expected<std::vector<Mistake>> mistakesOf(const Circuit& circuit);

/// The circuit as it is with that mistake. A contact of the other sense cannot be written so: Refused.
Expected<Circuit> builtWith(const Circuit& circuit, const Mistake& mistake);
/// The same as a plant, with whatever sense its contacts have.
Expected<Plant> plantWith(const Circuit& circuit, const Mistake& mistake);
/// As overlay over the right plant; only of mistakes in wires.
std::vector<MovedWire> movedIn(const Plant& plant, const Mistake& mistake);

/// Which terminals are joined by wires: by plant terminal the smallest one of its net.
std::vector<int> netsOf(const Plant& plant, std::span<const MovedWire> moved = {});

} // namespace ts::measuring
