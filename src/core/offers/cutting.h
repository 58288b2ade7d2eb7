#pragma once
// Which contact cuts which load, read from the wiring alone: a load that no way from one pole of a supply to another
// leads through, once the contact is open and every other one closed. What a change does to this is what it means.

#include "core/base/expected.h"
#include "core/model/circuit.h"

#include <set>
#include <string>

namespace ts::offers {

/// Something between two terminals of a device by its role: a contact "21-22", a "coil", a relay's "channel 1".
struct ElementRef {
    DeviceId device;
    std::string role;
    auto operator<=>(const ElementRef&) const = default;
};

struct Cut {
    ElementRef contact, load;
    auto operator<=>(const Cut&) const = default;
};
using Cuts = std::set<Cut>;

struct Structure {
    Cuts cuts; ///< every pair of a wired control contact and a load it cuts
    std::set<ElementRef> openers; ///< wired contacts that are closed at rest: what is there to cut something
    std::set<ElementRef> fed; ///< loads that a way leads through: coils, lamps, inputs and supplies of logics
    std::set<std::pair<TerminalRef, TerminalRef>> shorts; ///< poles of supplies that closed contacts join without a
                                                          ///< load
};
/// Fails with what the device kinds refuse. Pure.
Expected<Structure> structureOf(const Circuit& circuit);

} // namespace ts::offers
