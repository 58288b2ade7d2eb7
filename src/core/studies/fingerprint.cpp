#include "core/studies/fingerprint.h"

#include "core/io/dossier_text.h"
#include "core/keeping/kept_sweep.h"
#include "core/keeping/result_store.h"

namespace ts {

namespace {

/// What the key of the circuit leaves out of it (kept_sweep.h): names, ranks, reliability, colours. Who has none of it
/// is not in there at all.
Circuit decorOf(const Circuit& circuit)
{
    Circuit decor;
    for (const Device& d : circuit.devices)
        if (!d.label.empty() || d.rank != 0 || d.reliability) {
            Device& device = decor.devices.emplace_back();
            device.id = d.id;
            device.label = d.label;
            device.rank = d.rank;
            device.reliability = d.reliability;
        }
    for (const Part& p : circuit.parts)
        if (p.reliability) {
            Part& part = decor.parts.emplace_back();
            part.id = p.id;
            part.reliability = p.reliability;
        }
    for (const Wire& w : circuit.wires)
        if (!w.colour.empty()) {
            Wire& wire = decor.wires.emplace_back();
            wire.id = w.id;
            wire.colour = w.colour;
        }
    return decor;
}

} // namespace

Fingerprint fingerprintOf(const Dossier& dossier)
{
    const std::string circuit = circuitKey(dossier);
    DossierFile rest; // the circuit is long, and printed once
    rest.dossier = dossier;
    rest.dossier.circuit = decorOf(dossier.circuit);
    return {circuit, io::contentHash(circuit + io::printDossier(rest))};
}

} // namespace ts
