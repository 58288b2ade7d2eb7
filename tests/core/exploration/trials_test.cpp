// What an electrician tries: each judgement with a circuit that has it, one that nearly has it, and patterns chosen
// with care, which have none.

#include "core/edit/circuit_edits.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/exploration/trials.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts::exploration {
namespace {

using What = TrialSeen::What;
using Texts = std::vector<std::string>;

DossierFile chosen(const Texts& choices)
{
    return *patterns::machine(*patterns::MachinePlan::from(choices));
}

/// What is only to be decided about: no mistake.
bool isOpen(What what)
{
    return what == What::LossUnseen || what == What::SequenceUnseen;
}

/// "overload_kept F2 M1", one for each thing seen, without what only says what serves for what.
Texts seenIn(const Circuit& c, bool withOpen = false)
{
    const auto trials = trialsOf(c);
    EXPECT_TRUE(trials) << trials.error().message.id;
    Texts all;
    for (const TrialSeen& t : trials->seen) {
        if (t.what == What::Serves || (isOpen(t.what) && !withOpen))
            continue;
        std::string said(nameOf(t.what));
        for (DeviceId id : {t.device, t.other, t.actuator})
            if (const Device* d = c.device(id))
                said += " " + d->tag;
        if (all.empty() || all.back() != said)
            all.push_back(std::move(said));
    }
    return all;
}
Texts seenIn(const Texts& choices)
{
    return seenIn(chosen(choices).dossier.circuit);
}
bool sees(const Texts& all, const std::string& what)
{
    return std::find(all.begin(), all.end(), what) != all.end();
}

/// Two terminals joined that were not, or a wire taken away.
DossierFile joined(const DossierFile& file, const char* from, const char* to)
{
    auto changed = edit::withWire(file, from, to, {});
    EXPECT_TRUE(changed) << from << " " << to << " " << changed.error().message.id;
    return *changed;
}
DossierFile without(DossierFile file, const std::string& a, const std::string& b)
{
    const Circuit& c = file.dossier.circuit;
    const auto count = std::erase_if(file.dossier.circuit.wires, [&](const Wire& w) {
        const std::string from = c.nameOf(w.from), to = c.nameOf(w.to);
        return (from == a && to == b) || (from == b && to == a);
    });
    EXPECT_EQ(count, 1u) << a << " " << b;
    return file;
}

class Careful : public ::testing::TestWithParam<Texts> { };

TEST_P(Careful, HasNothingOfIt)
{
    const auto plan = patterns::advised(GetParam());
    ASSERT_TRUE(plan);
    EXPECT_EQ(seenIn(patterns::machine(*plan)->dossier.circuit), Texts{});
}

INSTANTIATE_TEST_SUITE_P(Patterns, Careful,
    ::testing::Values(Texts{}, Texts{"base=reversing"}, Texts{"base=star_delta", "motor=30kW", "load=none"},
        Texts{"base=soft_starter"}, Texts{"base=drive"}, Texts{"control=transformer_bonded"},
        Texts{"control=phase_neutral", "stop=contactor_relay"}, Texts{"base=reversing", "operation=run_inch_selector"},
        Texts{"base=reversing", "operation=run_inch_relay"}, Texts{"operation=inching"},
        Texts{"operation=hand_off_auto"}, Texts{"monitor=voltage"}, Texts{"monitor=three_transformers"},
        Texts{"stops=3", "guard=yes"}, Texts{"load=hanging", "stop=delayed_relay"},
        Texts{"base=reversing", "2.base=star_delta", "2.motor=30kW", "2.load=none", "3.motor=0.75kW"}));

TEST(Trials, TheDemosHaveNothingOfIt)
{
    EXPECT_EQ(seenIn(test::demoFile().dossier.circuit), Texts{});
    const auto whole = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    // One lamp for the trips of all three motors.
    EXPECT_EQ(seenIn(whole->dossier.circuit), (Texts{"trips_alike F7 F2 M2", "trips_alike F10 F2 M3"}));
}

TEST(Overload, MustBeThereAndAct)
{
    EXPECT_EQ(seenIn({"overload=none"}), Texts{"no_overload M1"});
    // 95-96 bridged: the relay trips and nothing follows.
    const auto bridged = seenIn(joined(chosen({}), "F2:95", "F2:96").dossier.circuit);
    EXPECT_TRUE(sees(bridged, "overload_kept F2 M1"));
    // A hold fed from ahead of it goes past the overload as well as the stop.
    EXPECT_TRUE(sees(seenIn({"hold=ahead_of_stop"}), "overload_kept F2 M1"));
}

/// In one direction its current flows past the relay.
TEST(Overload, MustCarryTheCurrentInBothDirections)
{
    DossierFile past = chosen({"base=reversing"});
    for (const auto& [out, end] : {std::pair{"Q2:2", "Q1:6"}, {"Q2:4", "Q1:4"}, {"Q2:6", "Q1:2"}})
        past = without(past, out, end);
    for (const auto& [out, end] : {std::pair{"Q2:2", "M1:W1"}, {"Q2:4", "M1:V1"}, {"Q2:6", "M1:U1"}})
        past = joined(past, out, end);
    EXPECT_TRUE(sees(seenIn(past.dossier.circuit), "no_overload M1"));
}

TEST(TripShown, ByALampOrNot)
{
    DossierFile file = chosen({});
    EXPECT_FALSE(sees(seenIn(file.dossier.circuit), "trip_unseen F2 M1"));
    file = without(file, "F2:98", "P3:X1");
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "trip_unseen F2 M1"));
}

