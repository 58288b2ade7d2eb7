// What is kept is found again, what is damaged is not, and there is an end to how much is kept.

#include "core/keeping/result_store.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

namespace ts::io {
namespace {

namespace fs = std::filesystem;

class Store : public ::testing::Test {
protected:
    std::string folder = (fs::path(::testing::TempDir()) / "tall_sentry_store"
        / ::testing::UnitTest::GetInstance()->current_test_info()->name())
                             .string();
    void SetUp() override { fs::remove_all(folder); }
    void TearDown() override { fs::remove_all(folder); }
    std::size_t count() const
    {
        return static_cast<std::size_t>(std::distance(fs::directory_iterator(folder), fs::directory_iterator{}));
    }
};

TEST(ContentHash, IsBlake2b)
{
    // RFC 7693's function with 32 bytes of output, of the empty text.
    EXPECT_EQ(contentHash(""), "0e5751c026e543b2e8ab2eb06099daa1d1e5df47778f7787faab45cdf12fe3a8");
    EXPECT_NE(contentHash("a"), contentHash("b"));
}

TEST_F(Store, FindsWhatItKept)
{
    const ResultStore store(folder);
    EXPECT_FALSE(store.find("k"));
    store.keep("k", "two\nlines");
    EXPECT_EQ(store.find("k"), "two\nlines");
    store.keep("k", "newer");
    EXPECT_EQ(ResultStore(folder).find("k"), "newer");
}

TEST_F(Store, PassesOverWhatIsDamaged)
{
    const ResultStore store(folder);
    store.keep("k", "a result of some length");
    const fs::path file = *fs::directory_iterator(folder);
    std::ifstream in(file);
    std::string text((std::istreambuf_iterator<char>(in)), {});
    for (std::size_t cut : {std::size_t{0}, std::size_t{10}, std::size_t{65}, text.size() - 1}) {
        std::ofstream(file, std::ios::trunc) << text.substr(0, cut);
        EXPECT_FALSE(store.find("k")) << cut;
    }
    std::string flipped = text;
    flipped[text.size() - 3] ^= 1;
    std::ofstream(file, std::ios::trunc) << flipped;
    EXPECT_FALSE(store.find("k"));
}

TEST_F(Store, ForgetsTheLongestUnused)
{
    const ResultStore store(folder, 3);
    for (const char* key : {"a", "b", "c"})
        store.keep(key, key);
    const auto now = fs::file_time_type::clock::now();
    for (const auto& [key, hours] : {std::pair{"a", 3}, {"b", 2}, {"c", 1}})
        fs::last_write_time(folder + "/" + key + ".result", now - std::chrono::hours(hours));
    EXPECT_TRUE(store.find("a")); // used: now the newest
    store.keep("d", "d");
    EXPECT_EQ(count(), 3u);
    EXPECT_FALSE(store.find("b"));
    EXPECT_TRUE(store.find("a"));
}

TEST_F(Store, WithoutAFolderKeepsNothingAndWithAnImpossibleOneSaysNothing)
{
    ResultStore("").keep("k", "x");
    EXPECT_FALSE(ResultStore("").find("k"));
    const ResultStore impossible("/proc/no/such/folder");
    impossible.keep("k", "x");
    EXPECT_FALSE(impossible.find("k"));
}

} // namespace
} // namespace ts::io
