#pragma once
// Reading of typed values from a JsonNode with exact places. The first trouble wins; later reads give defaults.

#include "core/base/plain_text.h"
#include "core/io/json_tree.h"

#include <optional>
#include <set>
#include <span>
#include <string>
#include <string_view>

namespace ts::io {

constexpr std::size_t kLongestText = 2000, kLongestItem = 200; ///< bytes, of a text and of one in a list
constexpr int kLargestId = 1'000'000'000; ///< far below where numbers overflow

/// Keeps the first error of a whole reading.
class Trouble {
public:
    bool any() const { return m_error.has_value(); }
    void note(ErrorCode code, Message what, const JsonNode& node, std::string pointer)
    {
        if (!m_error)
            m_error = Error{code, std::move(what), {"", node.line, node.column, std::move(pointer)}};
    }
    const Error& error() const { return *m_error; }

private:
    std::optional<Error> m_error;
};

/// One JSON object being read. At its end `finish` refuses keys that nobody asked for.
class ObjectReader {
public:
    ObjectReader(const JsonNode& node, std::string pointer, Trouble& trouble);

    const JsonNode* find(std::string_view key, bool required = false);
    /// One line, with nothing in it that is not text (plain_text.h).
    std::string text(std::string_view key, bool required = false, std::string fallback = {});
    /// The same with its line breaks.
    std::string lines(std::string_view key, bool required = false);
    /// An ISO 8601 day, or nothing.
    std::string date(std::string_view key);
    double number(std::string_view key, double low, double high, std::optional<double> fallback = {});
    int integer(std::string_view key, int low, int high, std::optional<int> fallback = {});
    bool flag(std::string_view key, bool fallback);
    std::vector<std::string> texts(std::string_view key);
    std::vector<int> integers(std::string_view key);
    /// A word out of a few.
    std::string word(std::string_view key, std::span<const std::string_view> allowed, std::string_view fallback);
    std::string word(std::string_view key, std::initializer_list<std::string_view> allowed, std::string_view fallback)
    {
        return word(key, std::span(allowed.begin(), allowed.size()), fallback);
    }
    void refuse(ErrorCode code, Message what, std::string_view key = {});
    void finish();
    std::string pointer(std::string_view key) const { return m_pointer + "/" + std::string(key); }
    const JsonNode& node() const { return m_node; }
    Trouble& trouble() { return m_trouble; }

    /// Calls read(ObjectReader&) for each object of an array; refuses more than `most`.
    template <class Read> void each(std::string_view key, std::size_t most, Read read)
    {
        const JsonNode* list = find(key);
        if (!list || !isArray(*list, key, most))
            return;
        for (std::size_t i = 0; i < list->items.size() && !m_trouble.any(); ++i) {
            ObjectReader item(list->items[i], pointer(key) + "/" + std::to_string(i), m_trouble);
            read(item);
            item.finish();
        }
    }
    template <class Read> void object(std::string_view key, Read read)
    {
        const JsonNode* node = find(key);
        if (!node)
            return;
        ObjectReader item(*node, pointer(key), m_trouble);
        read(item);
        item.finish();
    }

private:
    std::optional<std::string> plain(std::string_view key, bool required, Lines lines);
    bool isArray(const JsonNode& node, std::string_view key, std::size_t most);
    const JsonNode& m_node;
    std::string m_pointer;
    Trouble& m_trouble;
    std::set<std::string, std::less<>> m_asked;
};

} // namespace ts::io
