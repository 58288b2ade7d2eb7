#pragma once
// What a person can do in a scenario, told by the circuit: to whom, by which words, and which of them takes back what
// was done.

#include "core/model/dossier.h"
#include "core/simulation/plant.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts {

/// Tags of devices that have an action or lines to lose, then the names of supplies that can be set to a voltage.
std::vector<std::string> handTargets(const Plant& plant);

/// The words of Step::action that fit a target: a device's own and those of its lines, "operate" where it can be
/// pressed and let go, "set" for what is no device. A site of a fault, or nothing, takes "fault" and "clear_fault".
std::vector<std::string> handActions(const Plant& plant, std::string_view target);

/// True for the site of a fault ("S0/11-12:shorted"), and for nothing.
bool isFaultSite(std::string_view target);

/// Whether a step brings its target back to where it is when nobody touches it: a button let go, a guard closed, a
/// line that returns, a fault taken off. False for what the circuit does not know.
bool isLetGo(const Plant& plant, const Step& step);

} // namespace ts
