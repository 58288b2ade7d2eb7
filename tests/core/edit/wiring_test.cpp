// What edits ask about wiring.

#include "core/edit/wiring.h"

#include "core/edit/circuit_edits.h"
#include "tests/support/circuits.h"

namespace ts::edit {
namespace {

/// X1:1 - X2:1 - X3:1, all wired one after the other; X4 apart, on the door.
Circuit chain()
{
    test::CircuitBuilder b;
    for (const char* tag : {"X1", "X2", "X3"})
        b.device(tag, "terminal_block", {{"terminals", std::vector<std::string>{"1", "2"}}});
    b.device("X4", "terminal_block", {{"terminals", std::vector<std::string>{"1", "2"}}}, "door");
    b.wire("X1:1", "X2:1", 0.7).wire("X2:1", "X3:1", 0.7);
    return b.circuit();
}

TerminalRef at(const Circuit& c, const char* name)
{
    return *terminalNamed(c, name);
}

TEST(NetOf, FollowsWiresAndNothingElse)
{
    const Circuit c = chain();
    EXPECT_EQ(netOf(c, at(c, "X2:1")).size(), 3u);
    EXPECT_EQ(netOf(c, at(c, "X2:2")).size(), 1u) << "a terminal without wires is a net of its own";
    EXPECT_EQ(pieceOf(c, at(c, "X1:1"), {at(c, "X1:1"), at(c, "X3:1")}).size(), 1u) << "the way leads over X2";
}

TEST(WireCount, CountsEnds)
{
    const Circuit c = chain();
    EXPECT_EQ(wireCount(c, at(c, "X2:1")), 2);
    EXPECT_EQ(wireCount(c, at(c, "X1:1")), 1);
    EXPECT_EQ(wireCount(c, at(c, "X1:2")), 0);
}

TEST(BestPlaceIn, AvoidsATerminalThatBearsTwoWires)
{
    const Circuit c = chain();
    const Net net = netOf(c, at(c, "X2:1"));
    EXPECT_EQ(bestPlaceIn(c, net, at(c, "X1:1"), at(c, "X2:2")), at(c, "X1:1")) << "as preferred";
    EXPECT_NE(bestPlaceIn(c, net, at(c, "X2:1"), at(c, "X2:2")), at(c, "X2:1")) << "two wires are on it already";
    EXPECT_EQ(bestPlaceIn(c, {at(c, "X2:1")}, at(c, "X2:1"), at(c, "X4:1")), at(c, "X2:1")) << "there is no other";
}

TEST(WireBetween, TakesNumberAndMakeFromItsSurroundings)
{
    Circuit c = chain();
    c.wires[0].number = "7";
    c.wires[0].areaMm2 = 2.5;
    c.wires[1].number = "7";
    const Wire joined = wireBetween(c, at(c, "X3:1"), at(c, "X1:2"));
    EXPECT_EQ(joined.number, "7");
    EXPECT_DOUBLE_EQ(joined.lengthM, 0.7) << "like the others on the plate";
    const Wire fresh = wireBetween(c, at(c, "X1:2"), at(c, "X2:2"));
    EXPECT_EQ(fresh.number, "8");
    EXPECT_DOUBLE_EQ(fresh.areaMm2, 2.5) << "like the first one that runs there";
    const Wire toDoor = wireBetween(c, at(c, "X1:1"), at(c, "X4:1"));
    EXPECT_DOUBLE_EQ(toDoor.areaMm2, 1.0) << "none runs to the door yet";
}

TEST(Numbers, NextOneIsBeyondTheHighestAndNamesAreLeftAlone)
{
    Circuit c = chain();
    c.wires[0].number = "L1";
    c.wires[1].number = "41";
    EXPECT_EQ(nextNumber(c), "42");
    EXPECT_EQ(numberAt(c, at(c, "X1:1")), "L1") << "the wire on the terminal itself";
    EXPECT_EQ(numberAt(c, at(c, "X3:1")), "41");
    EXPECT_EQ(numberAt(c, at(c, "X4:1")), "");
}

TEST(TerminalNamed, SaysWhatIsNotThere)
{
    const Circuit c = chain();
    for (const char* name : {"X9:1", "X1:9", "X1", "", ":", "X1:"})
        EXPECT_EQ(terminalNamed(c, name).error().message.id, "edit.no_terminal") << name;
}

} // namespace
} // namespace ts::edit
