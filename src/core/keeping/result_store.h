#pragma once
// Results of long computations, kept in a folder of the user's by a key that says what they are of. They can always be
// computed again: whatever is damaged, foreign or cannot be written is passed over in silence.

#include "core/io/dossier_file.h"

#include <optional>
#include <string>
#include <string_view>

namespace ts::io {

class ResultStore {
public:
    /// The folder is made when something is kept. An empty name keeps nothing. Several threads and programs may use one
    /// folder at a time.
    explicit ResultStore(std::string folder, std::size_t mostFiles = 60, std::size_t mostBytes = 200u << 20);
    /// The text kept under the key, if its check sum still fits.
    std::optional<std::string> find(const std::string& key) const;
    /// The longest unused go first where there are more than wanted.
    void keep(const std::string& key, std::string_view text) const;

private:
    std::string pathOf(const std::string& key) const;
    void forgetOldest() const;
    std::string m_folder;
    std::size_t m_mostFiles, m_mostBytes;
};

/// BLAKE2b-256 of a text as 64 hexadecimal digits.
std::string contentHash(std::string_view text);

} // namespace ts::io
