// What is said of a number in one place holds in all of them: table, schemas, both readers.

#include "core/io/dossier_text.h"
#include "core/io/fields.h"
#include "core/io/lists.h"
#include "core/library/table.h"
#include "tests/support/circuits.h"

#include <nlohmann/json.hpp>

#include <random>

namespace ts {
namespace {

using Json = nlohmann::json;

/// Every object below with this key as a property.
void properties(const Json& j, const std::string& key, std::vector<Json>& found)
{
    if (j.is_object())
        if (const auto own = j.find("properties"); own != j.end() && own->contains(key))
            found.push_back((*own)[key]);
    if (j.is_structured())
        for (const Json& item : j)
            properties(item, key, found);
}

TEST(Fields, SchemasHaveTheSameRanges)
{
    for (const char* schema : {"docs/formats/dossier.schema.json", "docs/formats/parts.schema.json"}) {
        const Json json = Json::parse(*io::systemFiles().read(test::sourcePath(schema)));
        const auto expectRange = [&](const char* name, double low, double high) {
            std::vector<Json> found;
            properties(json, name, found);
            for (const Json& p : found) {
                EXPECT_EQ(p["minimum"].get<double>(), low) << schema << " " << name;
                EXPECT_EQ(p["maximum"].get<double>(), high) << schema << " " << name;
            }
            return found.size();
        };
        for (const auto& f : io::kReliabilityNumbers)
            EXPECT_GT(expectRange(f.name, f.low, f.high), 0u) << schema << " " << f.name;
        for (const auto& f : io::kWireNumbers)
            expectRange(f.name, f.low, f.high);
    }
}

TEST(Fields, EachReadingIsAValueWithTheWordsOfTheSchema)
{
    const Json schema = Json::parse(*io::systemFiles().read(test::sourcePath("docs/formats/dossier.schema.json")));
    for (const ReadingField& f : kReadings) {
        std::vector<Json> found;
        properties(schema, f.name, found);
        ASSERT_EQ(found.size(), 1u) << f.name;
        EXPECT_EQ(found[0]["enum"], Json(f.words)) << f.name;
        DossierFile file = test::demoFile();
        f.set(file.dossier.arithmetic, 1);
        EXPECT_EQ(f.get(file.dossier.arithmetic), 1) << f.name;
        EXPECT_NE(file.dossier.arithmetic, ArithmeticChoice{}) << f.name;
        const auto back = io::parseDossier(io::printDossier(file));
        ASSERT_TRUE(back) << f.name;
        EXPECT_EQ(back->dossier, file.dossier) << f.name;
    }
}

/// Property: what import accepts, loading accepts. Cells of chance, many of them at or beyond a limit.
TEST(Fields, WhatImportAcceptsLoadingAccepts)
{
    std::mt19937 random(20261129);
    const auto any = [&random](std::initializer_list<const char*> words) {
        return std::string(*(words.begin() + static_cast<std::ptrdiff_t>(random() % words.size())));
    };
    int accepted = 0, refused = 0;
    for (int k = 0; k < 400; ++k) {
        const std::string label = random() % 40 == 0 ? std::string(2500, 'x') : any({"", "start", "\"a, b\""});
        const std::string devices = "tag,kind,label,parameters\nG1,supply_external_24v,,\n"
            + any({"S1", "S1", "S1", "wire", "a b", "S:1", ""}) + ",push_button," + label + ",contacts=13-14\n";
        const std::string wires = "from,to,number,area_mm2,length_m,route,route_kind\nG1:+,S1:13," + any({"", "1", "x"})
            + "," + any({"", "1", "0.05", "0.049", "1000", "1e9", "nan"}) + ","
            + any({"", "0", "0.01", "10000", "20000", "-1", "1e-300"}) + "," + any({"", "W1"}) + ","
            + any({"", "cable", "string"}) + "\n";
        const auto list = io::circuitFromLists({devices}, {wires}, {});
        list.value ? ++accepted : ++refused;
        if (list.value)
            EXPECT_TRUE(io::parseDossier(io::printDossier(*list.value))) << devices << wires;
        else
            EXPECT_FALSE(list.errors.empty());
    }
    EXPECT_GT(accepted, 20);
    EXPECT_GT(refused, 20);
}

TEST(Fields, NothingIsWrittenThatCouldNotBeRead)
{
    DossierFile file = test::demoFile();
    const std::string path = testing::TempDir() + "/unreadable.sentry";
    ASSERT_TRUE(io::saveDossier(path, file));
    const std::string before = *io::systemFiles().read(path);
    file.dossier.circuit.wires.front().lengthM = 20000;
    const auto saved = io::saveDossier(path, file);
    ASSERT_FALSE(saved);
    EXPECT_EQ(saved.error().message.id, "file.would_not_read");
    EXPECT_NE(saved.error().place.pointer.find("/length_m"), std::string::npos) << "and where";
    EXPECT_EQ(*io::systemFiles().read(path), before) << "the old file is as it was";
}

TEST(Fields, WordsOfListsAreCheckedAsInTheFile)
{
    const std::string head = "id,name,kind,pfhd_per_hour,performance_level,category\n";
    const std::string good = head + "p1,x,safety_relay,1e-9,e,4\n";
    EXPECT_TRUE(io::partsFromCsv({good}).value);
    for (const char* line : {"p1,x,safety_relay,1e-9,z,4\n", "p1,x,safety_relay,1e-9,e,5\n"}) {
        const std::string text = head + line;
        const auto parts = io::partsFromCsv({text});
        ASSERT_FALSE(parts.value) << line;
        EXPECT_EQ(parts.errors.front().message.id, "file.unknown_word");
        EXPECT_EQ(parts.errors.front().place.line, 2);
    }
}

} // namespace
} // namespace ts
