#pragma once
// What is known about how reliable a device is. Parts lists bring the same for all devices of one part
// (circuit_edits.h).

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// The dossier with the device's own reliability in front of its part's, or without its own. NotFound for no such
/// device; Refused unless it has just one value, and a PL and category beside a PFHd; OutOfRange for a value that no
/// part can have (the limits of the dossier file).
Expected<Dossier> withReliability(
    const Dossier& dossier, DeviceId device, const std::optional<Reliability>& reliability);

} // namespace ts::edit
