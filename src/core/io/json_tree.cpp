#include "core/io/json_tree.h"

#include <nlohmann/json.hpp>

#include <cmath>
#include <set>

namespace ts::io {
namespace {

/// Position of the reader in the text, shared with the iterator that feeds the parser.
struct Cursor {
    const char* at = nullptr;
    int line = 1;
    int column = 0;
    int previousLine = 1, previousColumn = 0;
};

/// Input iterator that counts lines while the parser reads.
class CountingIterator {
public:
    using iterator_category = std::input_iterator_tag;
    using value_type = char;
    using difference_type = std::ptrdiff_t;
    using pointer = const char*;
    using reference = const char&;

    CountingIterator(const char* at, Cursor* cursor)
        : m_at(at)
        , m_cursor(cursor)
    {
    }
    reference operator*() const { return *m_at; }
    CountingIterator& operator++()
    {
        m_cursor->previousLine = m_cursor->line;
        m_cursor->previousColumn = m_cursor->column;
        if (*m_at == '\n') {
            ++m_cursor->line;
            m_cursor->column = 0;
        } else {
            ++m_cursor->column;
        }
        ++m_at;
        return *this;
    }
    CountingIterator operator++(int)
    {
        CountingIterator before = *this;
        ++*this;
        return before;
    }
    bool operator==(const CountingIterator& other) const { return m_at == other.m_at; }
    bool operator!=(const CountingIterator& other) const { return m_at != other.m_at; }

private:
    const char* m_at;
    Cursor* m_cursor;
};

class Handler : public nlohmann::json_sax<nlohmann::json> {
public:
    explicit Handler(const Cursor& cursor)
        : m_cursor(cursor)
    {
    }
    JsonNode root;
    std::optional<Error> error;

    bool null() override { return put(JsonNode::Type::Null) != nullptr; }
    bool boolean(bool value) override
    {
        JsonNode* node = put(JsonNode::Type::Boolean);
        if (node)
            node->boolean = value;
        return node;
    }
    bool number_integer(number_integer_t value) override { return number(static_cast<double>(value)); }
    bool number_unsigned(number_unsigned_t value) override { return number(static_cast<double>(value)); }
    bool number_float(number_float_t value, const string_t&) override { return number(value); }
    bool string(string_t& value) override
    {
        JsonNode* node = put(JsonNode::Type::String);
        if (node)
            node->text = std::move(value);
        return node;
    }
    bool binary(binary_t&) override { return false; }
    bool start_object(std::size_t) override { return open(JsonNode::Type::Object); }
    bool start_array(std::size_t) override { return open(JsonNode::Type::Array); }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }
    bool key(string_t& value) override
    {
        if (!m_keys.back().insert(value).second)
            return fail(ErrorCode::Syntax, message("json.duplicate_key", {value}));
        m_key = std::move(value);
        return true;
    }
    bool parse_error(std::size_t, const std::string& token, const nlohmann::detail::exception& e) override
    {
        if (e.id == 406)
            return fail(ErrorCode::Syntax, message("json.number_out_of_range"));
        return fail(ErrorCode::Syntax, message("json.broken", {printable(token)}));
    }

private:
    /// The last few characters, without bytes that would spoil a message.
    static std::string printable(const std::string& token)
    {
        std::string clean;
        for (char c : token.size() > 24 ? token.substr(token.size() - 24) : token)
            clean += c >= 0x20 && c < 0x7f ? c : '?';
        return clean;
    }
    bool fail(ErrorCode code, Message what)
    {
        if (!error)
            error = Error{code, std::move(what), {"", m_cursor.line, m_cursor.column, ""}};
        return false;
    }
    bool number(double value)
    {
        if (!std::isfinite(value))
            return fail(ErrorCode::Syntax, message("json.number_out_of_range"));
        JsonNode* node = put(JsonNode::Type::Number);
        if (!node)
            return false;
        node->number = value;
        // The parser has read one character beyond a number.
        node->line = m_cursor.previousLine;
        node->column = m_cursor.previousColumn;
        return true;
    }
    JsonNode* put(JsonNode::Type type)
    {
        JsonNode node;
        node.type = type;
        node.line = m_cursor.line;
        node.column = m_cursor.column;
        if (m_open.empty()) {
            root = std::move(node);
            return &root;
        }
        JsonNode& parent = *m_open.back();
        if (parent.type == JsonNode::Type::Object) {
            parent.members.emplace_back(std::move(m_key), std::move(node));
            return &parent.members.back().second;
        }
        parent.items.push_back(std::move(node));
        return &parent.items.back();
    }
    bool open(JsonNode::Type type)
    {
        if (static_cast<int>(m_open.size()) >= kDeepest)
            return fail(ErrorCode::Refused, message("json.too_deep", {static_cast<long long>(kDeepest)}));
        // Pointers to parents stay valid: a parent's list does not grow while one of its children is open.
        m_open.push_back(put(type));
        m_keys.emplace_back();
        return true;
    }
    bool close()
    {
        m_open.pop_back();
        m_keys.pop_back();
        return true;
    }

    const Cursor& m_cursor;
    std::vector<JsonNode*> m_open;
    std::vector<std::set<std::string>> m_keys;
    std::string m_key;
};

} // namespace

const JsonNode* JsonNode::member(std::string_view key) const
{
    for (const auto& [name, value] : members)
        if (name == key)
            return &value;
    return nullptr;
}

Expected<JsonNode> parseJson(std::string_view text)
{
    if (text.size() > kLargestFileBytes)
        return failure(
            ErrorCode::Refused, message("json.too_large", {static_cast<long long>(kLargestFileBytes / 1024 / 1024)}));
    Cursor cursor;
    Handler handler(cursor);
    const char* begin = text.data();
    const bool ok = nlohmann::json::sax_parse(
        CountingIterator(begin, &cursor), CountingIterator(begin + text.size(), &cursor), &handler);
    if (!ok)
        return Unexpected{handler.error ? *handler.error
                                        : Error{ErrorCode::Syntax, message("json.broken", {std::string()}),
                                            {"", cursor.line, cursor.column, ""}}};
    return std::move(handler.root);
}

} // namespace ts::io
