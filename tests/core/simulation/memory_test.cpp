// Threads that remember together: the first one's value stays, what is full begins anew, and nothing is found that was
// not kept.

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

TEST(SharedMap, BeginsAnewWhenItIsFull)
{
    SharedMap<int> shared(3);
    for (std::uint64_t k = 0; k < 3; ++k)
        shared.keep({k}, static_cast<int>(k));
    EXPECT_EQ(shared.find({0}), 0);
    shared.keep({3}, 3);
    EXPECT_EQ(shared.find({0}), std::nullopt);
    EXPECT_EQ(shared.find({3}), 3);
}

TEST(OwnMap, FindsWhatOthersKeptAndKeepsItsOwnCopy)
{
    SharedMap<int> shared(3);
    OwnMap<int> mine, yours;
    EXPECT_EQ(mine.find({1}, shared), nullptr);
    EXPECT_EQ(yours.keep({1}, 4, shared), 4);
    ASSERT_NE(mine.find({1}, shared), nullptr);
    EXPECT_EQ(*mine.find({1}, shared), 4);
    for (std::uint64_t k = 10; k < 13; ++k)
        shared.keep({k}, 0); // the shared one has begun anew
    EXPECT_EQ(shared.find({1}), std::nullopt);
    EXPECT_NE(mine.find({1}, shared), nullptr);
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
                OwnMap<std::size_t> own;
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

} // namespace
} // namespace ts
