#include "core/studies/fingerprint.h"

#include "core/io/dossier_text.h"
#include "core/keeping/kept_sweep.h"
#include "core/keeping/result_store.h"
#include "core/model/decor.h"

namespace ts {

Fingerprint fingerprintOf(const Dossier& dossier)
{
    const std::string circuit = circuitKey(dossier);
    DossierFile rest; // the circuit is long, and printed once
    rest.dossier = dossier;
    rest.dossier.circuit = takeDecor(rest.dossier.circuit);
    return {circuit, io::contentHash(circuit + io::printDossier(rest))};
}

} // namespace ts
