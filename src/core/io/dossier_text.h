#pragma once
// Text to dossier and back. Pure; files are in dossier_file.h. Format: docs/formats/dossier.md.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <string>
#include <string_view>

namespace ts::io {

constexpr std::string_view kFormat = "draft-2"; ///< older ones are migrated (migration.h)
constexpr std::size_t kMostDevices = 1000;
constexpr std::size_t kMostWires = 5000;
constexpr std::size_t kMostParts = 2000;

/// Refuses what cannot be represented or computed, naming line, column and JSON pointer: broken text, unknown
/// keys, kinds and terminals, duplicate ids and tags, impossible values; Newer for a later format.
/// All that a person could wire or write on a plate loads.
Expected<DossierFile> parseDossier(std::string_view text);

/// Canonical text: sorted by id, shortest numbers that read back the same. Equal files give equal bytes.
std::string printDossier(const DossierFile& file);

/// A parts list on its own: a JSON array with the keys of a dossier's parts. Same errors, same canonical form.
Expected<std::vector<Part>> parseParts(std::string_view text);
std::string printParts(const std::vector<Part>& parts);

} // namespace ts::io
