// Which nets are rails, which terminals are inputs, and what belongs to which drawing.

#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/diagram/symbols.h"
#include "core/diagram/wired_graph.h"
#include "tests/support/circuits.h"

#include <cmath>
#include <set>

namespace ts::diagram {
namespace {

const GraphNet& netAt(const WiredGraph& g, const Circuit& c, std::string_view tag, std::string_view marking)
{
    for (const GraphTerminal& t : g.terminals)
        if (t.ref.device == c.device(tag)->id && t.ref.marking == marking)
            return g.nets[static_cast<std::size_t>(t.net)];
    ADD_FAILURE() << tag << ":" << marking;
    return g.nets.front();
}

TEST(Rails, OfTheDemoAreBehindTheControlFuseAndTheBondedMinus)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const WiredGraph g = *wiredGraph(c);
    EXPECT_TRUE(netAt(g, c, "F5", "2").isRail);
    EXPECT_FALSE(netAt(g, c, "F5", "2").isReturn);
    EXPECT_EQ(netAt(g, c, "F5", "2").railName, "30");
    EXPECT_TRUE(netAt(g, c, "Q1", "A2").isReturn);
    EXPECT_EQ(netAt(g, c, "Q1", "A2").railName, "40")
        << "named by its control wires, not by the earth they are bonded to";
    EXPECT_FALSE(netAt(g, c, "S1", "12").isRail);
    EXPECT_FALSE(netAt(g, c, "Q1", "2").isRail) << "a motor line that controls nothing";
    int rails = 0;
    for (const GraphNet& n : g.nets)
        rails += n.isRail;
    EXPECT_EQ(rails, 2);
}

TEST(Rails, OfATransformerFollowTheBond)
{
    const auto build = [](const char* bonded) {
        test::CircuitBuilder b;
        b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
        b.device("T1", "control_transformer", {{"rated_va", 100.0}, {"primary_v", 400.0}, {"secondary_v", 230.0}});
        b.device("P1", "lamp", {{"rated_voltage_v", 230.0}});
        b.wire("G0:L1", "T1:1").wire("G0:L2", "T1:2").wire("T1:3", "P1:X1").wire("T1:4", "P1:X2");
        if (*bonded)
            b.wire(bonded, "G0:PE");
        return b;
    };
    for (const auto& [bonded, returnTerminal] : {std::pair{"T1:4", "X2"}, {"T1:3", "X1"}, {"", "X2"}}) {
        const test::CircuitBuilder b = build(bonded);
        const WiredGraph g = *wiredGraph(b.circuit());
        EXPECT_TRUE(netAt(g, b.circuit(), "P1", returnTerminal).isReturn) << bonded;
        EXPECT_FALSE(netAt(g, b.circuit(), "P1", std::string_view(returnTerminal) == "X2" ? "X1" : "X2").isReturn)
            << bonded;
    }
}

TEST(Ports, AreTheRelaysInputsButNotItsSupplyOrContacts)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const WiredGraph g = *wiredGraph(c);
    std::set<std::string> ports;
    for (const GraphTerminal& t : g.terminals)
        if (t.isPort)
            ports.insert(c.nameOf(t.ref));
    EXPECT_EQ(ports, (std::set<std::string>{"K1:S11", "K1:S12", "K1:S21", "K1:S22", "K1:S33", "K1:S34"}));
}

TEST(PowerDevices, AreThoseWithPolesSourcesOrWindings)
{
    const Circuit c = test::demoFile().dossier.circuit;
    const WiredGraph g = *wiredGraph(c);
    std::set<std::string> power;
    for (const GraphDevice& d : g.devices)
        if (d.isPower)
            power.insert(d.device->tag);
    EXPECT_EQ(power,
        (std::set<std::string>{"F1", "F2", "F3", "F4", "F5", "G0", "G1", "M1", "Q0", "Q1", "Q2", "T1", "U1", "X1"}));
}

