// The search on panels whose mistake is known.

#include "core/finding/far_looks.h"
#include "core/finding/knowledge.h"
#include "core/finding/search.h"
#include "core/finding/thought.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <numeric>
#include <random>

namespace ts::finding {
namespace {

using measuring::Instrument;
using measuring::MistakeKind;
using measuring::Power;
using measuring::StandIn;
using Texts = std::vector<std::string>;

Circuit pattern(const Texts& said)
{
    return patterns::machine(*patterns::advised(said))->dossier.circuit;
}

bool names(const Finding& f, const std::string& id)
{
    if (f.classes.empty())
        return false;
    const Class& c = f.classes.front();
    const auto isIt = [&id](const measuring::Suspect& s) { return s.id == id; };
    return std::any_of(c.candidates.begin(), c.candidates.end(), isIt)
        || std::any_of(c.alike.begin(), c.alike.end(),
            [&](const auto& same) { return std::any_of(same.begin(), same.end(), isIt); });
}

/// That wire, by what is known of its ends: less than the mistake says, and true.
bool namesOffEnd(const Finding& f, const measuring::Mistake& m)
{
    return std::any_of(m.wires.begin(), m.wires.end(), [&f](const measuring::WireChange& c) {
        const std::string id = "off/" + std::to_string(c.wire.value);
        return c.ends && (names(f, id + "/from") || names(f, id + "/to"));
    });
}

std::vector<std::size_t> drawn(const Knowledge& k, std::size_t count, unsigned seed)
{
    std::vector<std::size_t> mistakes;
    for (const std::size_t c : k.candidates())
        if (k.all()[c].isMistake && !k.all()[c].isHarmless)
            mistakes.push_back(c);
    std::mt19937 random(seed);
    std::shuffle(mistakes.begin(), mistakes.end(), random);
    mistakes.resize(std::min(count, mistakes.size()));
    return mistakes;
}

class Searched : public ::testing::TestWithParam<Texts> { };

/// What the page promises, on mistakes drawn by a seed: the right one in the class, small classes, nothing dangerous.
TEST_P(Searched, FindsWhatIsWrong)
{
    const Circuit circuit = pattern(GetParam());
    const auto k = *Knowledge::of(circuit);
    const Finder start = *Finder::of(circuit);
    const auto mistakes = drawn(*k, 12, 5);
    std::size_t found = 0, members = 0, measurements = 0;
    for (const std::size_t m : mistakes) {
        const auto built = k->panel(m, {});
        const auto search = searchOn(start, *built);
        ASSERT_TRUE(search);
        EXPECT_TRUE(search->dangers.empty()) << k->all()[m].id;
        measurements += search->measurements.size();
        EXPECT_TRUE(search->finding.isConcluded);
        found += names(search->finding, k->all()[m].id);
        members += search->finding.classes.empty() ? 0 : search->finding.classes.front().candidates.size();
    }
    EXPECT_GE(found, mistakes.size() - mistakes.size() / 20) << "of " << mistakes.size();
    EXPECT_LE(static_cast<double>(members), 1.5 * static_cast<double>(mistakes.size()));
    EXPECT_LT(measurements, 35 * mistakes.size()) << "hundreds of candidates, most looks exclude few of them";
}

INSTANTIATE_TEST_SUITE_P(
    Patterns, Searched, ::testing::Values(Texts{}, Texts{"base=reversing"}, Texts{"base=star_delta"}));

TEST(Searched, OnARightPanelItIsAsDrawn)
{
    const Circuit circuit = pattern({});
    StandIn built(std::make_shared<const Plant>(*compile(circuit)));
    const auto search = searchOn(*Finder::of(circuit), built);
    ASSERT_TRUE(search);
    ASSERT_FALSE(search->finding.classes.empty());
    EXPECT_TRUE(names(search->finding, {})) << "nothing is named that is not there";
    EXPECT_FALSE(search->finding.isUnexplained);
}

TEST(Searched, DeadBeforeLive)
{
    const Circuit circuit = pattern({"base=reversing"});
    const auto k = *Knowledge::of(circuit);
    for (const std::size_t m : drawn(*k, 6, 9)) {
        const auto built = k->panel(m, {});
        const auto search = searchOn(*Finder::of(circuit), *built);
        bool wasLive = false;
        for (const Measurement& x : search->measurements) {
            wasLive |= x.taken.in.power != Power::LockedOff;
            EXPECT_FALSE(wasLive && x.taken.in.power == Power::LockedOff) << k->all()[m].id;
        }
    }
}

TEST(Searched, OneMisreadingIsSaidAskedAgainAndOvercome)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    std::size_t askedAgain = 0, found = 0;
    for (const std::size_t m : drawn(*k, 6, 3)) {
        const auto built = k->panel(m, {});
        Finder finder = *Finder::of(circuit);
        bool wasAskedAgain = false, wasMisread = false;
        Finding finding = *finder.think();
        for (int n = 0; finding.next && n < 100; ++n) {
            ASSERT_TRUE(built->bring(finding.next->in));
            auto reading = *built->look(finding.next->look);
            if (!wasMisread && differ(finding.next->expect, reading)) { // the first that says what is the matter
                reading = finding.next->expect;
                wasMisread = true;
            }
            wasAskedAgain |= finding.next->isAgain;
            ASSERT_TRUE(finder.take({finding.next->in, finding.next->look, reading}));
            finding = *finder.think();
        }
        const bool isFound = names(finding, k->all()[m].id) || namesOffEnd(finding, k->all()[m].mistake);
        found += isFound;
        EXPECT_TRUE(isFound || names(finding, {}))
            << k->all()[m].id << ": nothing false is named, but "
            << (finding.classes.empty() ? "nothing" : finding.classes.front().candidates.front().id);
        EXPECT_EQ(finding.contradicted.empty(), !wasAskedAgain) << "else something true explains all that was read";
        askedAgain += wasAskedAgain;
    }
    EXPECT_GE(askedAgain, 3u);
    EXPECT_GE(found, 4u) << "where nothing else would have told it, it is as drawn";
}

/// Both wires of a wrong device far away: nobody has it on a list of single mistakes.
TEST(Searched, WhatIsNotOnTheListGetsNoWrongName)
{
    Circuit built = pattern({});
    const Circuit circuit = built;
    std::size_t moved = 0;
    for (Wire& w : built.wires) {
        const Device* from = built.device(w.from.device);
        if (moved < 3 && from && from->kind == "push_button" && built.device(w.to.device)->kind != "push_button") {
            w.from = {built.wires.front().from.device, "PE"};
            ++moved;
        }
    }
    ASSERT_GE(moved, 2u);
    StandIn panel(std::make_shared<const Plant>(*compile(built)));
    const auto search = searchOn(*Finder::of(circuit), panel);
    ASSERT_TRUE(search);
    EXPECT_EQ(search->finding.classes.empty(), search->finding.isUnexplained);
    for (const Class& c : search->finding.classes)
        if (c.share > 0.5)
            for (const measuring::Suspect& s : c.candidates) {
                const auto is = [&s](const Wire& w) { return s.id == "off/" + std::to_string(w.id.value) + "/from"; };
                const auto wire = std::find_if(circuit.wires.begin(), circuit.wires.end(), is);
                ASSERT_NE(wire, circuit.wires.end()) << s.id;
                EXPECT_FALSE(*wire == *built.wire(wire->id)) << s.id << " is one of those that were moved";
            }
}

/// The end of a wire on any terminal: whatever no list has there gets no wrong place, but the end that is off.
TEST(Searched, AnEndWhereNobodyExpectsItIsSaidToBeOff)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    std::set<std::vector<int>> listed{measuring::netsOf(k->plant())};
    for (const measuring::Deviation& x : k->all())
        if (x.isMistake && !x.moved.empty())
            listed.insert(measuring::netsOf(k->plant(), x.moved));
    std::mt19937 random(7);
    std::size_t runs = 0, said = 0;
    while (runs < 12) {
        const std::size_t w = random() % k->plant().wires.size();
        const PlantWire& wire = k->plant().wires[w];
        const PlantTerminal& t = k->plant().terminals[random() % k->plant().terminals.size()];
        const measuring::MovedWire moved{static_cast<int>(w), std::pair{wire.p, t.node}};
        if (t.inner || t.node == wire.p || wire.p == 0 || t.node == 0
            || listed.contains(measuring::netsOf(k->plant(), {&moved, 1})))
            continue;
        ++runs;
        Circuit built = circuit;
        const auto it = std::find_if(
            built.wires.begin(), built.wires.end(), [&](const Wire& x) { return x.id == wire.id; });
        it->to = {k->plant().devices[static_cast<std::size_t>(t.device)].id, t.marking};
        StandIn panel(std::make_shared<const Plant>(*compile(built)));
        const auto search = searchOn(*Finder::of(circuit), panel);
        ASSERT_TRUE(search);
        const std::string id = std::to_string(wire.id.value);
        EXPECT_TRUE(search->finding.isUnexplained || names(search->finding, "off/" + id + "/to")) << id;
        said += !search->finding.isUnexplained;
    }
    EXPECT_GE(said, 8u) << "most are named";
}

