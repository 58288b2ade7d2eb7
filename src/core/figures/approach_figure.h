#pragma once
// How fast and how far, to scale: the time from the demand to rest in its parts, and under it, at the speed of a hand,
// the way from the opening to the hazard. Source of the relation: ISO 13855 clause 5.

#include "core/figures/figure.h"

#include <optional>

namespace ts::figures {

struct ApproachPart {
    std::string name; ///< "M3 runs down"
    double seconds = 0;
};

struct ApproachContent {
    std::vector<ApproachPart> parts; ///< one after the other, from the demand to rest
    std::vector<ApproachPart> others; ///< the whole by other evidence: with a fault, measured
    double countsS = 0; ///< the longest of them, which counts
    double allowedS = 0; ///< 0: not given
    std::optional<double> neededM; ///< none: no distance belongs to it
    std::optional<double> builtM; ///< none: not entered
    double intrusionM = 0, speedMetresPerS = 0;
    std::string clause; ///< by which the distance is calculated
};

struct ApproachWords {
    std::string allowed, opening, hazard, needed, missing, intrusion, noDistance, none;
};

/// As wide as wanted; as high as it needs. Pure.
Figure approach(const ApproachContent& content, const ApproachWords& words, double width);

} // namespace ts::figures
