// Pictures of results as values: where things stand, what can be pointed at, what overlaps, and the same as SVG.

#include "core/figures/figure_svg.h"
#include "core/figures/level_figures.h"
#include "core/figures/means_figure.h"
#include "core/figures/skyline.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace ts::figures {
namespace {

const SkylineWords kWords{"dangerous failures per hour", "needs", "stop", "replace", "faults", "equipment", "key"};

Tower tower(int number, double pfhd = 3e-8, double required = 1e-6)
{
    Tower t;
    t.name = "Function " + std::to_string(number);
    t.about = "S0 stops M1";
    t.pillars = {{"sensing", pfhd / 3}, {"deciding", pfhd / 6}, {"switching", pfhd / 2}};
    t.pfhdPerHour = pfhd;
    t.level = "PL e";
    t.requiredBelow = required;
    t.reaches = pfhd < required;
    t.faults = {100, 20, 3, 1};
    t.words = t.name;
    return t;
}

std::vector<Tower> towers(int count)
{
    std::vector<Tower> list;
    for (int k = 0; k < count; ++k)
        list.push_back(tower(k));
    return list;
}

TEST(Skyline, IsLegibleWithOneSixAndFortyFunctions)
{
    for (int count : {1, 6, 40}) {
        const Figure f = skyline(towers(count), kWords, 960, 690);
        ASSERT_EQ(f.spots.size(), static_cast<std::size_t>(count));
        for (std::size_t a = 0; a < f.spots.size(); ++a) {
            EXPECT_GE(f.spots[a].area.width, 72) << count;
            EXPECT_GE(f.spots[a].area.height, 150) << count;
            EXPECT_LE(f.spots[a].area.x + f.spots[a].area.width, f.width) << count;
            EXPECT_LE(f.spots[a].area.y + f.spots[a].area.height, f.height) << count;
            for (std::size_t b = a + 1; b < f.spots.size(); ++b)
                EXPECT_FALSE(f.spots[a].area.overlaps(f.spots[b].area)) << count << ": " << a << " and " << b;
        }
        for (const Label& l : f.labels) {
            EXPECT_GE(l.at.y, 8) << l.text;
            EXPECT_LE(l.at.y, f.height) << l.text;
        }
    }
}

TEST(Skyline, StandsOnALogarithmicScale)
{
    // Platforms of 1e-5, 1e-6 and 1e-7 lie evenly above each other.
    std::vector<Tower> list{tower(0, 1e-5), tower(1, 1e-6), tower(2, 1e-7)};
    for (Tower& t : list) {
        t.pillars = {{"one", *t.pfhdPerHour}};
        t.requiredBelow.reset();
    }
    const Figure f = skyline(list, kWords, 900, 700);
    std::vector<double> platforms;
    for (const Shape& s : f.shapes)
        if (s.isFilled && s.fill == Ink::Ink && s.points.size() == 4
            && std::abs(s.points[2].y - s.points[0].y - 9) < 1e-9)
            platforms.push_back(s.points[0].y);
    ASSERT_EQ(platforms.size(), 3u);
    EXPECT_NEAR(platforms[0] - platforms[1], platforms[1] - platforms[2], 1e-9);
    EXPECT_GT(platforms[0], platforms[2]) << "the better, the higher";
}

TEST(Skyline, WhatIsMissingIsHatchedAndOnlyThen)
{
    const auto hatched = [](const Tower& t) {
        const Figure f = skyline({t}, kWords, 600, 600);
        return std::any_of(f.shapes.begin(), f.shapes.end(), [](const Shape& s) { return s.isHatch; });
    };
    EXPECT_FALSE(hatched(tower(0, 3e-8, 1e-6)));
    EXPECT_TRUE(hatched(tower(0, 3e-6, 1e-6)));
    Tower none = tower(0);
    none.pfhdPerHour.reset();
    none.reaches = false;
    EXPECT_TRUE(hatched(none)) << "no level: everything up to the pennant is missing";
    Tower equipment = tower(0);
    equipment.hasLevel = false;
    EXPECT_FALSE(hatched(equipment)) << "no pennant, nothing missing";
}

/// The same scale as in the skyline: its bands and limits, one tower, its name.
TEST(SingleTower, StandsAloneOnTheSameScale)
{
    const Figure f = singleTower(tower(1), kWords, 232, 380);
    ASSERT_EQ(f.spots.size(), 1u);
    EXPECT_EQ(f.height, 380);
    std::string said;
    for (const Label& l : f.labels) {
        said += l.text + "|";
        EXPECT_LE(l.at.y, f.height) << l.text;
    }
    for (const char* text : {"PL e", "Function 1", "1e-6", "a|", "e|"})
        EXPECT_NE(said.find(text), std::string::npos) << text;
    EXPECT_EQ(said.find("needs"), std::string::npos) << "its facts stand elsewhere";
}

TEST(ChannelMeans, ABarRunsThroughWhatBothHangOn)
{
    const MeansWords words{"channel 1", "channel 2", "both", "nothing in common"};
    const auto bars = [](const Figure& f) {
        return std::count_if(f.shapes.begin(), f.shapes.end(),
            [](const Shape& s) { return s.isFilled && s.fill == Ink::Open && s.points[2].x - s.points[0].x > 100; });
    };
    const Figure shared = channelMeans({{"device", "S0", true, true}, {"conductor", "46", true, false}}, words, 500);
    EXPECT_EQ(bars(shared), 1);
    EXPECT_TRUE(std::any_of(
        shared.labels.begin(), shared.labels.end(), [](const Label& l) { return l.text == "device S0, both"; }));
    const Figure apart = channelMeans({{"conductor", "46", true, false}}, words, 500);
    EXPECT_EQ(bars(apart), 0);
    EXPECT_TRUE(std::any_of(
        apart.labels.begin(), apart.labels.end(), [](const Label& l) { return l.text == "nothing in common"; }));
    // Many that only one has: a few are shown, all that are shared are.
    std::vector<MeansRow> many;
    for (int k = 0; k < 40; ++k)
        many.push_back({"conductor", std::to_string(k), k < 12, true});
    EXPECT_EQ(bars(channelMeans(many, words, 500)), 12);
    EXPECT_LT(channelMeans(many, words, 500).height, 420);
}

TEST(Hatch, StaysWithinItsAreaAndFillsIt)
{
    Figure f;
    const Area area{13, 7, 30, 50};
    f.hatch(area, Ink::Missing);
    // x + y runs from 20 to 100 in steps of 8: 24, 32 ... 96.
    ASSERT_EQ(f.shapes.size(), 10u);
    for (const Shape& s : f.shapes)
        for (const Position& p : s.points) {
            EXPECT_TRUE(p.x >= area.x && p.x <= area.x + area.width && p.y >= area.y && p.y <= area.y + area.height)
                << p.x << ' ' << p.y;
            EXPECT_NEAR(std::fmod(p.x + p.y, 8.0), 0.0, 1e-9);
        }
}

TEST(Shares, AreInOrderAndAddUpToTheWhole)
{
    const std::vector<Contribution> list{{"Q1", "contactors", 1e-9}, {"K1", "relay", 2.5e-9}, {"S0", "button", 0.5e-9}};
    const Figure linear = shares(list, false, {"h", "u", "none"}, 600, 200),
                 logarithmic = shares(list, true, {"h", "u", "none"}, 600, 200);
    ASSERT_EQ(linear.spots.size(), 3u);
    EXPECT_EQ(linear.spots[0].item, 1) << "the largest first";
    EXPECT_NE(linear.spots[0].words.find("63 %"), std::string::npos) << linear.spots[0].words; // 2.5 of 4.0 is 62.5 %
    const auto lengths = [](const Figure& f) {
        std::vector<double> all;
        for (const Shape& s : f.shapes)
            if (s.isFilled)
                all.push_back(s.points[1].x - s.points[0].x);
        return all;
    };
    const auto lines = lengths(linear), logs = lengths(logarithmic);
    EXPECT_NEAR(lines[1] / lines[0], 1.0 / 2.5, 1e-9);
    // Three powers of ten fill the bar: 1 + log10(1 / 2.5) / 3 = 0.86735.
    EXPECT_NEAR(logs[1] / logs[0], 1.0 + std::log10(1.0 / 2.5) / 3.0, 1e-9);
    EXPECT_TRUE(shares({}, false, {"h", "u", "none"}, 600, 200).spots.empty());
}

TEST(CategoryCurves, StandWhereTheTableSays)
{
    const std::vector<CategoryCurve> curves{{"1", {{30, 3.8e-6}, {100, 1.14e-6}}}};
    const Figure f = categoryCurves(curves, {{"Contactors", 100, 1.14e-6}}, 1e-6, {"h", "x", "y", "needs"}, 500, 400);
    const auto curve = std::find_if(f.shapes.begin(), f.shapes.end(),
        [](const Shape& s) { return !s.isClosed && s.stroke == Ink::Quiet && s.points.size() == 2; });
    ASSERT_NE(curve, f.shapes.end());
    ASSERT_EQ(f.spots.size(), 1u);
    EXPECT_TRUE(f.spots[0].area.contains(curve->points[1])) << "the point lies on its curve";
    EXPECT_LT(curve->points[1].y, curve->points[0].y) << "fewer failures are further up";
}

TEST(FigureSvg, EscapesAndCutsWhatIsTooLong)
{
    Figure f;
    f.width = 100;
    f.height = 50;
    f.label({0, 10}, "<script>\"&", LabelSize::Body);
    f.label({0, 20}, std::string(200, 'w'), LabelSize::Small, Ink::Ink, Align::Left, 60);
    f.spots.push_back({{0, 0, 10, 10}, 0, "a < b"});
    const std::string svg = figures::figureSvgFile(f, "A & B");
    EXPECT_EQ(svg.find("<script>"), std::string::npos);
    EXPECT_NE(svg.find("&lt;script&gt;"), std::string::npos);
    EXPECT_NE(svg.find("<title>a &lt; b</title>"), std::string::npos);
    EXPECT_EQ(svg.find(std::string(20, 'w')), std::string::npos);
    EXPECT_NE(svg.find("..."), std::string::npos);
    EXPECT_EQ(svg.rfind("<?xml", 0), 0u);
}

} // namespace
} // namespace ts::figures