/// To a meter the same; an eye tells a wire that is not there from one that is off at an end, or broken.
TEST(Searched, AnOpenWireIsLookedAt)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    const auto missing = std::find_if(k->all().begin(), k->all().end(),
        [](const measuring::Deviation& x) { return x.isMistake && x.mistake.kind == MistakeKind::Missing; });
    const std::string id = missing->id.substr(missing->id.find('/') + 1);
    const PlantWire& wire = k->plant().wires[static_cast<std::size_t>(missing->moved.front().wire)];
    const int atFrom = measuring::wiresAt(k->plant(), wire.p, {}), atTo = measuring::wiresAt(k->plant(), wire.q, {});
    for (const auto& [name, lessAtFrom, lessAtTo] : {std::tuple{"missing/" + id, 1, 1}, {"off/" + id + "/from", 1, 0},
             {"off/" + id + "/to", 0, 1}, {"wire/" + id + ":open", 0, 0}}) {
        const auto it = std::find_if(
            k->all().begin(), k->all().end(), [&name](const measuring::Deviation& x) { return x.id == name; });
        ASSERT_NE(it, k->all().end()) << name;
        EXPECT_EQ(measuring::wiresAt(k->plant(), wire.p, it->moved), atFrom - lessAtFrom) << name;
        EXPECT_EQ(measuring::wiresAt(k->plant(), wire.q, it->moved), atTo - lessAtTo) << name;
        const auto candidate = static_cast<std::size_t>(it - k->all().begin());
        EXPECT_EQ(k->electrically(candidate), k->electrically(static_cast<std::size_t>(missing - k->all().begin())));
        Finder finder = *Finder::of(circuit);
        Finding finding = *finder.think();
        for (int n = 0; finding.next && n < 60; ++n) {
            ASSERT_EQ(finding.next->in.power, Power::LockedOff);
            const auto placed = *looksAt(*k, {{finding.next->in, finding.next->look, {}}});
            const auto reading = k->deadWith(candidate, it->moved, placed.front()->state, placed.front()->look);
            ASSERT_TRUE(finder.take({finding.next->in, finding.next->look, reading}));
            finding = *finder.think();
        }
        EXPECT_TRUE(names(finding, name)) << name;
        EXPECT_EQ(finding.classes.front().candidates.size(), 1u) << name;
    }
}

