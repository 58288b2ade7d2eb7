#pragma once
// Safety functions taken into the dossier and out of it.

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// The file with these functions at the end of its list, each with an id of its own. Refused without a name.
Expected<DossierFile> withFunctions(const DossierFile& file, const std::vector<SafetyFunction>& functions);

/// The dossier with this function in the place of the one of the same id. NotFound if there is none; Refused without a
/// name, a trigger or a motor that must rest; OutOfRange for an allowed time below 0 or above an hour, or a stop
/// category beside 0, 1 and 2.
Expected<Dossier> withFunctionChanged(const Dossier& dossier, const SafetyFunction& function);

/// NotFound if there is none of this id.
Expected<Dossier> withoutFunction(const Dossier& dossier, FunctionId id);

} // namespace ts::edit
