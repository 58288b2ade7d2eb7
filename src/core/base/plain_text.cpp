#include "core/base/plain_text.h"

#include <cstdint>
#include <utility>

namespace ts {
namespace {

constexpr std::string_view kReplacement = "\xEF\xBF\xBD"; // U+FFFD

struct Character {
    std::uint32_t code = 0;
    std::size_t length = 1; ///< bytes
    bool isWhole = false;
};

/// The first character of a text that is not empty; a byte that begins none stands alone.
Character firstOf(std::string_view text)
{
    const auto byte = [text](std::size_t k) { return static_cast<unsigned char>(text[k]); };
    const unsigned char lead = byte(0);
    if (lead < 0x80)
        return {lead, 1, true};
    const std::size_t length = lead >= 0xF0 ? 4 : lead >= 0xE0 ? 3 : 2;
    if (lead < 0xC2 || lead > 0xF4 || text.size() < length)
        return {};
    std::uint32_t code = lead & (0x7Fu >> length);
    for (std::size_t k = 1; k < length; ++k) {
        if ((byte(k) & 0xC0u) != 0x80u)
            return {};
        code = code << 6 | (byte(k) & 0x3Fu);
    }
    const bool isShortest = code >= (length == 2 ? 0x80u : length == 3 ? 0x800u : 0x10000u);
    if (!isShortest || code > 0x10FFFF || (code >= 0xD800 && code <= 0xDFFF))
        return {};
    return {code, length, true};
}

bool isIn(std::uint32_t code, std::uint32_t from, std::uint32_t to)
{
    return code >= from && code <= to;
}

bool isLineBreak(std::uint32_t code)
{
    return code == '\n' || code == '\r' || code == '\t' || code == 0x85 || isIn(code, 0x2028, 0x2029);
}

bool isPlain(std::uint32_t code)
{
    const bool isControl = code < 0x20 || isIn(code, 0x7F, 0x9F);
    const bool turns = code == 0x61C || isIn(code, 0x200E, 0x200F) || isIn(code, 0x202A, 0x202E)
        || isIn(code, 0x2066, 0x2069);
    const bool isNone = code == 0xFEFF || (code & 0xFFFEu) == 0xFFFEu || isIn(code, 0xFDD0, 0xFDEF);
    return !isControl && !turns && !isNone;
}

} // namespace

std::string plainText(std::string_view text, Lines lines)
{
    std::string plain;
    plain.reserve(text.size());
    while (!text.empty()) {
        const Character c = firstOf(text);
        const std::string_view bytes = text.substr(0, c.length);
        const bool isKept = c.code == '\n' || c.code == '\t';
        if (c.isWhole && isLineBreak(c.code))
            plain += lines == Lines::Many && isKept ? bytes : " ";
        else
            plain += c.isWhole && isPlain(c.code) ? bytes : kReplacement;
        text.remove_prefix(c.length);
    }
    return plain;
}

} // namespace ts