/// A stop that closes a contact: the button works a relay whose NC contact lies in the path.
TEST(StopWires, ABrokenOneThatNobodyNotices)
{
    DossierFile file = chosen({});
    Device relay;
    relay.tag = "K8";
    relay.kind = "contactor_relay";
    relay.parameters = {
        {"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"auxiliary_contacts", Texts{"11-12"}}};
    file = *edit::withDevice(file, relay);
    Device button;
    button.tag = "S8";
    button.kind = "push_button";
    button.parameters = {{"contacts", Texts{"13-14"}}};
    file = *edit::withDevice(file, button);
    file = without(file, "F2:96", "S1:11");
    file = joined(file, "F2:96", "K8:11");
    file = joined(file, "K8:12", "S1:11");
    file = joined(file, "F5:2", "S8:13");
    file = joined(file, "S8:14", "K8:A1");
    file = joined(file, "K8:A2", "G1:-");
    const auto seen = seenIn(file.dossier.circuit);
    EXPECT_TRUE(sees(seen, "stop_wire_dead S8 M1"));
    EXPECT_FALSE(sees(seen, "stop_wire_dead S1 M1")) << "its wires stop when they break";
}

TEST(StopWins, OverAStartThatIsHeld)
{
    DossierFile file = chosen({});
    EXPECT_FALSE(sees(seenIn(file.dossier.circuit), "start_wins S1 S2 M1"));
    file = without(file, "S1:12", "S2:13");
    file = joined(file, "S1:11", "S2:13"); // the start hangs ahead of the stop, the hold behind it
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "start_wins S1 S2 M1"));
}

TEST(EarthFaults, InTheReturnAndUnnoticedOnes)
{
    EXPECT_TRUE(sees(seenIn({"overload=return_side"}), "earth_kept Q1 F2 M1"));
    const Texts unbonded{"stop=contactor_relay", "control=transformer_unbonded"};
    EXPECT_TRUE(sees(seenIn(unbonded), "two_earths_kept Q1 S1 M1"));
    EXPECT_EQ(seenIn({"stop=contactor_relay", "control=transformer_bonded"}), Texts{})
        << "the first one melts the fuse";
}

TEST(Frames, NeedTheirProtectiveConductor)
{
    EXPECT_TRUE(sees(seenIn(without(chosen({}), "G0:PE", "M1:PE").dossier.circuit), "frame_live M1"));
}

