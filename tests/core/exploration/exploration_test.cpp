// Known answers of the exploration. A reversing starter in its right and wrong forms; what one button at a time never
// shows must be found, with the fewest operations.

#include "core/exploration/explore.h"
#include "tests/core/faults/stop_circuits.h"

#include <algorithm>

namespace ts::exploration {
namespace {

using test::CircuitBuilder;
using Words = std::vector<std::string>;

ParameterMap contactor()
{
    return {{"coil_voltage_v", 230.0}, {"coil_current", std::string("ac")},
        {"auxiliary_contacts", Words{"13-14", "21-22"}}};
}

enum class Hold { BeforeInterlock, BehindInterlock, AheadOfStop, None };

struct Starter {
    bool contacts = true, mechanical = false, buttons = false;
    Hold hold = Hold::BeforeInterlock;
};

/// Two directions, S0 stops, S1 and S2 start. Control between L1 and N.
Circuit reversing(const Starter& with)
{
    CircuitBuilder b;
    const Words start = with.buttons ? Words{"13-14", "21-22"} : Words{"13-14"};
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}})
        .device("F1", "fuse", {{"poles", 3.0}, {"rated_current_a", 16.0}});
    b.device("Q1", "contactor", contactor()).device("Q2", "contactor", contactor());
    b.device("M1", "motor",
        {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"cos_phi", 0.75},
            {"speed_per_min", 1440.0}});
    b.device("S0", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S1", "push_button", {{"contacts", start}})
        .device("S2", "push_button", {{"contacts", start}});
    b.wire("G0:L1", "F1:1").wire("G0:L2", "F1:3").wire("G0:L3", "F1:5");
    b.wire("F1:2", "Q1:1")
        .wire("F1:4", "Q1:3")
        .wire("F1:6", "Q1:5")
        .wire("F1:2", "Q2:1")
        .wire("F1:4", "Q2:3")
        .wire("F1:6", "Q2:5");
    b.wire("Q1:2", "M1:U1")
        .wire("Q1:4", "M1:V1")
        .wire("Q1:6", "M1:W1")
        .wire("Q2:2", "M1:W1")
        .wire("Q2:4", "M1:V1")
        .wire("Q2:6", "M1:U1");
    b.wire("G0:L1", "S0:11").wire("Q1:A2", "G0:N").wire("Q2:A2", "G0:N");
    for (const auto& [own, other, go, counter] :
        {std::tuple{std::string("Q1"), std::string("Q2"), std::string("S1"), std::string("S2")},
            {"Q2", "Q1", "S2", "S1"}}) {
        b.wire("S0:12", go + ":13");
        std::string end = go + ":14"; // the path goes on from here
        if (with.buttons) {
            b.wire(end, counter + ":21");
            end = counter + ":22";
        }
        const std::string joins = end;
        if (with.contacts) {
            b.wire(end, other + ":21");
            end = other + ":22";
        }
        b.wire(end, own + ":A1");
        if (with.hold != Hold::None)
            b.wire(with.hold == Hold::AheadOfStop ? "G0:L1" : "S0:12", own + ":13")
                .wire(own + ":14", with.hold == Hold::BehindInterlock ? own + ":A1" : joins);
    }
    Circuit c = b.circuit();
    if (with.mechanical)
        c.interlocks.push_back({c.device("Q1")->id, c.device("Q2")->id});
    return c;
}

/// The stop button as the trigger of a function.
Dossier stoppedBy(Circuit circuit, const char* trigger = "S0", const char* start = "S1")
{
    return test::stopping(std::move(circuit), trigger, "press", start);
}

Explored explored(const Dossier& d, bool faults = false, bool interlocks = false, int threads = 0)
{
    Request request;
    request.withFaults = faults;
    request.withInterlocks = interlocks;
    request.options.threads = threads;
    auto e = explore(d, request);
    EXPECT_TRUE(e) << e.error().message.id;
    return e ? *e : Explored{};
}

const Proof& proofOf(const Searched& s, Claim claim)
{
    const auto found = std::find_if(
        s.proofs.begin(), s.proofs.end(), [claim](const Proof& p) { return p.claim == claim; });
    EXPECT_NE(found, s.proofs.end()) << nameOf(claim);
    static const Proof none;
    return found == s.proofs.end() ? none : *found;
}

