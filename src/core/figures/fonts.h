#pragma once
// The fonts that a report carries inside, and the text form in which it carries them.

#include <span>
#include <string>
#include <string_view>

namespace ts::figures {

struct ReportFont {
    std::string_view family;
    int weight = 400;
    std::string_view bytes;
};
std::span<const ReportFont> reportFonts();

/// RFC 4648. Done by libsodium.
std::string base64(std::string_view bytes);

} // namespace ts::figures
