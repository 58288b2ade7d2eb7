#pragma once
// Everything in a dossier that a study can be about.

#include "core/model/dossier.h"
#include "core/results/subject.h"

#include <vector>

namespace ts {

/// In the dossier's order. Motors: devices with a winding that turns something. Pure.
std::vector<Subject> subjectsOf(Subject::Kind kind, const Dossier& dossier);

} // namespace ts
