// Device, wire and parts lists: round trips, and errors that name line and column.

#include "core/io/lists.h"

#include "core/base/csv.h"
#include "core/io/dossier_text.h"
#include "core/library/table.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

const std::string kDevices =
    "tag,kind,label,parameters\n"
    "G1,supply_external_24v,,\n"
    "S1,push_button,\"start, by hand\",contacts=13-14; colour=green\n"
    "# a comment\n"
    "Q1,contactor,,coil_voltage_v=24; coil_current=dc; auxiliary_contacts=13-14 21-22; mirror_contacts=true\n";
const std::string kWires = "from,to,number,area_mm2,length_m,route,route_kind\n"
                           "G1:+,S1:13,1,1,3,door,enclosure\n"
                           "S1:14,Q1:A1,,0.75,12,W1,cable\n"
                           "Q1:A2,G1:-,9,,,,\n";

TEST(Lists, ATypedInPanelRuns)
{
    const auto list = io::circuitFromLists({kDevices}, {kWires}, {});
    ASSERT_TRUE(list.value) << list.errors.front().message.id;
    EXPECT_TRUE(list.remarks.empty());
    const Circuit& c = list.value->dossier.circuit;
    EXPECT_EQ(c.device("S1")->label, "start, by hand");
    EXPECT_EQ(c.wires[1].number, "2") << "a net without a number gets the next one";
    EXPECT_DOUBLE_EQ(c.wires[1].areaMm2, 0.75);
    EXPECT_EQ(c.route(c.wires[1].route)->kind, RouteKind::Cable);
    test::Bench b(*compile(c));
    b.to(0.1).act("S1", "press").to(0.5);
    EXPECT_TRUE(b.is("Q1", "in"));
}

TEST(Lists, ComeBackFromWhatWasWritten)
{
    for (const std::vector<std::string>& with :
        {std::vector<std::string>{"base=reversing", "brake=yes", "stop=two_channel_relay"}, {"base=drive"},
            {"monitor=two_transformers"}}) {
        const auto file = patterns::machine(*patterns::MachinePlan::from(with));
        ASSERT_TRUE(file);
        const Circuit& c = file->dossier.circuit;
        const std::string devices = io::deviceListCsv(c), wires = io::wireListCsv(c);
        const auto list = io::circuitFromLists({devices}, {wires}, c.parts);
        ASSERT_TRUE(list.value) << list.errors.front().message.id << list.errors.front().place.line;
        const auto& again = list.value;
        EXPECT_EQ(io::deviceListCsv(again->dossier.circuit), io::deviceListCsv(c));
        EXPECT_EQ(io::wireListCsv(again->dossier.circuit), io::wireListCsv(c));
        EXPECT_EQ(again->dossier.circuit.interlocks.size(), c.interlocks.size());
        EXPECT_EQ(again->dossier.circuit.shafts.size(), c.shafts.size());
    }
}

struct Wrong {
    const char *devices, *wires, *id;
    int line, column;
};

