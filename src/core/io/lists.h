#pragma once
// Lists as people keep them in spreadsheets: devices, wires, parts; as CSV, parts also as JSON. An existing panel can
// be typed in as two lists. Columns are found by their names, in any order. Format: docs/formats/lists.md. Everything
// that is wrong is told at once, with line and column of the cell. Texts, not files: reading files is dossier_file.h.

#include "core/io/dossier_file.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace ts::io {

struct ListText {
    std::string_view text;
    std::string name{}; ///< of its file, for places
};

/// How a list was read, or what is odd in it and was taken all the same.
struct ListRemark {
    ErrorPlace place;
    Message message;
    bool operator==(const ListRemark&) const = default;
};

template <class T> struct Listed {
    std::optional<T> value; ///< nothing if there is an error
    std::vector<Error> errors; ///< of all lists, in their order
    std::vector<ListRemark> remarks;
};

/// Device list: tag, kind; part, label, place, parameters, interlocked_with, on_shaft_of are optional.
/// Wire list: from, to; number, area_mm2, length_m, route, route_kind, colour are optional.
/// Fails with Syntax for a broken text or a missing column, NotFound for an unknown column, kind, part or terminal,
/// Refused for a tag used twice and OutOfRange for impossible values. Parts may be empty.
/// A second wire between the same two terminals is taken and remarked on. What it brings loads again.
Listed<DossierFile> circuitFromLists(const ListText& devices, const ListText& wires, const std::vector<Part>& parts);

std::string deviceListCsv(const Circuit& circuit);
std::string wireListCsv(const Circuit& circuit);

/// Parts: id, name, kind; parameters and the reliability columns are optional. Each part's parameters are checked
/// against its kind as far as they are written. Errors as above; a reliability of more than one sort is Refused.
Listed<std::vector<Part>> partsFromCsv(const ListText& list);
/// The same as a JSON array, with the keys of a dossier's parts list. Schema: docs/formats/parts.schema.json.
Expected<std::vector<Part>> partsFromJson(std::string_view text);
/// From a file: JSON if its name ends so, else CSV. Errors name the file, too.
Listed<std::vector<Part>> loadParts(const std::string& path, FileOps& files = systemFiles());
std::string partsCsv(const std::vector<Part>& parts);
std::string partsJson(const std::vector<Part>& parts);

} // namespace ts::io
