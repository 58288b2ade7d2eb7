#include "core/keeping/result_store.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <filesystem>
#include <vector>

namespace ts::io {
namespace {

namespace fs = std::filesystem;

constexpr std::size_t kHashLength = 64;
constexpr const char* kEnding = ".result";

} // namespace

std::string contentHash(std::string_view text)
{
    std::array<unsigned char, kHashLength / 2> hash{};
    crypto_generichash(
        hash.data(), hash.size(), reinterpret_cast<const unsigned char*>(text.data()), text.size(), nullptr, 0);
    std::string digits;
    for (unsigned char byte : hash)
        for (int shift : {4, 0})
            digits += "0123456789abcdef"[(byte >> shift) & 15];
    return digits;
}

ResultStore::ResultStore(std::string folder, std::size_t mostFiles, std::size_t mostBytes)
    : m_folder(std::move(folder))
    , m_mostFiles(mostFiles)
    , m_mostBytes(mostBytes)
{
}

std::string ResultStore::pathOf(const std::string& key) const
{
    return m_folder + "/" + key + kEnding;
}

std::optional<std::string> ResultStore::find(const std::string& key) const
{
    if (m_folder.empty())
        return std::nullopt;
    auto text = systemFiles().read(pathOf(key));
    if (!text || text->size() < kHashLength + 1
        || contentHash(std::string_view(*text).substr(kHashLength + 1))
            != std::string_view(*text).substr(0, kHashLength))
        return std::nullopt;
    std::error_code ignored;
    fs::last_write_time(pathOf(key), fs::file_time_type::clock::now(), ignored); // used just now
    return text->substr(kHashLength + 1);
}

void ResultStore::keep(const std::string& key, std::string_view text) const
{
    std::error_code trouble;
    if (m_folder.empty() || (fs::create_directories(m_folder, trouble), trouble))
        return;
    if (saveText(pathOf(key), contentHash(text) + "\n" + std::string(text)))
        forgetOldest();
}

void ResultStore::forgetOldest() const
{
    struct Kept {
        fs::file_time_type used;
        std::size_t bytes;
        fs::path path;
    };
    std::vector<Kept> all;
    std::error_code trouble;
    for (const auto& entry : fs::directory_iterator(m_folder, trouble))
        if (entry.path().extension() == kEnding)
            all.push_back(
                {entry.last_write_time(trouble), static_cast<std::size_t>(entry.file_size(trouble)), entry.path()});
    std::sort(all.begin(), all.end(), [](const Kept& a, const Kept& b) { return a.used > b.used; });
    std::size_t bytes = 0;
    for (std::size_t k = 0; k < all.size(); ++k) {
        bytes += all[k].bytes;
        if (k >= m_mostFiles || bytes > m_mostBytes)
            fs::remove(all[k].path, trouble);
    }
}

} // namespace ts::io