/// Earth is one node of several devices: its wires are not counted at one of them.
TEST(Searched, WiresAreCountedOnlyAtTerminalsOfTheirOwn)
{
    const Circuit circuit = pattern({"base=reversing"});
    const auto k = *Knowledge::of(circuit);
    std::size_t looks = 0;
    for (const measuring::DeadLook& look : k->looks().looks)
        for (const int node : look.isForWires() ? look.nodesA : std::vector<int>()) {
            ++looks;
            EXPECT_TRUE(isOneTerminal(k->plant(), node)) << k->plant().nameOfNode(node);
        }
    EXPECT_GT(looks, 100u);
    Plant joined = k->plant(); // two devices on one node, as earth can be
    joined.terminals[1].node = joined.terminals[0].node;
    EXPECT_FALSE(isOneTerminal(joined, joined.terminals[0].node));
    std::vector<std::size_t> earths;
    for (const std::size_t c : k->candidates())
        if (const auto& x = k->all()[c]; x.isMistake && x.mistake.kind == MistakeKind::Missing
            && k->plant().wires[static_cast<std::size_t>(x.moved.front().wire)].p == 0)
            earths.push_back(c);
    for (const std::size_t c : earths) {
        const auto built = k->panel(c, {});
        const auto search = searchOn(*Finder::of(circuit), *built);
        for (const Measurement& m : search->measurements)
            if (m.taken.look.with == Instrument::Eye && m.taken.in.power == Power::LockedOff)
                for (const std::string& at : m.taken.look.at)
                    EXPECT_TRUE(isOneTerminal(k->plant(), measuring::nodesOf(k->plant(), at)->front())) << at;
    }
}

