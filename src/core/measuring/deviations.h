#pragma once
// Everything that can be other than it should be on a built panel, ready to be measured: mistakes of who wired it, and
// faults of its devices. What joins the same is measured once. Internal to measuring/.

#include "core/measuring/mistakes.h"
#include "core/measuring/test_plan.h"

namespace ts::measuring {

struct Deviation {
    std::string id;
    bool isMistake = true, isHarmless = false;
    std::vector<std::string> touches; ///< "wire/12", "Q1/13-14", "Q1"
    std::vector<MovedWire> moved; ///< over the right plant
    std::optional<Fault> fault; ///< over the right plant
    std::shared_ptr<const Plant> other; ///< a plant of its own, with the same slots
    Mistake mistake; ///< where it is one
};

struct Deviations {
    std::vector<Deviation> all;
    std::vector<std::size_t> sameAs; ///< by deviation: the first one that joins and looks the same; itself, if it is
                                     ///< that
};

Expected<Deviations> deviationsOf(const Circuit& circuit, const Plant& plant);

} // namespace ts::measuring
