#pragma once
// Other choices for a machine that was made from patterns and edited since: what the choices change is carried over to
// what is there now, everything else stays. Where somebody has changed the very place, nothing is laid past it: it is
// named instead.

#include "core/model/dossier.h"
#include "core/patterns/choices.h"

namespace ts::patterns {

struct Replanned {
    DossierFile file;
    /// What people had entered and that goes, or stays otherwise than it would be chosen now, or that is left to them.
    /// Empty: nothing is lost.
    std::vector<Message> said;
};

/// The file with its plan's difference to `plan` carried out. Fails with NotFound for a file without a plan, with
/// Refused where a tag that is needed is taken, and as machine() does for either plan. Pure.
Expected<Replanned> replanned(const DossierFile& file, const MachinePlan& plan);

} // namespace ts::patterns