/// The wire that is missing may be ruled out by eye while the same one broken is not.
TEST(Beeps, AreKnownOfWhatIsAskedForAlone)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    std::vector<std::size_t> off;
    for (const std::size_t c : k->candidates())
        if (k->electrically(c) != c)
            off.push_back(c);
    ASSERT_GT(off.size(), 100u);
    const Beeps* beeps = k->beeps(off, {});
    ASSERT_NE(beeps, nullptr);
    for (const std::size_t c : off)
        EXPECT_TRUE(beeps->of[k->electrically(c)].has_value()) << k->all()[c].id;
}

/// What is worked out only where a panel is otherwise is what the whole panel shows.
TEST(Beeps, AreThoseOfTheWholePanel)
{
    const Circuit circuit = pattern({"base=reversing"});
    const auto k = *Knowledge::of(circuit);
    std::vector<std::size_t> all(k->all().size());
    std::iota(all.begin(), all.end(), std::size_t{0});
    const Beeps* beeps = k->beeps(all, {});
    ASSERT_NE(beeps, nullptr);
    const auto& looks = k->looks();
    std::size_t compared = 0, otherwise = 0;
    for (std::size_t c = 0; c < all.size(); c += 7) {
        if (k->electrically(c) != c)
            continue;
        std::map<std::size_t, measuring::Path> told;
        for (const Beep& b : *beeps->of[c])
            EXPECT_TRUE(told.emplace(b.look, b.path).second) << "said once";
        for (std::size_t s = 0; s < looks.states.size(); ++s) {
            measuring::Ohms whole = k->ohms(c, looks.states[s]);
            for (const std::size_t l : k->looksIn(s)) {
                const measuring::DeadLook& look = looks.looks[l];
                if (look.isForWires() || look.nodesA.size() != 1 || look.nodesB.size() != 1)
                    continue;
                const auto it = told.find(l);
                const auto path = whole.pathBetween(look.nodesA.front(), look.nodesB.front());
                ASSERT_EQ(it == told.end() ? beeps->right[l] : it->second, path) << k->all()[c].id << " " << look.a;
                ++compared;
                otherwise += it != told.end();
            }
        }
    }
    EXPECT_GT(compared, 10000u);
    EXPECT_GT(otherwise, 500u);
}

/// Two wires that are missing at once: nothing alone reads so, and the pair is named.
TEST(Searched, TwoAtOnceAreNamedTogether)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    std::vector<std::size_t> missing;
    for (const std::size_t c : k->candidates())
        if (k->all()[c].isMistake && k->all()[c].mistake.kind == MistakeKind::Missing)
            missing.push_back(c);
    std::mt19937 random(3);
    std::shuffle(missing.begin(), missing.end(), random);
    std::size_t unexplained = 0, named = 0;
    for (std::size_t w = 0; w + 1 < 16; w += 2) {
        const std::array both{missing[w], missing[w + 1]};
        Circuit built = circuit;
        for (const std::size_t m : both)
            std::erase_if(
                built.wires, [&](const Wire& x) { return k->all()[m].id == "missing/" + std::to_string(x.id.value); });
        StandIn panel(std::make_shared<const Plant>(*compile(built)));
        Finder finder = *Finder::of(circuit);
        for (const std::size_t m : both) { // somebody has measured both wires, twice
            const PlantWire& wire = k->plant().wires[static_cast<std::size_t>(k->all()[m].moved.front().wire)];
            const measuring::Look look{
                Instrument::Ohms, {k->plant().nameOfNode(wire.p), k->plant().nameOfNode(wire.q)}};
            ASSERT_TRUE(panel.bring({}));
            for (int times = 0; times < 2; ++times)
                ASSERT_TRUE(finder.take({{}, look, *panel.look(look)}));
        }
        const auto search = searchOn(finder, panel);
        ASSERT_TRUE(search);
        if (!search->finding.isUnexplained)
            continue; // one of them explains all that was read on the way
        ++unexplained;
        named += std::any_of(search->finding.pairs.begin(), search->finding.pairs.end(), [&](const auto& pair) {
            const auto is = [&](std::size_t n, std::size_t m) { return pair[n].id == k->all()[m].id; };
            return (is(0, both[0]) && is(1, both[1])) || (is(0, both[1]) && is(1, both[0]));
        });
        for (const auto& pair : search->finding.pairs)
            EXPECT_NE(pair[0].id, pair[1].id);
    }
    std::cout << "pairs: " << named << " named of " << unexplained << " unexplained\n";
    EXPECT_GT(unexplained, 0u);
    EXPECT_GE(2 * named, unexplained);
}

