// What is said of a number in one place holds in all of them: table, schemas, both readers.

#include "core/io/dossier_text.h"
#include "core/io/fields.h"
#include "core/io/lists.h"
#include "core/library/fields.h"
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
    }
}

/// Of a list in the schema, what it says of one field.
template <class Record> void expectField(const Json& record, const Field<Record>& f)
{
    ASSERT_TRUE(record["properties"].contains(f.name)) << f.name;
    const Json& said = record["properties"][std::string(f.name)];
    const auto& required = record["required"];
    EXPECT_EQ(std::find(required.begin(), required.end(), f.name) != required.end(), f.isRequired) << f.name;
    if (std::holds_alternative<std::string Record::*>(f.value) && !f.words.empty()) {
        Json words = Json::array({""});
        for (const std::string_view word : fields::wordsIn(f.words))
            words.push_back(std::string(word));
        EXPECT_EQ(said["enum"], words) << f.name;
    } else if (!std::holds_alternative<std::string Record::*>(f.value)) {
        EXPECT_EQ(said["minimum"].get<double>(), f.low) << f.name;
        EXPECT_EQ(said["maximum"].get<double>(), f.high) << f.name;
        EXPECT_EQ(said["type"] == "integer", std::holds_alternative<int Record::*>(f.value)) << f.name;
    }
}

TEST(Fields, TheSchemaSaysWhatTheTablesSay)
{
    const Json schema = Json::parse(*io::systemFiles().read(test::sourcePath("docs/formats/dossier.schema.json")));
    std::vector<Json> wires, routes;
    properties(schema, "wires", wires);
    properties(schema, "routes", routes);
    ASSERT_EQ(wires.size(), 1u);
    ASSERT_EQ(routes.size(), 1u);
    for (const auto& f : kWireFields)
        expectField(wires[0]["items"], f);
    for (const auto& f : kRouteFields)
        expectField(routes[0]["items"], f);
}

/// A value of each field that is not the default.
template <class Record> std::string otherValue(const Field<Record>& f)
{
    if (!f.words.empty())
        return std::string(fields::wordsIn(f.words).back());
    return std::holds_alternative<std::string Record::*>(f.value) ? "brown" : shortestText(f.high);
}

/// Each field by itself through the file and through the lists and back; what was not said is not written.
TEST(Fields, OfWiresAndRoutesComeBack)
{
    const DossierFile demo = test::demoFile();
    const std::string plain = io::printDossier(demo);
    const auto expectBack = [&](const DossierFile& changed, std::string_view name, bool isWritten) {
        const std::string text = io::printDossier(changed);
        EXPECT_EQ(text.find(name) != text.npos, isWritten) << name;
        EXPECT_EQ(plain.find("\"" + std::string(name) + "\"") == plain.npos || text != plain, true) << name;
        const auto back = io::parseDossier(text);
        ASSERT_TRUE(back) << name << " " << back.error().message.id;
        EXPECT_EQ(back->dossier.circuit, changed.dossier.circuit) << name;
        const Circuit& c = changed.dossier.circuit;
        const std::string wires = io::wireListCsv(c);
        const auto listed = io::circuitFromLists({io::deviceListCsv(c)}, {wires}, c.parts);
        ASSERT_TRUE(listed.value) << name;
        EXPECT_EQ(io::wireListCsv(listed.value->dossier.circuit), wires) << name;
    };
    for (const auto& f : kWireFields) {
        DossierFile changed = demo;
        ASSERT_TRUE(fields::take(f, otherValue(f), changed.dossier.circuit.wires.front())) << f.name;
        expectBack(changed, f.name, true);
    }
    for (const auto& f : kRouteFields) {
        DossierFile changed = demo;
        ASSERT_TRUE(fields::take(f, otherValue(f), changed.dossier.circuit.routes.front())) << f.name;
        expectBack(changed, f.name, true);
    }
    EXPECT_EQ(plain.find("insulation"), plain.npos);
    EXPECT_EQ(plain.find("\"cores\""), plain.npos);
}

TEST(Fields, AGaugeInAList)
{
    const std::string devices = "tag,kind,parameters\nG1,supply_external_24v,\nS1,push_button,contacts=13-14\n";
    const auto read = [&](const std::string& cells) {
        return io::circuitFromLists({devices},
            {"from,to,area_mm2,length_m,route,insulation,route_method,route_cores\nG1:+,S1:13," + cells + "\n"}, {});
    };
    const auto good = read("16 AWG,2,W1,xlpe_90,e,4");
    ASSERT_TRUE(good.value);
    EXPECT_NEAR(good.value->dossier.circuit.wires.front().areaMm2, 1.309, 0.001);
    EXPECT_EQ(good.value->dossier.circuit.routes.front().method, "e");
    EXPECT_EQ(good.value->dossier.circuit.routes.front().cores, 4);
    for (const char* cells : {"16 XWG,2,W1,,,", "1,2,W1,paper,,", "1,2,W1,,x,", "1,2,W1,,,61", "1,2,W1,,,1.5"})
        EXPECT_EQ(read(cells).errors.size(), 1u) << cells;
}

TEST(Fields, EachReadingIsAValueWithTheWordsOfTheSchema)
{
    const Json schema = Json::parse(*io::systemFiles().read(test::sourcePath("docs/formats/dossier.schema.json")));
    for (const ReadingField& f : kReadings) {
        std::vector<Json> found;
        properties(schema, f.name, found);
        EXPECT_EQ(std::count_if(found.begin(), found.end(),
                      [&f](const Json& p) { return p.contains("enum") && p["enum"] == Json(f.words); }),
            1)
            << f.name;
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
