#pragma once
// What would mend a fault: everything that can be meant with the devices it touches, carried out one by one on the
// circuit, and the fault tried again on each changed circuit. Nothing is offered that was not run.

#include "core/faults/sweep.h"
#include "core/offers/offer.h"

namespace ts::improving {

struct Mend {
    offers::Picked target;
    std::string offer; ///< id, "feedback_add"
    offers::Answers answers;
    faults::FaultOutcome outcome; ///< of the fault in the changed circuit, without second faults
    DossierFile changed;
};

struct Tried {
    faults::FaultOutcome before; ///< as the circuit is, without second faults
    std::vector<Mend> mends; ///< that make it better, the best first
    int changeCount = 0; ///< that were carried out and run
};

/// Changes tried, and all of them.
using Listener = std::function<void(std::size_t done, std::size_t total)>;

/// A change counts only if the machine still runs and stops with it. Better is: no longer lost, or noticed where it was
/// not. Fails as faults::tryFault does for the circuit as it is.
Expected<Tried> mendsOf(const DossierFile& file, const SafetyFunction& function, std::string_view fault,
    const Listener& listener = {}, std::stop_token stop = {});

} // namespace ts::improving
