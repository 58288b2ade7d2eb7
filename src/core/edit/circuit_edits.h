#pragma once
// Changes to the wired circuit: each one a pure function from an old file to a new one. The file carries the counter
// that keeps ids from being reused, so it goes along. What patterns are composed of; changing what is wired is
// wiring_edits.h, what is there device_edits.h.

#include "core/base/expected.h"
#include "core/model/dossier.h"

namespace ts::edit {

/// The file with one device more. Its id is given here; a tag that is empty becomes the kind's letter and the next
/// free number. Refused for a tag that is taken or cannot be one, NotFound for an unknown kind or part, and whatever
/// the kind says to its parameters.
Expected<DossierFile> withDevice(const DossierFile& file, Device device);

/// The file with one wire more between two terminals named as "Q1:13". A number that is empty becomes that of the net
/// it joins, or the next one. NotFound for a terminal that is not there, Refused for one joined to itself, OutOfRange
/// for an area or length that is not above zero.
Expected<DossierFile> withWire(const DossierFile& file, std::string_view from, std::string_view to, Wire wire);

/// The file with another route; one that is there under this name stays as it is.
DossierFile withRoute(const DossierFile& file, std::string_view name, RouteKind kind);
/// The route of that name, or none.
RouteId routeNamed(const Circuit& circuit, std::string_view name);

/// Two armatures of which only one can be in. NotFound for a tag that is not there.
Expected<DossierFile> withMechanicalInterlock(const DossierFile& file, std::string_view first, std::string_view second);
/// A brake on a motor's shaft. NotFound for a tag that is not there.
Expected<DossierFile> withBrakeOnShaft(const DossierFile& file, std::string_view brake, std::string_view motor);

/// The file with a scenario more; its id is given here.
DossierFile withScenario(const DossierFile& file, Scenario scenario);

/// The dossier with parts added to its list; one with the same id gives way to the new one.
/// Refused if a device uses the old part and the new one is of another kind or has values its kind refuses.
Expected<Dossier> withParts(const Dossier& dossier, const std::vector<Part>& parts);

/// A tag has no blanks and none of the marks that part it from a terminal, at most 24 characters.
bool canBeTag(std::string_view tag);
/// "S4" if S0 to S3 are taken.
std::string nextTag(const Circuit& circuit, std::string_view letter);

} // namespace ts::edit