class EverySymbol : public ::testing::TestWithParam<SymbolKind> { };
TEST_P(EverySymbol, ReachesFromEndToEndAndShowsItsState)
{
    Symbol s;
    s.kind = GetParam();
    s.top = {100, 50};
    s.bottom = {s.kind == SymbolKind::Device ? 140.0 : 100.0, 112};
    const SymbolShape open = shapeOf(s, false), closed = shapeOf(s, true);
    EXPECT_FALSE(open.paths.empty() && open.rings.empty());
    for (const StrokePath& p : closed.paths)
        for (Point q : p.points)
            EXPECT_TRUE(std::isfinite(q.x) && std::isfinite(q.y));
    const bool isContact = s.kind == SymbolKind::NormallyOpen || s.kind == SymbolKind::NormallyClosed
        || s.kind == SymbolKind::MainContact || s.kind == SymbolKind::BreakerPole;
    if (isContact || s.kind == SymbolKind::FusePole) {
        bool differs = open.paths.size() != closed.paths.size();
        for (std::size_t i = 0; i < std::min(open.paths.size(), closed.paths.size()); ++i)
            differs |= open.paths[i].points != closed.paths[i].points;
        EXPECT_TRUE(differs) << "open and closed must look different without colour";
    }
}
INSTANTIATE_TEST_SUITE_P(Kinds, EverySymbol,
    ::testing::Values(SymbolKind::NormallyOpen, SymbolKind::NormallyClosed, SymbolKind::Coil, SymbolKind::Lamp,
        SymbolKind::BoxLoad, SymbolKind::MainContact, SymbolKind::FusePole, SymbolKind::BreakerPole,
        SymbolKind::HeatedPole, SymbolKind::Port, SymbolKind::Earth, SymbolKind::Device));

TEST(Scene, FindsSymbolsAndPinsByPlace)
{
    Scene scene;
    Symbol s;
    s.box = {10, 10, 20, 30};
    scene.symbols.push_back(s);
    scene.pins = {{{{1}, "13"}, {50, 50}}, {{{1}, "14"}, {56, 50}}};
    EXPECT_EQ(scene.symbolAt({15, 20}), 0);
    EXPECT_EQ(scene.symbolAt({5, 5}), -1);
    EXPECT_EQ(scene.pinNear({54, 50}, 5)->first.marking, "14") << "the nearer one";
    EXPECT_EQ(scene.pinNear({100, 100}, 5), nullptr);
    const Text left{{100, 50}, "abcd", TextStyle::Marking, Anchor::Left},
        right{{100, 50}, "abcd", TextStyle::Marking, Anchor::Right};
    EXPECT_DOUBLE_EQ(left.box().width, 4 * 11 * kAdvance);
    EXPECT_DOUBLE_EQ(right.box().x + right.box().width, 100.0);
}

/// All that can be seen of a drawing, as text.
std::string seenOf(const Circuit& circuit)
{
    std::string seen;
    const auto put = [&seen](double v) { seen += std::to_string(v) + ' '; };
    const WiredGraph graph = *wiredGraph(circuit);
    for (const Scene& scene : {controlDrawing(graph).scene, powerDrawing(graph)}) {
        for (const Conductor& c : scene.conductors)
            for (const Point& at : c.points)
                put(at.x), put(at.y);
        for (const Symbol& symbol : scene.symbols)
            put(symbol.top.x), put(symbol.top.y), put(static_cast<double>(symbol.kind));
        for (const Text& t : scene.texts)
            put(t.at.x), put(t.at.y), seen += t.text + '\n';
    }
    return seen;
}

TEST(DrawnAlike, IsWhatDiffersInNothingThatIsDrawn)
{
    const Circuit circuit = test::demoFile().dossier.circuit;
    Circuit other = circuit;
    for (Wire& w : other.wires) {
        w.lengthM += 1.5;
        w.areaMm2 *= 2;
        w.colour = "other";
        w.route = {};
        w.conductorClass = "1";
        w.insulation = "xlpe_90";
        w.remark = "other";
    }
    other.routes.clear();
    EXPECT_TRUE(isDrawnAlike(circuit, other));
    EXPECT_EQ(seenOf(circuit), seenOf(other)) << "a drawing that is kept is the one that would be made";

    other = circuit;
    other.wires[3].number += "x";
    EXPECT_FALSE(isDrawnAlike(circuit, other));
    other = circuit;
    other.wires.pop_back();
    EXPECT_FALSE(isDrawnAlike(circuit, other));
    other = circuit;
    other.devices[2].label += "x";
    EXPECT_FALSE(isDrawnAlike(circuit, other));
}

} // namespace
} // namespace ts::diagram
