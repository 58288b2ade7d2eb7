#pragma once
// Text from outside, made so that it is nothing but text wherever it is shown: on a terminal, in HTML or SVG, in a
// list.

#include <string>
#include <string_view>

namespace ts {

enum class Lines { One, Many };

/// What would work a terminal, turn the direction of reading, hide itself or be no character at all becomes U+FFFD:
/// control characters, marks of direction (Unicode 15, UAX 9), byte order marks, noncharacters, broken UTF-8. With
/// Lines::One line breaks and tabs become blanks. The same again changes nothing more.
std::string plainText(std::string_view text, Lines lines = Lines::One);

} // namespace ts
