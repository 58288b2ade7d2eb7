#include "core/io/reading.h"

#include "core/base/date.h"

#include <algorithm>
#include <cmath>

namespace ts::io {

ObjectReader::ObjectReader(const JsonNode& node, std::string pointer, Trouble& trouble)
    : m_node(node)
    , m_pointer(std::move(pointer))
    , m_trouble(trouble)
{
    if (node.type != JsonNode::Type::Object)
        m_trouble.note(ErrorCode::Refused, message("file.not_an_object"), node, m_pointer);
}

const JsonNode* ObjectReader::find(std::string_view key, bool required)
{
    m_asked.emplace(key);
    const JsonNode* found = m_node.member(key);
    if (!found && required)
        m_trouble.note(ErrorCode::Refused, message("file.missing", {std::string(key)}), m_node, m_pointer);
    return found;
}

void ObjectReader::refuse(ErrorCode code, Message what, std::string_view key)
{
    const JsonNode* at = key.empty() ? nullptr : m_node.member(key);
    m_trouble.note(code, std::move(what), at ? *at : m_node, key.empty() ? m_pointer : pointer(key));
}

std::optional<std::string> ObjectReader::plain(std::string_view key, bool required, Lines lines)
{
    const JsonNode* node = find(key, required);
    if (!node)
        return std::nullopt;
    std::string text = plainText(node->text, lines);
    if (node->type != JsonNode::Type::String || text.size() > kLongestText)
        refuse(ErrorCode::Refused, message("file.not_text", {std::string(key)}), key);
    return text;
}

std::string ObjectReader::text(std::string_view key, bool required, std::string fallback)
{
    return plain(key, required, Lines::One).value_or(std::move(fallback));
}

std::string ObjectReader::lines(std::string_view key, bool required)
{
    return plain(key, required, Lines::Many).value_or(std::string());
}

std::string ObjectReader::date(std::string_view key)
{
    const std::string day = text(key);
    if (!day.empty() && !isDate(day))
        refuse(ErrorCode::OutOfRange, message("file.not_a_date", {std::string(key), day}), key);
    return day;
}

double ObjectReader::number(std::string_view key, double low, double high, std::optional<double> fallback)
{
    const JsonNode* node = find(key, !fallback);
    if (!node)
        return fallback.value_or(0.0);
    if (node->type != JsonNode::Type::Number)
        refuse(ErrorCode::Refused, message("file.not_a_number", {std::string(key)}), key);
    else if (node->number < low || node->number > high)
        refuse(ErrorCode::OutOfRange,
            message(
                "file.outside", {std::string(key), Measured{node->number, ""}, Measured{low, ""}, Measured{high, ""}}),
            key);
    return node->number;
}

int ObjectReader::integer(std::string_view key, int low, int high, std::optional<int> fallback)
{
    const double value = number(key, low, high, fallback ? std::optional<double>(*fallback) : std::nullopt);
    if (value != std::floor(value)) {
        refuse(ErrorCode::Refused, message("file.not_whole", {std::string(key)}), key);
        return low;
    }
    return static_cast<int>(std::clamp(value, static_cast<double>(low), static_cast<double>(high)));
}

bool ObjectReader::flag(std::string_view key, bool fallback)
{
    const JsonNode* node = find(key);
    if (!node)
        return fallback;
    if (node->type != JsonNode::Type::Boolean)
        refuse(ErrorCode::Refused, message("file.not_a_flag", {std::string(key)}), key);
    return node->boolean;
}

bool ObjectReader::isArray(const JsonNode& node, std::string_view key, std::size_t most)
{
    if (node.type != JsonNode::Type::Array) {
        refuse(ErrorCode::Refused, message("file.not_a_list", {std::string(key)}), key);
        return false;
    }
    if (node.items.size() > most) {
        refuse(ErrorCode::Refused, message("file.too_many", {std::string(key), static_cast<long long>(most)}), key);
        return false;
    }
    return true;
}

std::vector<std::string> ObjectReader::texts(std::string_view key)
{
    std::vector<std::string> list;
    const JsonNode* node = find(key);
    if (!node || !isArray(*node, key, 200))
        return list;
    for (const JsonNode& item : node->items) {
        std::string text = plainText(item.text);
        if (item.type != JsonNode::Type::String || text.size() > kLongestItem)
            refuse(ErrorCode::Refused, message("file.not_text", {std::string(key)}), key);
        list.push_back(std::move(text));
    }
    return list;
}

std::vector<int> ObjectReader::integers(std::string_view key)
{
    std::vector<int> list;
    const JsonNode* node = find(key);
    if (!node || !isArray(*node, key, 200))
        return list;
    for (const JsonNode& item : node->items) {
        if (item.type != JsonNode::Type::Number || item.number != std::floor(item.number)
            || std::abs(item.number) > 1e9) {
            refuse(ErrorCode::Refused, message("file.not_whole", {std::string(key)}), key);
            return list;
        }
        list.push_back(static_cast<int>(item.number));
    }
    return list;
}

std::string ObjectReader::word(
    std::string_view key, std::span<const std::string_view> allowed, std::string_view fallback)
{
    const std::string value = text(key, false, std::string(fallback));
    if (std::find(allowed.begin(), allowed.end(), value) == allowed.end()) {
        std::string known;
        for (std::string_view word : allowed)
            known += (known.empty() ? "" : ", ") + std::string(word);
        refuse(ErrorCode::Refused, message("file.unknown_word", {std::string(key), value, known}), key);
    }
    return value;
}

void ObjectReader::finish()
{
    for (const auto& [key, value] : m_node.members)
        if (!m_asked.contains(key))
            m_trouble.note(ErrorCode::Refused, message("file.unknown_key", {key}), value, pointer(key));
}

} // namespace ts::io
