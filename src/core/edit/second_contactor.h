#pragma once
// A second contactor behind a first one: the other way to take the power away. Pure.

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// The file with one more contactor of the same part: each wired main pole in series behind that of the first one, its
/// coil beside the first one's coil. Its id is the newest in the file. What watches it is another edit (feedback).
/// NotFound for a device that is not there, Refused for one without main poles and coil, or whose poles or coil bear no
/// wires.
Expected<DossierFile> withContactorInSeries(const DossierFile& file, DeviceId contactor);

} // namespace ts::edit
