#include "core/figures/fonts.h"

#include <sodium.h>

#include <array>

namespace ts::data {
extern const std::string_view SentrySans_Regular_otf, SentrySans_Bold_otf, SentryMono_Regular_otf, SentryMono_Bold_otf;
}

namespace ts::figures {

std::span<const ReportFont> reportFonts()
{
    static const std::array fonts{ReportFont{"Sentry Sans", 400, data::SentrySans_Regular_otf},
        ReportFont{"Sentry Sans", 700, data::SentrySans_Bold_otf},
        ReportFont{"Sentry Mono", 400, data::SentryMono_Regular_otf},
        ReportFont{"Sentry Mono", 700, data::SentryMono_Bold_otf}};
    return fonts;
}

std::string base64(std::string_view bytes)
{
    std::string text(sodium_base64_ENCODED_LEN(bytes.size(), sodium_base64_VARIANT_ORIGINAL), '\0');
    sodium_bin2base64(text.data(), text.size(), reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size(),
        sodium_base64_VARIANT_ORIGINAL);
    text.resize(text.find('\0') == text.npos ? text.size() : text.find('\0'));
    return text;
}

} // namespace ts::figures
