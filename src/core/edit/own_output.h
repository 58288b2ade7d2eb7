#pragma once
// A contactor on an output of its own: what short-circuits one contactor's wire no longer holds the other one.

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// Of the coil of a contactor that shares the output contact of another device with other coils: an output contact of
/// that device with no wire yet is fed as the shared one is, and the coil's terminal is moved to it. NotFound for no
/// such device; Refused if its coil shares no output, or the other device has no output left.
Expected<DossierFile> withOwnOutput(const DossierFile& file, DeviceId contactor);

} // namespace ts::edit
