// Gates: as wide open as there is room, closed where there is none, in the order of the current.

#include "core/figures/gates_figure.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace ts::figures {
namespace {

Gate gate(const char* name, double used, Gate::State state = Gate::State::Ample)
{
    Gate g;
    g.name = name;
    g.state = state;
    g.used = used;
    g.hasShare = true;
    g.words = name;
    return g;
}

const GateWords kGateWords{{"not judged", "has room", "tight", "not enough"}, "nothing runs", "wires"};

GateRow row(std::vector<Gate> gates)
{
    GateRow r;
    r.title = "Power to M1";
    r.gates = std::move(gates);
    r.load = "M1";
    r.flowWords = {"running"};
    return r;
}

/// Between the two jaws of the gate around x; nothing if there is no jaw.
double openingAt(const Figure& f, const Area& spot)
{
    double upper = -1, lower = -1;
    for (const Shape& s : f.shapes) {
        if (!s.isFilled || s.points.size() != 4 || !spot.contains(s.points[0]))
            continue;
        const double top = s.points[0].y, bottom = s.points[2].y;
        if (upper < 0)
            upper = bottom;
        else
            lower = top;
    }
    return lower - upper;
}

TEST(Gates, AreAsWideOpenAsThereIsRoom)
{
    const Figure f = gates({row({gate("F1", 0.0), gate("Q1", 0.5), gate("F2", 1.0)})}, kGateWords, 900, 200);
    ASSERT_EQ(f.spots.size(), 3u);
    const double half = openingAt(f, f.spots[1].area), all = openingAt(f, f.spots[0].area);
    EXPECT_GT(all, 1.8 * half);
    EXPECT_NEAR(openingAt(f, f.spots[2].area), 0, 1e-9) << "closed";
    EXPECT_LT(f.spots[0].area.x, f.spots[1].area.x);
}

TEST(Gates, SayOverByHatchAndNotJudgedByDashes)
{
    const auto hatches = [](const Figure& f) {
        return std::count_if(f.shapes.begin(), f.shapes.end(), [](const Shape& s) { return s.isHatch; });
    };
    const auto dashes = [](const Figure& f) {
        return std::count_if(f.shapes.begin(), f.shapes.end(), [](const Shape& s) { return s.isDashed; });
    };
    const Figure fine = gates({row({gate("Q1", 0.4)})}, kGateWords, 600, 200),
                 over = gates({row({gate("Q1", 1.4, Gate::State::Over)})}, kGateWords, 600, 200),
                 open = gates({row({gate("Q1", 0, Gate::State::NotJudged)})}, kGateWords, 600, 200);
    EXPECT_EQ(hatches(fine), 0);
    EXPECT_GT(hatches(over), 0);
    EXPECT_EQ(dashes(fine), 0);
    EXPECT_EQ(dashes(open), 2);
}

/// Nothing is cut off at the right: what does not fit goes on below.
TEST(Gates, GoOnInTheNextLine)
{
    std::vector<Gate> many;
    for (int k = 0; k < 25; ++k)
        many.push_back(gate("Q1", 0.5));
    const Figure f = gates({row(many)}, kGateWords, 800, 100);
    ASSERT_EQ(f.spots.size(), 25u);
    EXPECT_GT(f.height, 100);
    for (const Spot& s : f.spots) {
        EXPECT_LE(s.area.x + s.area.width, 800);
        EXPECT_LE(s.area.y + s.area.height, f.height);
    }
    for (std::size_t a = 0; a < f.spots.size(); ++a)
        for (std::size_t b = a + 1; b < f.spots.size(); ++b)
            EXPECT_FALSE(f.spots[a].area.overlaps(f.spots[b].area)) << a << " " << b;
}

TEST(Gates, SayWhyThereIsNothing)
{
    const Figure f = gates({}, kGateWords, 800, 100);
    ASSERT_EQ(f.labels.size(), 1u);
    EXPECT_EQ(f.labels[0].text, "nothing runs");
}

} // namespace
} // namespace ts::figures
