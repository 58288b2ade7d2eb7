// Compiling: nets and their names, which wires are resistances, what is refused. And what a frame shows.

#include "tests/support/circuits.h"

#include <set>

namespace ts {
namespace {

using test::CircuitBuilder;

CircuitBuilder lampOnButton()
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    b.device("S1", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}})
        .device("P1", "lamp", {{"rated_voltage_v", 230.0}});
    b.wire("G0:L1", "S1:13").wire("S1:14", "P1:X1").wire("P1:X2", "G0:N");
    return b;
}

const PlantNet& netAt(const Plant& p, std::string_view tag, std::string_view marking)
{
    return p.nets[static_cast<std::size_t>(p.terminals[static_cast<std::size_t>(p.terminalIndex(tag, marking))].net)];
}

TEST(AWire, OfNoLengthWorthSpeakingOfIsIdeal)
{
    // A cable of 1e-200 m once ended the program.
    Circuit c = test::demoFile().dossier.circuit;
    for (Wire& w : c.wires)
        w.lengthM = 1e-200;
    const Plant plant = *compile(c);
    Workspace workspace;
    State state = initialState(plant);
    Trace trace;
    EXPECT_EQ(advance(plant, state, {}, {kSecondNs}, trace, workspace), Pause::Reached);
    EXPECT_GE(plant.largestNeglectedOhm, 0.0);
}

TEST(Nets, AreNamedByTheirSmallestWireNumber)
{
    CircuitBuilder b = lampOnButton();
    Circuit c = b.circuit();
    c.wires[0].number = "10";
    c.wires[1].number = "9";
    c.wires[2].number = "";
    Wire extra = c.wires[1];
    extra.id = {99};
    extra.number = "9a";
    c.wires.push_back(extra);
    const Plant p = *compile(c);
    EXPECT_EQ(netAt(p, "S1", "13").name, "10");
    EXPECT_EQ(netAt(p, "P1", "X1").name, "9");
    EXPECT_EQ(netAt(p, "P1", "X2").name, "G0:N") << "without a number: its first terminal";
    EXPECT_EQ(netAt(p, "G0", "L2").name, "G0:L2") << "nothing is wired there";
}

TEST(Nets, WhichTerminalAWireGoesToDoesNotMatterForTheNet)
{
    Circuit c = test::demoFile().dossier.circuit;
    const Plant before = *compile(c);
    for (Wire& w : c.wires) // Q2's A2 from Q1's A2, or straight from the relay's: the same net
        if (w.id == WireId{74})
            w.from = {c.device("K1")->id, "A2"};
    const Plant after = *compile(c);
    EXPECT_EQ(before.nets.size(), after.nets.size());
    EXPECT_EQ(netAt(after, "Q2", "A2").name, netAt(before, "Q2", "A2").name);
}

TEST(Wires, AreResistancesOnlyIfLongOrInACable)
{
    Circuit c = lampOnButton().circuit();
    c.routes = {{{50}, "enclosure", RouteKind::Enclosure}, {{51}, "cable", RouteKind::Cable}};
    c.wires[0].lengthM = 10.0;
    c.wires[1].lengthM = 10.1;
    c.wires[2].lengthM = 1.0;
    c.wires[2].route = {51};
    const Plant p = *compile(c);
    EXPECT_GE(p.wires[0].link, 0);
    EXPECT_GE(p.wires[1].impedance, 0);
    EXPECT_GE(p.wires[2].impedance, 0);
    EXPECT_DOUBLE_EQ(p.largestNeglectedOhm, 0.01724 * 10.0); // 1 mm2
    EXPECT_DOUBLE_EQ(p.impedances[static_cast<std::size_t>(p.wires[1].impedance)].directOhm, 0.01724 * 10.1);
}

TEST(Compile, RefusesAWireThatEndsNowhere)
{
    Circuit c = lampOnButton().circuit();
    c.wires[1].to.marking = "X9";
    EXPECT_EQ(compile(c).error().message.id, "wire.no_terminal");
    c.wires[1].to = {{777}, "X1"};
    EXPECT_EQ(compile(c).error().message.id, "wire.no_terminal");
}

