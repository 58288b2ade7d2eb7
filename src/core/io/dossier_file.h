#pragma once
// Files: reading with a size limit, and safe replacement on save. All operations go through FileOps, so that
// tests can make every step fail; after any failure the disk holds the whole old or the whole new text.

#include "core/base/expected.h"
#include "core/model/dossier.h"

#include <string>

namespace ts::io {

/// What is done to files. Each fails with ErrorCode::File and the system's reason.
class FileOps {
public:
    virtual ~FileOps() = default;
    /// Whole content; fails with Refused above the size limit, File if it is no regular file.
    virtual Expected<std::string> read(const std::string& path) = 0;
    /// Where a file of that name really lies, links followed; it need not be there yet. Fails if something else than a
    /// regular file is there, or one that may not be written.
    virtual Expected<std::string> placeOf(const std::string& path) = 0;
    /// A new file in the same folder under a name that nobody can know before, with all of the text, synced; who may
    /// read and write it as that one's. Gives its name; nothing is left of it after a failure.
    virtual Expected<std::string> writeBeside(const std::string& path, std::string_view text) = 0;
    virtual Expected<void> rename(const std::string& from, const std::string& to) = 0;
    virtual Expected<void> syncFolderOf(const std::string& path) = 0;
    virtual Expected<void> remove(const std::string& path) = 0;
};

/// The real disk.
FileOps& systemFiles();

/// Parse errors carry the path as their place.
Expected<DossierFile> loadDossier(const std::string& path, FileOps& files = systemFiles());

/// Replaces the file in one step: temporary file beside it, sync, rename, sync folder, then the result is read
/// back and compared. A link stays a link: what it names is replaced. On failure the old file is untouched and the
/// temporary one removed if possible.
Expected<void> saveText(const std::string& path, std::string_view text, FileOps& files = systemFiles());
Expected<void> saveDossier(const std::string& path, const DossierFile& file, FileOps& files = systemFiles());

} // namespace ts::io
