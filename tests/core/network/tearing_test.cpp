// Large networks are torn at their hubs: that must change how long it takes, and nothing else.

#include "core/network/solver.h"
#include "core/network/tearing.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

namespace ts::network {
namespace {

const MotorCircuit kPump{7.277, 10.28, 2411.0, 208.8, 14.68, 49.61, 12.11, 10.28};

/// Three lines, each reached by that many feeders of five nodes in a row.
std::vector<std::vector<int>> busWith(int feeders)
{
    std::vector<std::vector<int>> neighbours(static_cast<std::size_t>(4 + 5 * feeders));
    const auto join = [&](int a, int b) {
        neighbours[static_cast<std::size_t>(a)].push_back(b);
        neighbours[static_cast<std::size_t>(b)].push_back(a);
    };
    for (int f = 0; f < feeders; ++f)
        for (int k = 0; k < 5; ++k) {
            if (k < 3)
                join(1 + k, 4 + 5 * f + k);
            if (k > 0)
                join(4 + 5 * f + k - 1, 4 + 5 * f + k);
        }
    return neighbours;
}

std::vector<int> allOf(const std::vector<std::vector<int>>& neighbours)
{
    std::vector<int> nodes;
    for (std::size_t k = 1; k < neighbours.size(); ++k)
        nodes.push_back(static_cast<int>(k));
    return nodes;
}

TEST(Tearing, TakesTheLinesOfASupplyAsHubs)
{
    const auto neighbours = busWith(20);
    const Torn parts = torn(allOf(neighbours), neighbours);
    EXPECT_EQ(parts.hubs, (std::vector{1, 2, 3}));
    ASSERT_EQ(parts.groups.size(), 20u);
    EXPECT_EQ(parts.groups.front(), (std::vector{4, 5, 6, 7, 8}));
}

TEST(Tearing, LeavesWholeWhatIsSmallAndWhatNothingHoldsTogether)
{
    const auto small = busWith(2);
    EXPECT_EQ(torn(allOf(small), small).groups.size(), 1u);
    std::vector<std::vector<int>> chain(300);
    for (int k = 1; k + 1 < 300; ++k) {
        chain[static_cast<std::size_t>(k)].push_back(k + 1);
        chain[static_cast<std::size_t>(k) + 1].push_back(k);
    }
    const Torn parts = torn(allOf(chain), chain);
    EXPECT_TRUE(parts.hubs.empty());
    EXPECT_EQ(parts.groups.size(), 1u);
}

/// So many motors, each behind a cable, on one supply.
Network motorsOnOneSupply(int motors, Complex supplyOhm)
{
    Network n{.nodeCount = 4 + 3 * motors};
    for (int k = 0; k < 3; ++k)
        n.sources.push_back({1 + k, 0, std::polar(230.94, -2.0943951023931953 * k), supplyOhm});
    for (int m = 0; m < motors; ++m) {
        const int first = 4 + 3 * m;
        for (int k = 0; k < 3; ++k)
            n.impedances.push_back({1 + k, first + k, {0.8, 0.1}});
        n.motors.push_back({{first, first + 1, first + 2}, false, true, kPump});
    }
    return n;
}

Complex voltageAt(const Prepared& p, const Solution& s, int node)
{
    return s.voltage[static_cast<std::size_t>(p.superNode(node))];
}

TEST(Tearing, SoManyEqualMotorsSeeWhatOneSeesBehindSoManyTimesTheSupplysImpedance)
{
    for (int count : {2, 5, 6, 12, 40}) {
        const auto many = Prepared::make(motorsOnOneSupply(count, {0.05, 0.03}));
        const auto one = Prepared::make(motorsOnOneSupply(1, Complex(0.05, 0.03) * static_cast<double>(count)));
        ASSERT_TRUE(many && one);
        for (double slip : {1.0, 0.3, 0.02}) {
            Solution ofMany, ofOne;
            many->solve(std::vector(static_cast<std::size_t>(count), slip), ofMany);
            one->solve(std::vector{slip}, ofOne);
            for (int line = 0; line < 3; ++line)
                for (int first : {1, 4, 4 + 3 * (count - 1)}) // the supply, the first motor, the last one
                    EXPECT_LT(std::abs(voltageAt(*many, ofMany, first + line)
                                  - voltageAt(*one, ofOne, std::min(first, 4) + line)),
                        1e-9)
                        << count << " motors, node " << first + line << ", slip " << slip;
        }
    }
}

TEST(Tearing, TheViewFromTheMotorsThatMoveIsThatOfTheWhole)
{
    const int count = 25;
    const auto p = Prepared::make(motorsOnOneSupply(count, {0.05, 0.03}));
    ASSERT_TRUE(p);
    std::mt19937 random(5);
    for (int share : {1, 2, 5, 24}) { // of 25 that move, by chance
        std::vector<bool> moves(count);
        std::vector<double> slips(count);
        for (int m = 0; m < count; ++m) {
            moves[static_cast<std::size_t>(m)] = static_cast<int>(random() % 25) < share;
            slips[static_cast<std::size_t>(m)] = 0.01 * (1 + static_cast<double>(random() % 100));
        }
        const MotorView view = p->seenFrom(slips, moves);
        for (int change = 0; change < 3; ++change) { // one after the other: what is remembered must not be wrong
            for (std::size_t m = 0; m < count; ++m)
                if (moves[m] && m % 3 == static_cast<std::size_t>(change))
                    slips[m] *= 0.9;
            Solution whole, seen;
            p->solve(slips, whole);
            view.solve(slips, seen);
            for (int m = 0; m < count; ++m)
                for (int k = 0; k < 3; ++k)
                    if (moves[static_cast<std::size_t>(m)])
                        EXPECT_LT(
                            std::abs(voltageAt(*p, whole, 4 + 3 * m + k) - voltageAt(*p, seen, 4 + 3 * m + k)), 1e-9)
                            << share << " of 25 move, motor " << m;
        }
    }
}

TEST(Tearing, WhatFlowsIntoANodeOfALargeNetworkFlowsOutOfIt)
{
    // Rails with many branches, transformers between them, motors on them and behind cables: Kirchhoff's law at every
    // node knows nothing of how it was solved.
    for (unsigned seed : {1u, 2u, 3u, 4u}) {
        std::mt19937 random(seed);
        const int nodes = 160;
        Network n{.nodeCount = nodes};
        const auto node = [&] { return 1 + static_cast<int>(random() % (nodes - 1)); };
        const auto rail = [&] { return 1 + static_cast<int>(random() % 6); };
        for (int k = 0; k < 6; ++k)
            n.sources.push_back({1 + k, 0, std::polar(230.0, -2.0943951023931953 * k), {0.1, 0.05}});
        for (int k = 7; k < nodes; ++k)
            n.impedances.push_back({k, k % 3 == 0 ? k - 1 : rail(), {5.0 + static_cast<double>(random() % 90), 3.0}});
        for (int k = 0; k < 8; ++k)
            n.transformers.push_back({rail(), node(), node(), 0, 2.0, {0.5, 0.2}, {900.0, 2000.0}});
        for (int k = 0; k < 15; ++k)
            n.motors.push_back({{node(), node(), k % 2 == 0 ? rail() : node()}, false, true, kPump});
        const auto p = Prepared::make(n);
        ASSERT_TRUE(p);
        std::vector<double> slips;
        for (std::size_t m = 0; m < n.motors.size(); ++m)
            slips.push_back(0.02 + 0.06 * static_cast<double>(m));
        Solution s;
        p->solve(slips, s);
        ElementCurrents currents;
        elementCurrents(n, *p, s, slips, currents);
        std::vector<Complex> injection;
        nodeInjections(n, currents, injection);
        for (int k = 1; k < nodes; ++k)
            EXPECT_LT(std::abs(injection[static_cast<std::size_t>(k)]), 1e-8) << "seed " << seed << " node " << k;
    }
}

} // namespace
} // namespace ts::network