TEST(Lists, ErrorsNameLineAndColumn)
{
    const char* good = kDevices.c_str();
    for (const Wrong& w :
        {Wrong{"", "from,to\n", "list.empty", 1, 1}, {"tag\nQ1\n", "from,to\n", "list.missing_column", 1, 1},
            {"tag,kind,lable\n", "from,to\n", "list.unknown_column", 1, 10},
            {"tag,kind,tag\n", "from,to\n", "list.column_twice", 1, 10},
            {"tag,kind\nQ1,teapot\n", "from,to\n", "kind.unknown", 2, 4},
            {"tag,kind\nP1,lamp,x\n", "from,to\n", "list.too_many_cells", 2, 9},
            {"tag,kind,parameters\nP1,lamp,rated_voltage_v=warm\n", "from,to\n", "parameter.not_a_number", 2, 9},
            {"tag,kind,parameters\nP1,lamp,rated_voltage_v=nan\n", "from,to\n", "parameter.not_a_number", 2, 9},
            {"tag,kind,parameters\nP1,lamp,warm\n", "from,to\n", "parameter.no_equals", 2, 9},
            {"tag,kind,parameters\nP1,lamp,voltage=24\n", "from,to\n", "parameter.unknown", 2, 9},
            {"tag,kind,parameters\nP1,lamp,\n", "from,to\n", "parameter.missing", 2, 9},
            {"tag,kind\nG1,supply_external_24v\nG1,supply_external_24v\n", "from,to\n", "file.duplicate_tag", 3, 1},
            {"tag,kind\nG:1,supply_external_24v\n", "from,to\n", "file.bad_tag", 2, 1},
            {"tag,kind,place\nG1,supply_external_24v,roof\n", "from,to\n", "file.unknown_word", 2, 24},
            {"tag,kind,part\nG1,supply_external_24v,LK-1\n", "from,to\n", "part.unknown", 2, 24},
            {"tag,kind,on_shaft_of\nG1,supply_external_24v,M1\n", "from,to\n", "scenario.no_device", 2, 24},
            {good, "from,to\nG1:+,S1:99\n", "edit.no_terminal", 2, 6},
            {good, "from,to\nG9:+,S1:13\n", "edit.no_terminal", 2, 1},
            {good, "from,to\nG1:+,G1:+\n", "edit.wire_to_itself", 2, 1},
            {good, "from,to,length_m\nG1:+,S1:13,-1\n", "file.outside", 2, 12},
            {good, "from,to,area_mm2\nG1:+,S1:13,thin\n", "list.not_a_number", 2, 12},
            {good, "from,to,route,route_kind\nG1:+,S1:13,W1,pipe\n", "file.unknown_word", 2, 15},
            {good, "from,to\n\"G1:+,S1:13\n", "csv.open_quote", 2, 1},
            {good, "from,to\n\"G1:+\"x,S1:13\n", "csv.text_after_quote", 2, 7}}) {
        const auto file = io::circuitFromLists({w.devices}, {w.wires}, {});
        ASSERT_FALSE(file.value) << w.id;
        ASSERT_FALSE(file.errors.empty()) << w.id;
        const Error& error = file.errors.front();
        EXPECT_EQ(error.message.id, w.id);
        EXPECT_EQ(error.place.line, w.line) << w.id;
        EXPECT_EQ(error.place.column, w.column) << w.id;
    }
}

TEST(Lists, EverythingThatIsWrongIsToldAtOnceAndOnce)
{
    const auto list = io::circuitFromLists(
        {"tag,kind,parameters\nG1,supply_external_24v,\nP1,lamp,rated_voltage_v=warm\nQ1,teapot,\n", "devices.csv"},
        {"from,to,length_m,area_mm2\nG1:+,P1:X1,20000,thin\nP1:X2,Q1:A1,1,1\nG1:+,G1:9,1,1\n", "wires.csv"}, {});
    ASSERT_FALSE(list.value);
    ASSERT_EQ(list.errors.size(), 3u) << "wires to what could not be made are no second error";
    EXPECT_EQ(list.errors[0].message.id, "parameter.not_a_number");
    EXPECT_EQ(list.errors[1].message.id, "kind.unknown");
    EXPECT_EQ(list.errors[2].message.id, "edit.no_terminal");
    EXPECT_EQ(list.errors[0].place.file, "devices.csv");
    EXPECT_EQ(list.errors[2].place.file, "wires.csv");
    EXPECT_EQ(list.errors[2].place.line, 4);
    const auto wires = io::circuitFromLists({kDevices}, {"from,to,length_m,area_mm2\nG1:+,S1:13,20000,thin\n"}, {});
    EXPECT_EQ(wires.errors.size(), 2u) << "both cells of one line";
}

/// What a spreadsheet of a country with decimal commas writes, with blanks, empty lines and remarks.
TEST(Lists, SemicolonsDecimalCommasBlanksAndRemarksAreReadAndSaid)
{
    const auto list = io::circuitFromLists(
        {"tag; kind; parameters; remark\r\n\r\n ;;;\r\nG1; supply_external_24v;; old one\r\n"
         "P1; lamp; \"rated_voltage_v=24,5\"; ;\r\n"},
        {"from\tto\tlength_m\tarea_mm2\n\nG1:+ \t P1:X1\t2,5\t\"0,75\"\n"}, {});
    for (const Error& error : list.errors)
        ADD_FAILURE() << error.message.id << " " << error.place.line << ":" << error.place.column;
    ASSERT_TRUE(list.value);
    const Wire& wire = list.value->dossier.circuit.wires.front();
    EXPECT_DOUBLE_EQ(wire.lengthM, 2.5);
    EXPECT_DOUBLE_EQ(wire.areaMm2, 0.75);
    std::vector<std::string> said;
    for (const io::ListRemark& remark : list.remarks)
        said.push_back(remark.message.id);
    EXPECT_EQ(said,
        (std::vector<std::string>{"list.semicolons", "list.decimal_commas", "list.tabulators", "list.decimal_commas"}));
    EXPECT_EQ(list.value->dossier.circuit.device("G1")->remark, "old one");
}

