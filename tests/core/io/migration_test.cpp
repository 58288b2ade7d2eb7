// Older files load as what they meant: each step of the format with its sample.

#include "core/io/dossier_text.h"
#include "core/io/migration.h"
#include "core/library/table.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

TEST(Migration, ADraft1FileIsTheSameDossierAsItsDraft2)
{
    const auto old = io::loadDossier(test::sourcePath("tests/data/migration/draft_1.sentry"));
    const auto now = io::loadDossier(test::sourcePath("tests/data/pump_230v_ac.sentry"));
    ASSERT_TRUE(old) << old.error().message.id;
    ASSERT_TRUE(now) << now.error().message.id;
    EXPECT_EQ(*old, *now);
    EXPECT_NE(io::printDossier(*old).find("draft-2"), std::string::npos) << "it is written in the present format";
}

/// The element that a prose role of draft-1 becomes.
std::string elementOf(const std::string& role)
{
    const auto root = io::parseJson(
        R"({"format":"draft-1","dossier":{"functions":[{"claim":[{"channels":[{"parts":[{"role":")" + role
        + R"("}]}]}]}]}})");
    EXPECT_TRUE(root);
    io::JsonNode tree = *root;
    io::migrate1To2(tree);
    const io::JsonNode& part = tree.member("dossier")
                                   ->member("functions")
                                   ->items[0]
                                   .member("claim")
                                   ->items[0]
                                   .member("channels")
                                   ->items[0]
                                   .member("parts")
                                   ->items[0];
    EXPECT_EQ(part.member("role"), nullptr);
    return part.member("element")->text;
}

TEST(Migration, ProseBecomesAnElementOrTheWholeDevice)
{
    EXPECT_EQ(elementOf("contact block 11-12"), "11-12");
    EXPECT_EQ(elementOf("contact 21-22"), "21-22");
    EXPECT_EQ(elementOf("13-14"), "13-14");
    EXPECT_EQ(elementOf("main poles"), "main");
    EXPECT_EQ(elementOf("armature"), "armature");
    EXPECT_EQ(elementOf("contacts 11-12, 21-22"), "")
        << "two are no element: the whole device, so that no fault is left out";
    EXPECT_EQ(elementOf("the usual one"), "");
    EXPECT_EQ(elementOf(""), "");
}

TEST(Migration, WordsOfTablesBecomeTheirIds)
{
    EXPECT_EQ(io::typicalIdFrom("contactor|nominal"), "contactor.nominal_load");
    EXPECT_EQ(io::typicalIdFrom("contactor.nominal_load"), "contactor.nominal_load");
    EXPECT_EQ(io::typicalIdFrom("wishful|thinking"), "wishful|thinking") << "found fault with where it is read";
    for (const Table* table : {&dcMeasuresTable(), &typicalReliabilityTable()})
        for (std::size_t row = 0; row < table->rowCount(); ++row)
            EXPECT_EQ(rowOf(*table, table->cell(row, "id")), row) << "ids are unique";
}

} // namespace
} // namespace ts