TEST(Searched, ASymptomShortensIt)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    const auto right = k->panel(k->asDrawn(), {});
    std::size_t with = 0, without = 0, told = 0;
    for (const std::size_t m : drawn(*k, 60, 4)) {
        const auto built = k->panel(m, {});
        const auto symptoms = symptomsFrom(k->plant(), "P2 dark");
        ASSERT_TRUE(symptoms);
        ASSERT_FALSE(
            right->bring(symptoms->front().in) && *isSeen(k->plant(), right->trail().back(), symptoms->front()));
        ASSERT_TRUE(built->bring(symptoms->front().in));
        if (!*isSeen(built->plant(), built->trail().back(), symptoms->front()))
            continue;
        ++told;
        Finder finder = *Finder::of(circuit);
        without += searchOn(finder, *built)->measurements.size();
        ASSERT_TRUE(finder.tell(*symptoms));
        const auto search = searchOn(finder, *built);
        with += search->measurements.size();
        EXPECT_TRUE(names(search->finding, k->all()[m].id)) << k->all()[m].id;
        EXPECT_FALSE(search->measurements.empty()) << "what was only told is seen before it is named";
    }
    EXPECT_GT(told, 3u);
    EXPECT_LT(with, without);
}

TEST(Searched, AMachineThatRanHasFaultsRatherThanMistakes)
{
    const Circuit circuit = pattern({});
    const auto k = *Knowledge::of(circuit);
    for (const History history : {History::Wired, History::RanUntilNow}) {
        Finder finder = *Finder::of(circuit, history);
        ASSERT_TRUE(finder.tell(*symptomsFrom(k->plant(), "operate S4; operate S2 -> not M1 driven")));
        const Finding f = *finder.think();
        EXPECT_FALSE(f.isConcluded);
        ASSERT_TRUE(f.next);
        const bool isMistake = f.next->outcomes.front().candidates.front().mistake.has_value()
            && f.next->outcomes.front().candidates.front().mistake->kind != MistakeKind::Missing;
        if (history == History::RanUntilNow)
            EXPECT_FALSE(isMistake) << "a wire is on its terminal for years, then a contact fails";
    }
}

TEST(Searched, IsTheSameEveryTime)
{
    const Circuit circuit = pattern({"base=reversing"});
    const auto k = *Knowledge::of(circuit);
    const std::size_t m = drawn(*k, 1, 2).front();
    const auto a = searchOn(*Finder::of(circuit), *k->panel(m, {}));
    const auto b = searchOn(*Finder::of(circuit), *k->panel(m, {}));
    ASSERT_EQ(a->measurements.size(), b->measurements.size());
    for (std::size_t n = 0; n < a->measurements.size(); ++n)
        EXPECT_EQ(a->measurements[n].taken, b->measurements[n].taken);
}

TEST(Searched, ACopyIsAStepToGoBackTo)
{
    const Circuit circuit = pattern({});
    Finder finder = *Finder::of(circuit);
    const Finding before = *finder.think();
    const Finder kept = finder;
    ASSERT_TRUE(finder.take({before.next->in, before.next->look, {1e7, 1e7, {}}}));
    EXPECT_EQ(kept.think()->next->look, before.next->look);
    EXPECT_EQ(kept.taken().size(), 0u);
    EXPECT_EQ(finder.taken().size(), 1u);
}

TEST(Searched, CanBeCancelled)
{
    std::stop_source source;
    source.request_stop();
    Finder finder = *Finder::of(pattern({}));
    const auto finding = finder.think(source.get_token());
    ASSERT_FALSE(finding);
    EXPECT_EQ(finding.error().code, ErrorCode::Cancelled);
    EXPECT_TRUE(finder.think()) << "nothing is left half done";
}

