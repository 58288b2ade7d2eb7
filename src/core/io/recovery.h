#pragma once
// What is kept of work that is not saved: whose file it is, what was done last, and the dossier as it was then. One
// text: a line of JSON, then the dossier. Pure; where it lies and who writes it is app/document's.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <string>
#include <string_view>

namespace ts::io {

struct RecoveryCopy {
    std::string path; ///< of the file that was open; empty: it had none yet
    std::string lastEdit; ///< in words: "Move path 3"
    int edits = 0; ///< since it was saved
    std::string when; ///< ISO 8601, local time of the last edit
    DossierFile file;
    bool operator==(const RecoveryCopy&) const = default;
};

std::string printRecovery(const RecoveryCopy& copy);
/// Refuses what no such text is, and a dossier that would not load.
Expected<RecoveryCopy> parseRecovery(std::string_view text);

} // namespace ts::io
