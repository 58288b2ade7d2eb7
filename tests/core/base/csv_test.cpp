// Lists as spreadsheets write them: what separates, what quotes hold, where an error stands, and nothing that runs.

#include "core/base/csv.h"

#include <gtest/gtest.h>

#include <random>

namespace ts {
namespace {

using Texts = std::vector<std::vector<std::string>>;

Texts textsOf(std::string_view text, char separator = ',')
{
    const auto rows = csvRows(text, separator);
    EXPECT_TRUE(rows) << text;
    Texts texts;
    for (const CsvRow& row : rows ? *rows : std::vector<CsvRow>{}) {
        texts.emplace_back();
        for (const CsvCell& cell : row.cells)
            texts.back().push_back(cell.text);
    }
    return texts;
}

TEST(CsvSeparator, IsWhateverStandsThereMost)
{
    EXPECT_EQ(csvSeparator("tag,kind,part\n"), ',');
    EXPECT_EQ(csvSeparator("tag;kind;part\n"), ';');
    EXPECT_EQ(csvSeparator("tag\tkind\tpart\n"), '\t');
    EXPECT_EQ(csvSeparator("tag\n"), ',') << "one column has none";
    EXPECT_EQ(csvSeparator(""), ',');
    EXPECT_EQ(csvSeparator("# a, b, c, d\n\ntag;kind\n"), ';') << "comments and empty lines do not vote";
    EXPECT_EQ(csvSeparator("\"a,b,c,d\";kind\n"), ';') << "nor does what stands in quotes";
}

TEST(CsvRows, AreCellsWithoutTheBlanksAround)
{
    EXPECT_EQ(textsOf("tag, kind ,\tpart\nQ1,contactor,\n"), (Texts{{"tag", "kind", "part"}, {"Q1", "contactor", ""}}));
    EXPECT_EQ(textsOf("a;b,c\n", ';'), (Texts{{"a", "b,c"}})) << "the other signs are text then";
    EXPECT_EQ(textsOf("a\tb\n", '\t'), (Texts{{"a", "b"}})) << "and a tabulator is no blank";
    EXPECT_EQ(textsOf("a,b"), (Texts{{"a", "b"}})) << "the last line may lack its end";
    EXPECT_EQ(textsOf("a,b\r\nc,d\r\n"), (Texts{{"a", "b"}, {"c", "d"}}));
}

TEST(CsvRows, LeaveOutCommentsAndEmptyLines)
{
    EXPECT_EQ(textsOf("# what this is\ntag\n\n,,\n# more\nQ1\n"), (Texts{{"tag"}, {"Q1"}}));
    EXPECT_TRUE(textsOf("").empty());
    EXPECT_TRUE(textsOf("\n\n# nothing\n").empty());
}

TEST(CsvRows, QuotesHoldSeparatorsLinesAndQuotes)
{
    EXPECT_EQ(textsOf("\"a,b\",c\n"), (Texts{{"a,b", "c"}}));
    EXPECT_EQ(textsOf("\"two\nlines\",x\n"), (Texts{{"two\nlines", "x"}}));
    EXPECT_EQ(textsOf("\"he said \"\"stop\"\"\"\n"), (Texts{{"he said \"stop\""}}));
    EXPECT_EQ(textsOf("\"# no comment\"\n"), (Texts{{"# no comment"}}));
}

TEST(CsvRows, SayWhereACellStands)
{
    const auto rows = csvRows("# comment\ntag,  kind\n\"a\nb\",c\nd,e\n");
    ASSERT_TRUE(rows);
    ASSERT_EQ(rows->size(), 3u);
    EXPECT_EQ((*rows)[0].line, 2);
    EXPECT_EQ((*rows)[0].cells[1].column, 7) << "of the first letter, not of the blank before it";
    EXPECT_EQ((*rows)[1].line, 3);
    EXPECT_EQ((*rows)[2].line, 5) << "the line end in quotes counts";
}

TEST(CsvRows, RefuseQuotesThatDoNotFit)
{
    for (const char* text : {"a,\"b\n", "\"a\"b,c\n", "\"\"\"\n"}) {
        const auto rows = csvRows(text);
        ASSERT_FALSE(rows) << text;
        EXPECT_EQ(rows.error().code, ErrorCode::Syntax) << text;
        EXPECT_GE(rows.error().place.line, 1) << text;
        EXPECT_GE(rows.error().place.column, 1) << text;
    }
}

/// What a spreadsheet would run when the list is opened comes out as text.
TEST(CsvCellText, IsNoFormula)
{
    for (const char* formula : {"=1+1", "+cmd", "@SUM(A1)", "-cmd"})
        EXPECT_EQ(csvCell(formula).find('\''), csvCell(formula).front() == '"' ? 1u : 0u) << csvCell(formula);
    for (const char* number : {"-5", "-3.2", "-1e-9", "12"})
        EXPECT_EQ(csvCell(number), number) << "a number may be negative";
    EXPECT_EQ(csvCell("Q1"), "Q1");
    EXPECT_EQ(csvCell("a,b"), "\"a,b\"");
    EXPECT_EQ(csvCell("say \"stop\""), "\"say \"\"stop\"\"\"");
}

/// Whatever text a cell holds, it is read back as it was written, up to the blanks around it.
TEST(CsvCellText, ReadsBackAsItWasWritten)
{
    std::mt19937 random(20261129);
    constexpr std::string_view kSigns = "aZ9 ,;\"\n#'.-=\t";
    for (int round = 0; round < 2000; ++round) {
        std::string text = "x"; // neither blank nor formula in front
        for (auto k = random() % 12; k > 0; --k)
            text += kSigns[random() % kSigns.size()];
        text += "y";
        EXPECT_EQ(textsOf(csvCell(text) + "," + csvCell("end") + "\n"), (Texts{{text, "end"}})) << text;
    }
}

} // namespace
} // namespace ts
