#pragma once
// What could mend a finding, before anybody has tried: the least effort first. Internal to mending/.

#include "core/mending/finding_mends.h"

namespace ts::mending {

struct Candidate {
    Message what;
    Change carriedOut;
};

/// Other ratings of its devices, of fuses and supplies, other sections of its wires: standard_sizes.csv and the
/// dossier's own parts.
std::vector<Candidate> otherSizes(const DossierFile& file, const Finding& finding);
/// Other words of its devices' parameters, and what can be meant with their elements.
std::vector<Candidate> otherWirings(const DossierFile& file, const Finding& finding);

} // namespace ts::mending
