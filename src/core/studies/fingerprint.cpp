#include "core/studies/fingerprint.h"

#include "core/io/dossier_text.h"
#include "core/keeping/kept_sweep.h"
#include "core/keeping/result_store.h"

namespace ts {

Fingerprint fingerprintOf(const Dossier& dossier)
{
    DossierFile file;
    file.dossier = dossier;
    return {circuitKey(dossier), io::contentHash(io::printDossier(file))};
}

} // namespace ts