TEST(Compile, RefusesAnInterlockWithoutArmature)
{
    Circuit c = lampOnButton().circuit();
    c.interlocks.push_back({c.device("S1")->id, c.device("P1")->id});
    EXPECT_EQ(compile(c).error().message.id, "interlock.no_armature");
}

TEST(Compile, AWireFromATerminalToItselfDoesNoHarm)
{
    CircuitBuilder b = lampOnButton();
    b.wire("P1:X1", "P1:X1");
    test::Bench bench(b.plant());
    bench.to(0.1).act("S1", "press").to(0.2);
    EXPECT_TRUE(bench.is("P1", "lit"));
}

TEST(Frame, TellsLiveDeadAndFloatingApart)
{
    CircuitBuilder b = lampOnButton();
    b.device("S9", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}});
    b.device("X9", "terminal_block", {{"terminals", std::vector<std::string>{"1", "2"}}});
    b.wire("S1:14", "S9:13").wire("S9:14", "X9:1");
    test::Bench bench(b.plant());
    bench.to(0.1);
    const auto look = [&](const char* tag, const char* marking) {
        const Plant& p = bench.plant();
        return bench.frame()
            .nets[static_cast<std::size_t>(p.terminals[static_cast<std::size_t>(p.terminalIndex(tag, marking))].net)];
    };
    EXPECT_EQ(look("S1", "13"), NetLook::Live);
    EXPECT_EQ(look("P1", "X1"), NetLook::Dead) << "at neutral through the lamp";
    EXPECT_EQ(look("X9", "1"), NetLook::Floating) << "hangs on nothing";
    EXPECT_EQ(look("P1", "X2"), NetLook::Dead);
    bench.act("S1", "press").to(0.2);
    EXPECT_EQ(look("P1", "X1"), NetLook::Live);
    bench.act("S9", "press").to(0.3);
    EXPECT_EQ(look("X9", "1"), NetLook::Live);
}

TEST(Frame, CurrentsAddUpAtEveryNode)
{
    test::Bench bench = test::runningDemo();
    const Frame f = bench.frame();
    // The three line currents of the motor pass every pole on their way.
    const auto pole = [&](const char* tag, const char* role) {
        for (std::size_t l = 0; l < bench.plant().links.size(); ++l)
            if (bench.plant().links[l].role == role && bench.plant().links[l].device >= 0
                && bench.plant().devices[static_cast<std::size_t>(bench.plant().links[l].device)].tag == tag)
                return f.links[l].rmsA();
        return -1.0;
    };
    for (const char* tag : {"F1", "Q1", "Q2", "F2"}) {
        EXPECT_NEAR(pole(tag, "1-2"), f.motors[0].currentA[0], 1e-6) << tag;
        EXPECT_NEAR(pole(tag, "5-6"), f.motors[0].currentA[2], 1e-6) << tag;
    }
    EXPECT_GT(pole("Q0", "1-2"), f.motors[0].currentA[0]) << "the control transformer hangs on it, too";
}

TEST(Faults, ShortsAndEarthFaultsTakeTerminalNames)
{
    const Plant p = *compile(test::demoFile().dossier.circuit);
    EXPECT_TRUE(faultFrom(p, "K1:S12+K1:S22:short"));
    EXPECT_TRUE(faultFrom(p, "Q1:A1:to_earth"));
    EXPECT_TRUE(faultFrom(p, "Q1:A1+PE:short"));
    const auto plus = faultFrom(p, "G1:++Q1:A2:short");
    ASSERT_TRUE(plus) << "a terminal may be called \"+\"";
    EXPECT_TRUE(faultFrom(p, "Q1:A2+G1:+:short"));
    const auto again = faultFrom(p, faultId(p, plus->fault));
    ASSERT_TRUE(again);
    EXPECT_EQ(again->fault, plus->fault) << "what is printed is taken";
    for (const char* bad : {"", ":", "Q1", "Q1/main", "Q1/main:", "Q9/main:welded", "Q1:A9:to_earth",
             "K1:S12+K1:S99:short", "wire/9999:open", "wire/x:open"})
        EXPECT_EQ(faultFrom(p, bad).error().message.id, "fault.unknown") << bad;
}

} // namespace
} // namespace ts