TEST(Searched, WhatIsNotThereIsSaid)
{
    Finder finder = *Finder::of(pattern({}));
    const auto taken = finder.take(
        {{Power::LockedOff, {"S77 press"}, {}, {}}, {Instrument::Ohms, {"Q1:13", "Q1:14"}}, measuring::figure(0)});
    ASSERT_FALSE(taken);
    EXPECT_EQ(taken.error().code, ErrorCode::NotFound);
    EXPECT_FALSE(finder.take({{}, {Instrument::Ohms, {"Q1:13", "Q1:999"}}, measuring::figure(0)}));
    EXPECT_FALSE(finder.take({{}, {Instrument::Ohms, {"Q1"}}, measuring::figure(0)}));
    EXPECT_TRUE(finder.taken().empty());
}

TEST(Symptoms, AreLooksWithWords)
{
    const Plant plant = *compile(pattern({"base=reversing"}));
    const auto two = symptomsFrom(plant, "operate S2; press S0 -> not M1 driven, Q1 out");
    ASSERT_TRUE(two);
    ASSERT_EQ(two->size(), 2u);
    EXPECT_EQ(two->front().in.bring, (Texts{"S2 press", "S2 release", "S0 press"}));
    EXPECT_EQ(two->front().in.power, Power::On);
    EXPECT_TRUE(two->front().isNot);
    EXPECT_EQ((*two)[1].device, "Q1");
    EXPECT_EQ((*two)[1].state, "out");
    EXPECT_TRUE(symptomsFrom(plant, "M1 right")->front().in.bring.empty()) << "nothing done but switched on";
    for (const char* wrong : {"", "->", "operate -> M1 driven", "operate S2 -> M1", "operate S2 -> M1 flies",
             "operate S99 -> M1 driven", "fly S2 -> M1 driven", "operate S2 -> not not M1 driven"})
        EXPECT_FALSE(symptomsFrom(plant, wrong)) << wrong;
    // Codes and smell are states like any other.
    for (const char* seen : {"K0 channel_1_dark", "K0 fault_blinks", "K0 supply_dark"})
        EXPECT_TRUE(symptomsFrom(plant, seen)) << seen;
    EXPECT_TRUE(symptomsFrom(*compile(pattern({"control=phase_neutral"})), "not Q1 burnt")) << "an AC coil burns";
    EXPECT_FALSE(symptomsFrom(plant, "S2 burnt"));
    EXPECT_EQ(symptomsFrom(plant, "").error().code, ErrorCode::Syntax);
    EXPECT_EQ(symptomsFrom(plant, "operate S99 -> M1 driven").error().code, ErrorCode::NotFound);
}

/// One lamp code halves the search: the wire that is missing in channel 1 is found sooner with it.
TEST(Symptoms, ACodeOfTheSafetyRelayShortensTheSearch)
{
    const Circuit circuit = pattern({"stop=two_channel_relay"});
    const auto k = *Knowledge::of(circuit);
    const auto wire = std::find_if(circuit.wires.begin(), circuit.wires.end(),
        [&](const Wire& w) { return circuit.nameOf(w.from) == "K0:S11" || circuit.nameOf(w.to) == "K0:S11"; });
    ASSERT_NE(wire, circuit.wires.end());
    const std::string id = "missing/" + std::to_string(wire->id.value);
    std::optional<std::size_t> truth;
    for (const std::size_t c : k->candidates())
        if (k->all()[c].id == id)
            truth = c;
    ASSERT_TRUE(truth);
    const auto built = k->panel(*truth, {});
    const Finder plain = *Finder::of(circuit);
    Finder told = plain;
    ASSERT_TRUE(told.tell(*symptomsFrom(k->plant(), "K0 channel_1_blinks, K0 channel_2_lit")));
    EXPECT_LT(told.entropy(), plain.entropy() - 2) << "bits";
    const auto without = searchOn(plain, *built), with = searchOn(told, *built);
    ASSERT_TRUE(without && with);
    EXPECT_TRUE(names(with->finding, id));
    EXPECT_LT(with->measurements.size(), without->measurements.size());
}

} // namespace
} // namespace ts::finding
