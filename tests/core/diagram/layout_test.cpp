// The drawing says what is wired, no more and no less: every element once, nets read back from the lines equal the
// nets, texts do not lie on each other. For the demo, a second circuit, and random ones.

#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/diagram/series_parallel.h"
#include "core/network/disjoint_sets.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <cmath>
#include <map>
#include <random>
#include <set>

namespace ts::diagram {
namespace {

/// Net of each terminal by the wires alone, independent of WiredGraph.
std::map<TerminalRef, int> netsOf(const Circuit& c)
{
    std::map<TerminalRef, int> index;
    const auto number = [&](const TerminalRef& r) {
        return index.emplace(r, static_cast<int>(index.size())).first->second;
    };
    for (const Wire& w : c.wires) {
        number(w.from);
        number(w.to);
    }
    network::DisjointSets sets(static_cast<int>(index.size()));
    for (const Wire& w : c.wires)
        sets.join(index[w.from], index[w.to]);
    for (auto& [ref, n] : index)
        n = sets.find(n);
    return index;
}

/// A straight piece of one net as drawn.
struct Piece {
    Point a, b;
    int net = 0;
};

bool isOn(Point p, const Piece& s)
{
    constexpr double e = 0.01;
    const bool vertical = std::abs(s.a.x - s.b.x) < e;
    if (vertical)
        return std::abs(p.x - s.a.x) < e && p.y >= std::min(s.a.y, s.b.y) - e && p.y <= std::max(s.a.y, s.b.y) + e;
    return std::abs(p.y - s.a.y) < e && p.x >= std::min(s.a.x, s.b.x) - e && p.x <= std::max(s.a.x, s.b.x) + e;
}

std::vector<Piece> piecesOf(const Scene& scene, std::map<TerminalRef, int>& nets)
{
    std::vector<Piece> pieces;
    const auto net = [&](const TerminalRef& r) {
        return nets.emplace(r, 100000 + static_cast<int>(nets.size())).first->second;
    };
    for (const Conductor& c : scene.conductors)
        for (std::size_t i = 1; i < c.points.size(); ++i)
            pieces.push_back({c.points[i - 1], c.points[i], net(c.net)});
    for (const Symbol& s : scene.symbols) {
        if (s.kind == SymbolKind::Device || s.kind == SymbolKind::Earth)
            continue;
        pieces.push_back({s.top, s.top, net(s.upper)});
        pieces.push_back({s.bottom, s.bottom, net(s.lower)});
    }
    return pieces;
}

/// What is drawn as touching belongs together; ends of one net that stand apart carry the same name (rails, ports).
void expectNetsReadBack(const Circuit& circuit, const Scene& scene)
{
    auto nets = netsOf(circuit);
    const std::vector<Piece> pieces = piecesOf(scene, nets);
    for (const Piece& p : pieces)
        for (const Piece& q : pieces)
            for (Point end : {p.a, p.b})
                if (p.net != q.net)
                    EXPECT_FALSE(isOn(end, q))
                        << "nets " << p.net << " and " << q.net << " touch at " << end.x << "," << end.y;
    // Whatever belongs to a rail's net and begins on its line lies on a piece of it.
    for (const Conductor& c : scene.conductors)
        if (c.isRail)
            for (const Symbol& s : scene.symbols)
                for (const auto& [ref, at] : {std::pair{s.upper, s.top}, {s.lower, s.bottom}})
                    if (s.kind != SymbolKind::Port && s.kind != SymbolKind::Device && s.kind != SymbolKind::Earth
                        && nets.at(ref) == nets.at(c.net) && (at.y == c.points[0].y || at.x == c.points[0].x)
                        && (at.y == c.points[1].y || at.x == c.points[1].x))
                        EXPECT_TRUE(std::any_of(pieces.begin(), pieces.end(),
                                        [&, r = ref, p = at](const Piece& q) {
                                            return q.net == nets.at(r) && !(q.a == q.b) && isOn(p, q);
                                        })
                            || std::any_of(scene.symbols.begin(), scene.symbols.end(),
                                [p = at](
                                    const Symbol& port) { return port.kind == SymbolKind::Port && port.top == p; }))
                            << ref.marking << " hangs beside its rail at " << at.x << "," << at.y;
    // One net, one connected drawing, unless it has a named end.
    std::map<int, std::vector<Piece>> byNet;
    for (const Piece& p : pieces)
        byNet[p.net].push_back(p);
    std::set<int> named;
    for (const Symbol& s : scene.symbols)
        if (s.kind == SymbolKind::Port)
            named.insert(nets.at(s.upper));
    for (const Conductor& c : scene.conductors)
        if (c.isRail)
            named.insert(nets.at(c.net));
    for (const auto& [net, list] : byNet) {
        if (named.contains(net))
            continue;
        network::DisjointSets sets(static_cast<int>(list.size()));
        for (std::size_t i = 0; i < list.size(); ++i)
            for (std::size_t j = 0; j < list.size(); ++j)
                if (isOn(list[i].a, list[j]) || isOn(list[i].b, list[j]))
                    sets.join(static_cast<int>(i), static_cast<int>(j));
        for (std::size_t i = 1; i < list.size(); ++i)
            EXPECT_EQ(sets.find(static_cast<int>(i)), sets.find(0))
                << "net " << net << " falls apart near " << list[i].a.x << "," << list[i].a.y;
    }
}

/// The common terminal of a change-over contact is drawn at each of its halves.
bool isShared(const WiredGraph& graph, const TerminalRef& ref)
{
    int ends = 0;
    for (const GraphEdge& e : graph.edges)
        for (int t : {e.a, e.b})
            ends += graph.terminals[static_cast<std::size_t>(t)].ref == ref;
    return ends > 1;
}

void expectEachElementOnce(const WiredGraph& graph, const ControlDrawing& drawing)
{
    std::multiset<std::string> drawn;
    for (const Symbol& s : drawing.scene.symbols)
        if (s.kind != SymbolKind::Port)
            drawn.insert(std::to_string(s.device.value) + s.role);
    std::size_t expected = 0;
    for (const GraphEdge& e : graph.edges) {
        const auto counts = [&](int terminal) { // the unused half of a change-over contact hangs on the common terminal
                                                // only
            return graph.terminals[static_cast<std::size_t>(terminal)].isWired
                && std::none_of(graph.edges.begin(), graph.edges.end(),
                    [&](const GraphEdge& o) { return &o != &e && (o.a == terminal || o.b == terminal); });
        };
        const bool bothWired = graph.terminals[static_cast<std::size_t>(e.a)].isWired
            && graph.terminals[static_cast<std::size_t>(e.b)].isWired;
        if (e.isPole || !(bothWired || counts(e.a) || counts(e.b)))
            continue;
        ++expected;
        EXPECT_EQ(
            drawn.count(std::to_string(graph.devices[static_cast<std::size_t>(e.device)].device->id.value) + e.role),
            1u)
            << e.role;
    }
    EXPECT_EQ(drawn.size(), expected);
    std::set<TerminalRef> pins;
    for (const auto& [ref, point] : drawing.scene.pins)
        if (!isShared(graph, ref))
            EXPECT_TRUE(pins.insert(ref).second) << ref.marking << " has two pins";
}

void expectNoTextOnText(const Scene& scene)
{
    for (std::size_t i = 0; i < scene.texts.size(); ++i)
        for (std::size_t j = i + 1; j < scene.texts.size(); ++j)
            EXPECT_FALSE(scene.texts[i].box().overlaps(scene.texts[j].box()))
                << scene.texts[i].text << " on " << scene.texts[j].text;
}

Circuit pump()
{
    return io::loadDossier(test::sourcePath("tests/data/pump_230v_ac.sentry"))->dossier.circuit;
}

/// "demo", "pump", "machine", or the choices of a starter from patterns.
Circuit circuitOf(std::string_view name)
{
    if (name == "demo")
        return test::demoFile().dossier.circuit;
    if (name == "pump")
        return pump();
    if (name == "machine")
        return io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier.circuit;
    std::vector<std::string> with;
    for (std::string_view rest = name; !rest.empty();) {
        const std::size_t end = rest.find(' ');
        with.emplace_back(rest.substr(0, end));
        rest = end == rest.npos ? std::string_view{} : rest.substr(end + 1);
    }
    return patterns::machine(*patterns::MachinePlan::from(with))->dossier.circuit;
}

class Drawn : public ::testing::TestWithParam<const char*> {
protected:
    Circuit circuit = circuitOf(GetParam());
};

TEST_P(Drawn, ControlCircuitReadsBackInBothSchools)
{
    const WiredGraph graph = *wiredGraph(circuit);
    for (School school : {School::CurrentPaths, School::Ladder}) {
        const ControlDrawing drawing = controlDrawing(graph, school);
        expectEachElementOnce(graph, drawing);
        expectNetsReadBack(circuit, drawing.scene);
        expectNoTextOnText(drawing.scene);
        EXPECT_FALSE(HasFailure()) << (school == School::Ladder ? "ladder" : "current paths");
    }
}

TEST_P(Drawn, LadderIsTheSameCircuitTurned)
{
    const WiredGraph graph = *wiredGraph(circuit);
    const ControlDrawing paths = controlDrawing(graph), ladder = controlDrawing(graph, School::Ladder);
    ASSERT_EQ(paths.scene.symbols.size(), ladder.scene.symbols.size());
    for (std::size_t k = 0; k < paths.scene.symbols.size(); ++k) {
        EXPECT_EQ(paths.scene.symbols[k].upper, ladder.scene.symbols[k].upper) << "what is above there is left here";
        EXPECT_EQ(ladder.scene.symbols[k].top.y, ladder.scene.symbols[k].bottom.y);
    }
    ASSERT_EQ(paths.paths.size(), ladder.paths.size());
    for (std::size_t k = 0; k < paths.paths.size(); ++k)
        EXPECT_EQ(paths.paths[k].lead, ladder.paths[k].lead);
}

TEST_P(Drawn, EveryWiredTerminalIsInOneOfTheDrawings)
{
    const WiredGraph graph = *wiredGraph(circuit);
    std::set<TerminalRef> drawn;
    for (const Scene& scene : {controlDrawing(graph).scene, powerDrawing(graph)})
        for (const auto& [ref, at] : scene.pins)
            drawn.insert(ref);
    for (const GraphTerminal& t : graph.terminals)
        if (t.isWired)
            EXPECT_TRUE(drawn.contains(t.ref)) << circuit.nameOf(t.ref);
}

TEST_P(Drawn, MovedPathStandsWhereItWasPutAndUndoIsExact)
{
    const WiredGraph graph = *wiredGraph(circuit);
    const ControlDrawing before = controlDrawing(graph);
    const int last = before.paths.back().number;
    for (const auto& [number, target] : {std::pair{last, before.paths.front().number},
             {before.paths.front().number, last + 1}, {before.paths[before.paths.size() / 2].number, 1}}) {
        Circuit changed = circuit;
        const auto order = orderWithPathMoved(before.paths, number, target);
        EXPECT_EQ(std::set<DeviceId>(order.begin(), order.end()).size(), order.size());
        for (Device& d : changed.devices)
            if (const auto it = std::find(order.begin(), order.end(), d.id); it != order.end())
                d.rank = 100 * static_cast<int>(it - order.begin() + 1);
        const WiredGraph again = *wiredGraph(changed);
        const ControlDrawing after = controlDrawing(again);
        expectEachElementOnce(again, after);
        expectNetsReadBack(changed, after.scene);
        EXPECT_EQ(after.paths.size(), before.paths.size());
        const ControlDrawing undone = controlDrawing(*wiredGraph(circuit));
        ASSERT_EQ(undone.scene.symbols.size(), before.scene.symbols.size());
        for (std::size_t k = 0; k < before.scene.symbols.size(); ++k)
            EXPECT_EQ(undone.scene.symbols[k].top, before.scene.symbols[k].top);
    }
}

/// One device more moves nothing that stood before its block, unless the rows break elsewhere.
TEST_P(Drawn, AddedLampMovesNothingAheadOfIt)
{
    const ControlDrawing before = controlDrawing(*wiredGraph(circuit));
    Circuit changed = circuit;
    const Symbol* lamp = nullptr;
    for (const Symbol& s : before.scene.symbols)
        if (s.kind == SymbolKind::Lamp)
            lamp = &s;
    ASSERT_NE(lamp, nullptr);
    Device more = *circuit.device(lamp->device);
    more.id = {100000};
    more.tag = "P99";
    changed.devices.push_back(more);
    for (const char* marking : {"X1", "X2"}) {
        Wire w;
        w.id = {100000 + marking[1]};
        w.from = {lamp->device, marking};
        w.to = {more.id, marking};
        changed.wires.push_back(w);
    }
    const ControlDrawing after = controlDrawing(*wiredGraph(changed));
    std::map<std::pair<DeviceId, std::string>, Point> was;
    std::size_t block = 0; // the first path of what hangs together with the lamp
    for (std::size_t k = 0; k < before.paths.size(); ++k)
        if (before.paths[k].top.x == lamp->top.x && before.paths[k].bottom.y == lamp->bottom.y)
            block = k;
    while (block > 0 && !before.paths[block].isFirstOfGroup)
        --block;
    const DrawnPath& first = before.paths[block];
    for (const Symbol& s : before.scene.symbols)
        if (s.kind != SymbolKind::Port
            && (s.bottom.y < first.top.y
                || (s.top.y >= first.top.y && s.top.y <= first.bottom.y && s.top.x < first.top.x)))
            was[{s.device, s.role}] = s.top;
    int stayed = 0, all = 0;
    for (const Symbol& s : after.scene.symbols)
        if (const auto it = was.find({s.device, s.role}); it != was.end()) {
            ++all;
            stayed += it->second == s.top;
        }
    const auto breaks = [&](const ControlDrawing& d) { // where rows begin, up to the block
        std::map<double, int> firstIn;
        for (const DrawnPath& p : d.paths)
            if (p.number < first.number)
                firstIn.emplace(p.top.y, p.number);
        std::vector<int> numbers;
        for (const auto& [top, number] : firstIn)
            numbers.push_back(number);
        return numbers;
    };
    if (breaks(after) == breaks(before))
        EXPECT_EQ(stayed, all);
}

TEST_P(Drawn, PowerCircuitReadsBack)
{
    const WiredGraph graph = *wiredGraph(circuit);
    const Scene scene = powerDrawing(graph);
    expectNetsReadBack(circuit, scene);
    expectNoTextOnText(scene);
    std::set<std::string> tags;
    for (const Text& t : scene.texts)
        tags.insert(t.text);
    for (const GraphDevice& d : graph.devices)
        if (d.isPower)
            EXPECT_TRUE(tags.contains(d.device->tag)) << d.device->tag;
}

TEST_P(Drawn, OrderInTheFileDoesNotMatter)
{
    Circuit shuffled = circuit;
    std::mt19937 random(3);
    std::shuffle(shuffled.devices.begin(), shuffled.devices.end(), random);
    std::shuffle(shuffled.wires.begin(), shuffled.wires.end(), random);
    const Scene a = controlDrawing(*wiredGraph(circuit)).scene, b = controlDrawing(*wiredGraph(shuffled)).scene;
    ASSERT_EQ(a.symbols.size(), b.symbols.size());
    for (std::size_t i = 0; i < a.symbols.size(); ++i) {
        EXPECT_EQ(a.symbols[i].top, b.symbols[i].top);
        EXPECT_EQ(a.symbols[i].device, b.symbols[i].device);
    }
}

INSTANTIATE_TEST_SUITE_P(Circuits, Drawn,
    ::testing::Values("demo", "pump", "machine", "base=direct",
        "base=reversing stop=two_channel_relay operation=run_inch_selector monitor=voltage guard=yes",
        "base=star_delta stop=controller stops=3 monitor=two_transformers", "base=drive stop=delayed_relay",
        "base=soft_starter brake=yes control=transformer_bonded",
        "base=reversing operation=run_inch_relay control=phase_neutral interlock=auxiliary+push_button",
        "operation=hand_off_auto stop=ordinary_relay overload=return_side",
        "monitor=three_relays monitor_contact=hold stop=contactor_relay",
        "monitor=current_in_line tap=motor_side stop=one_channel_relay"));

TEST(ControlDrawing, LoadsStandOnOneLineAndStartIsBesideItsHold)
{
    const ControlDrawing d = controlDrawing(*wiredGraph(pump()));
    std::map<std::string, const Symbol*> of;
    const Circuit c = pump();
    for (const Symbol& s : d.scene.symbols)
        of[c.device(s.device)->tag + " " + s.role] = &s;
    EXPECT_EQ(of.at("KM1 coil")->bottom.y, of.at("P10 lamp")->bottom.y);
    EXPECT_EQ(of.at("S12 13-14")->top.y, of.at("KM1 13-14")->top.y) << "start and hold begin on one net";
    EXPECT_EQ(of.at("S12 13-14")->top.x, of.at("KM1 coil")->top.x) << "the main path is straight";
    EXPECT_LT(of.at("S12 13-14")->top.x, of.at("KM1 13-14")->top.x);
}

TEST(ControlDrawing, ExchangedWiresChangeIt)
{
    // Stop's and start's wires exchanged at S11:12 and S12:14: the drawing must show the other circuit.
    Circuit c = pump();
    const Scene before = controlDrawing(*wiredGraph(c)).scene;
    const TerminalRef out{c.device("KM1")->id, "14"}, in{c.device("KM1")->id, "13"};
    for (Wire& w : c.wires) {
        if (w.from == TerminalRef{c.device("S12")->id, "14"})
            w.to = in; // the hold is short-circuited: start does nothing
        else if (w.from == TerminalRef{c.device("S12")->id, "13"})
            w.to = out;
    }
    const ControlDrawing after = controlDrawing(*wiredGraph(c));
    expectNetsReadBack(c, after.scene);
    bool differs = before.conductors.size() != after.scene.conductors.size();
    for (std::size_t i = 0; i < std::min(before.symbols.size(), after.scene.symbols.size()); ++i)
        differs |= !(before.symbols[i].upper == after.scene.symbols[i].upper)
            || !(before.symbols[i].top == after.scene.symbols[i].top);
    EXPECT_TRUE(differs);
}

TEST(ControlDrawing, BridgeIsDrawnNotDropped)
{
    // Five buttons as a Wheatstone bridge in front of a coil.
    test::CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    for (int i = 1; i <= 5; ++i)
        b.device("S" + std::to_string(i), "push_button", {{"contacts", std::vector<std::string>{"13-14"}}});
    b.device("Q1", "contactor", {{"coil_voltage_v", 230.0}, {"coil_current", std::string("ac")}});
    b.wire("G0:L1", "S1:13")
        .wire("G0:L1", "S2:13")
        .wire("S1:14", "S3:13")
        .wire("S2:14", "S4:13")
        .wire("S3:14", "Q1:A1")
        .wire("S4:14", "Q1:A1");
    b.wire("S1:14", "S5:13").wire("S2:14", "S5:14").wire("Q1:A2", "G0:N");
    const WiredGraph graph = *wiredGraph(b.circuit());
    const ControlDrawing d = controlDrawing(graph);
    expectEachElementOnce(graph, d);
    expectNetsReadBack(b.circuit(), d.scene);
}

class RandomCircuit : public ::testing::TestWithParam<unsigned> { };
TEST_P(RandomCircuit, KeepsEveryElementAndEveryNet)
{
    std::mt19937 random(GetParam());
    test::CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}});
    const int contacts = 4 + static_cast<int>(random() % 16);
    std::vector<std::string> points{"G0:L1", "G0:N"};
    for (int i = 0; i < contacts; ++i) {
        const std::string tag = "S" + std::to_string(i);
        if (random() % 4 == 0) {
            b.device(tag, "contactor", {{"coil_voltage_v", 230.0}, {"coil_current", std::string("ac")}});
            b.wire(points[random() % points.size()], tag + ":A1")
                .wire(tag + ":A2", random() % 3 == 0 ? points[random() % points.size()] : "G0:N");
        } else {
            const bool opens = random() % 2 == 0;
            b.device(tag, "push_button", {{"contacts", std::vector<std::string>{opens ? "11-12" : "13-14"}}});
            const std::string a = tag + (opens ? ":11" : ":13"), z = tag + (opens ? ":12" : ":14");
            b.wire(points[random() % points.size()], a);
            if (random() % 2 == 0 && points.size() > 3)
                b.wire(points[random() % points.size()], z);
            points.push_back(z);
        }
    }
    const WiredGraph graph = *wiredGraph(b.circuit());
    const ControlDrawing d = controlDrawing(graph);
    expectEachElementOnce(graph, d);
    expectNetsReadBack(b.circuit(), d.scene);
    EXPECT_FALSE(HasFailure()) << "seed " << GetParam();
}
INSTANTIATE_TEST_SUITE_P(Seeds, RandomCircuit, ::testing::Range(1u, 60u));

TEST(SeriesParallel, ReducesALadderToOneTree)
{
    // 0 -a- 1, (b | c-d) 1 to 2, e 2 to 9
    const auto trees = seriesParallel({{0, 0, 1}, {1, 1, 2}, {2, 1, 5}, {3, 5, 2}, {4, 2, 9}}, {0, 9});
    ASSERT_EQ(trees.size(), 1u);
    EXPECT_EQ(trees[0].kind, Tree::Kind::Series);
    EXPECT_EQ(trees[0].leaves(), 5);
    const Tree& t = trees[0].from == 0 ? trees[0] : trees[0].reversed();
    ASSERT_EQ(t.children.size(), 3u);
    EXPECT_EQ(t.children[1].kind, Tree::Kind::Parallel);
}

TEST(SeriesParallel, LeavesABridgeAsItIs)
{
    const auto trees = seriesParallel({{0, 0, 1}, {1, 0, 2}, {2, 1, 3}, {3, 2, 3}, {4, 1, 2}}, {0, 3});
    EXPECT_EQ(trees.size(), 5u);
}

} // namespace
} // namespace ts::diagram
