#pragma once
// A figure of results as SVG text. Everything is escaped; widths of text are estimated, so that long words are cut as
// in the window.

#include "core/figures/figure.h"

#include <string>
#include <string_view>

namespace ts::figures {

/// An <svg> element; `title` is its accessible name, and every spot a group with its words as a title.
std::string figureSvg(const figures::Figure& figure, std::string_view title);

/// The same as a file of its own, with its fonts inside.
std::string figureSvgFile(const figures::Figure& figure, std::string_view title);

} // namespace ts::figures
