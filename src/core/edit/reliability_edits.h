#pragma once
// What is known about how reliable a device is. Parts lists bring the same for all devices of one part
// (circuit_edits.h).

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// How many of its values are set, of which there may be one.
int waysOf(const Reliability& reliability);
/// Why these entries are no reliability, as a message's id; null if they are one: a single value, with a PL beside a
/// PFHd, or a PL alone (ISO 13849-1 clause 6.3: then subsystems are counted).
const char* troubleOf(const Reliability& reliability);

/// The dossier with the device's own reliability in front of its part's, or without its own. NotFound for no such
/// device; Refused unless it has just one value, and a PL and category beside a PFHd; OutOfRange for a value that no
/// part can have (the limits of the dossier file).
Expected<Dossier> withReliability(
    const Dossier& dossier, DeviceId device, const std::optional<Reliability>& reliability);

} // namespace ts::edit
