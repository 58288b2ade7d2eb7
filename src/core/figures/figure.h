#pragma once
// A picture of results as a value: shapes and labels with inks that carry meaning, and the spots that can be pointed
// at. Painted by app/widgets, printed as SVG by report. Drawings of circuits are core/diagram.

#include <string>
#include <vector>

namespace ts::figures {

/// What a colour stands for; the painter and the printer each have their own.
enum class Ink { Ink, Quiet, Line, Panel, Shade, Reached, Missing, Open, Claimed };

struct Position {
    double x = 0, y = 0;
    bool operator==(const Position&) const = default;
};

struct Area {
    double x = 0, y = 0, width = 0, height = 0;
    bool contains(Position p) const { return p.x >= x && p.x < x + width && p.y >= y && p.y < y + height; }
    bool overlaps(const Area& o) const
    {
        return x < o.x + o.width && o.x < x + width && y < o.y + o.height && o.y < y + height;
    }
    bool operator==(const Area&) const = default;
};

struct Shape {
    std::vector<Position> points;
    bool isClosed = false;
    Ink stroke = Ink::Ink;
    double width = 1; ///< of the line; 0: none
    Ink fill = Ink::Panel;
    bool isFilled = false, isDashed = false;
    bool isHatch = false; ///< a line of what is missing
};

enum class LabelSize { Small, Body, Bold, Verdict, Figures };
enum class Align { Left, Middle, Right };

struct Label {
    Position at; ///< baseline
    std::string text;
    LabelSize size = LabelSize::Body;
    Ink ink = Ink::Ink;
    Align align = Align::Left;
    double room = 0; ///< wider texts are cut with dots; 0: as wide as it is
};

/// Something that can be pointed at, chosen and read out.
struct Spot {
    Area area;
    int item = 0;
    std::string words;
};

struct Figure {
    double width = 0, height = 0;
    std::vector<Shape> shapes;
    std::vector<Label> labels;
    std::vector<Spot> spots; ///< in order of reading

    void line(Position from, Position to, Ink ink, double width = 1, bool isDashed = false);
    void box(const Area& area, Ink fill, Ink stroke = Ink::Ink, double strokeWidth = 0);
    void outline(const Area& area, Ink stroke, double width = 1);
    void hatch(const Area& area, Ink ink);
    void label(Position at, std::string text, LabelSize size = LabelSize::Body, Ink ink = Ink::Ink,
        Align align = Align::Left, double room = 0);
    /// The spot under a place, or -1.
    int spotAt(Position p) const;
};

} // namespace ts::figures
