#pragma once
// A drawing that is too large to be read on its place, cut into pages that can be: between symbols, where the fewest
// conductors cross. What is cut bears the number of its net and the page on which it goes on.

#include "core/diagram/control_layout.h"

#include <string>
#include <vector>

namespace ts::diagram {

/// Room for a page, in pixels of the drawing at 100 %.
struct Sheet {
    double width = 0, height = 0;
};

struct Page {
    Scene scene;
    std::vector<DrawnPath> paths; ///< those on this page
};

/// One page if the whole fits. Else rows are cut to the sheet's width and stacked as far as its height goes; what
/// nothing can be cut through stays whole and is larger than the sheet. Every symbol, text and pin is on exactly one
/// page. Pure.
std::vector<Page> pagesOf(const WiredGraph& graph, const ControlDrawing& drawing, Sheet sheet);

/// The tags of what a page is about, each once: motors, else coils and devices, else lamps, else whatever is on it.
std::vector<std::string> subjectsOf(const WiredGraph& graph, const Page& page);

} // namespace ts::diagram