/// "proved" or the operations, in words: "press S1 + press S2, lose supply".
std::string answerOf(const Dossier& d, const Searched& s, Claim claim)
{
    const Proof& proof = proofOf(s, claim);
    if (!proof.counter)
        return std::string(nameOf(proof.answer));
    const Plant plant = *compile(d.circuit);
    std::string text;
    for (const Done& done : proof.counter->order) {
        text += text.empty() ? "" : ", ";
        if (done.operation.kind == Operation::Kind::SupplyLost || done.operation.kind == Operation::Kind::SupplyBack
            || done.operation.kind == Operation::Kind::Wait)
            text += done.operation.kind == Operation::Kind::SupplyLost ? "lose"
                : done.operation.kind == Operation::Kind::Wait         ? "wait"
                                                                       : "back";
        else
            for (std::size_t k = 0; k < done.operation.stimuli.size(); ++k) {
                const Stimulus& st = done.operation.stimuli[k];
                text += k ? "+" : "";
                if (st.kind == Stimulus::Kind::SetKnob) {
                    text += plant.knobs[static_cast<std::size_t>(st.slot)].name + (st.value > 0 ? " back" : " lost");
                    continue;
                }
                const PlantDevice& device = plant.devices[static_cast<std::size_t>(
                    plant.movers[static_cast<std::size_t>(st.slot)].device)];
                const auto word = std::find_if(device.actions.begin(), device.actions.end(), [&st](const auto& a) {
                    return a.second == std::pair{st.slot, st.target};
                });
                text += word->first + " " + device.tag;
            }
    }
    return text;
}

TEST(Reversing, ProperlyWiredIsProvedInEveryOrder)
{
    const Dossier d = stoppedBy(reversing({}));
    const MotorExplored m = explored(d).motors.at(0);
    for (Claim c : {Claim::NeverJoined, Claim::StaysStopped, Claim::NoStartBySupply, Claim::NoStartByReset,
             Claim::NoStartByReturn, Claim::NoStartAlone, Claim::CanStart})
        EXPECT_EQ(answerOf(d, m.healthy, c), "proved") << nameOf(c);
    EXPECT_EQ(answerOf(d, m.healthy, Claim::NoStartHeld), "press S0+press S1, release S0") << "no reset stands between";
    EXPECT_EQ(answerOf(d, *m.byHand, Claim::NoForbiddenRest), "proved");
    // A finger on the other armature is quicker than the contactor that must drop: only a lever between them helps.
    EXPECT_NE(answerOf(d, *m.byHand, Claim::NotEvenByHand), "proved");
    EXPECT_EQ(m.operated, (Words{"F1", "Q1", "Q2", "S0", "S1", "S2"}));
    EXPECT_FALSE(m.healthy.isBounded);
    EXPECT_GT(m.healthy.states, 50u);
}

TEST(Reversing, WithALeverIsSafeEvenFromFingers)
{
    const Dossier d = stoppedBy(reversing({.mechanical = true}));
    EXPECT_EQ(answerOf(d, *explored(d).motors.at(0).byHand, Claim::NotEvenByHand), "proved");
}

TEST(Reversing, WithoutInterlockNeedsOneOperationWithTwoHands)
{
    const Dossier d = stoppedBy(reversing({.contacts = false}));
    const MotorExplored m = explored(d).motors.at(0);
    EXPECT_EQ(answerOf(d, m.healthy, Claim::NeverJoined), "press S1+press S2");
    EXPECT_EQ(proofOf(m.healthy, Claim::NeverJoined).counter->contactors.size(), 2u);
}

TEST(Reversing, IsSeenThroughLongCablesToo)
{
    Circuit c = reversing({.contacts = false});
    for (Wire& w : c.wires)
        if (w.from.device == c.device("M1")->id || w.to.device == c.device("M1")->id)
            w.lengthM = 40.0; // no longer an ideal connection
    const Dossier d = stoppedBy(c);
    EXPECT_EQ(opposedContactors(*compile(c)).size(), 1u);
    EXPECT_EQ(answerOf(d, explored(d).motors.at(0).healthy, Claim::NeverJoined), "press S1+press S2");
}

