#pragma once
// Lists as people keep them in spreadsheets: devices, wires, parts; as CSV, parts also as JSON. An existing panel can
// be typed in as two lists. Columns are found by their names, in any order. Format: docs/formats/lists.md. Errors carry
// line and column of the cell. Texts, not files: reading files is dossier_file.h.

#include "core/io/dossier_file.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts::io {

/// Device list: tag, kind; part, label, place, parameters, interlocked_with, on_shaft_of are optional.
/// Wire list: from, to; number, area_mm2, length_m, route, route_kind, colour are optional.
/// Fails with Syntax for a broken text or a missing column, NotFound for an unknown column, kind, part or terminal,
/// Refused for a tag used twice and OutOfRange for impossible values. Parts may be empty.
Expected<DossierFile> circuitFromLists(
    std::string_view devicesCsv, std::string_view wiresCsv, const std::vector<Part>& parts);

std::string deviceListCsv(const Circuit& circuit);
std::string wireListCsv(const Circuit& circuit);

/// Parts: id, name, kind; parameters and the reliability columns are optional. Each part's parameters are checked
/// against its kind as far as they are written. Errors as above; a reliability of more than one sort is Refused.
Expected<std::vector<Part>> partsFromCsv(std::string_view text);
/// The same as a JSON array, with the keys of a dossier's parts list. Schema: docs/formats/parts.schema.json.
Expected<std::vector<Part>> partsFromJson(std::string_view text);
/// From a file: JSON if its name ends so, else CSV. Errors name the file, too.
Expected<std::vector<Part>> loadParts(const std::string& path, FileOps& files = systemFiles());
std::string partsCsv(const std::vector<Part>& parts);
std::string partsJson(const std::vector<Part>& parts);

} // namespace ts::io
