// Which contact cuts which load: by hand on small circuits, and against the simulation on patterns.

#include "core/offers/consequence.h"
#include "core/offers/cutting.h"

#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

namespace ts::offers {
namespace {

using test::word;
using Words = std::vector<std::string>;

/// Start with hold: S1 stops, S2 starts, Q1 holds; P1 shows.
test::CircuitBuilder holding()
{
    test::CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S2", "push_button", {{"contacts", Words{"13-14"}}})
        .device("Q1", "contactor",
            {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"auxiliary_contacts", Words{"13-14", "21-22"}}})
        .device("P1", "lamp", {{"rated_voltage_v", 24.0}});
    return b;
}

std::string cuts(const Circuit& c)
{
    std::string text;
    const auto structure = structureOf(c);
    EXPECT_TRUE(structure);
    for (const Cut& cut : structure->cuts)
        text += (text.empty() ? "" : ", ") + c.device(cut.contact.device)->tag + ">" + c.device(cut.load.device)->tag;
    return text;
}

Circuit wired(std::initializer_list<std::pair<const char*, const char*>> wires)
{
    auto b = holding();
    const std::string live = "G1:+", ret = "G1:-";
    for (const auto& [from, to] : wires)
        b.wire(from, to);
    return b.circuit();
}

TEST(Cutting, ParallelContactsCutNothingEachBySelf)
{
    const Circuit c = wired({{"G1:+", "S1:11"}, {"S1:12", "S2:13"}, {"S2:13", "Q1:13"}, {"S2:14", "Q1:A1"},
        {"Q1:14", "S2:14"}, {"Q1:A2", "G1:-"}});
    EXPECT_EQ(cuts(c), "S1>Q1") << "start and hold stand side by side";
}

TEST(Cutting, HoldFromAheadOfTheStopLeavesItNothingToCut)
{
    const Circuit c = wired({{"G1:+", "S1:11"}, {"S1:12", "S2:13"}, {"S1:11", "Q1:13"}, {"S2:14", "Q1:A1"},
        {"Q1:14", "S2:14"}, {"Q1:A2", "G1:-"}});
    EXPECT_EQ(cuts(c), "");
}

TEST(Cutting, CountsContactsInTheReturnToo)
{
    const Circuit c = wired({{"G1:+", "Q1:A1"}, {"Q1:A2", "S1:11"}, {"S1:12", "G1:-"}, {"G1:+", "Q1:21"},
        {"Q1:22", "P1:X1"}, {"P1:X2", "G1:-"}});
    EXPECT_EQ(cuts(c), "S1>Q1, Q1>P1");
}

TEST(Structure, FindsWhatClosedContactsShort)
{
    EXPECT_TRUE(structureOf(wired({{"G1:+", "S2:13"}, {"S2:14", "Q1:A1"}, {"Q1:A2", "G1:-"}}))->shorts.empty());
    EXPECT_EQ(structureOf(wired({{"G1:+", "S2:13"}, {"S2:14", "Q1:A1"}, {"Q1:A2", "G1:-"}, {"S2:14", "G1:-"}}))
                  ->shorts.size(),
        1u);
}

/// Where the structure says that an opening contact cuts a running contactor, the simulation drops it; where it says
/// that it does not, it stays in.
TEST(Cutting, AgreesWithTheSimulationOnAWholeStarter)
{
    const auto file = patterns::machine(*patterns::MachinePlan::from(std::vector<std::string>{"base=reversing"}));
    const Circuit& c = file->dossier.circuit;
    const auto structure = structureOf(c);
    const auto plant = *compile(c);
    int compared = 0;
    for (const FaultSite& site : faultSites(plant)) {
        const std::size_t slash = site.site.find('/');
        if (site.text().find(":does_not_close") == std::string::npos || slash == std::string::npos
            || site.site.find('-') == std::string::npos)
            continue;
        const std::string tag = site.site.substr(0, slash), role = site.site.substr(slash + 1);
        if (tag[0] == 'S' && role.ends_with("4"))
            continue; // a start button is let go by then
        test::Bench bench(plant);
        bench.to(0.5).tap("S2").to(2.0);
        ASSERT_TRUE(bench.is("Q1", "in"));
        bench.fault(site.text()).to(3.0);
        const Cut cut{{c.device(tag)->id, role}, {c.device("Q1")->id, "coil"}};
        const bool isOwnHold = tag == "Q1" && !bench.is("Q1", "in"); // it only runs by its hold now
        EXPECT_EQ(!bench.is("Q1", "in"), structure->cuts.contains(cut) || isOwnHold) << site.text();
        ++compared;
    }
    EXPECT_GT(compared, 5);
}

std::string told(const Circuit& before, const Circuit& after)
{
    std::string text;
    const auto meanings = meaningOf(before, after);
    for (const Meaning& m : *meanings) {
        text += (text.empty() ? "" : "; ") + m.text.id;
        for (const Argument& a : m.text.arguments)
            if (const auto* word = std::get_if<std::string>(&a))
                text += " " + *word;
    }
    return text;
}

TEST(Meaning, TellsWhatALostInterlockAndADeadLoadMean)
{
    const Circuit before = wired({{"G1:+", "S1:11"}, {"S1:12", "S2:13"}, {"S2:14", "Q1:A1"}, {"Q1:A2", "G1:-"}});
    const Circuit past = wired(
        {{"G1:+", "S1:11"}, {"S1:12", "S2:13"}, {"S2:14", "Q1:A1"}, {"Q1:A2", "G1:-"}, {"S1:11", "S1:12"}});
    EXPECT_EQ(told(before, past), "means.no_longer_cuts S1 11-12 Q1; means.wires_new");
    const Circuit dead = wired({{"G1:+", "S1:11"}, {"S1:12", "S2:13"}, {"S2:14", "Q1:A1"}});
    EXPECT_EQ(told(before, dead), "means.not_fed Q1; means.wires_gone");
    EXPECT_EQ(told(before, before), "");
}

} // namespace
} // namespace ts::offers