/// As other people name and order them: what is one of ours is read, what is not is kept with each line.
TEST(Lists, ColumnsOfOtherPeopleAreReadOrKeptAsRemarks)
{
    const auto list = io::circuitFromLists(
        {"Designation,Type,Purpose,Values,Supplier,Shelf,Note\nG1,supply_external_24v,control,,Harrow and Sons,3,\n"
         "P1,lamp,,rated_voltage_v=24,,,dim\n"},
        {"Wire No.,Source,Target,Cross section (mm2),Length (m),Color,Laid by,Length (mm)\n"
         "17,G1:+,P1:X1,0.75,2.5,brown,night shift,2500\n"},
        {});
    for (const Error& error : list.errors)
        ADD_FAILURE() << error.message.id << " " << error.place.line << ":" << error.place.column;
    ASSERT_TRUE(list.value);
    const Circuit& c = list.value->dossier.circuit;
    EXPECT_EQ(c.device("G1")->label, "control");
    EXPECT_EQ(c.device("G1")->remark, "Supplier: Harrow and Sons; Shelf: 3");
    EXPECT_EQ(c.device("P1")->remark, "dim");
    const Wire& w = c.wires.front();
    EXPECT_EQ(w.number, "17");
    EXPECT_DOUBLE_EQ(w.areaMm2, 0.75);
    EXPECT_DOUBLE_EQ(w.lengthM, 2.5) << "not 2500: millimetres are not what is read";
    EXPECT_EQ(w.colour, "brown");
    EXPECT_EQ(w.remark, "Laid by: night shift; Length (mm): 2500");
    const auto said = [&](const char* id) {
        return std::count_if(
            list.remarks.begin(), list.remarks.end(), [id](const io::ListRemark& r) { return r.message.id == id; });
    };
    EXPECT_EQ(said("list.read_as"), 10);
    EXPECT_EQ(said("list.kept_as_remark"), 5);
    const auto again = io::circuitFromLists({io::deviceListCsv(c)}, {io::wireListCsv(c)}, {});
    ASSERT_TRUE(again.value);
    EXPECT_EQ(again.value->dossier.circuit, c) << "and comes back from our own lists";
}

TEST(Lists, ASlipOfThePenIsNoColumnOfOtherPeople)
{
    for (const char* header : {"from,to,lenght_m", "from,to,numbr", "from,to,route_knd"}) {
        const auto list = io::circuitFromLists({kDevices}, {std::string(header) + "\nG1:+,S1:13,1\n"}, {});
        ASSERT_EQ(list.errors.size(), 1u) << header;
        EXPECT_EQ(list.errors.front().message.id, "list.unknown_column") << header;
    }
    EXPECT_EQ(io::partsFromCsv({"id,name,kind,supplier\n"}).errors.front().message.id, "list.unknown_column")
        << "of parts, levels rest on what is read: nothing is left out";
}

TEST(Lists, ACommaBeforeThreeDigitsCouldBeAThousandAndIsRefused)
{
    const auto list = io::circuitFromLists({kDevices}, {"from;to;length_m\nG1:+;S1:13;1,000\n"}, {});
    ASSERT_EQ(list.errors.size(), 1u);
    EXPECT_EQ(list.errors.front().message.id, "list.not_a_number");
    EXPECT_EQ(writtenNumber("1,5"), 1.5);
    EXPECT_EQ(writtenNumber("-0,25"), -0.25);
    for (const char* text : {"1,000", "1.000,5", "1,", ",", "1,5,2"})
        EXPECT_FALSE(writtenNumber(text)) << text;
}

