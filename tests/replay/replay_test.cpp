// Texts from outside that were once too much, and what a fuzzer learnt from them: every reader, and behind it the whole
// way, bears them and what lies near them. Hangs and hunger end the test: a budget of time and memory stands over it.

#include "fuzz/targets.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <random>
#include <sys/resource.h>
#include <unistd.h>

namespace ts::fuzz {
namespace {

constexpr unsigned kSecondsForOne = 40;
constexpr std::size_t kMostBytes = 3ull << 30;
constexpr int kNeighbours = 40; ///< of each text of the corpus

std::vector<std::filesystem::path> corpusOf(std::string_view target)
{
    std::vector<std::filesystem::path> files;
    for (const auto& entry :
        std::filesystem::directory_iterator(std::filesystem::path(TS_SOURCE_DIR) / "tests/corpus" / target))
        files.push_back(entry.path());
    std::sort(files.begin(), files.end());
    return files;
}

std::string textOf(const std::filesystem::path& path)
{
    std::ifstream file(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(file), {}};
}

/// One that is close to it: cut off, a piece twice or missing, a byte or a number another.
std::string neighbour(std::string text, std::mt19937& random)
{
    if (text.empty())
        return text;
    const auto place = [&] { return random() % text.size(); };
    switch (random() % 5) {
    case 0:
        return text.substr(0, place());
    case 1: {
        const std::size_t from = place(), length = random() % 200;
        return text.insert(place(), text.substr(from, length));
    }
    case 2:
        return text.erase(place(), random() % 100);
    case 3:
        text[place()] = static_cast<char>(random() % 256);
        return text;
    default:
        const std::size_t digit = text.find_first_of("0123456789", place());
        constexpr const char* kNumbers[] = {"-1", "1e308", "0", "99999999999", "1e-300", "0.5"};
        return digit == text.npos ? text : text.replace(digit, 1, kNumbers[random() % std::size(kNumbers)]);
    }
}

class Replay : public ::testing::TestWithParam<Target> {
protected:
    static void SetUpTestSuite()
    {
#if !defined(__SANITIZE_ADDRESS__)
        const rlimit memory{kMostBytes, kMostBytes};
        ASSERT_EQ(setrlimit(RLIMIT_AS, &memory), 0);
#endif
    }
    void TearDown() override
    {
        alarm(0);
    }
    static void bear(std::string_view text)
    {
        alarm(kSecondsForOne);
        GetParam().run(text);
    }
};

TEST_P(Replay, EveryTextOfTheCorpusAndWhatLiesNear)
{
    const auto files = corpusOf(GetParam().name);
    ASSERT_FALSE(files.empty());
    std::vector<std::string> texts;
    std::transform(files.begin(), files.end(), std::back_inserter(texts), textOf);
    if (GetParam().seed)
        texts.push_back(GetParam().seed());
    for (const std::string& text : texts) {
        bear(text);
        std::mt19937 random(static_cast<unsigned>(text.size()));
        for (int k = 0; k < kNeighbours; ++k)
            bear(neighbour(text, random));
    }
    bear("");
}

INSTANTIATE_TEST_SUITE_P(
    Readers, Replay, ::testing::ValuesIn(targets()), [](const auto& info) { return std::string(info.param.name); });

} // namespace
} // namespace ts::fuzz
