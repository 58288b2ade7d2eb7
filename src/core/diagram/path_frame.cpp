#include "core/diagram/path_frame.h"

#include <algorithm>
#include <cmath>

namespace ts::diagram {
namespace {
constexpr double kGrid = 24; ///< a longer tag moves everything else by whole steps only
constexpr std::size_t kFootLinesOfARung = 3;
constexpr double kFootEntry = 74; ///< "13-14 /12"
} // namespace

PathFrame PathFrame::of(School school, std::size_t longestTag)
{
    PathFrame f;
    f.school = school;
    const double extra = kGrid
        * std::ceil(std::max(0.0, static_cast<double>(longestTag) - 3.0) * kAdvance * kTagSize / kGrid);
    if (school == School::CurrentPaths) {
        f.column += extra;
        return f;
    }
    f.cell = 76 + extra;
    f.column = 62;
    f.left = 40;
    f.top = 56;
    f.loopDrop = 44;
    f.foot = 26;
    f.aspect = 1.0 / 1.6;
    return f;
}

Box PathFrame::symbolBox(double across, double from, double to) const
{
    if (isLadder())
        return {from + 6, across - 26, to - from - 12, 56};
    return {across - 26, from + 6, 64, to - from - 12};
}

Text PathFrame::tag(double across, double from, double to, std::string text, bool isLoad) const
{
    if (isLadder())
        return {{(from + to) / 2, across + (isLoad ? 30 : 24)}, std::move(text), TextStyle::Tag, Anchor::Middle};
    return {{across + (isLoad ? 26 : 18), (from + to) / 2 + 4}, std::move(text), TextStyle::Tag, Anchor::Left};
}

Text PathFrame::upperMarking(double across, double from, std::string text) const
{
    if (isLadder())
        return {{from + 3, across - 5}, std::move(text), TextStyle::Marking, Anchor::Left};
    return {{across + 6, from + 11}, std::move(text), TextStyle::Marking, Anchor::Left};
}

Text PathFrame::lowerMarking(double across, double to, std::string text) const
{
    if (isLadder())
        return {{to - 3, across - 5}, std::move(text), TextStyle::Marking, Anchor::Right};
    return {{across + 6, to - 5}, std::move(text), TextStyle::Marking, Anchor::Left};
}

Text PathFrame::wireNumber(double across, double to, std::string text) const
{
    if (isLadder())
        return {{to - 3, across + 13}, std::move(text), TextStyle::WireNumber, Anchor::Right};
    return {{across - 5, to - 4}, std::move(text), TextStyle::WireNumber, Anchor::Right};
}

Text PathFrame::portName(Point port, bool isUpper, std::string text) const
{
    if (isLadder())
        return {{port.x + (isUpper ? 4 : -4), port.y + 17}, std::move(text), TextStyle::Marking,
            isUpper ? Anchor::Right : Anchor::Left};
    return {{port.x, isUpper ? port.y - 9 : port.y + 19}, std::move(text), TextStyle::Marking, Anchor::Middle};
}

Text PathFrame::railName(double across, double along, bool isTop, std::string text) const
{
    if (isLadder())
        return {{along, across - 18 - 8}, std::move(text), TextStyle::Marking, Anchor::Middle};
    return {{across - 18, isTop ? along - 8 : along + 16}, std::move(text), TextStyle::Marking, Anchor::Left};
}

Text PathFrame::pathNumber(double across, double railTop, double railBottom, std::string text) const
{
    if (isLadder())
        return {{railTop - 30, across + 4}, std::move(text), TextStyle::Note, Anchor::Right};
    return {{across, railBottom + foot}, std::move(text), TextStyle::Note, Anchor::Middle};
}

Text PathFrame::footLineAt(double across, double along, std::size_t n, std::string text) const
{
    if (isLadder())
        return {{along + 16 + kFootEntry * static_cast<double>(n / kFootLinesOfARung),
                    across - 8 + footLine * static_cast<double>(n % kFootLinesOfARung)},
            std::move(text), TextStyle::Note, Anchor::Left};
    return {{across - 16, along + foot + 16 + footLine * static_cast<double>(n)}, std::move(text), TextStyle::Note,
        Anchor::Left};
}

double PathFrame::footRoom(std::size_t entries) const
{
    if (isLadder())
        return kFootEntry * std::ceil(static_cast<double>(entries) / static_cast<double>(kFootLinesOfARung));
    return footLine * static_cast<double>(entries);
}

} // namespace ts::diagram
