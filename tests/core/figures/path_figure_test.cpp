// The drawing of a path: nothing lies on anything else, whatever the path looks like.

#include "core/figures/path_figure.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace ts::figures {
namespace {

PathWords words()
{
    return {{"not tried", "no effect", "noticed", "hidden", "loses it"}, "in no claim", "looks", "nothing"};
}

Knot knot(int column, std::string name, double share = 0.1)
{
    Knot k;
    k.column = column;
    k.name = std::move(name);
    k.share = share;
    k.words = k.name;
    return k;
}

/// Demand, relay, two contactors of which one carries most of the danger, motor.
PathContent small()
{
    PathContent c;
    c.columns = 4;
    c.knots = {knot(0, "S0"), knot(1, "K0"), knot(2, "Q1", 0.7), knot(2, "Q2", 0.1), knot(3, "M1", 0)};
    c.knots.back().isRound = true;
    c.ways = {{0, 1, false}, {1, 2, false}, {1, 3, false}, {2, 4, true}, {3, 4, true}};
    c.watches = {{2, 1}, {3, 1}};
    c.headings = {{0, 0, "what demands it"}, {3, 3, "what comes to rest"}};
    return c;
}

Area areaOf(const Figure& f, int item)
{
    for (const Spot& s : f.spots)
        if (s.item == item)
            return s.area;
    ADD_FAILURE() << item;
    return {};
}

TEST(PathFigure, TheGreaterShareIsTheHigherKnot)
{
    const Figure f = functionPath(small(), words(), 900, 380);
    EXPECT_GT(areaOf(f, 2).height, areaOf(f, 3).height + 30);
    EXPECT_LT(areaOf(f, 0).x, areaOf(f, 1).x);
    EXPECT_LT(areaOf(f, 2).x, areaOf(f, 4).x);
    EXPECT_EQ(f.height, 380) << "what has room is not made taller";
}

/// Strands side by side stand at different heights.
TEST(PathFigure, TwoOfOneColumnStandSideBySide)
{
    const Figure f = functionPath(small(), words(), 900, 380);
    EXPECT_FALSE(areaOf(f, 2).overlaps(areaOf(f, 3)));
    EXPECT_DOUBLE_EQ(areaOf(f, 2).x, areaOf(f, 3).x);
}

TEST(PathFigure, WhatIsMissingStandsInAFrameAroundItsKnots)
{
    PathContent c = small();
    c.shortfalls = {{{2, 3}, "this alone loses the function: Q1 main poles welded, and both of them are one channel"}};
    const Figure f = functionPath(c, words(), 900, 420);
    const Shape* frame = nullptr;
    for (const Shape& s : f.shapes)
        if (s.isClosed && s.isDashed && s.stroke == Ink::Missing)
            frame = &s;
    ASSERT_NE(frame, nullptr);
    for (int item : {2, 3}) {
        EXPECT_LE(frame->points[0].x, areaOf(f, item).x + 3);
        EXPECT_LE(frame->points[0].y, areaOf(f, item).y + 3);
        EXPECT_GE(frame->points[2].y, areaOf(f, item).y + areaOf(f, item).height - 3);
    }
    std::string said;
    for (const Label& l : f.labels)
        if (l.ink == Ink::Missing)
            said += l.text + " ";
    EXPECT_EQ(said, "this alone loses the function: Q1 main poles welded, and both of them are one channel ");
}

/// Two that look have a lane and a line of words each.
TEST(PathFigure, EachOneThatLooksHasItsOwnLane)
{
    PathContent c = small();
    c.watches = {{2, 1}, {3, 1}, {3, 2}};
    const Figure f = functionPath(c, words(), 900, 380);
    std::vector<double> heights;
    for (const Label& l : f.labels)
        if (l.ink == Ink::Reached)
            heights.push_back(l.at.y);
    ASSERT_EQ(heights.size(), 2u);
    EXPECT_GE(std::abs(heights[0] - heights[1]), 12) << "they can both be read";
    for (double y : heights)
        for (const Spot& s : f.spots)
            EXPECT_GT(y, s.area.y + s.area.height - 4) << "below the knots";
}

TEST(PathFigure, TheChosenKnotsWaysStandOut)
{
    const auto widest = [](const Figure& f) {
        double width = 0;
        for (const Shape& s : f.shapes)
            if (s.stroke == Ink::Claimed)
                width = std::max(width, s.width);
        return width;
    };
    EXPECT_GT(widest(functionPath(small(), words(), 900, 380, 4)), widest(functionPath(small(), words(), 900, 380)));
}

TEST(PathFigure, WithoutAPathSaysSo)
{
    const Figure f = functionPath({}, words(), 600, 200);
    ASSERT_EQ(f.labels.size(), 1u);
    EXPECT_EQ(f.labels[0].text, "nothing");
    EXPECT_TRUE(f.spots.empty());
}

/// Random paths: knots overlap nowhere and lie within the figure.
TEST(PathFigure, OfAnyShapeIsFreeOfOverlaps)
{
    std::mt19937 random(1203);
    for (int round = 0; round < 300; ++round) {
        PathContent c;
        c.columns = 2 + static_cast<int>(random() % 5);
        for (int column = 0; column < c.columns; ++column)
            for (auto n = 1 + random() % 6; n > 0; --n) {
                c.knots.push_back(knot(column, "K", static_cast<double>(random() % 100) / 100.0));
                c.knots.back().isRound = column + 1 == c.columns;
            }
        const int count = static_cast<int>(c.knots.size());
        for (int k = 0; k < count * 2; ++k) {
            const int a = static_cast<int>(random() % static_cast<unsigned>(count)),
                      b = static_cast<int>(random() % static_cast<unsigned>(count));
            if (c.knots[static_cast<std::size_t>(a)].column < c.knots[static_cast<std::size_t>(b)].column)
                c.ways.push_back({a, b, random() % 2 == 0});
        }
        const double width = 700.0 + static_cast<double>(random() % 800);
        const Figure f = functionPath(c, words(), width, 340);
        for (const Spot& s : f.spots) {
            EXPECT_GE(s.area.x, 0);
            EXPECT_GE(s.area.y, 0);
            EXPECT_LE(s.area.x + s.area.width, width + 4);
            EXPECT_LE(s.area.y + s.area.height, f.height);
            for (const Spot& other : f.spots)
                EXPECT_TRUE(other.item == s.item || !other.area.overlaps(s.area)) << round;
        }
    }
}

/// Where a knot is too narrow for both, what comes of its faults stands under its value; no word leaves its column.
TEST(PathFigure, InANarrowWindowTheWordStandsUnderTheValue)
{
    PathContent c = small();
    for (Knot& k : c.knots)
        if (!k.isRound) {
            k.state = Knot::State::Noticed;
            k.value = "9.1e-10";
        }
    const auto labels = [](const Figure& f, std::string_view text) {
        std::vector<const Label*> found;
        for (const Label& l : f.labels)
            if (l.text == text)
                found.push_back(&l);
        return found;
    };
    const Figure wide = functionPath(c, words(), 1000, 400), narrow = functionPath(c, words(), 420, 400);
    for (const Figure* f : {&wide, &narrow}) {
        const auto values = labels(*f, "9.1e-10"), states = labels(*f, "noticed");
        ASSERT_EQ(values.size(), 4u);
        ASSERT_EQ(states.size(), 4u);
        for (std::size_t k = 0; k < 4; ++k) {
            if (f == &wide) {
                EXPECT_EQ(states[k]->at.y, values[k]->at.y);
                EXPECT_GT(states[k]->at.x, values[k]->at.x + 62);
            } else {
                EXPECT_GE(states[k]->at.y, values[k]->at.y + 12);
                EXPECT_LT(states[k]->at.x, values[k]->at.x + 20);
            }
            const Area a = areaOf(*f, static_cast<int>(k));
            EXPECT_LE(states[k]->at.y, a.y + a.height) << "its spot holds the word, too";
        }
    }
}

} // namespace
} // namespace ts::figures