TEST(Lists, ASecondWireBetweenTwoTerminalsIsTakenAndSaid)
{
    const std::string twice = kWires + "S1:13,G1:+,1,1,3,door,enclosure\n";
    const auto list = io::circuitFromLists({kDevices}, {twice}, {});
    ASSERT_TRUE(list.value);
    ASSERT_EQ(list.remarks.size(), 1u);
    EXPECT_EQ(list.remarks.front().message.id, "list.wire_twice");
    EXPECT_EQ(list.remarks.front().place.line, 5);
}

TEST(Parts, TheSampleListReadsAndComesBackAsCsvAndJson)
{
    const auto text = io::systemFiles().read(test::sourcePath("data/parts/larkspur_parts.csv"));
    ASSERT_TRUE(text);
    const auto listed = io::partsFromCsv({*text});
    ASSERT_TRUE(listed.value) << listed.errors.front().message.id << " " << listed.errors.front().place.line;
    const auto& parts = listed.value;
    EXPECT_GT(parts->size(), 15u);
    const std::string written = io::partsCsv(*parts);
    const auto csv = io::partsFromCsv({written}).value;
    const auto json = io::partsFromJson(io::partsJson(*parts));
    ASSERT_TRUE(csv && json);
    EXPECT_EQ(io::partsJson(*csv), io::partsJson(*parts));
    EXPECT_EQ(*json, *csv);
}

TEST(Parts, ErrorsNameLineAndColumn)
{
    for (const auto& [text, id, line, column] : {std::tuple{"id,name\nA,b\n", "list.missing_column", 1, 1},
             {"id,name,kind\nA,b,teapot\n", "kind.unknown", 2, 5},
             {"id,name,kind\nA,b,lamp\nA,c,lamp\n", "file.duplicate_part", 3, 1},
             {"id,name,kind,parameters\nA,b,lamp,rated_voltage_v=0\n", "parameter.outside", 2, 10},
             {"id,name,kind,b10d_cycles\nA,b,lamp,0\n", "file.outside", 2, 10},
             {"id,name,kind,b10d_cycles,mttfd_years\nA,b,lamp,1000,20\n", "file.one_reliability", 2, 10},
             {"id,name,kind,pfhd_per_hour\nA,b,lamp,1e-8\n", "file.pfhd_without_level", 2, 10}}) {
        const auto parts = io::partsFromCsv({text});
        ASSERT_FALSE(parts.value) << id;
        ASSERT_EQ(parts.errors.size(), 1u) << id;
        EXPECT_EQ(parts.errors.front().message.id, id);
        EXPECT_EQ(parts.errors.front().place.line, line) << id;
        EXPECT_EQ(parts.errors.front().place.column, column) << id;
    }
    const auto json = io::partsFromJson("[\n {\"id\": \"A\", \"kind\": \"lamp\", \"price\": 3}]");
    ASSERT_FALSE(json);
    EXPECT_EQ(json.error().place.line, 2);
    EXPECT_FALSE(io::partsFromJson("{}"));
}

TEST(Csv, QuotesCommasLineEndsAndFormulas)
{
    const auto rows = csvRows("\xEF\xBB\xBF"
                              "a,\"b,\"\"c\"\"\"\r\n\r\n\"two\nlines\",'=1+1\n");
    ASSERT_TRUE(rows);
    ASSERT_EQ(rows->size(), 2u);
    EXPECT_EQ((*rows)[0].cells[1].text, "b,\"c\"");
    EXPECT_EQ((*rows)[1].cells[0].text, "two\nlines");
    EXPECT_EQ((*rows)[1].cells[1].text, "=1+1");
    EXPECT_EQ((*rows)[1].line, 3);
    EXPECT_EQ(csvCell("=1+1"), "'=1+1") << "a spreadsheet runs nothing";
    EXPECT_EQ(csvCell("-5"), "-5") << "a number stays one";
    EXPECT_EQ(csvCell("@x,y"), "\"'@x,y\"");
    for (const char* cell : {"plain", "=x", "-a", "a\"b", "a,b", "#a", "a\nb", " a", "a "})
        EXPECT_EQ((*csvRows(csvCell(cell) + ",\n"))[0].cells[0].text, cell);
}

} // namespace
} // namespace ts
