// What is printed at a terminal is the device's own: an octal base counts its pins, North America writes T1 and X1.

#include "core/library/registry.h"
#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

std::string refusal(const char* kind, ParameterMap p)
{
    CircuitBuilder b;
    b.device("K1", kind, std::move(p));
    const auto plant = compile(b.circuit());
    return plant ? std::string() : plant.error().message.id;
}

ParameterMap relay24(Words contacts, Words marks)
{
    return {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"contacts", std::move(contacts)},
        {"marks", std::move(marks)}};
}

TEST(Marks, ARelayOnAnOctalBaseIsWiredByItsPins)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v")
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}})
        .device("K1", "plug_in_relay", relay24({"1-4-3/co", "8-5-6/co"}, {"A1=2", "A2=7"}))
        .device("P1", "lamp", {{"rated_voltage_v", 24.0}})
        .device("P2", "lamp", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "S1:13").wire("S1:14", "K1:2").wire("K1:7", "G1:-").wire("G1:+", "K1:1");
    b.wire("K1:4", "P1:X1").wire("K1:3", "P2:X1").wire("P1:X2", "G1:-").wire("P2:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "dark"));
    bench.act("S1", "press").to(0.3);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "lit"));
}

TEST(Marks, APoleIsCalledByWhatIsPrinted)
{
    CircuitBuilder b;
    b.device("Q1", "contactor",
        {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}, {"marks", Words{"1=L1", "2=T1", "A1=X1"}}});
    const Plant plant = b.plant();
    EXPECT_GE(plant.terminalIndex("Q1", "L1"), 0);
    EXPECT_GE(plant.terminalIndex("Q1", "X1"), 0);
    EXPECT_EQ(plant.terminalIndex("Q1", "1"), -1);
    EXPECT_GE(plant.terminalIndex("Q1", "3"), 0) << "what nobody named keeps its own";
    EXPECT_TRUE(faultFrom(plant, "Q1/L1-T1:welded"));
    EXPECT_FALSE(faultFrom(plant, "Q1/1-2:welded"));
    EXPECT_TRUE(faultFrom(plant, "Q1/3-4:welded"));
}

TEST(Marks, MayExchangeTwoTerminals)
{
    CircuitBuilder b;
    b.device("K1", "plug_in_relay", relay24({"11-12-14"}, {"A1=A2", "A2=A1"}));
    EXPECT_GE(b.plant().terminalIndex("K1", "A1"), 0);
}

TEST(Marks, AreRefusedWithTheReason)
{
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"A9=2"})), "kind.mark");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"A1"})), "kind.mark");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"A1="})), "kind.mark");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"A1=2:3"})), "kind.mark");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"A1=thirteenmarks"})), "kind.mark");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"11=1"})), "kind.mark_of_contact");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"11-12-14"}, {"A1=11"})), "kind.mark_twice");
    EXPECT_EQ(refusal("plug_in_relay", relay24({"1-4-3"}, {})), "kind.contact_numbering")
        << "its numbers say nothing: it must be said that it changes over";
    EXPECT_EQ(refusal("plug_in_relay", relay24({"1-4-3/no"}, {})), "kind.contact_numbering");
}

TEST(Marks, AreTakenByEveryKind)
{
    for (const DeviceKind* kind : deviceKinds())
        EXPECT_EQ(kind->parameters.back().name, "marks") << kind->id;
}

} // namespace
} // namespace ts
