// docs/words.md is made from the table that Find anything reads, so that the two say the same.

#include "core/library/table.h"
#include "tests/support/golden.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <sstream>

namespace ts {
namespace {

TEST(WordsPage, IsMadeFromTheTable)
{
    std::ostringstream page;
    page << "# Words\n\nMade from `data/reference/words.csv`; *Find anything* (Ctrl+K) says them in the program, "
            "too.\n\n"
            "| word | the trade also says | meaning | source |\n|---|---|---|---|\n";
    const Table& t = wordsTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        page << '|';
        for (const char* column : {"word", "also", "meaning", "source"})
            page << ' ' << t.cell(row, column) << " |";
        page << '\n';
    }
    test::expectGolden("docs/words.md", page.str());
}

TEST(Words, AreInOrderAndEachHasAMeaning)
{
    const Table& t = wordsTable();
    ASSERT_GT(t.rowCount(), 40u);
    const auto lowered = [](std::string_view text) {
        std::string low(text);
        std::transform(low.begin(), low.end(), low.begin(), [](unsigned char c) { return std::tolower(c); });
        return low;
    };
    for (std::size_t row = 0; row < t.rowCount(); ++row) {
        EXPECT_FALSE(t.cell(row, "word").empty()) << row;
        EXPECT_FALSE(t.cell(row, "meaning").empty()) << t.cell(row, "word");
        if (row > 0) {
            EXPECT_LT(lowered(t.cell(row - 1, "word")), lowered(t.cell(row, "word")));
        }
    }
}

} // namespace
} // namespace ts
