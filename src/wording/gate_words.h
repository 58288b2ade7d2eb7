#pragma once
// The ways of the current with the room that each part has left, in words and numbers.

#include "core/figures/gates_figure.h"
#include "core/model/dossier.h"
#include "core/sizing/sizing.h"

namespace ts::wording {

struct GateSheet {
    std::vector<figures::GateRow> rows;
    std::vector<sizing::Station> stations; ///< by gate, in the order of the figure's spots
};
/// The ways of one motor, or of all. Pure.
GateSheet gateSheet(const Circuit& circuit, const sizing::Sized& sized, DeviceId motor = {});
figures::GateWords gateWords();

/// What was judged of a part, the worst first: each rule with what is needed, what is allowed and what that rests on.
std::vector<std::string> judgedOf(const sizing::Sized& sized, const sizing::Station& station);

} // namespace ts::wording
