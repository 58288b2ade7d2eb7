// How much an answer says: by hand.

#include "core/finding/finder.h"
#include "core/finding/outcomes.h"

#include <gtest/gtest.h>

#include <cmath>

namespace ts::finding {
namespace {

using measuring::bandOf;
using measuring::kEndless;
using measuring::Reading;

double bits(const std::vector<Reading>& readings, const std::vector<double>& weights)
{
    return bitsOf(cellsOf(readings, weights), weights);
}
Reading word(const char* w)
{
    return {0, 0, w};
}

TEST(ExpectedBits, OfEqualCandidatesByHand)
{
    const Reading closed{0, 1, {}}, coil{50, 70, {}}, open{1e6, kEndless, {}};
    EXPECT_DOUBLE_EQ(bits({closed, open}, {0.5, 0.5}), 1.0);
    EXPECT_DOUBLE_EQ(bits({closed, coil, open, open}, {0.25, 0.25, 0.25, 0.25}), 1.5);
    EXPECT_DOUBLE_EQ(bits({closed, closed}, {0.5, 0.5}), 0.0);
    EXPECT_NEAR(bits({closed, open}, {0.9, 0.1}), -0.9 * std::log2(0.9) - 0.1 * std::log2(0.1), 1e-12);
    EXPECT_DOUBLE_EQ(bits({word("Q1 in"), word("Q1 out")}, {0.5, 0.5}), 1.0);
}

TEST(ExpectedBits, OverlapIsOneAnswer)
{
    EXPECT_DOUBLE_EQ(bits({{50, 70, {}}, {60, 90, {}}}, {0.5, 0.5}), 0.0);
    EXPECT_DOUBLE_EQ(bits({{50, 70, {}}, {65, 80, {}}, {75, 90, {}}}, {0.3, 0.3, 0.4}), 0.0) << "a chain";
}

TEST(ExpectedBits, WhatMayReadAnythingSaysNothing)
{
    const Reading closed{0, 1, {}}, open{1e6, kEndless, {}}, anything{20, kEndless, {}};
    EXPECT_DOUBLE_EQ(bits({anything, anything}, {0.5, 0.5}), 0.0);
    EXPECT_DOUBLE_EQ(bits({closed, anything}, {0.5, 0.5}), 1.0) << "it is no short";
    EXPECT_DOUBLE_EQ(bits({open, anything}, {0.5, 0.5}), 0.0);
    // Of closed, open and what is no short: the last one is open, if it is not closed.
    EXPECT_NEAR(bits({closed, open, anything}, {0.5, 0.25, 0.25}), 1.0, 1e-12);
}

TEST(Likelihood, IsWithinOneBandOutsideAndFarAway)
{
    const double e = bandOf("misread").low;
    const Reading predicted{10, 20, {}};
    EXPECT_DOUBLE_EQ(likelihood(predicted, {12, 12, {}}), 1 - e);
    EXPECT_DOUBLE_EQ(likelihood(predicted, {20, 20, {}}), 1 - e);
    EXPECT_DOUBLE_EQ(likelihood(predicted, {25, 25, {}}), 0.5) << "half a band outside";
    EXPECT_NEAR(likelihood(predicted, {30, 30, {}}), e, 1e-12);
    EXPECT_NEAR(likelihood(predicted, {1e6, kEndless, {}}), e, 1e-12) << "never zero";
    EXPECT_NEAR(likelihood({1e6, kEndless, {}}, {1, 1, {}}), e, 1e-12);
    EXPECT_DOUBLE_EQ(likelihood({0, 0, "lit"}, {0, 0, "lit"}), 1 - e);
    EXPECT_DOUBLE_EQ(likelihood({0, 0, "lit"}, {0, 0, "dark"}), e);
}

} // namespace
} // namespace ts::finding
