// Threads that remember together: the first one's value stays, what is full forgets its oldest half, and nothing is
// found that was not kept.

#include "core/simulation/electrics.h"
#include "tests/support/circuits.h"

#include <thread>

namespace ts {
namespace {

TEST(SharedMap, TheFirstValueStays)
{
    SharedMap<int> shared(10);
    EXPECT_EQ(shared.find({1, 2}), std::nullopt);
    EXPECT_EQ(shared.keep({1, 2}, 5), 5);
    EXPECT_EQ(shared.keep({1, 2}, 7), 5) << "another thread was first";
    EXPECT_EQ(shared.find({1, 2}), 5);
    EXPECT_EQ(shared.find({2, 1}), std::nullopt) << "the order of the words counts";
    EXPECT_EQ(shared.find({1, 2, 0}), std::nullopt);
}

TEST(SharedMap, ForgetsTheOldestHalfWhenItIsFull)
{
    SharedMap<int> shared(4);
    for (std::uint64_t k = 0; k < 4; ++k)
        shared.keep({k}, static_cast<int>(k));
    for (std::uint64_t k = 0; k < 4; ++k)
        EXPECT_EQ(shared.find({k}), static_cast<int>(k));
    shared.keep({4}, 4);
    EXPECT_EQ(shared.find({0}), std::nullopt);
    EXPECT_EQ(shared.find({1}), std::nullopt);
    EXPECT_EQ(shared.find({2}), 2);
    EXPECT_EQ(shared.find({4}), 4);
}

TEST(OwnMap, FindsWhatOthersKeptAndKeepsItsOwnCopy)
{
    SharedMap<int> shared(4);
    OwnMap<int> mine(shared), yours(shared);
    EXPECT_EQ(mine.find({1}, shared), nullptr);
    EXPECT_EQ(yours.keep({1}, 4, shared), 4);
    ASSERT_NE(mine.find({1}, shared), nullptr);
    EXPECT_EQ(*mine.find({1}, shared), 4);
    for (std::uint64_t k = 10; k < 14; ++k)
        shared.keep({k}, 0);
    EXPECT_EQ(shared.find({1}), std::nullopt);
    EXPECT_NE(mine.find({1}, shared), nullptr);
}

TEST(OwnMap, WhatIsAskedForAgainAndAgainStays)
{
    SharedMap<int> shared(8);
    OwnMap<int> mine(shared);
    mine.keep({1000}, 1, shared);
    for (std::uint64_t k = 0; k < 100; ++k) {
        mine.keep({k}, 0, shared);
        ASSERT_NE(mine.find({1000}, shared), nullptr) << k;
    }
    EXPECT_EQ(shared.find({1000}), std::nullopt) << "nobody asked the shared one";
    EXPECT_EQ(mine.find({50}, shared), nullptr);
}

TEST(SharedMap, ManyThreadsAgree)
{
    SharedMap<std::size_t> shared(100000);
    constexpr std::size_t kThreads = 4, kKeys = 500;
    std::vector<std::vector<std::size_t>> seen(kThreads, std::vector<std::size_t>(kKeys));
    {
        std::vector<std::jthread> threads;
        for (std::size_t t = 0; t < kThreads; ++t)
            threads.emplace_back([&, t] {
                OwnMap<std::size_t> own(shared);
                for (std::size_t k = 0; k < kKeys; ++k)
                    seen[t][k] = own.keep({k}, t, shared);
            });
    }
    for (std::size_t t = 1; t < kThreads; ++t)
        EXPECT_EQ(seen[t], seen[0]) << "whoever was first, all go on with the same";
}

TEST(CircuitMemory, WorkspacesThatShareItRunAlike)
{
    // Two threads run the demo at the same time, over and over, in one memory; a third one alone says what is right.
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    const Scenario& scenario = file.dossier.scenarios[0];
    Workspace alone;
    const ScenarioRun right = *runScenario(plant, scenario, {}, 0.0, alone);
    const auto memory = std::make_shared<CircuitMemory>();
    std::array<std::vector<ScenarioRun>, 2> runs;
    {
        std::vector<std::jthread> threads;
        for (auto& mine : runs)
            threads.emplace_back([&] {
                Workspace workspace(memory);
                for (int k = 0; k < 3; ++k)
                    mine.push_back(*runScenario(plant, scenario, {}, 0.0, workspace));
            });
    }
    for (const auto& mine : runs)
        for (const ScenarioRun& run : mine) {
            EXPECT_EQ(run.trace, right.trace);
            EXPECT_EQ(run.end, right.end);
        }
    EXPECT_GT(memory->lastNumber, 0u) << "motors have run up";
}

TEST(CircuitMemory, WhatIsForgottenAndMadeAgainIsReadByItsOwnNodes)
{
    // Hardly a circuit is kept, but all that was solved: shorts where nothing is fed make it again in another form.
    const DossierFile file = test::demoFile();
    const Plant plant = *compile(file.dossier.circuit);
    const auto memory = std::make_shared<CircuitMemory>();
    memory->alternating.made.limit(2);
    Workspace small(memory);
    for (const char* text : {"Q1:2+Q1:4:short", "Q1:4+Q1:6:short", "Q1:2+Q1:6:short", "Q1:2+Q1:4:short"}) {
        const auto fault = faultFrom(plant, text);
        ASSERT_TRUE(fault) << text;
        for (const Scenario& scenario : file.dossier.scenarios) {
            Workspace fresh;
            const std::vector<Fault> faults{fault->fault};
            const ScenarioRun right = *runScenario(plant, scenario, faults, 0.0, fresh);
            const ScenarioRun run = *runScenario(plant, scenario, faults, 0.0, small);
            EXPECT_EQ(run.trace, right.trace) << text;
            EXPECT_EQ(run.end, right.end) << text;
        }
    }
}

} // namespace
} // namespace ts
