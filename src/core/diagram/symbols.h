#pragma once
// Geometry of the symbols after IEC 60617, as strokes; colours and thickness are the painter's.

#include "core/diagram/scene.h"

namespace ts::diagram {

/// Which conductor a stroke belongs to when it is coloured.
enum class StrokePart { Upper, Lower, Through, Outline, Linkage };

struct StrokePath {
    StrokePart part = StrokePart::Outline;
    std::vector<Point> points;
    bool isClosed = false;
};
struct Ring {
    StrokePart part = StrokePart::Outline;
    Point centre;
    double radius = 0;
};
struct SymbolShape {
    std::vector<StrokePath> paths;
    std::vector<Ring> rings;
};

/// The strokes of a symbol with its contact closed or open. Loads and ports ignore `isClosed`.
SymbolShape shapeOf(const Symbol& symbol, bool isClosed);

} // namespace ts::diagram
