#pragma once
// Hashes of what results depend on, made once for a dossier and shared by the keys of all studies.

#include "core/model/dossier.h"

#include <string>

namespace ts {

struct Fingerprint {
    std::string circuit; ///< of all that a run of the circuit depends on, and of the exclusions
    std::string whole; ///< of the whole dossier
    std::string record; ///< of its record and the day, where they are known: no study but the checks reads them
    bool operator==(const Fingerprint&) const = default;
};
Fingerprint fingerprintOf(const Dossier& dossier);

} // namespace ts
