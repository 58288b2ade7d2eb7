#pragma once
// Each interlock of two contactors alone, tried with the motors off. The contacts of the one in the way of the other:
// its armature is held in by hand while the other is started, whose coil must get nothing, whatever bars the armatures.
// The buttons: both starts held, one after the other, from rest. Source: EN 60204-1 clause 9.3.3. Internal to
// measuring/.

#include "core/measuring/panel.h"
#include "core/measuring/ways_on.h"

namespace ts::measuring {

struct InterlockTry {
    Situation in;
    std::optional<Look> look; ///< none: at all that changes
};

/// Only what the right panel's interlocks stand up to. `off`: fed, with everything out that feeds motors.
std::vector<InterlockTry> interlockTries(
    StandIn& right, const Plant& plant, const std::vector<Way>& ways, const Situation& off);

} // namespace ts::measuring