TEST(Reversing, HoldBehindTheInterlockHasAForbiddenStateOfRest)
{
    const Dossier d = stoppedBy(reversing({.hold = Hold::BehindInterlock}));
    const MotorExplored m = explored(d).motors.at(0);
    const Proof& proof = proofOf(*m.byHand, Claim::NoForbiddenRest);
    ASSERT_EQ(proof.answer, Answer::CounterExample) << "both in by themselves";
    // Played again from switching on it ends the same: both contactors in and nobody holding them.
    const Plant plant = *compile(d.circuit);
    Workspace workspace;
    Trace trace;
    State state = initialState(plant);
    advance(plant, state, scriptOf(*proof.counter, {}), {proof.counter->shownAt + 1'000'000'000}, trace, workspace);
    EXPECT_TRUE(*isInState(plant, state, "Q1", "in"));
    EXPECT_TRUE(*isInState(plant, state, "Q2", "in"));
    EXPECT_TRUE(std::all_of(state.pushed.begin(), state.pushed.end(), [](std::uint8_t p) { return p == 0; }));
}

TEST(Hold, AheadOfTheStopButtonRunsOnWhileStopIsPressed)
{
    const Dossier d = stoppedBy(reversing({.hold = Hold::AheadOfStop}));
    EXPECT_EQ(answerOf(d, explored(d).motors.at(0).healthy, Claim::StaysStopped), "press S1, press S0");
}

TEST(Selector, MaintainedStartsWhenTheSupplyReturns)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}}).device("Q1", "contactor", contactor());
    b.device("M1", "motor",
        {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"cos_phi", 0.75},
            {"speed_per_min", 1440.0}});
    b.device("S0", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S1", "selector", {{"positions", Words{"off", "on"}}, {"contacts", Words{"13-14/on"}}});
    b.wire("G0:L1", "Q1:1")
        .wire("G0:L2", "Q1:3")
        .wire("G0:L3", "Q1:5")
        .wire("Q1:2", "M1:U1")
        .wire("Q1:4", "M1:V1")
        .wire("Q1:6", "M1:W1");
    b.wire("G0:L1", "S0:11").wire("S0:12", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G0:N");
    const Dossier d = stoppedBy(b.circuit(), "S0", "S1");
    const MotorExplored m = explored(d).motors.at(0);
    // The stop button is let go, or the supply comes back, with the selector on: each by itself, in as few operations.
    for (Claim c : {Claim::NoStartByReturn, Claim::NoStartBySupply}) {
        const std::string start = answerOf(d, m.healthy, c);
        EXPECT_NE(start.find("turn_to_on S1"), std::string::npos) << start;
        EXPECT_EQ(proofOf(m.healthy, c).counter->order.size(), 3u) << start;
    }
    for (Claim c : {Claim::NoStartByReset, Claim::NoStartAlone, Claim::NoStartHeld})
        EXPECT_EQ(answerOf(d, m.healthy, c), "proved") << nameOf(c);
    EXPECT_EQ(answerOf(d, m.healthy, Claim::StaysStopped), "proved");
}

TEST(Monitor, FedFromTheMotorSideInTheStopLineNeverStarts)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}})
        .device("Q1", "contactor", contactor())
        .device("B1", "phase_monitor", {{"line_voltage_v", 400.0}});
    b.device("M1", "motor",
        {{"rated_power_w", 750.0}, {"voltage_v", 400.0}, {"current_a", 1.75}, {"cos_phi", 0.75},
            {"speed_per_min", 1440.0}});
    b.device("S0", "push_button", {{"contacts", Words{"11-12"}}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.wire("G0:L1", "Q1:1")
        .wire("G0:L2", "Q1:3")
        .wire("G0:L3", "Q1:5")
        .wire("Q1:2", "M1:U1")
        .wire("Q1:4", "M1:V1")
        .wire("Q1:6", "M1:W1");
    b.wire("Q1:2", "B1:L1").wire("Q1:4", "B1:L2").wire("Q1:6", "B1:L3");
    b.wire("G0:L1", "S0:11").wire("S0:12", "B1:15").wire("B1:18", "S1:13").wire("S1:14", "Q1:A1").wire("Q1:A2", "G0:N");
    const Dossier d = stoppedBy(b.circuit());
    EXPECT_EQ(proofOf(explored(d).motors.at(0).healthy, Claim::CanStart).answer, Answer::CounterExample);
}

TEST(Interlocks, AreJudgedOneByOne)
{
    const Dossier d = stoppedBy(reversing({.contacts = true, .mechanical = true, .buttons = true}));
    const Explored e = explored(d, false, true);
    ASSERT_EQ(e.interlocks.size(), 3u);
    const auto alone = [&](InterlockKind kind) {
        for (const InterlockJudged& i : e.interlocks)
            if (i.kind == kind)
                return answerOf(d, i.alone, Claim::NeverJoined);
        return std::string("missing");
    };
    EXPECT_EQ(alone(InterlockKind::Mechanical), "proved");
    EXPECT_EQ(alone(InterlockKind::ContactorContacts), "proved");
    // With opening contacts of the buttons alone the other start button breaks the first path, but not the hold behind
    // it.
    EXPECT_NE(alone(InterlockKind::ButtonContacts), "missing");
    for (const InterlockJudged& i : e.interlocks)
        EXPECT_EQ(answerOf(d, i.without, Claim::NeverJoined), "proved") << "two others are left: " << nameOf(i.kind);
}

TEST(SingleFaults, AnInterlockOfContactsAloneFallsToOneOfThem)
{
    const Dossier d = stoppedBy(reversing({}));
    const MotorExplored m = explored(d, true).motors.at(0);
    const auto with = [&](std::string_view id) -> const FaultExplored& {
        const auto f = std::find_if(
            m.faults.begin(), m.faults.end(), [id](const FaultExplored& x) { return x.fault == id; });
        EXPECT_NE(f, m.faults.end()) << id;
        return f == m.faults.end() ? m.faults.front() : *f;
    };
    EXPECT_EQ(proofOf(with("Q1/21-22:welded").searched, Claim::NeverJoined).answer, Answer::CounterExample);
    EXPECT_EQ(proofOf(with("S0/11-12:welded").searched, Claim::StaysStopped).answer, Answer::CounterExample);
    EXPECT_EQ(proofOf(with("Q1/coil:open").searched, Claim::NeverJoined).answer, Answer::Proved);
    EXPECT_EQ(proofOf(with("S1/13-14:welded").searched, Claim::NoStartBySupply).answer, Answer::CounterExample)
        << "runs when the supply comes on";
}

TEST(Exploration, IsTheSameOnOneAndTwoThreads)
{
    const Dossier d = stoppedBy(reversing({.contacts = false}));
    const Explored one = explored(d, false, true, 1), two = explored(d, false, true, 2);
    EXPECT_EQ(one.motors.at(0).healthy.states, two.motors.at(0).healthy.states);
    EXPECT_EQ(one.motors.at(0).healthy.transitions, two.motors.at(0).healthy.transitions);
    for (Claim c : {Claim::NeverJoined, Claim::StaysStopped, Claim::NoStartBySupply, Claim::NoStartByReset,
             Claim::NoStartByReturn, Claim::NoStartAlone, Claim::NoStartHeld, Claim::CanStart})
        EXPECT_EQ(answerOf(d, one.motors.at(0).healthy, c), answerOf(d, two.motors.at(0).healthy, c));
}

TEST(Exploration, SaysWhenItStoppedAtItsBound)
{
    const Dossier d = stoppedBy(reversing({}));
    Request request;
    request.withFaults = request.withInterlocks = false;
    request.options.bound = 20;
    const auto e = explore(d, request);
    ASSERT_TRUE(e);
    EXPECT_TRUE(e->motors.at(0).healthy.isBounded);
    EXPECT_EQ(proofOf(e->motors.at(0).healthy, Claim::NeverJoined).answer, Answer::Bounded);
    EXPECT_EQ(e->motors.at(0).healthy.states, 20u);
}

TEST(Exploration, CallsNothingProvedBehindWaysThatItDidNotFollow)
{
    const Dossier d = stoppedBy(reversing({.contacts = false}));
    const Searched s = explored(d).motors.at(0).healthy;
    EXPECT_EQ(proofOf(s, Claim::NeverJoined).answer, Answer::CounterExample);
    EXPECT_EQ(proofOf(s, Claim::StaysStopped).answer, Answer::Bounded)
        << "what the blown fuses leave behind was not looked at";
}

TEST(Exploration, GoesOnBehindAStartThatNobodyAskedFor)
{
    // S1 welded: it runs as soon as the supply is there, and the stop button still stops it.
    const Dossier d = stoppedBy(reversing({}));
    for (const FaultExplored& f : explored(d, true).motors.at(0).faults)
        if (f.fault == "S1/13-14:welded") {
            EXPECT_EQ(proofOf(f.searched, Claim::NoStartBySupply).answer, Answer::CounterExample);
            EXPECT_EQ(proofOf(f.searched, Claim::StaysStopped).answer, Answer::Proved);
            EXPECT_GT(f.searched.states, 50u);
        }
}

TEST(Exploration, StopsWhenAsked)
{
    std::stop_source source;
    source.request_stop();
    Request request;
    const auto e = explore(stoppedBy(reversing({})), request, {}, source.get_token());
    ASSERT_FALSE(e);
    EXPECT_EQ(e.error().code, ErrorCode::Cancelled);
}

TEST(Opposed, AreFoundFromTheWiring)
{
    const Plant plant = *compile(reversing({}));
    const auto pairs = opposedContactors(plant);
    ASSERT_EQ(pairs.size(), 1u);
    EXPECT_EQ(pairs[0].size(), 2u);
}

} // namespace
} // namespace ts::exploration
