#pragma once
// A drawing as SVG text, every contact as it stands without power. Everything is escaped.

#include "core/diagram/scene.h"

#include <string>
#include <string_view>

namespace ts::figures {

/// Text for HTML and XML: & < > " ' replaced, nothing in it but text (plain_text.h).
std::string escaped(std::string_view text);

/// An <svg> element; `title` is its accessible name.
std::string sceneSvg(const diagram::Scene& scene, std::string_view title);

/// The same as a file of its own, with its colours and fonts inside.
std::string sceneSvgFile(const diagram::Scene& scene, std::string_view title);

/// How drawings look, for a style element.
extern const char* const kDrawingStyle;
/// The fonts as @font-face rules.
std::string fontRules();

} // namespace ts::figures