TEST(Disconnector, TakesAllLines)
{
    DossierFile file = chosen({});
    for (const auto& [in, out] : {std::pair{"Q0:1", "Q0:2"}, {"Q0:3", "Q0:4"}, {"Q0:5", "Q0:6"}})
        file = joined(file, in, out);
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "no_disconnector M1"));
}

TEST(Lamps, KnowTheContactorOrLie)
{
    DossierFile file = chosen({});
    file = without(file, "Q1:24", "P1:X1");
    file = joined(file, "Q1:A1", "P1:X1"); // parallel to the coil
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "lamp_lies P1 Q1 M1"));
}

/// Two contactors switch the motor together, so that one may stay in: the hold must ask both.
TEST(Stuck, AHoldThroughOneOfTwoContactors)
{
    DossierFile file = chosen({"stop=two_channel_relay"});
    file = joined(without(file, "K0:24", "Q9:A1"), "Q1:A1", "Q9:A1");
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "stuck_restarts Q1 S1 M1"));
    for (Device& d : file.dossier.circuit.devices)
        if (d.tag == "Q9")
            d.parameters["auxiliary_contacts"] = Texts{"11-12", "13-14"};
    file = joined(joined(without(file, "Q1:24", "S2:14"), "Q1:24", "Q9:13"), "Q9:14", "S2:14");
    EXPECT_FALSE(sees(seenIn(file.dossier.circuit), "stuck_restarts Q1 S1 M1"));
}

TEST(Shown, EveryLampOrNotAtAll)
{
    EXPECT_TRUE(sees(seenIn(without(chosen({}), "F2:98", "P3:X1").dossier.circuit), "never_lit P3"));
}

TEST(Separation, OneMotorAndTwoDevicesMayHangOnTheLines)
{
    const Texts one{"control=phase_neutral", "stop=contactor_relay"};
    EXPECT_EQ(seenIn(one), Texts{});
    Texts two = one, three = one;
    two.insert(two.end(), {"1.base=direct", "2.motor=0.75kW"});
    EXPECT_TRUE(sees(seenIn(two), "unseparated Q1"));
    three.push_back("stops=2");
    EXPECT_TRUE(sees(seenIn(three), "unseparated Q1"));
    three[0] = "control=transformer_bonded";
    EXPECT_EQ(seenIn(three), Texts{});
}

TEST(ControlShorts, AreSwitchedOff)
{
    DossierFile file = chosen({"control=phase_neutral"});
    EXPECT_EQ(seenIn(file.dossier.circuit), Texts{});
    file = *edit::withValue(file, file.dossier.circuit.device("F3")->id, "rated_current_a", "100");
    file = *edit::withValue(file, file.dossier.circuit.device("F1")->id, "rated_current_a", "100");
    for (Wire& w : file.dossier.circuit.wires)
        if (file.dossier.circuit.nameOf(w.to) == "Q1:A2" || file.dossier.circuit.nameOf(w.from) == "Q1:A2")
            w.lengthM = 200; // what is far away and thin takes too little to melt it
    const auto seen = seenIn(file.dossier.circuit);
    EXPECT_TRUE(sees(seen, "short_stays Q1 M1")) << ::testing::PrintToString(seen);
}

/// A fuse in the 0 V: blown, the coil's return has the full voltage. In the + it has not.
TEST(Returns, AFuseOnTheBondedSide)
{
    const auto fused = [](const char* from, const char* to) {
        DossierFile file = without(chosen({}), from, to);
        Device fuse;
        fuse.tag = "F8";
        fuse.kind = "fuse";
        fuse.parameters = {{"poles", 1.0}, {"rated_current_a", 4.0}};
        file = *edit::withDevice(file, fuse);
        return joined(joined(file, from, "F8:1"), "F8:2", to).dossier.circuit;
    };
    EXPECT_TRUE(sees(seenIn(fused("Q1:A2", "G1:-")), "return_live F8 Q1"));
    EXPECT_EQ(seenIn(fused("F2:96", "S1:11")), Texts{});
}

