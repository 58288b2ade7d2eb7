// The drawings beside a function: to scale, and with what is missing where it is missing.

#include "core/figures/approach_figure.h"
#include "core/figures/machine_map.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace ts::figures {
namespace {

ApproachWords approachWords()
{
    return {"allowed", "opening", "hazard at", "needed", "missing", "reach", "no distance", "nothing"};
}

/// A 2 s stop of which 0.5 s are the circuit's.
ApproachContent stop()
{
    ApproachContent c;
    c.parts = {{"sensor", 0.0}, {"circuit", 0.5}, {"run-down", 1.5}};
    c.countsS = 2.0;
    return c;
}

std::vector<Area> bars(const Figure& f)
{
    std::vector<Area> bars;
    for (const Shape& s : f.shapes)
        if (s.isFilled && s.isClosed && s.width == 1 && s.points.size() == 4)
            bars.push_back(
                {s.points[0].x, s.points[0].y, s.points[2].x - s.points[0].x, s.points[2].y - s.points[0].y});
    return bars;
}

bool says(const Figure& f, std::string_view words)
{
    return std::any_of(
        f.labels.begin(), f.labels.end(), [words](const Label& l) { return l.text.find(words) != l.text.npos; });
}

TEST(Approach, TimesAreToScale)
{
    const auto b = bars(approach(stop(), approachWords(), 500));
    ASSERT_EQ(b.size(), 2u) << "a part of no time has no bar";
    EXPECT_NEAR(b[1].width / b[0].width, 3.0, 1e-9);
    EXPECT_DOUBLE_EQ(b[1].x, b[0].x + b[0].width) << "one after the other";
    // Twice the time beside it: all bars half as long.
    ApproachContent longer = stop();
    longer.allowedS = 4.0;
    EXPECT_NEAR(bars(approach(longer, approachWords(), 500))[0].width, b[0].width / 2, 1e-9);
}

TEST(Approach, WhatIsAllowedIsMissedOrMet)
{
    const auto inkOf = [](const Figure& f) {
        for (const Label& l : f.labels)
            if (l.text == "allowed")
                return l.ink;
        return Ink::Panel;
    };
    ApproachContent c = stop();
    c.allowedS = 2.5;
    EXPECT_EQ(inkOf(approach(c, approachWords(), 500)), Ink::Reached);
    c.allowedS = 1.9;
    EXPECT_EQ(inkOf(approach(c, approachWords(), 500)), Ink::Missing);
}

/// 2 s at 1.6 m/s: 3.2 m are needed; at 2.5 m the hazard is 0.7 m too near.
TEST(Approach, TooShortAWayIsSaidWithWhatIsMissing)
{
    ApproachContent c = stop();
    c.neededM = 3.2;
    c.speedMetresPerS = 1.6;
    c.builtM = 2.5;
    const Figure near = approach(c, approachWords(), 500);
    EXPECT_TRUE(says(near, "hazard at 2.50 m, 0.70 m missing"));
    EXPECT_TRUE(says(near, "needed, 1.6 m/s"));
    EXPECT_TRUE(std::any_of(near.shapes.begin(), near.shapes.end(), [](const Shape& s) { return s.isHatch; }));
    c.builtM = 3.2;
    const Figure enough = approach(c, approachWords(), 500);
    EXPECT_FALSE(says(enough, "missing"));
    EXPECT_FALSE(std::any_of(enough.shapes.begin(), enough.shapes.end(), [](const Shape& s) { return s.isHatch; }));
}

TEST(Approach, WithoutADistanceOrARunSaysSo)
{
    EXPECT_TRUE(says(approach(stop(), approachWords(), 500), "no distance"));
    EXPECT_TRUE(says(approach({}, approachWords(), 500), "nothing"));
}

MapContent machine()
{
    MapContent c;
    c.demands = {{"S0", "stop", MapItem::Part::Here, "S0"}, {"B2", "guard", MapItem::Part::Elsewhere, "B2"},
        {"S9", "stop", MapItem::Part::Nowhere, "S9"}};
    c.rests = {{"M1", "deck", MapItem::Part::Here, "M1"}, {"M2", "saw", MapItem::Part::Nowhere, "M2"}};
    c.reset = "S4";
    return c;
}

TEST(MachineMap, TellsByShapeAndWordWhatIsOfThisFunction)
{
    const Figure f = machineMap(machine(), {"demands", "rests", "other function", "no function", "reset by"}, 400, 0);
    ASSERT_EQ(f.spots.size(), 5u);
    for (std::size_t k = 0; k < f.spots.size(); ++k)
        EXPECT_EQ(f.spots[k].item, static_cast<int>(k));
    int filled = 0, dashed = 0;
    for (const Shape& s : f.shapes)
        if (s.isClosed) {
            filled += s.fill == Ink::Ink;
            dashed += s.isDashed;
        }
    EXPECT_EQ(filled, 2) << "S0 and M1";
    EXPECT_EQ(dashed, 2) << "S9 and M2";
    EXPECT_TRUE(says(f, "guard, other function"));
    EXPECT_TRUE(says(f, "saw, no function"));
    EXPECT_TRUE(says(f, "reset by S4"));
    for (const Spot& a : f.spots) {
        EXPECT_LE(a.area.y + a.area.height, f.height);
        for (const Spot& b : f.spots)
            EXPECT_TRUE(a.item == b.item || !a.area.overlaps(b.area));
    }
}

TEST(MachineMap, GrowsWithTheMachine)
{
    MapContent c = machine();
    for (int k = 0; k < 20; ++k)
        c.rests.push_back({"M", "", MapItem::Part::Nowhere, "M"});
    const Figure f = machineMap(c, {"demands", "rests", "other", "none", "reset by"}, 400, 200);
    EXPECT_GT(f.height, 900);
    for (std::size_t k = 4; k < f.spots.size(); ++k)
        EXPECT_GE(f.spots[k].area.y, f.spots[k - 1].area.y + f.spots[k - 1].area.height - 1e-9);
}

} // namespace
} // namespace ts::figures
