#include "core/network/motor_circuit.h"
#include "core/network/solver.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>
#include <random>

namespace ts::network {
namespace {

const MotorCircuit kMotor{7.277, 10.28, 2411.0, 208.8, 14.68, 49.61, 12.11, 10.28};

Solution solved(const Network& n, std::vector<double> slips = {})
{
    const auto p = Prepared::make(n);
    EXPECT_TRUE(p);
    Solution s;
    p->solve(slips, s);
    return s;
}

TEST(Solver, DividesTheVoltageOfTwoResistors)
{
    Network n{.nodeCount = 3};
    n.sources = {{1, 0, 24.0, 1.0}};
    n.impedances = {{1, 2, 7.0}, {2, 0, 4.0}};
    const Solution s = solved(n);
    EXPECT_NEAR(s.voltage[2].real(), 8.0, 1e-12); // by hand: 24 V * 4 / (1 + 7 + 4)
}

TEST(Solver, ASupplyInCurrentLimitGivesItsCurrentIntoTheLoad)
{
    Network n{.nodeCount = 2};
    n.currentSources = {{1, 0, 3.25}};
    n.impedances = {{1, 0, 0.5}};
    EXPECT_NEAR(solved(n).voltage[1].real(), 1.625, 1e-12); // by hand: 3.25 A * 0.5 ohm
}

TEST(Solver, OneOpenLineGivesTheClosedFormOfUnbalance)
{
    // With one line open the currents force V2/V1 = -Z2/Z1 (symmetrical components).
    Network n{.nodeCount = 7};
    const Complex a = std::polar(1.0, -2.0943951023931953);
    n.sources = {{1, 0, 230.94, {0.03, 0.02}}, {2, 0, 230.94 * a, {0.03, 0.02}}, {3, 0, 230.94 * a * a, {0.03, 0.02}}};
    n.links = {{1, 4, false}, {2, 5, true}, {3, 6, true}};
    n.motors = {{{4, 5, 6}, false, true, kMotor}};
    const double slip = 0.05;
    const auto p = Prepared::make(n);
    ASSERT_TRUE(p);
    Solution s;
    p->solve(std::vector{slip}, s);
    const auto v = [&](int node) { return s.voltage[static_cast<std::size_t>(p->superNode(node))]; };
    const Sequences q = sequencesOf(v(4), v(5), v(6));
    const Complex expected = -sequenceImpedance(kMotor, 2.0 - slip) / sequenceImpedance(kMotor, slip);
    EXPECT_NEAR(std::abs(q.negative / q.positive - expected), 0.0, 1e-6);
}

TEST(Solver, RefusesASourceWithoutImpedance)
{
    Network n{.nodeCount = 2};
    n.sources = {{1, 0, 24.0, 0.0}};
    const auto p = Prepared::make(n);
    ASSERT_FALSE(p);
    EXPECT_EQ(p.error().code, ErrorCode::OutOfRange);
}

TEST(Solver, RefusesANodeThatDoesNotExist)
{
    Network n{.nodeCount = 2};
    n.impedances = {{1, 5, 10.0}};
    EXPECT_FALSE(Prepared::make(n));
}

/// A random connected circuit with a few sources; used for the properties below.
Network randomNetwork(unsigned seed, int nodes)
{
    std::mt19937 rng(seed);
    std::uniform_real_distribution<double> ohm(0.5, 500.0);
    Network n{.nodeCount = nodes};
    n.sources = {{1, 0, {230.0, 5.0}, {0.4, 0.2}}, {nodes - 1, 0, {24.0, 0.0}, {0.1, 0.0}}};
    for (int i = 1; i < nodes; ++i)
        n.impedances.push_back({i, static_cast<int>(rng() % static_cast<unsigned>(i)), Complex(ohm(rng), ohm(rng))});
    for (int i = 0; i < nodes / 2; ++i)
        n.links.push_back({static_cast<int>(rng() % static_cast<unsigned>(nodes)),
            static_cast<int>(rng() % static_cast<unsigned>(nodes)), rng() % 3 == 0});
    return n;
}

TEST(Solver, CurrentsAtEveryNodeAddUpToZero)
{
    for (unsigned seed = 1; seed <= 40; ++seed) {
        const Network n = randomNetwork(seed, 24);
        const auto p = Prepared::make(n);
        ASSERT_TRUE(p) << "seed " << seed;
        Solution s;
        p->solve({}, s);
        ElementCurrents c;
        elementCurrents(n, *p, s, {}, c);
        const auto links = linkCurrents(n, *p, s, c);
        std::vector<Complex> sum(24);
        const auto add = [&](int a, int b, Complex i) {
            sum[static_cast<std::size_t>(a)] += i;
            sum[static_cast<std::size_t>(b)] -= i;
        };
        for (std::size_t i = 0; i < n.sources.size(); ++i)
            add(n.sources[i].p, n.sources[i].q, c.sources[i]);
        for (std::size_t i = 0; i < n.impedances.size(); ++i)
            add(n.impedances[i].p, n.impedances[i].q, c.impedances[i]);
        for (std::size_t i = 0; i < n.links.size(); ++i)
            add(n.links[i].p, n.links[i].q, links[i]);
        for (std::size_t node = 0; node < sum.size(); ++node)
            EXPECT_LT(std::abs(sum[node]), 1e-8) << "seed " << seed << " node " << node;
    }
}

TEST(Solver, DoublingEverySourceDoublesEveryVoltage)
{
    Network n = randomNetwork(7, 20);
    const Solution once = solved(n);
    for (Source& e : n.sources)
        e.emf *= 2.0;
    const Solution twice = solved(n);
    for (std::size_t i = 0; i < once.voltage.size(); ++i)
        EXPECT_LT(std::abs(twice.voltage[i] - 2.0 * once.voltage[i]), 1e-9);
}

TEST(Solver, KeepingTheMotorOutsideTheFactorsChangesNothing)
{
    // The same motor as three branch impedances between its terminals is only possible balanced: compare
    // the prepared network at a second slip with one prepared afresh.
    Network n{.nodeCount = 5};
    n.sources = {{1, 0, 230.0, {0.3, 0.2}}, {2, 0, {-115.0, -199.0}, {0.3, 0.2}}, {3, 0, {-115.0, 199.0}, {0.3, 0.2}}};
    n.impedances = {{1, 4, 20.0}, {4, 0, 400.0}};
    n.motors = {{{4, 2, 3}, false, true, kMotor}};
    const auto p = Prepared::make(n);
    ASSERT_TRUE(p);
    Solution first, again;
    p->solve(std::vector{1.0}, first);
    p->solve(std::vector{0.03}, again);
    const Solution fresh = solved(n, {0.03});
    for (std::size_t i = 0; i < fresh.voltage.size(); ++i)
        EXPECT_LT(std::abs(again.voltage[i] - fresh.voltage[i]), 1e-9);
    EXPECT_GT(std::abs(first.voltage[4] - fresh.voltage[4]), 1.0) << "the slip must matter";
}

TEST(MotorView, GivesTheTerminalsTheVoltagesOfTheWholeNetwork)
{
    // Three motors behind cables on one supply, one of them with six open ends; each mixture of moving and held ones.
    Network n{.nodeCount = 16};
    const Complex a = std::polar(1.0, -2.0943951023931953);
    n.sources = {{1, 0, 230.94, {0.3, 0.2}}, {2, 0, 230.94 * a, {0.3, 0.2}}, {3, 0, 230.94 * a * a, {0.3, 0.2}}};
    for (int k = 0; k < 3; ++k)
        for (int motor = 0; motor < 3; ++motor)
            n.impedances.push_back({1 + k, 4 + 3 * motor + k, 0.5 + 0.2 * motor});
    n.impedances.push_back({13, 14, 2.0});
    n.motors = {{{4, 5, 6}, false, true, kMotor}, {{7, 8, 9}, false, true, kMotor},
        {{10, 11, 12, 13, 14, 15}, true, true, kMotor}};
    const auto p = Prepared::make(n);
    ASSERT_TRUE(p);
    for (int mixture = 1; mixture < 8; ++mixture) {
        const std::vector<bool> moves{(mixture & 1) != 0, (mixture & 2) != 0, (mixture & 4) != 0};
        std::vector<double> slips{0.9, 0.02, 0.4};
        const MotorView view = p->seenFrom(slips, moves);
        for (std::size_t m = 0; m < 3; ++m)
            if (moves[m])
                slips[m] -= 0.015;
        EXPECT_TRUE(view.isOf(slips, moves));
        Solution whole, seen;
        p->solve(slips, whole);
        view.solve(slips, seen);
        for (std::size_t m = 0; m < 3; ++m)
            for (int node : n.motors[m].terminals)
                if (moves[m] && node > 0)
                    EXPECT_LT(std::abs(whole.voltage[static_cast<std::size_t>(p->superNode(node))]
                                  - seen.voltage[static_cast<std::size_t>(p->superNode(node))]),
                        1e-9)
                        << "mixture " << mixture << " node " << node;
    }
}

TEST(MotorView, IsOfNoOtherSpeedOfAHeldMotor)
{
    Network n{.nodeCount = 7};
    n.sources = {{1, 0, 230.0, 0.3}, {2, 0, -115.0, 0.3}, {3, 0, -115.0, 0.3}};
    n.impedances = {{1, 4, 1.0}, {2, 5, 1.0}, {3, 6, 1.0}};
    n.motors = {{{4, 5, 6}, false, true, kMotor}, {{1, 2, 3}, false, true, kMotor}};
    const auto p = Prepared::make(n);
    ASSERT_TRUE(p);
    const MotorView view = p->seenFrom(std::vector{0.5, 0.1}, {true, false});
    EXPECT_TRUE(view.isOf(std::vector{0.4, 0.1}, {true, false}));
    EXPECT_FALSE(view.isOf(std::vector{0.4, 0.2}, {true, false}));
    EXPECT_FALSE(view.isOf(std::vector{0.4, 0.1}, {true, true}));
}

TEST(MotorView, HasOneContentForWhatSolvesAlikeAndAnotherForWhatDoesNot)
{
    const auto made = [](double lineOhm, bool withLamp, double heldSlip) {
        Network n{.nodeCount = 9};
        n.sources = {{1, 0, 230.0, 0.3}, {2, 0, -115.0, 0.3}, {3, 0, -115.0, 0.3}, {7, 0, 24.0, 0.1}};
        n.impedances = {{1, 4, lineOhm}, {2, 5, 1.0}, {3, 6, 1.0}};
        if (withLamp)
            n.impedances.push_back({7, 8, 100.0}); // an island of its own
        n.motors = {{{4, 5, 6}, false, true, kMotor}, {{1, 2, 3}, false, true, kMotor}};
        return Prepared::make(n)->seenFrom(std::vector{0.5, heldSlip}, {true, false}).content();
    };
    EXPECT_EQ(made(1.0, false, 0.1), made(1.0, true, 0.1));
    EXPECT_NE(made(1.0, false, 0.1), made(1.1, false, 0.1));
    EXPECT_NE(made(1.0, false, 0.1), made(1.0, false, 0.2));
}

TEST(Solver, ChainsOfEveryLengthDivideEvenly)
{
    // n equal resistors behind a source without drop of note: node k stands at (n - k) / n of the voltage.
    // Small islands are factored dense, large ones sparse: both must give the same.
    for (int n : {3, 19, 20, 21, 22, 80, 400}) {
        Network chain{.nodeCount = n + 2};
        chain.sources = {{1, 0, 240.0, 1e-9}};
        for (int k = 1; k < n; ++k)
            chain.impedances.push_back({k, k + 1, 10.0});
        chain.impedances.push_back({n, 0, 10.0});
        const Solution s = solved(chain);
        for (int k = 1; k <= n; ++k)
            EXPECT_NEAR(s.voltage[static_cast<std::size_t>(k)].real(), 240.0 * (n - k + 1) / n, 1e-6)
                << n << " node " << k;
    }
}

TEST(LinkCurrents, RunThroughALongRowOfContacts)
{
    // 300 closed contacts in a row feed 100 ohm at the far end and 100 ohm half way: 50 ohm behind 0.5 ohm, 101 V.
    Network n{.nodeCount = 303};
    n.sources = {{1, 0, 101.0, 0.5}};
    for (int k = 1; k <= 300; ++k)
        n.links.push_back({k, k + 1, true});
    n.impedances = {{301, 0, 100.0}, {150, 0, 100.0}};
    const auto p = Prepared::make(n);
    ASSERT_TRUE(p);
    Solution s;
    p->solve({}, s);
    ElementCurrents elements;
    elementCurrents(n, *p, s, {}, elements);
    const auto currents = linkCurrents(n, *p, s, elements);
    EXPECT_NEAR(currents[0].real(), 2.0, 1e-9);
    EXPECT_NEAR(currents[148].real(), 2.0, 1e-9);
    EXPECT_NEAR(currents[149].real(), 1.0, 1e-9);
    EXPECT_NEAR(currents[299].real(), 1.0, 1e-9);
}

TEST(LinkCurrents, AreTheSameBySumsInAnyMeshOfLinks)
{
    // Links over which all current must go, links beside each other and rings, mixed by chance: two sources and six
    // loads at chance nodes.
    std::mt19937 random(3);
    int alone = 0, shared = 0; // links that carry all, or a part
    for (int mesh = 0; mesh < 100; ++mesh) {
        Network n{.nodeCount = 14};
        const auto node = [&] { return static_cast<int>(random() % 14); };
        for (int k = 0; k < 16; ++k)
            n.links.push_back({node(), node(), random() % 5 != 0});
        for (int k = 0; k < 2; ++k)
            n.sources.push_back({node(), node(), Complex(24.0 + k, 0.0), 0.5});
        for (int k = 0; k < 6; ++k)
            n.impedances.push_back({node(), node(), Complex(10.0 + k, 3.0)});
        const auto p = Prepared::make(n);
        ASSERT_TRUE(p);
        Solution s;
        p->solve({}, s);
        ElementCurrents elements;
        elementCurrents(n, *p, s, {}, elements);
        const auto currents = linkCurrents(n, *p, s, elements);
        std::vector<int> all(n.links.size());
        std::iota(all.begin(), all.end(), 0);
        RowMemory memory;
        const auto rows = linkCurrentRows(n.links, p->superNodes(), all, memory);
        for (std::size_t l = 0; l < rows.size(); ++l) {
            EXPECT_LT(std::abs(valueOf(CurrentSums(n, *p).of(rows[l]), s, {}) - currents[l]), 1e-6)
                << "mesh " << mesh << " link " << l;
            if (!rows[l].empty())
                ++(std::all_of(
                       rows[l].begin(), rows[l].end(), [](const auto& part) { return std::abs(part.second) == 1.0; })
                        ? alone
                        : shared);
        }
    }
    EXPECT_GT(alone, 100);
    EXPECT_GT(shared, 100);
}

TEST(CurrentSums, GiveWhatTheWholeReckoningGives)
{
    // A supply, a motor behind a contactor and a control transformer: every closed link by its sum and by Kirchhoff's
    // law over all elements.
    Network n{.nodeCount = 12};
    const double line = 400.0 / std::sqrt(3.0);
    for (int k = 0; k < 3; ++k)
        n.sources.push_back({1 + k, 0, std::polar(line, -2.0 * std::numbers::pi / 3.0 * k), Complex(0.05, 0.02)});
    for (int k = 0; k < 3; ++k)
        n.links.push_back({1 + k, 4 + k, true});
    n.links.push_back({1, 7, true});
    n.links.push_back({1, 7, true}); // two wires side by side share
    n.links.push_back({2, 8, true});
    n.links.push_back({9, 10, true});
    n.links.push_back({10, 11, false});
    Motor motor;
    motor.terminals = {4, 5, 6};
    motor.circuit = {1.1, 1.5, 900.0, 40.0, 1.0, 1.2, 3.0, 0.4};
    n.motors.push_back(motor);
    n.transformers.push_back({7, 8, 9, 0, 400.0 / 230.0, Complex(2.0, 1.0), Complex(800.0, 4000.0)});
    n.impedances = {{10, 0, Complex(300.0, 900.0)}, {4, 5, 1e4}};
    n.currentSources = {{10, 0, Complex(0.01, 0.0)}};
    const auto p = Prepared::make(n);
    ASSERT_TRUE(p);
    RowMemory memory;
    std::vector<int> all(n.links.size());
    std::iota(all.begin(), all.end(), 0);
    const auto rows = linkCurrentRows(n.links, p->superNodes(), all, memory);
    for (double slip : {1.0, 0.4, 0.02}) {
        const std::vector<double> slips{slip};
        Solution s;
        p->solve(slips, s);
        ElementCurrents elements;
        elementCurrents(n, *p, s, slips, elements);
        const auto links = linkCurrents(n, *p, s, elements);
        const MotorCurrents motors = motorCurrents(n, *p, s, slips);
        for (std::size_t l = 0; l < links.size(); ++l)
            EXPECT_LT(std::abs(valueOf(CurrentSums(n, *p).of(rows[l]), s, motors) - links[l]), 1e-9)
                << "slip " << slip << " link " << l;
        EXPECT_GT(std::abs(links[0]), 1.0) << "the motor draws current";
        EXPECT_NEAR(std::abs(links[3]), std::abs(links[4]), 1e-12);
        EXPECT_LT(std::abs(valueOf(sumOf(n.impedances[0], *p), s, motors) - elements.impedances[0]), 1e-12);
    }
    EXPECT_TRUE(linkCurrentRows(n.links, p->superNodes(), std::vector<int>{-1}, memory).front().empty());
}

} // namespace
} // namespace ts::network
