#pragma once
// JSON text as a tree in which every value knows its line and column. Refuses early what must not reach the
// dossier: too large, too deep, duplicate keys, broken text. Never throws, never keeps foreign objects.

#include "core/base/expected.h"

#include <string>
#include <string_view>
#include <vector>

namespace ts::io {

constexpr std::size_t kLargestFileBytes = 20u * 1024u * 1024u;
constexpr int kDeepest = 32;

struct JsonMember;

struct JsonNode {
    enum class Type { Null, Boolean, Number, String, Array, Object };
    Type type = Type::Null;
    bool boolean = false;
    double number = 0;
    std::string text;
    std::vector<JsonNode> items;
    std::vector<JsonMember> members;
    int line = 0, column = 0;

    const JsonNode* member(std::string_view key) const;
};

struct JsonMember {
    std::string first; ///< its key
    JsonNode second;
};

/// Fails with Syntax (broken, duplicate key, number outside double) or Refused (size, depth); the place has line
/// and column.
Expected<JsonNode> parseJson(std::string_view text);

} // namespace ts::io
