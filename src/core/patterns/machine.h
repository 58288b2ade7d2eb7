#pragma once
// A machine made from choices: supply, a starter for each motor, one stop circuit for all, operation, protection,
// indication. What can be wired is built, right or wrong; its scenarios show the consequence. Refused is only what
// cannot be.

#include "core/model/dossier.h"
#include "core/patterns/choices.h"

namespace ts::patterns {

/// A new file with the starters, their parts, their scenarios and what was chosen. Fails with Refused and the reason
/// for what is physically impossible (a drive's inputs on 230 V), OutOfRange for an impossible motor plate, rate or
/// cable. Pure.
Expected<DossierFile> machine(const MachinePlan& plan);

} // namespace ts::patterns
