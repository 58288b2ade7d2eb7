// In which order paths stand: ranks, and what dragging one does to them.

#include "core/diagram/control_layout.h"
#include "core/diagram/path_block.h"

#include <gtest/gtest.h>

namespace ts::diagram {
namespace {

TEST(OrderByRank, SortsRankedOnesAndLeavesTheOthersBehindWhatTheyFollow)
{
    using Order = std::vector<std::size_t>;
    EXPECT_EQ(orderByRank({0, 0, 0}), (Order{0, 1, 2}));
    EXPECT_EQ(orderByRank({300, 100, 200}), (Order{1, 2, 0}));
    EXPECT_EQ(orderByRank({300, 0, 100}), (Order{2, 0, 1})) << "the second stays behind the first";
    EXPECT_EQ(orderByRank({0, 200, 100}), (Order{0, 2, 1})) << "what comes before every rank stays in front";
    EXPECT_TRUE(orderByRank({}).empty());
}

/// Paths 1 | 2 3 | 4: the second and third hang together. Leads are devices 10, 20, 30, 40.
std::vector<DrawnPath> fourPaths()
{
    std::vector<DrawnPath> paths;
    for (int n = 1; n <= 4; ++n)
        paths.push_back({n, {10 * n}, n != 3, {100.0 * n, 0}, {100.0 * n, 300}});
    return paths;
}

std::vector<int> moved(int number, int before)
{
    std::vector<int> leads;
    for (DeviceId id : orderWithPathMoved(fourPaths(), number, before))
        leads.push_back(id.value);
    return leads;
}

TEST(OrderWithPathMoved, APathByItself)
{
    EXPECT_EQ(moved(4, 1), (std::vector{40, 10, 20, 30}));
    EXPECT_EQ(moved(1, 5), (std::vector{20, 30, 40, 10}));
    EXPECT_EQ(moved(1, 1), (std::vector{10, 20, 30, 40})) << "nothing moves";
}

TEST(OrderWithPathMoved, WhatHangsTogetherMovesTogether)
{
    EXPECT_EQ(moved(2, 1), (std::vector{20, 30, 10, 40}));
    EXPECT_EQ(moved(3, 5), (std::vector{10, 40, 20, 30})) << "dragged by its second path";
    EXPECT_EQ(moved(4, 3), (std::vector{10, 40, 20, 30})) << "nothing gets between the two";
}

TEST(OrderWithPathMoved, WithinABlockTheBranchMoves)
{
    auto paths = fourPaths();
    paths[3].isFirstOfGroup = false; // 1 | 2 3 4
    std::vector<int> leads;
    for (DeviceId id : orderWithPathMoved(paths, 4, 3))
        leads.push_back(id.value);
    EXPECT_EQ(leads, (std::vector{10, 20, 40, 30}));
    EXPECT_TRUE(orderWithPathMoved({}, 1, 2).empty());
}

TEST(PathFrame, LongTagsTakeWholeStepsOfRoom)
{
    const PathFrame three = PathFrame::of(School::CurrentPaths, 3), four = PathFrame::of(School::CurrentPaths, 4),
                    five = PathFrame::of(School::CurrentPaths, 5);
    EXPECT_EQ(PathFrame::of(School::CurrentPaths, 1).column, three.column) << "short tags change nothing";
    EXPECT_EQ(four.column - three.column, 24);
    EXPECT_EQ(five.column, four.column) << "one step holds for several letters";
    const PathFrame ladder = PathFrame::of(School::Ladder, 3);
    EXPECT_EQ(ladder.at(10, 200), (Point{200, 10}));
    EXPECT_EQ(three.at(10, 200), (Point{10, 200}));
    EXPECT_EQ(ladder.alongOf({200, 10}), 200);
    EXPECT_EQ(ladder.acrossOf({200, 10}), 10);
    EXPECT_EQ(three.footRoom(4), 4 * three.footLine);
    EXPECT_EQ(ladder.footRoom(3), ladder.footRoom(1)) << "three lines beside a rung";
}

} // namespace
} // namespace ts::diagram
