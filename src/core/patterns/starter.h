#pragma once
// A starter made from choices: power circuit first, then control supply, stop circuit, operation, protection,
// indication. What can be wired is built, right or wrong; its scenarios show the consequence. Refused is only what
// cannot be.

#include "core/model/dossier.h"
#include "core/patterns/choices.h"

namespace ts::patterns {

/// A new file with one starter, its parts and its scenarios. Fails with Refused and the reason for what is physically
/// impossible (a drive's inputs on 230 V), OutOfRange for an impossible motor plate or cable. Pure.
Expected<DossierFile> starter(const Plan& plan);

} // namespace ts::patterns
