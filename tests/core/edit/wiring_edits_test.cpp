// Edits of wires: which terminals are joined afterwards, and what numbers the wires bear.

#include "core/edit/wiring_edits.h"

#include "core/edit/circuit_edits.h"
#include "core/library/registry.h"
#include "tests/support/circuits.h"

namespace ts::edit {
namespace {

/// Terminal blocks X1 to X4 with a net a: X1:1 - X2:1 - X3:1 and a free block X4 to put in.
DossierFile threeOnOneNet()
{
    DossierFile file;
    for (const char* tag : {"X1", "X2", "X3", "X4"}) {
        Device d;
        d.tag = tag;
        d.kind = "terminal_block";
        d.parameters = {{"terminals", std::vector<std::string>{"1", "2"}}};
        file = *withDevice(file, std::move(d));
    }
    for (const auto& [from, to] : {std::pair{"X1:1", "X2:1"}, {"X2:1", "X3:1"}}) {
        Wire w;
        w.number = "7";
        file = *withWire(file, from, to, w);
    }
    return file;
}

TerminalRef at(const DossierFile& file, const char* name)
{
    return *terminalNamed(file.dossier.circuit, name);
}

/// "X1:1 X2:1": the net of a terminal.
std::string net(const DossierFile& file, const char* name)
{
    std::string text;
    for (const TerminalRef& t : netOf(file.dossier.circuit, at(file, name)))
        text += (text.empty() ? "" : " ") + file.dossier.circuit.nameOf(t);
    return text;
}

Ends x4(const DossierFile& file)
{
    return {at(file, "X4:1"), at(file, "X4:2")};
}

TEST(NetParted, PutsWhatIsNamedBehindAndKeepsTheRestJoined)
{
    const DossierFile file = threeOnOneNet();
    const auto changed = withNetParted(file, {at(file, "X3:1")}, x4(file));
    ASSERT_TRUE(changed);
    EXPECT_EQ(net(*changed, "X1:1"), "X1:1 X2:1 X4:1");
    EXPECT_EQ(net(*changed, "X3:1"), "X3:1 X4:2");
    EXPECT_EQ(changed->dossier.circuit.wires.size(), 3u) << "one wire moved, one new";
    EXPECT_EQ(numberAt(changed->dossier.circuit, at(file, "X1:1")), "7") << "the side with more wires keeps its number";
    EXPECT_EQ(numberAt(changed->dossier.circuit, at(file, "X3:1")), "8");
}

TEST(NetParted, HubInTheMiddleLeavesBothSidesJoinedAhead)
{
    const DossierFile file = threeOnOneNet();
    const auto changed = withNetParted(file, {at(file, "X2:1")}, x4(file));
    ASSERT_TRUE(changed);
    EXPECT_EQ(net(*changed, "X1:1"), "X1:1 X3:1 X4:1");
    EXPECT_EQ(net(*changed, "X2:1"), "X2:1 X4:2");
    for (const char* t : {"X1:1", "X3:1", "X4:1", "X4:2"})
        EXPECT_LE(wireCount(changed->dossier.circuit, at(file, t)), 2) << t;
}

TEST(NetParted, SeveralPiecesBehindBecomeOneNet)
{
    const DossierFile file = threeOnOneNet();
    const auto changed = withNetParted(file, {at(file, "X1:1"), at(file, "X3:1")}, x4(file));
    ASSERT_TRUE(changed);
    EXPECT_EQ(net(*changed, "X2:1"), "X2:1 X4:1");
    EXPECT_EQ(net(*changed, "X1:1"), "X1:1 X3:1 X4:2");
}

TEST(NetParted, IsRefusedWhereNothingWouldBeInSeries)
{
    const DossierFile file = threeOnOneNet();
    EXPECT_EQ(withNetParted(file, {}, x4(file)).error().message.id, "edit.nothing_behind");
    EXPECT_EQ(withNetParted(file, {at(file, "X1:1"), at(file, "X2:1"), at(file, "X3:1")}, x4(file)).error().message.id,
        "edit.nothing_ahead");
    EXPECT_EQ(
        withNetParted(file, {at(file, "X1:1"), at(file, "X1:2")}, x4(file)).error().message.id, "edit.several_nets");
    const Ends used{at(file, "X1:1"), at(file, "X4:2")};
    EXPECT_EQ(withNetParted(file, {at(file, "X3:1")}, used).error().message.id, "edit.in_use");
    Ends nowhere = x4(file);
    nowhere.a.device = {99};
    EXPECT_EQ(withNetParted(file, {at(file, "X3:1")}, nowhere).error().message.id, "edit.no_terminal");
}

TEST(GapClosed, UndoesWhatWasPutInSeries)
{
    const DossierFile file = threeOnOneNet();
    for (const char* behind : {"X1:1", "X2:1", "X3:1"}) {
        const auto parted = withNetParted(file, {at(file, behind)}, x4(file));
        const auto closed = withGapClosed(*parted, x4(file));
        ASSERT_TRUE(closed);
        EXPECT_EQ(net(*closed, "X1:1"), "X1:1 X2:1 X3:1") << behind;
        EXPECT_EQ(wireCount(closed->dossier.circuit, at(file, "X4:1")), 0);
        EXPECT_EQ(closed->dossier.circuit.wires.size(), 2u) << "no wire too many";
        EXPECT_EQ(
            numberAt(closed->dossier.circuit, at(file, behind)), numberAt(closed->dossier.circuit, at(file, "X2:1")))
            << "one net, one number";
    }
}

TEST(TerminalsFreed, KeepTheirNetJoined)
{
    const DossierFile file = threeOnOneNet();
    const auto freed = withTerminalsFreed(file, {at(file, "X2:1")});
    ASSERT_TRUE(freed);
    EXPECT_EQ(net(*freed, "X1:1"), "X1:1 X3:1");
    EXPECT_EQ(freed->dossier.circuit.wires.size(), 1u);
}

TEST(Bridge, JoinsTwoNetsByWhatIsPutInAndRefusesOneNet)
{
    const DossierFile file = threeOnOneNet();
    const auto bridged = withBridge(file, at(file, "X1:1"), at(file, "X1:2"), x4(file));
    ASSERT_TRUE(bridged);
    EXPECT_EQ(net(*bridged, "X4:1"), "X1:1 X2:1 X3:1 X4:1");
    EXPECT_EQ(net(*bridged, "X4:2"), "X1:2 X4:2");
    EXPECT_EQ(withBridge(file, at(file, "X1:1"), at(file, "X3:1"), x4(file)).error().message.id, "edit.same_net");
}

TEST(WireEndMoved, TakesTheNumberOfWhatItJoins)
{
    DossierFile file = threeOnOneNet();
    Wire other;
    other.number = "20";
    file = *withWire(file, "X1:2", "X4:2", other);
    const WireId moved = file.dossier.circuit.wires[1].id; // X2:1 - X3:1
    const auto changed = withWireEndMoved(file, moved, WireEnd::From, at(file, "X1:2"));
    ASSERT_TRUE(changed);
    EXPECT_EQ(net(*changed, "X3:1"), "X1:2 X3:1 X4:2");
    EXPECT_EQ(changed->dossier.circuit.wire(moved)->number, "20");
    EXPECT_EQ(withWireEndMoved(file, moved, WireEnd::From, at(file, "X3:1")).error().message.id, "edit.wire_to_itself");
    EXPECT_EQ(withWireEndMoved(file, {999}, WireEnd::From, at(file, "X3:1")).error().message.id, "edit.no_wire");
    EXPECT_EQ(withWireEndMoved(file, moved, WireEnd::From, {{1}, "9"}).error().message.id, "edit.no_terminal");
}

TEST(TerminalsExchanged, TwiceIsAsBefore)
{
    const DossierFile demo = test::demoFile();
    const TerminalRef u = at(demo, "M1:U1"), v = at(demo, "M1:V1");
    const auto once = withTerminalsExchanged(demo, u, v);
    ASSERT_TRUE(once);
    EXPECT_NE(*once, demo);
    EXPECT_EQ(*withTerminalsExchanged(*once, u, v), demo);
    test::Bench bench(*compile(once->dossier.circuit));
    bench.to(0.5).tap("S3").to(1.5).tap("S2").to(4.0);
    EXPECT_LT(bench.frame().motors.front().speedRadPerS, -100.0) << "it turns the other way";
}

TEST(WireAdded, IsLikeThoseThatRunBetweenSuchPlaces)
{
    const DossierFile demo = test::demoFile();
    const Circuit& c = demo.dossier.circuit;
    const Wire* door = nullptr; // some wire between plate and door
    for (const Wire& w : c.wires)
        if (!door && !standsOnDoor(*c.device(w.from.device)) && standsOnDoor(*c.device(w.to.device)))
            door = &w;
    ASSERT_NE(door, nullptr);
    const auto changed = withWireAdded(demo, door->from, door->to);
    ASSERT_TRUE(changed);
    const Wire& added = changed->dossier.circuit.wires.back();
    EXPECT_EQ(added.route, door->route);
    EXPECT_EQ(added.lengthM, door->lengthM);
    EXPECT_EQ(added.number, door->number);
    EXPECT_EQ(withoutWire(*changed, added.id)->dossier, demo.dossier);
    EXPECT_EQ(withoutWire(demo, {9999}).error().message.id, "edit.no_wire");
}

} // namespace
} // namespace ts::edit