TEST(EarthedLines, BothLinesOfATransformerAreFused)
{
    const Texts transformer{"control=transformer_bonded"};
    EXPECT_EQ(seenIn(transformer), Texts{});
    const DossierFile one = joined(chosen(transformer), "F3:3", "F3:4"); // past its fuse
    EXPECT_TRUE(sees(seenIn(one.dossier.circuit), "earth_stays T1"))
        << ::testing::PrintToString(seenIn(one.dossier.circuit));
}

/// A soft starter stands behind a contactor that the emergency stop drops.
TEST(Electronics, DoNotHoldAMotorOffAlone)
{
    EXPECT_TRUE(sees(seenIn({"base=solid_state"}), "only_electronics T4 S0 M1"))
        << ::testing::PrintToString(seenIn({"base=solid_state"}));
    EXPECT_EQ(seenIn({"base=soft_starter"}), Texts{});
}

TEST(TripsApart, EachOverloadHasItsLamp)
{
    const Texts two{"1.base=direct", "2.motor=0.75kW"};
    const DossierFile file = chosen(two);
    EXPECT_EQ(seenIn(file.dossier.circuit), Texts{});
    std::vector<std::string> trips; // lamps behind 98
    for (const Wire& w : file.dossier.circuit.wires)
        for (const auto& [a, b] : {std::pair{w.from, w.to}, std::pair{w.to, w.from}})
            if (file.dossier.circuit.nameOf(a).ends_with(":98"))
                trips.push_back(file.dossier.circuit.nameOf(b));
    ASSERT_EQ(trips.size(), 2u);
    const auto seen = seenIn(joined(file, trips[0].c_str(), trips[1].c_str()).dossier.circuit);
    EXPECT_TRUE(std::any_of(seen.begin(), seen.end(), [](const std::string& s) {
        return s.starts_with("trips_alike");
    })) << ::testing::PrintToString(seen);
}

TEST(Unwatched, LinesThatNothingSees)
{
    const auto open = [](const Texts& choices) { return seenIn(chosen(choices).dossier.circuit, true); };
    EXPECT_EQ(open({}), Texts{"sequence_unseen M1"}) << "its overload relay sees a lost line";
    EXPECT_EQ(open({"overload=none"}), (Texts{"no_overload M1", "loss_unseen M1", "sequence_unseen M1"}));
    EXPECT_EQ(open({"monitor=voltage"}), Texts{});
    EXPECT_EQ(open({"monitor=three_relays"}), Texts{"sequence_unseen M1"}) << "its relays see no sequence";
    EXPECT_EQ(open({"base=drive"}), Texts{}) << "a drive makes its own lines";
    EXPECT_EQ(open({"base=single_phase", "motor=0.75kW"}), Texts{}) << "it has no sequence";
}

/// 41-42 of the relay lets a relay drop the path; its safety outputs are bridged.
TEST(Signals, CarryNoStop)
{
    DossierFile file = chosen({"stop=two_channel_relay"});
    for (Device& d : file.dossier.circuit.devices)
        if (d.tag == "K0")
            d.parameters["signal_contacts"] = Texts{"41-42"};
    Device relay;
    relay.tag = "K8";
    relay.kind = "contactor_relay";
    relay.parameters = {
        {"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}, {"auxiliary_contacts", Texts{"11-12"}}};
    file = *edit::withDevice(file, relay);
    file = without(file, "F2:96", "S1:11");
    for (const auto& [from, to] :
        {std::pair{"F2:96", "K8:11"}, {"K8:12", "S1:11"}, {"K0:A1", "K0:41"}, {"K0:42", "K8:A1"}, {"K8:A2", "G1:-"}})
        file = joined(file, from, to);
    EXPECT_FALSE(sees(seenIn(file.dossier.circuit), "signal_stops K0 S0 M1")) << "its outputs stop it, too";
    // Its feedback is bridged, too, or nothing could be reset.
    file = joined(joined(joined(file, "F2:95", "F2:97"), "Q9:A1", "K0:41"), "Q9:11", "Q1:12");
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "signal_stops K0 S0 M1"))
        << ::testing::PrintToString(seenIn(file.dossier.circuit));
}

