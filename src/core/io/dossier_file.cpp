#include "core/io/dossier_file.h"

#include "core/io/dossier_text.h"
#include "core/io/json_tree.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <sys/stat.h>
#include <unistd.h>

namespace ts::io {
namespace {

Unexpected fileTrouble(const char* id, const std::string& path, int error)
{
    return failure(ErrorCode::File, message(id, {path, std::string(std::strerror(error))}), {path, 0, 0, ""});
}

/// Closes a descriptor at the end of a scope.
class Descriptor {
public:
    explicit Descriptor(int fd)
        : m_fd(fd)
    {
    }
    ~Descriptor()
    {
        if (m_fd >= 0)
            ::close(m_fd);
    }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    int get() const { return m_fd; }

private:
    int m_fd;
};

std::string folderOf(const std::string& path)
{
    const std::size_t slash = path.rfind('/');
    return slash == std::string::npos ? "." : slash == 0 ? "/" : path.substr(0, slash);
}

/// Who may read and write a file: as for the one that is there, else as this process makes files.
mode_t modeFor(const std::string& path)
{
    struct stat info { };
    if (::stat(path.c_str(), &info) == 0)
        return info.st_mode & 0777;
    const mode_t hidden = ::umask(0);
    ::umask(hidden);
    return 0666 & ~hidden;
}

Expected<void> writeAll(int fd, std::string_view text, const std::string& path)
{
    while (!text.empty()) {
        const ssize_t n = ::write(fd, text.data(), text.size());
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return fileTrouble("file.cannot_write", path, errno);
        text.remove_prefix(static_cast<std::size_t>(n));
    }
    if (::fchmod(fd, modeFor(path)) != 0 || ::fsync(fd) != 0)
        return fileTrouble("file.cannot_write", path, errno);
    return {};
}

class SystemFiles : public FileOps {
public:
    Expected<std::string> read(const std::string& path) override
    {
        const Descriptor fd(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
        if (fd.get() < 0)
            return fileTrouble("file.cannot_open", path, errno);
        struct stat info { };
        if (::fstat(fd.get(), &info) != 0)
            return fileTrouble("file.cannot_read", path, errno);
        if (!S_ISREG(info.st_mode))
            return failure(ErrorCode::File, message("file.not_a_file", {path}), {path, 0, 0, ""});
        if (static_cast<std::size_t>(info.st_size) > kLargestFileBytes)
            return failure(ErrorCode::Refused,
                message("json.too_large", {static_cast<long long>(kLargestFileBytes / 1024 / 1024)}), {path, 0, 0, ""});
        std::string text(static_cast<std::size_t>(info.st_size), '\0');
        std::size_t got = 0;
        while (got < text.size()) {
            const ssize_t n = ::read(fd.get(), text.data() + got, text.size() - got);
            if (n < 0 && errno == EINTR)
                continue;
            if (n < 0)
                return fileTrouble("file.cannot_read", path, errno);
            if (n == 0)
                break;
            got += static_cast<std::size_t>(n);
        }
        text.resize(got);
        return text;
    }
    Expected<std::string> placeOf(const std::string& path) override
    {
        std::error_code trouble;
        const std::string place = std::filesystem::weakly_canonical(path, trouble).string();
        if (trouble)
            return fileTrouble("file.cannot_write", path, trouble.value());
        struct stat info { };
        if (::lstat(place.c_str(), &info) != 0)
            return errno == ENOENT ? Expected<std::string>(place) : fileTrouble("file.cannot_write", path, errno);
        if (!S_ISREG(info.st_mode)) // a link that leads nowhere, a pipe, a device
            return failure(ErrorCode::File, message("file.not_a_file", {path}), {path, 0, 0, ""});
        if (::access(place.c_str(), W_OK) != 0)
            return fileTrouble("file.cannot_write", path, errno);
        return place;
    }
    Expected<std::string> writeBeside(const std::string& path, std::string_view text) override
    {
        const std::string folder = folderOf(path);
        std::string name = (folder == "/" ? "" : folder) + "/.tall-sentry-XXXXXX";
        const Descriptor fd(::mkostemp(name.data(), O_CLOEXEC)); // made anew or not at all, for its owner only
        if (fd.get() < 0)
            return fileTrouble("file.cannot_write", path, errno);
        if (auto written = writeAll(fd.get(), text, path); !written) {
            ::unlink(name.c_str());
            return Unexpected{written.error()};
        }
        return name;
    }
    Expected<void> rename(const std::string& from, const std::string& to) override
    {
        if (::rename(from.c_str(), to.c_str()) != 0)
            return fileTrouble("file.cannot_replace", to, errno);
        return {};
    }
    Expected<void> syncFolderOf(const std::string& path) override
    {
        const Descriptor fd(::open(folderOf(path).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
        if (fd.get() < 0 || ::fsync(fd.get()) != 0)
            return fileTrouble("file.cannot_write", path, errno);
        return {};
    }
    Expected<void> remove(const std::string& path) override
    {
        if (::unlink(path.c_str()) != 0)
            return fileTrouble("file.cannot_write", path, errno);
        return {};
    }
};

} // namespace

FileOps& systemFiles()
{
    static SystemFiles files;
    return files;
}

Expected<DossierFile> loadDossier(const std::string& path, FileOps& files)
{
    const auto text = files.read(path);
    if (!text)
        return Unexpected{text.error()};
    auto dossier = parseDossier(*text);
    if (!dossier) {
        Error error = dossier.error();
        error.place.file = path;
        return Unexpected{error};
    }
    return dossier;
}

Expected<void> saveText(const std::string& path, std::string_view text, FileOps& files)
{
    const auto place = files.placeOf(path);
    if (!place)
        return Unexpected{place.error()};
    const auto beside = files.writeBeside(*place, text);
    if (!beside)
        return Unexpected{beside.error()};
    if (auto replaced = files.rename(*beside, *place); !replaced) {
        (void)files.remove(*beside).has_value(); // more cannot be done about it
        return replaced;
    }
    if (auto synced = files.syncFolderOf(*place); !synced)
        return synced;
    const auto again = files.read(*place);
    if (!again)
        return Unexpected{again.error()};
    if (*again != text)
        return failure(ErrorCode::File, message("file.reads_back_different", {path}), {path, 0, 0, ""});
    return {};
}

Expected<void> saveDossier(const std::string& path, const DossierFile& file, FileOps& files)
{
    const std::string text = printDossier(file);
    if (const auto again = parseDossier(text); !again) { // nothing is written that could not be read
        Error error = again.error();
        error.message = message("file.would_not_read", {path, Phrases{error.message}});
        error.place.file.clear();
        return Unexpected{error};
    }
    return saveText(path, text, files);
}

} // namespace ts::io
