#pragma once
// A drawing as a value: lines, symbols and texts with the place of everything, in pixels at 100 %. Painting is done
// by whoever has a surface (app/widgets, report). What is live or closed is looked up there by terminal.

#include "core/model/circuit.h"

#include <string>
#include <vector>

namespace ts::diagram {

struct Point {
    double x = 0, y = 0;
    bool operator==(const Point&) const = default;
};

struct Box {
    double x = 0, y = 0, width = 0, height = 0;
    bool contains(Point p) const { return p.x >= x && p.x <= x + width && p.y >= y && p.y <= y + height; }
    bool overlaps(const Box& o) const
    {
        return x < o.x + o.width && o.x < x + width && y < o.y + o.height && o.y < y + height;
    }
};

/// A conductor of a net. The terminal stands for the whole net.
struct Conductor {
    std::vector<Point> points;
    TerminalRef net;
    bool isRail = false;
};

enum class SymbolKind {
    NormallyOpen,
    NormallyClosed,
    Coil,
    Lamp,
    Horn,
    BoxLoad,
    MainContact,
    FusePole,
    BreakerPole,
    HeatedPole,
    MeasuredPole,
    SwitchPole,
    Port,
    Earth,
    Device
};
enum class Operated { ByNothing, ByPush, ByEmergencyPush, ByTurn, ByGuard, ByPlant, ByHeat, ByCoil };

/// Something between two terminals, drawn from top to bottom.
struct Symbol {
    SymbolKind kind = SymbolKind::NormallyOpen;
    Operated operated = Operated::ByNothing;
    Point top, bottom; ///< where its leads meet the conductors
    DeviceId device;
    std::string role; ///< element role, "13-14"; empty for a whole device
    TerminalRef upper, lower; ///< which terminal is at which end
    Box box; ///< for the mouse
};

enum class TextStyle { Tag, Marking, WireNumber, Note };
enum class Anchor { Left, Middle, Right };

struct Text {
    Point at; ///< baseline
    std::string text;
    TextStyle style = TextStyle::Marking;
    Anchor anchor = Anchor::Left;
    Box box() const; ///< exact: all diagram text is of one width a character
};

/// A junction, drawn as a dot.
struct Dot {
    Point at;
    TerminalRef net;
};

struct Scene {
    double width = 0, height = 0;
    std::vector<Conductor> conductors;
    std::vector<Symbol> symbols;
    std::vector<Text> texts;
    std::vector<Dot> dots;
    std::vector<std::pair<TerminalRef, Point>> pins; ///< every terminal that is drawn, once

    /// The symbol under a point, or -1.
    int symbolAt(Point p) const;
    /// The nearest terminal within a distance, or null.
    const std::pair<TerminalRef, Point>* pinNear(Point p, double within) const;
    /// The nearest conductor within a distance, or null.
    const Conductor* conductorNear(Point p, double within) const;
};

constexpr double kTagSize = 13, kSmallSize = 11; ///< text heights
constexpr double kAdvance = 0.65; ///< width of a character of the diagram font, in em

} // namespace ts::diagram