/// An emergency stop that leads into a controller, and nowhere else.
TEST(Signals, AControllerThatReadsIsNoStop)
{
    DossierFile file = chosen({});
    for (const auto& [tag, kind] : {std::pair{"S8", "emergency_stop"}, {"K8", "controller_input"}}) {
        Device device;
        device.tag = tag;
        device.kind = kind;
        if (device.tag == "S8")
            device.parameters = {{"contacts", Texts{"11-12"}}};
        file = *edit::withDevice(file, device);
    }
    for (const auto& [from, to] : {std::pair{"F2:97", "S8:11"}, {"S8:12", "K8:IN"}, {"K8:M", "Q1:A2"}})
        file = joined(file, from, to);
    const auto seen = seenIn(file.dossier.circuit);
    EXPECT_TRUE(sees(seen, "only_read S8 K8 M1")) << ::testing::PrintToString(seen);
    EXPECT_FALSE(sees(seen, "only_read S0 K8 M1"));
}

TEST(Resets, OneButtonThatDoesNothingElse)
{
    DossierFile file = chosen({"stop=two_channel_relay"});
    for (Device& d : file.dossier.circuit.devices)
        if (d.tag == "S2")
            d.parameters["contacts"] = Texts{"13-14", "23-24"};
    EXPECT_EQ(seenIn(file.dossier.circuit), Texts{});
    const DossierFile beside = joined(joined(file, "S2:23", "S4:13"), "S2:24", "S4:14");
    const auto trials = trialsOf(beside.dossier.circuit);
    ASSERT_TRUE(trials);
    const auto seen = std::find_if(
        trials->seen.begin(), trials->seen.end(), [](const TrialSeen& t) { return t.what == What::ResetBeside; });
    ASSERT_NE(seen, trials->seen.end());
    EXPECT_EQ(seen->device, beside.dossier.circuit.device("K0")->id);
    EXPECT_EQ(seen->other, beside.dossier.circuit.device("S2")->id) << "the start, not the reset itself";
    EXPECT_EQ(seen->terminal, "starts");
    // Its script can be played: the relay is reset by it.
    const Plant plant = *compile(beside.dossier.circuit);
    State state = initialState(plant);
    Trace trace;
    Workspace workspace;
    ASSERT_FALSE(seen->script.empty());
    advance(plant, state, seen->script, {seen->until}, trace, workspace);
    EXPECT_EQ(state.travel[static_cast<std::size_t>(plant.relays.front().data.firstRelay)], 2);
}

/// The other starter's contactor bridges an overload contact: tripped, it is started by both buttons one after another.
TEST(Locks, AreNotLiftedByAnotherStarter)
{
    DossierFile file = chosen({"1.base=direct", "2.base=direct"});
    for (Device& d : file.dossier.circuit.devices)
        if (d.tag == "Q1")
            d.parameters["auxiliary_contacts"] = Texts{"13-14", "23-24", "31-32", "43-44"};
    EXPECT_EQ(seenIn(file.dossier.circuit), Texts{});
    file = joined(joined(file, "S0:12", "Q1:43"), "Q1:44", "F22:96");
    const auto seen = seenIn(file.dossier.circuit);
    EXPECT_TRUE(sees(seen, "lock_lifted F22 S2 M2")) << ::testing::PrintToString(seen);
    EXPECT_FALSE(sees(seen, "lock_lifted F22 S22 M2")) << "its own button does not";
}

/// What turns long is not reversed by a quick hand; a light one may be.
TEST(Turning, OverWhileItTurns)
{
    const auto heavy = [](double inertia) {
        DossierFile file = chosen({"base=reversing", "load=constant"});
        for (Device& d : file.dossier.circuit.devices)
            if (d.tag == "M1")
                d.parameters["load_inertia_x"] = inertia;
        return seenIn(file.dossier.circuit);
    };
    EXPECT_TRUE(sees(heavy(200), "turned_over S3 M1")) << ::testing::PrintToString(heavy(200));
    EXPECT_FALSE(sees(heavy(1), "turned_over S3 M1"));
}

