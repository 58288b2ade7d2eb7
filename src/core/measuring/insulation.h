#pragma once
// Insulation of the power circuits against earth, with 500 V DC. Source: EN 60204-1 clause 18.3. Which parts lie apart
// with everything at rest, what is bonded to earth in each and has to be lifted, and what does not bear the voltage and
// has to be disconnected, is read from the wiring. Internal to measuring/.

#include "core/measuring/dead_looks.h"

namespace ts::measuring {

struct InsulationLooks {
    DeadLooks found; ///< and what was lifted for them, proved to be on again
    std::vector<std::string> notReached; ///< terminals of power circuits that no look covers: what was disconnected for
                                         ///< the others cuts them off
};
InsulationLooks insulationLooksOf(const Plant& plant);

} // namespace ts::measuring
