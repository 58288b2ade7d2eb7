#pragma once
// The two schools of drawing a control circuit, as measures: current paths that run down from rail to rail, or rungs of
// a ladder that run across. Layout counts columns (across the paths) and cells (along them); this says where that is.

#include "core/diagram/scene.h"

namespace ts::diagram {

enum class School { CurrentPaths, Ladder };

struct PathFrame {
    School school = School::CurrentPaths;
    double cell = 52; ///< along a path
    double column = 78; ///< from path to path
    double left = 46, top = 30; ///< before the first path; before the live rail
    double loopDrop = 34; ///< a block that hangs on an input begins this much below the rail
    double foot = 34, footLine = 14; ///< to the path numbers and between the lines below them
    double aspect = 1.6; ///< across over along, of the place in which such drawings are looked at

    /// Measures that leave room for tags of so many characters.
    static PathFrame of(School school, std::size_t longestTag);

    bool isLadder() const { return school == School::Ladder; }
    Point at(double across, double along) const { return isLadder() ? Point{along, across} : Point{across, along}; }
    double alongOf(Point p) const { return isLadder() ? p.x : p.y; }
    double acrossOf(Point p) const { return isLadder() ? p.y : p.x; }

    Box symbolBox(double across, double from, double to) const;
    Text tag(double across, double from, double to, std::string text, bool isLoad) const;
    Text upperMarking(double across, double from, std::string text) const;
    Text lowerMarking(double across, double to, std::string text) const;
    Text wireNumber(double across, double to, std::string text) const;
    Text portName(Point port, bool isUpper, std::string text) const;
    Text railName(double across, double along, bool isTop, std::string text) const;
    Text pathNumber(double across, double railTop, double railBottom, std::string text) const;
    /// The n-th line of a contact list that begins at `along`.
    Text footLineAt(double across, double along, std::size_t n, std::string text) const;
    /// Room that a contact list of so many entries takes along the paths.
    double footRoom(std::size_t entries) const;
};

} // namespace ts::diagram