TEST(Armatures, ThatAreKeptOutOrNeverMove)
{
    EXPECT_TRUE(sees(seenIn({"base=reversing", "interlock=mechanical"}), "held_out Q2 M1"));
    EXPECT_FALSE(sees(seenIn({"base=reversing", "interlock=auxiliary+mechanical"}), "held_out Q2 M1"));
    DossierFile file = chosen({});
    Device relay;
    relay.tag = "K8";
    relay.kind = "contactor_relay";
    relay.parameters = {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")}};
    file = *edit::withDevice(file, relay);
    EXPECT_TRUE(sees(seenIn(file.dossier.circuit), "never_pulls K8"));
}

/// Lines exchanged at both sides of the second contactor: it turns as the first one does.
TEST(Directions, AreTwo)
{
    DossierFile file = chosen({"base=reversing"});
    file = without(without(file, "Q1:1", "Q2:1"), "Q1:5", "Q2:5");
    file = joined(joined(file, "Q1:1", "Q2:5"), "Q1:5", "Q2:1");
    const auto seen = seenIn(file.dossier.circuit);
    EXPECT_TRUE(std::any_of(seen.begin(), seen.end(), [](const std::string& s) {
        return s.starts_with("same_direction");
    })) << ::testing::PrintToString(seen);
}

/// A motor for 350 V on 400 V.
TEST(Voltages, AreThoseOfThePlate)
{
    DossierFile file = chosen({});
    for (Device& d : file.dossier.circuit.devices)
        if (d.tag == "M1") {
            d.parameters["voltage_v"] = 350.0;
            d.parameters["current_a"] = 12.6;
        }
    const auto trials = trialsOf(file.dossier.circuit);
    ASSERT_TRUE(trials) << trials.error().message.id;
    const auto seen = std::find_if(
        trials->seen.begin(), trials->seen.end(), [](const TrialSeen& t) { return t.what == What::MotorVoltage; });
    ASSERT_NE(seen, trials->seen.end());
    EXPECT_NEAR(seen->value, 400, 8);
    EXPECT_EQ(seen->terminal, "350");
}

TEST(Monitors, ThatLoseAWire)
{
    for (const char* kind :
        {"monitor=voltage", "monitor=voltage_four_wire", "monitor=current_in_line", "monitor=three_transformers"})
        EXPECT_EQ(seenIn({kind}), Texts{}) << kind;
}

TEST(Inching, IsNotCaughtByAQuickHand)
{
    for (const char* operation : {"operation=inching", "operation=run_inch_selector", "operation=run_inch_relay"})
        EXPECT_EQ(seenIn({operation}), Texts{}) << operation;
}

/// What each button and lamp was seen to be for, without a look at its label.
TEST(Serves, IsFoundByTrying)
{
    DossierFile file = chosen({"base=reversing"});
    for (Device& d : file.dossier.circuit.devices)
        d.label.clear();
    const auto trials = trialsOf(file.dossier.circuit);
    std::map<std::string, std::string> serves;
    for (const TrialSeen& t : trials->seen)
        if (t.what == What::Serves)
            serves[file.dossier.circuit.device(t.device)->tag] = t.terminal;
    EXPECT_EQ(serves["S1"], "stop");
    EXPECT_EQ(serves["S2"], "start");
    EXPECT_EQ(serves["S3"], "start");
    EXPECT_EQ(serves["P2"], "stopped");
}

TEST(Trials, CanBeCancelledAndSayWhatTheyDidNotBringToRun)
{
    std::stop_source stop;
    stop.request_stop();
    EXPECT_EQ(trialsOf(test::demoFile().dossier.circuit, {}, stop.get_token()).error().code, ErrorCode::Cancelled);
    const DossierFile cut = without(chosen({}), "S2:14", "Q1:A1");
    const auto trials = trialsOf(cut.dossier.circuit);
    EXPECT_EQ(trials->neverRan, std::vector{cut.dossier.circuit.device("M1")->id});
}

} // namespace
} // namespace ts::exploration
