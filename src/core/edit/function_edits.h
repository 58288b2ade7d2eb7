#pragma once
// Safety functions taken into the dossier and out of it.

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// The file with these functions at the end of its list, each with an id of its own. Refused without a name.
Expected<DossierFile> withFunctions(const DossierFile& file, const std::vector<SafetyFunction>& functions);

/// NotFound if there is none of this id.
Expected<Dossier> withoutFunction(const Dossier& dossier, FunctionId id);

} // namespace ts::edit
