// What of a network its sources reach decides about its content, and nothing else; and equal content is equal voltages,
// to the bit.

#include "core/network/driven.h"
#include "core/network/solver.h"

#include <gtest/gtest.h>

#include <map>
#include <random>

namespace ts::network {
namespace {

using Words = std::vector<std::uint64_t>;

Words contentOf(const Network& n, std::vector<int> seen = {})
{
    Words words;
    decisiveContent(n, seen, words);
    return words;
}

/// A lamp at 24 V, and behind a contact another one.
Network twoLamps(bool isClosed)
{
    Network n{.nodeCount = 4};
    n.sources = {{1, 0, 24.0, 0.1}};
    n.links = {{1, 2, isClosed}};
    n.impedances = {{1, 0, 100.0}, {2, 0, 200.0}, {3, 2, 50.0}};
    return n;
}

TEST(Driven, WhatHangsBehindAnOpenContactMayBeAnything)
{
    const Words open = contentOf(twoLamps(false));
    Network other = twoLamps(false);
    other.impedances[1].impedance = 7.0;
    EXPECT_EQ(contentOf(other), open);
    other.links.push_back({2, 3, true});
    EXPECT_EQ(contentOf(other), open) << "joined with one another";
    other.links.push_back({3, 0, true});
    EXPECT_NE(contentOf(other), open) << "what is at the reference is no more among those at zero by themselves";
    EXPECT_NE(contentOf(twoLamps(true)), open);
    other = twoLamps(false);
    other.impedances[0].impedance = 99.0;
    EXPECT_NE(contentOf(other), open) << "the fed lamp";
}

TEST(Driven, BehindAClosedContactEverythingCounts)
{
    const Words closed = contentOf(twoLamps(true));
    Network other = twoLamps(true);
    other.impedances[2].impedance = 51.0;
    EXPECT_NE(contentOf(other), closed) << "also what no current flows through";
    other = twoLamps(true);
    other.links.push_back({3, 0, true});
    EXPECT_NE(contentOf(other), closed);
}

TEST(Driven, ASourceOfZeroVoltsIsALoad)
{
    Network lost = twoLamps(true);
    lost.sources[0].emf = 0.0;
    const Words words = contentOf(lost);
    lost.impedances[0].impedance = 1.0;
    EXPECT_EQ(contentOf(lost), words) << "nothing is fed";
    lost.currentSources = {{3, 2, 1.0}};
    EXPECT_NE(contentOf(lost), words);
    EXPECT_NE(contentOf(lost), contentOf([&] {
        Network more = lost;
        more.currentSources[0].current = 2.0;
        return more;
    }()));
}

TEST(Driven, AShortedSourceCarriesItsCurrentThoughEveryNodeIsAtZero)
{
    Network n = twoLamps(false);
    n.links.push_back({1, 0, true});
    const Words words = contentOf(n);
    n.sources[0].impedance = 0.2;
    EXPECT_NE(contentOf(n), words) << "its current is another one";
    n.sources[0].impedance = 0.1;
    n.impedances[0].impedance = 5.0;
    EXPECT_EQ(contentOf(n), words) << "a lamp between the reference and itself";
}

TEST(Driven, WhereSomebodyLooksCountsToo)
{
    Network n = twoLamps(false);
    const Words words = contentOf(n, {3});
    EXPECT_NE(words, contentOf(n));
    n.impedances[2].impedance = 51.0;
    EXPECT_NE(contentOf(n, {3}), words);
    EXPECT_EQ(contentOf(n, {1}), contentOf(n)) << "a fed one did anyway";
}

TEST(Driven, BothSidesOfATransformerAreOneIsland)
{
    Network n{.nodeCount = 5};
    n.sources = {{1, 0, 400.0, 0.1}};
    n.transformers = {{1, 0, 2, 3, 400.0 / 24.0, {0.5, 0.2}, {4000.0, 9000.0}}};
    n.impedances = {{2, 3, 10.0}, {4, 0, 1.0}};
    const Words words = contentOf(n);
    n.impedances[1].impedance = 2.0;
    EXPECT_EQ(contentOf(n), words);
    n.impedances[0].impedance = 11.0;
    EXPECT_NE(contentOf(n), words) << "its load";
}

/// Few nodes and many contacts: much of it is fed by nothing, and much is equal.
Network randomNetwork(std::mt19937& random)
{
    constexpr int kNodes = 9;
    Network n{.nodeCount = kNodes};
    n.sources = {{1, 0, random() % 3 == 0 ? 0.0 : 24.0, 0.5}};
    for (int k = 0; k < 8; ++k)
        n.links.push_back(
            {static_cast<int>(random() % kNodes), static_cast<int>(random() % kNodes), random() % 2 == 0});
    for (int node = 2; node + 1 < kNodes; node += 2)
        n.impedances.push_back({node, node + 1, 10.0 * (1 + static_cast<int>(random() % 2))});
    const int motor = random() % 2 == 0 ? 2 : 5;
    n.motors = {
        {{motor, motor + 1, motor + 2}, false, true, {7.277, 10.28, 2411.0, 208.8, 14.68, 49.61, 12.11, 10.28}}};
    return n;
}

/// By node; those that do not count read zero.
std::vector<Complex> voltagesOf(const Network& n)
{
    const auto prepared = Prepared::make(n);
    EXPECT_TRUE(prepared);
    Solution solution;
    prepared->solve(std::vector<double>(n.motors.size(), 0.04), solution);
    std::vector<Complex> byNode;
    for (int node = 0; node < n.nodeCount; ++node)
        byNode.push_back(solution.voltage[static_cast<std::size_t>(prepared->superNode(node))]);
    return byNode;
}

TEST(Driven, EqualContentIsEqualVoltagesToTheBit)
{
    std::mt19937 random(11);
    for (const int motor : {2, 5}) { // two networks that are compared have the same motors
        std::map<Words, std::vector<Complex>> known;
        std::size_t again = 0, made = 0;
        while (made < 6000) {
            const Network n = randomNetwork(random);
            if (n.motors[0].terminals[0] != motor)
                continue;
            ++made;
            const auto voltages = voltagesOf(n);
            const auto [place, isNew] = known.emplace(contentOf(n), voltages);
            again += !isNew;
            ASSERT_EQ(place->second, voltages);
        }
        EXPECT_GT(again, 1000u) << "or nothing was compared";
        EXPECT_GT(known.size(), 200u) << "or all are one";
    }
}

TEST(Driven, WhatDoesNotCountIsAtZeroAndNothingElseIsLeftOut)
{
    std::mt19937 random(12);
    for (int k = 0; k < 2000; ++k) {
        const Network n = randomNetwork(random);
        Words words;
        const std::vector<bool> counts = decisiveContent(n, {}, words);
        const auto voltages = voltagesOf(n);
        for (std::size_t node = 0; node < counts.size(); ++node)
            if (!counts[node])
                ASSERT_EQ(voltages[node], Complex{}) << k << ' ' << node;
    }
}

} // namespace
} // namespace ts::network
