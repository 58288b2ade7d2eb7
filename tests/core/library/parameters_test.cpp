// Parameters: device over part over default, and exact refusals. Tables: what can be read out of them.

#include "core/library/parameters.h"
#include "core/library/table.h"

#include <gtest/gtest.h>

#include <array>

namespace ts {
namespace {

using Type = ParameterSpec::Type;
constexpr std::array kSpecs{ParameterSpec{"current_a", Type::Number, 0.1, 100, {}, {}, {}, {}, true},
    ParameterSpec{"poles", Type::Number, 1, 4, 3, {}, {}, "assumed"},
    ParameterSpec{"class", Type::Word, 0, 0, {}, "10", "10 20 30", "assumed"},
    ParameterSpec{"names", Type::WordList, 0, 0, {}, "a b", {}, "assumed"},
    ParameterSpec{"sensitive", Type::Flag, 0, 0, {}, "yes", {}, "assumed"}};

std::string refusal(const ParameterMap& device, const ParameterMap* part = nullptr)
{
    const auto p = Parameters::resolve(kSpecs, part, device, "F1");
    if (p)
        return "taken";
    EXPECT_EQ(std::get<std::string>(p.error().message.arguments.front()), "F1") << "the device is named";
    return p.error().message.id;
}

TEST(Parameters, DeviceWinsOverPartOverDefault)
{
    const ParameterMap part{{"current_a", 5.0}, {"class", std::string("20")}};
    const auto p = Parameters::resolve(kSpecs, &part, {{"current_a", 7.0}}, "F1");
    ASSERT_TRUE(p);
    EXPECT_EQ(p->number("current_a"), 7.0);
    EXPECT_EQ(p->word("class"), "20");
    EXPECT_EQ(p->number("poles"), 3.0);
    EXPECT_EQ(p->words("names"), (std::vector<std::string>{"a", "b"}));
    EXPECT_TRUE(p->flag("sensitive"));
    EXPECT_TRUE(p->isWritten("current_a"));
    EXPECT_TRUE(p->isWritten("class")) << "written in the part is written";
    EXPECT_FALSE(p->isWritten("poles"));
}

TEST(Parameters, RefuseEachMistakeByName)
{
    EXPECT_EQ(refusal({}), "parameter.missing");
    EXPECT_EQ(refusal({{"current_a", 0.05}}), "parameter.outside");
    EXPECT_EQ(refusal({{"current_a", 0.1}}), "taken") << "the border is inside";
    EXPECT_EQ(refusal({{"current_a", 100.0}}), "taken");
    EXPECT_EQ(refusal({{"current_a", 100.1}}), "parameter.outside");
    EXPECT_EQ(refusal({{"current_a", std::string("five")}}), "parameter.not_a_number");
    EXPECT_EQ(refusal({{"current_a", 5.0}, {"class", 10.0}}), "parameter.not_a_word");
    EXPECT_EQ(refusal({{"current_a", 5.0}, {"class", std::string("15")}}), "parameter.unknown_word");
    EXPECT_EQ(refusal({{"current_a", 5.0}, {"names", std::string("a")}}), "parameter.not_a_list");
    EXPECT_EQ(refusal({{"current_a", 5.0}, {"sensitive", std::string("yes")}}), "parameter.not_a_flag");
    EXPECT_EQ(refusal({{"current_a", 5.0}, {"colour", std::string("red")}}), "parameter.unknown");
    const ParameterMap part{{"shape", 1.0}};
    EXPECT_EQ(refusal({{"current_a", 5.0}}, &part), "parameter.unknown") << "in the part, too";
}

TEST(Table, ReadsHeaderCommentsAndShortRows)
{
    const Table t = Table::fromCsv("# a comment\na,b,c\n1,2,3\nx,,\n4\n");
    ASSERT_EQ(t.rowCount(), 3u);
    EXPECT_EQ(t.columns(), (std::vector<std::string>{"a", "b", "c"}));
    EXPECT_EQ(t.number(0, "c"), 3.0);
    EXPECT_EQ(t.number(1, "a"), std::nullopt);
    EXPECT_EQ(t.cell(2, "c"), "") << "a short row is filled";
    EXPECT_EQ(t.cell(0, "no such column"), "");
}

TEST(NumberFrom, TakesWholeFiniteNumbersOnly)
{
    EXPECT_EQ(numberFrom("1.5e-3"), 0.0015);
    for (const char* bad : {"", "1,5", "1.5 ", "nan", "inf", "1e999", "0x10", "--1"})
        EXPECT_FALSE(numberFrom(bad)) << bad;
}

TEST(ReferenceTables, AreThereWithTheirColumns)
{
    EXPECT_GT(pfhdTable().rowCount(), 40u);
    EXPECT_GT(dcMeasuresTable().rowCount(), 20u);
    EXPECT_EQ(ccfMeasuresTable().rowCount(), 8u);
    double points = 0;
    for (std::size_t r = 0; r < ccfMeasuresTable().rowCount(); ++r)
        points += *ccfMeasuresTable().number(r, "points");
    EXPECT_EQ(points, 100.0) << "annex F adds up to 100";
    for (std::size_t r = 0; r < dcMeasuresTable().rowCount(); ++r) {
        EXPECT_LE(*dcMeasuresTable().number(r, "dc_min"), *dcMeasuresTable().number(r, "dc_max"));
        EXPECT_LE(*dcMeasuresTable().number(r, "dc_max"), 0.99) << "never above 99 %";
    }
    for (std::size_t r = 1; r < pfhdTable().rowCount(); ++r)
        EXPECT_GT(*pfhdTable().number(r, "mttfd_y"), *pfhdTable().number(r - 1, "mttfd_y"));
}

} // namespace
} // namespace ts
