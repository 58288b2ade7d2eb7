// What can be meant with what is selected: each meaning does what it says, shown by running the changed circuit; and
// whatever is offered anywhere leads to a circuit that compiles.

#include "core/library/table.h"
#include "core/offers/consequence.h"
#include "core/offers/offer.h"

#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/io/dossier_text.h"
#include "core/library/registry.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <random>
#include <set>

namespace ts::offers {
namespace {

using Texts = std::vector<std::string>;

DossierFile built(const Texts& with)
{
    auto file = patterns::machine(*patterns::MachinePlan::from(with));
    EXPECT_TRUE(file) << file.error().message.id;
    return *file;
}

Picked on(const DossierFile& file, std::string_view tag, const char* role = "")
{
    return {file.dossier.circuit.device(tag)->id, role, {}};
}

DossierFile done(const DossierFile& file, const Picked& target, const char* offer, const Answers& answers = {})
{
    auto changed = carriedOut(file, target, offer, answers);
    EXPECT_TRUE(changed) << offer << ": " << changed.error().message.id;
    return changed ? *changed : file;
}

bool isOffered(const DossierFile& file, const Picked& target, const char* offer)
{
    for (const Offer& o : offersFor(file.dossier, target))
        if (o.id == offer)
            return true;
    return false;
}

std::string presetOf(const DossierFile& file, const Picked& target, const char* offer, const char* question)
{
    for (const Offer& o : offersFor(file.dossier, target))
        if (o.id == offer)
            return presetsOf(o)[question];
    return "not offered";
}

/// The tag of the device that only the second file has.
std::string newTag(const DossierFile& before, const DossierFile& after)
{
    for (const Device& d : after.dossier.circuit.devices)
        if (!before.dossier.circuit.device(d.id))
            return d.tag;
    return {};
}

bool means(const DossierFile& before, const DossierFile& after, const std::string& id, const std::string& first)
{
    const auto all = meaningOf(before.dossier.circuit, after.dossier.circuit);
    return std::any_of(all->begin(), all->end(),
        [&](const Meaning& m) { return m.text.id == id && std::get<std::string>(m.text.arguments[0]) == first; });
}

test::Bench started(const DossierFile& file, const char* button = "S2")
{
    test::Bench b(*compile(file.dossier.circuit));
    b.to(0.5).tap(button).to(2.0);
    return b;
}

TEST(SeriesBefore, AStartBranchOnlyIsNoStop)
{
    const DossierFile file = built({"base=direct"});
    const DossierFile only = done(
        file, on(file, "S2", "13-14"), "series_before", {{"what", "new push_button opening"}, {"reach", "only"}});
    const std::string stop = newTag(file, only);
    test::Bench b = started(only);
    ASSERT_TRUE(b.is("Q1", "in"));
    b.tap(stop).to(4.0);
    EXPECT_TRUE(b.is("Q1", "in")) << "the hold goes past it";
    EXPECT_TRUE(means(file, only, "means.cuts_nothing", stop + " 11-12"));

    const DossierFile all = done(
        file, on(file, "S2", "13-14"), "series_before", {{"what", "new push_button opening"}, {"reach", "all"}});
    test::Bench c = started(all);
    ASSERT_TRUE(c.is("Q1", "in"));
    c.tap(newTag(file, all)).to(4.0);
    EXPECT_TRUE(c.is("Q1", "out"));
    EXPECT_TRUE(means(file, all, "means.cuts", newTag(file, all) + " 11-12"));
}

TEST(SeriesAfter, CutsTheCoilFromTheReturn)
{
    const DossierFile file = built({"base=direct"});
    const DossierFile changed = done(
        file, on(file, "Q1", "coil"), "series_after", {{"what", "new push_button opening"}});
    test::Bench b = started(changed);
    ASSERT_TRUE(b.is("Q1", "in"));
    b.tap(newTag(file, changed)).to(4.0);
    EXPECT_TRUE(b.is("Q1", "out"));
}

TEST(Parallel, SecondStartButtonStartsAndAStopPastTheStopButtonIsTold)
{
    const DossierFile file = built({"base=direct"});
    const DossierFile second = done(file, on(file, "S2", "13-14"), "parallel", {{"what", "new push_button closing"}});
    EXPECT_TRUE(started(second, newTag(file, second).c_str()).is("Q1", "in"));
    const DossierFile past = done(file, on(file, "S1", "11-12"), "parallel", {{"what", "new push_button closing"}});
    EXPECT_TRUE(means(file, past, "means.no_longer_cuts", "S1 11-12"));
}

TEST(TakeOut, ClosesTheGapInSeriesAndLeavesItOpenInParallel)
{
    const DossierFile file = built({"base=direct"});
    EXPECT_EQ(presetOf(file, on(file, "S1", "11-12"), "take_out", "gap"), "closed");
    EXPECT_EQ(presetOf(file, on(file, "S2", "13-14"), "take_out", "gap"), "open");
    EXPECT_EQ(presetOf(file, on(file, "Q1", "13-14"), "take_out", "gap"), "open")
        << "the hold stands beside the start button";
    const DossierFile without = done(file, on(file, "S1", "11-12"), "take_out");
    EXPECT_TRUE(started(without).is("Q1", "in"));
    const DossierFile open = done(file, on(file, "S1", "11-12"), "take_out", {{"gap", "open"}});
    EXPECT_TRUE(started(open).is("Q1", "out"));
    EXPECT_TRUE(means(file, open, "means.not_fed", "Q1"));
}

TEST(Hold, GoesAndComesBack)
{
    const DossierFile file = built({"base=direct"});
    const DossierFile inching = done(file, on(file, "Q1"), "hold_remove");
    EXPECT_TRUE(started(inching).is("Q1", "out"));
    EXPECT_FALSE(isOffered(inching, on(inching, "Q1"), "hold_remove"));
    const DossierFile again = done(inching, on(inching, "Q1"), "hold_add");
    EXPECT_TRUE(started(again).is("Q1", "in"));
    test::Bench b = started(again);
    b.tap("S1").to(4.0);
    EXPECT_TRUE(b.is("Q1", "out"));
}

TEST(Hold, BehindTheInterlockIsToldBeforeItIsDone)
{
    const DossierFile file = built({"base=reversing"});
    const DossierFile inching = done(file, on(file, "Q1"), "hold_remove");
    Answers behind;
    for (const Offer& o : offersFor(inching.dossier, on(inching, "Q1")))
        if (o.id == "hold_add")
            for (const Choice& c : o.questions.front().choices)
                if (c.value.starts_with("S2") && c.value.find("Q2:") != std::string::npos)
                    behind["hold"] = c.value;
    ASSERT_FALSE(behind.empty()) << "it is among what can be meant";
    const DossierFile changed = done(inching, on(inching, "Q1"), "hold_add", behind);
    EXPECT_TRUE(means(inching, changed, "means.no_longer_cuts", "Q2 21-22")
        || means(inching, changed, "means.no_longer_cuts", "Q2 11-12"));
    EXPECT_FALSE(means(inching, done(inching, on(inching, "Q1"), "hold_add"), "means.no_longer_cuts", "Q2 11-12"));
}

TEST(Interlock, WithoutItBothComeInAndWithItTheyDoNot)
{
    const DossierFile file = built({"base=reversing", "interlock=none"});
    const auto both = [](const DossierFile& f) {
        test::Bench b(*compile(f.dossier.circuit));
        b.to(0.5).act("S2", "press").to(0.6).act("S3", "press").to(0.8);
        return b.is("Q1", "in") && b.is("Q2", "in");
    };
    EXPECT_TRUE(both(file));
    const DossierFile locked = done(file, on(file, "Q1"), "interlock_add", {{"with", "Q2"}, {"by", "contacts"}});
    EXPECT_FALSE(both(locked));
    EXPECT_TRUE(isOffered(locked, on(locked, "Q2"), "interlock_remove"));
    EXPECT_TRUE(both(done(locked, on(locked, "Q2"), "interlock_remove", {{"with", "Q1"}})));
    const DossierFile lever = done(file, on(file, "Q1"), "interlock_add", {{"with", "Q2"}, {"by", "mechanical"}});
    EXPECT_EQ(lever.dossier.circuit.interlocks.size(), 1u);
    EXPECT_EQ(carriedOut(lever, on(lever, "Q1"), "interlock_add", {{"with", "Q2"}, {"by", "both"}}).error().message.id,
        "offer.is_linked");
}

TEST(Lamp, IsLitWhileTheContactorIsInAndGoesAgain)
{
    const DossierFile file = built({"base=direct", "lamps=none"});
    const DossierFile lit = done(file, on(file, "Q1"), "lamp_add", {{"lit", "in"}});
    const std::string lamp = newTag(file, lit);
    test::Bench b = started(lit);
    EXPECT_TRUE(b.is(lamp, "lit"));
    b.tap("S1").to(4.0);
    EXPECT_TRUE(b.is(lamp, "dark"));
    const DossierFile without = done(lit, on(lit, "Q1"), "lamp_remove", {{"lamp", lamp}});
    EXPECT_EQ(without.dossier.circuit.device(lamp), nullptr);
    EXPECT_EQ(without.dossier.circuit.wires.size(), file.dossier.circuit.wires.size());
}

TEST(Feedback, KeepsTheRelayFromResettingWhileTheContactorIsIn)
{
    const DossierFile file = built({"base=direct", "stop=two_channel_relay", "feedback=no", "second_contactor=no"});
    const DossierFile watched = done(file, on(file, "Q1"), "feedback_add");
    const auto resets = [](const DossierFile& f) {
        test::Bench b(*compile(f.dossier.circuit));
        b.to(0.5).act("Q1", "push_in").to(1.0).tap("S4").to(2.0);
        return b.is("K0", "outputs_on");
    };
    EXPECT_TRUE(resets(file));
    EXPECT_FALSE(resets(watched));
    EXPECT_TRUE(resets(done(watched, on(watched, "Q1"), "feedback_remove")));
}

TEST(Wire, EndMovesAndSeriesHereCutsAllThatFollows)
{
    const DossierFile file = built({"base=direct"});
    const Circuit& c = file.dossier.circuit;
    WireId wire;
    for (const Wire& w : c.wires)
        if (c.nameOf(w.from) == "S1:12" || c.nameOf(w.to) == "S1:12")
            wire = w.id;
    const Picked target{{}, {}, wire};
    ASSERT_TRUE(isOffered(file, target, "series_here"));
    const DossierFile stopped = done(file, target, "series_here", {{"what", "new push_button opening"}});
    test::Bench b = started(stopped);
    ASSERT_TRUE(b.is("Q1", "in"));
    b.tap(newTag(file, stopped)).to(4.0);
    EXPECT_TRUE(b.is("Q1", "out"));
    EXPECT_EQ(carriedOut(file, target, "move_end", {{"end", "from"}, {"to", "nowhere"}}).error().message.id,
        "offer.no_answer");
}

TEST(Route, AWireGetsItsOwnCableAndARouteIsLaidOtherwise)
{
    const DossierFile file = built({"base=direct"});
    const Wire wire = file.dossier.circuit.wires.back();
    const Picked target{{}, {}, wire.id};
    ASSERT_TRUE(isOffered(file, target, "run_along"));
    const DossierFile own = done(file, target, "run_along", {{"along", "own"}});
    const Route* cable = own.dossier.circuit.route(own.dossier.circuit.wire(wire.id)->route);
    ASSERT_TRUE(cable);
    EXPECT_EQ(cable->kind, RouteKind::Cable);
    EXPECT_EQ(std::count_if(own.dossier.circuit.wires.begin(), own.dossier.circuit.wires.end(),
                  [&](const Wire& w) { return w.route == cable->id; }),
        1);
    const DossierFile laid = done(own, target, "lay", {{"laid", "moving_cable"}});
    EXPECT_EQ(laid.dossier.circuit.route(cable->id)->kind, RouteKind::MovingCable);
    EXPECT_EQ(presetOf(laid, target, "lay", "laid"), "moving_cable");
    // Back among the others.
    const DossierFile back = done(laid, target, "run_along", {{"along", std::to_string(wire.route.value)}});
    EXPECT_EQ(back.dossier.circuit.wire(wire.id)->route, wire.route);
}

/// Field by field; what stands there is offered first, and one wrong answer changes nothing.
TEST(WireData, OfAWireAndItsRouteIsSaid)
{
    const DossierFile file = built({});
    const Wire& wire = file.dossier.circuit.wires.front();
    const Picked target{{}, {}, wire.id};
    EXPECT_EQ(presetOf(file, target, "wire_data", "area_mm2"), shortestText(wire.areaMm2));
    const DossierFile said = done(file, target, "wire_data",
        {{"area_mm2", "14 AWG"}, {"length_m", "3"}, {"insulation", "xlpe_90"}, {"conductor_class", "2"}});
    const Wire& is = *said.dossier.circuit.wire(wire.id);
    EXPECT_NEAR(is.areaMm2, 2.08, 0.01);
    EXPECT_EQ(is.lengthM, 3);
    EXPECT_EQ(is.insulation, "xlpe_90");
    EXPECT_EQ(presetOf(said, target, "wire_data", "conductor_class"), "2");
    const auto wrong = carriedOut(file, target, "wire_data", {{"length_m", "3"}, {"area_mm2", "thick"}});
    ASSERT_FALSE(wrong);
    EXPECT_EQ(wrong.error().message.id, "field.range");
    const DossierFile laid = done(file, target, "route_data", {{"loaded_circuits", "3"}, {"method", "b2"}});
    EXPECT_EQ(laid.dossier.circuit.route(wire.route)->loadedCircuits, 3);
    EXPECT_EQ(laid.dossier.circuit.route(wire.route)->method, "b2");
}

TEST(MonitoredBlock, IsOfferedWhereABlockCanComeOffAndOnlyOnce)
{
    const DossierFile file = built({"stop=two_channel_relay"});
    ASSERT_TRUE(isOffered(file, on(file, "S0"), "monitored_block"));
    for (const char* other : {"S1", "Q1", "K0", "M1"})
        EXPECT_FALSE(isOffered(file, on(file, other), "monitored_block")) << other;
    const DossierFile monitored = done(file, on(file, "S0"), "monitored_block");
    EXPECT_FALSE(isOffered(monitored, on(monitored, "S0"), "monitored_block"));
    // Come off, it stops the motor where the plain one leaves it running.
    const auto isDriven = [](const DossierFile& f) {
        const Plant plant = *compile(f.dossier.circuit);
        const auto stimuli = *stimuliOf(plant, f.dossier.scenarios[0]);
        Workspace workspace;
        State state = initialState(plant);
        Trace trace;
        // Up to where the motor runs, then the block comes off.
        for (std::size_t k = 0; k < stimuli.size() && state.actuatorMode[0] != MotorMode::Driven; ++k)
            advance(plant, state, std::span(stimuli).subspan(k, 1), {stimuli[k].at + 1'000'000'000, {}, {}, false},
                trace, workspace);
        EXPECT_EQ(state.actuatorMode[0], MotorMode::Driven);
        Stimulus off;
        off.at = state.now;
        off.kind = Stimulus::Kind::PutFault;
        off.fault = faultFrom(plant, "S0/block:fallen_off")->fault;
        advance(plant, state, std::span(&off, 1), {state.now + 500'000'000, {}, {}, false}, trace, workspace);
        return state.actuatorMode[0] == MotorMode::Driven;
    };
    EXPECT_TRUE(isDriven(file));
    EXPECT_FALSE(isDriven(monitored));
}

TEST(SecondContactor, StopsTheMotorWhenTheFirstOneIsWelded)
{
    const DossierFile file = built({"base=direct"});
    const DossierFile two = done(file, on(file, "Q1"), "second_contactor");
    const std::string second = newTag(file, two);
    EXPECT_EQ(two.dossier.circuit.device(second)->part, two.dossier.circuit.device("Q1")->part);
    const auto stillRuns = [](const DossierFile& f, const std::string& weld) {
        const Plant plant = *compile(f.dossier.circuit);
        Workspace workspace;
        std::vector<Fault> faults;
        if (!weld.empty())
            faults.push_back(faultFrom(plant, weld + "/main:welded")->fault);
        const Scenario& s = f.dossier.scenarios.front();
        const ScenarioRun run = *runScenario(plant, s, faults, 0.0, workspace);
        return std::pair{std::any_of(run.trace.events.begin(), run.trace.events.end(),
                             [](const Event& e) { return e.why == Why::Turning; }),
            run.end.actuatorMode[0] == MotorMode::Driven};
    };
    const auto [turned, drivenAtEnd] = stillRuns(file, "");
    EXPECT_TRUE(turned);
    EXPECT_EQ(stillRuns(two, ""), (std::pair{turned, drivenAtEnd})) << "it starts and stops as before";
    EXPECT_TRUE(stillRuns(file, "Q1").second) << "one contactor, welded: it runs on";
    EXPECT_EQ(stillRuns(two, "Q1").second, drivenAtEnd);
    EXPECT_EQ(stillRuns(two, second).second, drivenAtEnd);
    EXPECT_FALSE(isOffered(file, on(file, "M1"), "second_contactor"));
}

TEST(Exchange, TurnsTheMotorTheOtherWay)
{
    const DossierFile file = built({"base=direct"});
    const double forwards = started(file).frame().motors.front().speedRadPerS;
    const DossierFile changed = done(file, on(file, "M1"), "exchange");
    EXPECT_NEAR(started(changed).frame().motors.front().speedRadPerS, -forwards, 1.0);
}

TEST(NewDevice, TakesWhatItNeedsFromTheFirstOfItsKind)
{
    const DossierFile file = built({"base=direct"});
    const DossierFile changed = done(file, {}, "new_device", {{"kind", "contactor"}, {"label", "fan"}});
    const Device& made = changed.dossier.circuit.devices.back();
    EXPECT_EQ(made.tag, "Q2");
    EXPECT_EQ(made.label, "fan");
    EXPECT_TRUE(made.parameters.contains("coil_voltage_v"));
    EXPECT_EQ(carriedOut(file, {}, "new_device", {{"kind", "brake"}, {"values", "torque_nm"}}).error().message.id,
        "parameter.no_equals");
}

TEST(Offers, UnknownOnesAreRefused)
{
    const DossierFile file = built({"base=direct"});
    EXPECT_EQ(carriedOut(file, on(file, "Q1"), "paint", {}).error().message.id, "offer.unknown");
    EXPECT_EQ(carriedOut(file, on(file, "S1"), "hold_add", {}).error().message.id, "offer.unknown");
    EXPECT_TRUE(offersFor(file.dossier, {{9999}, "", {}}).empty()) << "such a device is not there";
    EXPECT_TRUE(offersFor(file.dossier, {{}, "", {9999}}).empty());
    EXPECT_EQ(carriedOut(file, {{9999}, "", {}}, "new_wire", {}).error().message.id, "offer.unknown");
}

/// Every target, every offer, its first answers and for each question its last one: the result is a whole circuit, and
/// the file it came from is untouched.
void expectAllOffersHold(const DossierFile& file)
{
    std::vector<Picked> targets{{}};
    for (const Device& d : file.dossier.circuit.devices) {
        targets.push_back({d.id, "", {}});
        const auto body = bodyOf(file.dossier.circuit, d);
        for (const Element& e : body->elements)
            if (!e.role.empty())
                targets.push_back({d.id, e.role, {}});
    }
    for (std::size_t k = 0; k < file.dossier.circuit.wires.size(); k += 7)
        targets.push_back({{}, {}, file.dossier.circuit.wires[k].id});
    const std::string before = io::printDossier(file);
    int carried = 0;
    for (const Picked& t : targets)
        for (const Offer& offer : offersFor(file.dossier, t)) {
            if (!t.role.empty()
                && !(offer.id.starts_with("series") || offer.id == "parallel" || offer.id == "take_out"))
                continue; // the device's own were tried with the device
            std::vector<Answers> tries{presetsOf(offer)};
            for (const Question& q : offer.questions)
                if (q.choices.size() > 1) {
                    tries.push_back(presetsOf(offer));
                    tries.back()[q.id] = q.choices.back().value;
                }
            for (const Answers& answers : tries) {
                const auto changed = carriedOut(file, t, offer.id, answers);
                if (!changed)
                    continue; // with a reason; that every reason has a sentence is tested in wording
                ++carried;
                const auto plant = compile(changed->dossier.circuit);
                EXPECT_TRUE(plant) << offer.id << " " << t.device.value << " " << t.role;
                const auto back = io::parseDossier(io::printDossier(*changed));
                ASSERT_TRUE(back) << offer.id << ": " << back.error().message.id << " " << back.error().place.pointer;
                EXPECT_EQ(*back, *changed) << offer.id;
                std::set<int> ids;
                for (const Wire& w : changed->dossier.circuit.wires)
                    EXPECT_TRUE(ids.insert(w.id.value).second && w.id.value < changed->nextId) << offer.id;
            }
        }
    EXPECT_GT(carried, 50);
    EXPECT_EQ(io::printDossier(file), before);
}

TEST(Offers, WhateverIsOfferedYieldsAWholeCircuit)
{
    expectAllOffersHold(built({"base=reversing", "stop=two_channel_relay"}));
    expectAllOffersHold(built({"base=direct", "control=phase_neutral"}));
}

/// Somebody who tries everything: thirty changes one upon the other, any of what is offered, with any answers. Whatever
/// comes out is a circuit that compiles, reads back, and is drawn with every wired terminal.
class AnyChange : public ::testing::TestWithParam<unsigned> { };
TEST_P(AnyChange, LeavesAWholeCircuitEachTime)
{
    std::mt19937 random(GetParam());
    const auto any = [&](std::size_t count) { return static_cast<std::size_t>(random() % count); };
    DossierFile file = built(GetParam() % 2 ? Texts{"base=reversing", "stop=two_channel_relay"}
                                            : Texts{"base=star_delta", "motor=30kW", "control=phase_neutral"});
    file.dossier.scenarios.clear(); // so that devices can go
    std::string done;
    int step = 0;
    for (int tries = 0; step < 30 && tries < 300; ++tries) {
        const Circuit& c = file.dossier.circuit;
        Picked target;
        const Device& d = c.devices[any(c.devices.size())];
        if (random() % 8 == 0) {
            target.wire = c.wires[any(c.wires.size())].id;
        } else {
            target.device = d.id;
            const auto body = bodyOf(c, d);
            ASSERT_TRUE(body) << done;
            if (!body->elements.empty())
                target.role = body->elements[any(body->elements.size())].role;
        }
        const auto offers = offersFor(file.dossier, target);
        if (offers.empty())
            continue;
        const Offer& offer = offers[any(offers.size())];
        Answers answers = presetsOf(offer);
        for (const Question& q : offer.questions)
            if (!q.choices.empty())
                answers[q.id] = q.choices[any(q.choices.size())].value;
        if (offer.id == "starter_again" && c.devices.size() > 60)
            continue;
        const auto changed = carriedOut(file, target, offer.id, answers);
        if (!changed)
            continue;
        done += " " + d.tag + ":" + offer.id;
        file = *changed;
        ++step;
        const auto plant = compile(file.dossier.circuit);
        ASSERT_TRUE(plant) << plant.error().message.id << done;
        ASSERT_TRUE(meaningOf(c, file.dossier.circuit));
        const auto back = io::parseDossier(io::printDossier(file));
        ASSERT_TRUE(back) << back.error().message.id << done;
        const auto graph = diagram::wiredGraph(file.dossier.circuit);
        std::set<TerminalRef> drawn;
        for (const diagram::Scene& scene : {diagram::controlDrawing(*graph).scene, diagram::powerDrawing(*graph)})
            for (const auto& [ref, at] : scene.pins)
                drawn.insert(ref);
        for (const diagram::GraphTerminal& t : graph->terminals)
            if (t.isWired)
                EXPECT_TRUE(drawn.contains(t.ref))
                    << file.dossier.circuit.nameOf(t.ref) << " is not drawn after" << done;
        ASSERT_FALSE(HasFailure());
    }
    EXPECT_EQ(step, 30) << done;
}
INSTANTIATE_TEST_SUITE_P(Seeds, AnyChange, ::testing::Range(1u, 13u));

} // namespace
} // namespace ts::offers
