// Selectors, guards, relays, timers, semiconductors: each does what its sheet says, at the times its sheet says.

#include "tests/support/circuits.h"

namespace ts {
namespace {

using test::Bench;
using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

ParameterMap lamp24()
{
    return {{"rated_voltage_v", 24.0}};
}

/// 24 V from elsewhere, and lamps behind the contacts named.
CircuitBuilder with24V(const char* tag, const char* kind, ParameterMap parameters)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device(tag, kind, std::move(parameters));
    return b;
}
void lampBehind(CircuitBuilder& b, const char* lamp, const std::string& from, const std::string& to)
{
    b.device(lamp, "lamp", lamp24())
        .wire("G1:+", from)
        .wire(to, std::string(lamp) + ":X1")
        .wire(std::string(lamp) + ":X2", "G1:-");
}

TEST(Selector, OfThreePositionsClosesWhatEachPositionSays)
{
    CircuitBuilder b = with24V("S1", "selector",
        {{"positions", Words{"hand", "off", "auto"}},
            {"contacts", Words{"13-14/hand", "23-24/auto", "31-32/off/auto"}}});
    lampBehind(b, "P1", "S1:13", "S1:14");
    lampBehind(b, "P2", "S1:23", "S1:24");
    lampBehind(b, "P3", "S1:31", "S1:32");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("S1", "at_off")) << "the middle of three is where it stands";
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "dark") && bench.is("P3", "lit"));
    bench.act("S1", "turn_to_hand").to(0.2);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "dark") && bench.is("P3", "dark"));
    bench.act("S1", "turn_to_auto").act("S1", "release").to(0.3);
    EXPECT_TRUE(bench.is("S1", "at_auto")) << "maintained: letting go changes nothing";
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "lit") && bench.is("P3", "lit"));
}

TEST(Selector, FromOneEndToTheOtherPassesTheMiddle)
{
    CircuitBuilder b = with24V("S1", "selector",
        {{"positions", Words{"left", "off", "right"}}, {"contacts", Words{"13-14/left", "21-22/off", "33-34/right"}},
            {"starts_at", word("left")}});
    lampBehind(b, "P2", "S1:21", "S1:22");
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "turn_to_right").to(0.5);
    int seen = 0;
    for (const Event& e : bench.trace().events)
        seen += e.why == Why::Lit;
    EXPECT_EQ(seen, 1) << "for a moment the middle contact closes";
    EXPECT_TRUE(bench.is("S1", "at_right") && bench.is("P2", "dark"));
}

TEST(Selector, WithSpringReturnGoesBackWhenLetGo)
{
    CircuitBuilder b = with24V("S1", "selector",
        {{"positions", Words{"off", "on"}}, {"contacts", Words{"13-14/on"}}, {"spring_return", true}});
    lampBehind(b, "P1", "S1:13", "S1:14");
    Bench bench(b.plant());
    bench.to(0.1).act("S1", "turn_to_on").to(0.3);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("S1", "release").to(0.5);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("S1", "at_off"));
}

TEST(Selector, RefusesWhatItCannotBe)
{
    const auto refusal = [](ParameterMap p) {
        CircuitBuilder b;
        b.device("S1", "selector", std::move(p));
        const auto plant = compile(b.circuit());
        return plant ? std::string() : plant.error().message.id;
    };
    EXPECT_EQ(refusal({{"positions", Words{"off"}}, {"contacts", Words{"13-14/off"}}}), "kind.positions");
    EXPECT_EQ(refusal({{"positions", Words{"a", "a"}}, {"contacts", Words{"13-14/a"}}}), "kind.position_name");
    EXPECT_EQ(refusal({{"contacts", Words{"13-14/left"}}}), "kind.no_position");
    EXPECT_EQ(refusal({{"contacts", Words{"13-14"}}}), "kind.no_position");
    EXPECT_EQ(refusal({{"contacts", Words{"13-15/on"}}}), "kind.contact_numbering");
}

TEST(PlugInRelay, ChangesOverWithAMomentInWhichNeitherIsClosed)
{
    CircuitBuilder b = with24V("K1", "plug_in_relay", {{"coil_voltage_v", 24.0}, {"coil_current", word("dc")}});
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}})
        .wire("G1:+", "S1:13")
        .wire("S1:14", "K1:A1")
        .wire("K1:A2", "G1:-");
    lampBehind(b, "P1", "K1:11", "K1:12");
    b.device("P2", "lamp", lamp24()).wire("K1:14", "P2:X1").wire("P2:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "dark"));
    bench.act("S1", "press").to(0.3);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "lit"));
    TimeNs dark = 0, lit = 0;
    for (const Event& e : bench.trace().events) {
        dark = e.why == Why::Dark ? e.at : dark;
        lit = e.why == Why::Lit && e.at > 100'000'000 ? e.at : lit;
    }
    EXPECT_EQ(lit - dark, 2'000'000) << "row nc_opens_before_no_closes: 2 ms";
}

TEST(Timer, OnDelayClosesAfterItsTimeAndForgetsShortCalls)
{
    CircuitBuilder b = with24V(
        "K1", "timer", {{"function", word("on_delay")}, {"supply_voltage_v", 24.0}, {"delay_s", 2.0}});
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}})
        .wire("G1:+", "S1:13")
        .wire("S1:14", "K1:A1")
        .wire("K1:A2", "G1:-");
    lampBehind(b, "P1", "K1:15", "K1:18");
    Bench bench(b.plant());
    bench.to(1.0).tap("S1", 1.5).to(5.0);
    EXPECT_TRUE(bench.is("P1", "dark"));
    bench.act("S1", "press").to(7.009); // 5 s + 3 ms button + 2 s + 10 ms relay
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("K1", "elapsed"));
    bench.to(7.014);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("S1", "release").to(7.1);
    EXPECT_TRUE(bench.is("P1", "dark"));
}

TEST(Timer, OffDelayStaysOnAfterTheCall)
{
    CircuitBuilder b = with24V(
        "K1", "timer", {{"function", word("off_delay")}, {"supply_voltage_v", 24.0}, {"delay_s", 3.0}});
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}}).wire("G1:+", "S1:13").wire("S1:14", "K1:B1");
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    lampBehind(b, "P1", "K1:15", "K1:18");
    Bench bench(b.plant());
    bench.to(1.0).tap("S1", 0.5).to(4.49);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.to(4.55);
    EXPECT_TRUE(bench.is("P1", "dark"));
    bench.tap("S1", 0.2).to(6.0).tap("S1", 0.2).to(9.0);
    EXPECT_TRUE(bench.is("P1", "lit")) << "a new call begins the time anew";
    bench.set("G1.+", 0.0).to(9.2).set("G1.+", 1.0).to(9.4);
    EXPECT_TRUE(bench.is("P1", "dark")) << "without supply there is nothing to remember";
}

TEST(Timer, StarDeltaPausesBetween)
{
    CircuitBuilder b = with24V("K1", "timer",
        {{"function", word("star_delta")}, {"supply_voltage_v", 24.0}, {"delay_s", 4.0}, {"pause_s", 0.05}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    lampBehind(b, "P1", "K1:17", "K1:18");
    lampBehind(b, "P2", "K1:27", "K1:28");
    Bench bench(b.plant());
    bench.to(1.0);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "dark"));
    bench.to(4.03);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "dark")) << "neither star nor delta";
    bench.to(4.1);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "lit"));
}

TEST(Timer, BrokenTimingIsTooLongTooShortOrNever)
{
    CircuitBuilder b = with24V(
        "K1", "timer", {{"function", word("on_delay")}, {"supply_voltage_v", 24.0}, {"delay_s", 2.0}});
    b.wire("G1:+", "K1:A1").wire("K1:A2", "G1:-");
    lampBehind(b, "P1", "K1:15", "K1:18");
    for (const auto& [mode, darkAt, litAt] : {std::tuple{"too_short", 0.005, 0.1}, {"too_long", 19.9, 20.1}}) {
        Bench bench(b.plant());
        bench.fault(std::string("K1/timing:") + mode).set("G1.+", 0.0).to(0.5).set("G1.+", 1.0).to(0.5 + darkAt);
        EXPECT_TRUE(bench.is("P1", "dark")) << mode;
        bench.to(0.5 + litAt);
        EXPECT_TRUE(bench.is("P1", "lit")) << mode;
    }
    Bench never(b.plant());
    never.fault("K1/timing:never").to(100.0);
    EXPECT_TRUE(never.is("P1", "dark"));
}

TEST(GuardSwitch, OpensItsContactsBeforeTheSignallingOneCloses)
{
    CircuitBuilder b = with24V("B1", "guard_switch", {{"contacts", Words{"11-12", "23-24"}}});
    lampBehind(b, "P1", "B1:11", "B1:12");
    lampBehind(b, "P2", "B1:23", "B1:24");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("B1", "closed") && bench.is("P1", "lit") && bench.is("P2", "dark"));
    bench.act("B1", "open").to(0.2);
    EXPECT_TRUE(bench.is("B1", "open") && bench.is("P1", "dark") && bench.is("P2", "lit"));
    Bench broken(b.plant());
    broken.fault("B1/actuator:broken").to(0.1).act("B1", "open").to(0.5);
    EXPECT_TRUE(broken.is("P1", "lit")) << "its head stays as if the guard were closed";
}

TEST(GuardSwitch, WithLockingOpensOnlyWhileTheMagnetDrawsTheBolt)
{
    CircuitBuilder b = with24V(
        "B1", "guard_switch", {{"locking", word("power_to_release")}, {"lock_contacts", Words{"41-42"}}});
    b.device("S1", "push_button", {{"contacts", Words{"13-14"}}})
        .wire("G1:+", "S1:13")
        .wire("S1:14", "B1:E1")
        .wire("B1:E2", "G1:-");
    lampBehind(b, "P1", "B1:41", "B1:42");
    Bench bench(b.plant());
    bench.to(0.1).act("B1", "open").to(0.5);
    EXPECT_TRUE(bench.is("B1", "closed")) << "pulling at a locked guard";
    EXPECT_TRUE(bench.is("P1", "lit")) << "bolt in";
    bench.act("S1", "press").to(1.0);
    EXPECT_TRUE(bench.is("B1", "open")) << "the hand still pulls";
    bench.act("S1", "release").to(1.5);
    EXPECT_TRUE(bench.is("P1", "dark")) << "the bolt cannot return while the guard is open";
    bench.act("B1", "close").to(2.0);
    EXPECT_TRUE(bench.is("P1", "lit"));
}

TEST(ExternalCall, ClosesWhileCalled)
{
    CircuitBuilder b = with24V("B1", "external_call", {});
    lampBehind(b, "P1", "B1:13", "B1:14");
    Bench bench(b.plant());
    bench.to(0.1).act("B1", "call").to(0.2);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("B1", "end_call").to(0.3);
    EXPECT_TRUE(bench.is("P1", "dark"));
}

TEST(LightCurtain, SwitchesBothOutputsOffWithinItsResponseTime)
{
    CircuitBuilder b = with24V("B1", "light_curtain", {{"response_time_s", 0.014}});
    b.wire("G1:+", "B1:A1").wire("B1:A2", "G1:-");
    for (const char* n : {"1", "2"})
        b.device(std::string("P") + n, "lamp", lamp24())
            .wire(std::string("B1:OSSD") + n, std::string("P") + n + ":X1")
            .wire(std::string("P") + n + ":X2", "G1:-");
    Bench bench(b.plant());
    bench.to(1.0);
    EXPECT_TRUE(bench.is("P1", "lit") && bench.is("P2", "lit"));
    bench.act("B1", "interrupt").to(1.013);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.to(1.015);
    EXPECT_TRUE(bench.is("P1", "dark") && bench.is("P2", "dark"));
    Bench shorted(b.plant());
    shorted.to(1.0).fault("B1/OSSD1:conducts").act("B1", "interrupt").to(2.0);
    EXPECT_TRUE(shorted.is("P1", "lit") && shorted.is("P2", "dark")) << "one channel left";
}

TEST(SolidStateRelay, LeaksEnoughForAGhostLightAndFailsShort)
{
    CircuitBuilder b;
    b.device("G0", "supply_single_phase", {{"voltage_v", 230.0}}).device("G1", "supply_external_24v");
    b.device("K1", "solid_state_relay", {{"output_voltage_v", 230.0}})
        .device("S1", "push_button", {{"contacts", Words{"13-14"}}});
    b.device("P1", "lamp", {{"rated_voltage_v", 230.0}});
    b.wire("G1:+", "S1:13")
        .wire("S1:14", "K1:A1")
        .wire("K1:A2", "G1:-")
        .wire("G0:L", "K1:1")
        .wire("K1:2", "P1:X1")
        .wire("P1:X2", "G0:N");
    Bench bench(b.plant());
    bench.to(0.5);
    // 3 mA leak by 230 V / 3 mA = 76.7 kohm capacitive, lamp 57.5 kohm: |I| = 230 / |57.5k - j76.7k| = 2.4 mA of 4 mA.
    EXPECT_NEAR(bench.frame().lampShare[0], 2.4 / 4.0, 0.01);
    EXPECT_TRUE(bench.is("P1", "lit")) << "an off output still makes a small lamp glow";
    bench.act("S1", "press").to(1.0);
    EXPECT_NEAR(bench.frame().lampShare[0], 1.0, 0.01);
    Bench shorted(b.plant());
    shorted.fault("K1/1-2:conducts").to(0.5);
    EXPECT_NEAR(shorted.frame().lampShare[0], 1.0, 0.01);
}

TEST(ControllerInput, ReadsOnFromElevenVolts)
{
    CircuitBuilder b;
    b.device("G1", "supply_external_24v").device("K1", "controller_input");
    b.wire("G1:+", "K1:IN").wire("K1:M", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("K1", "on"));
    bench.set("G1.+", 10.9 / 24.0).to(0.2);
    EXPECT_TRUE(bench.is("K1", "off"));
    bench.set("G1.+", 11.1 / 24.0).to(0.3);
    EXPECT_TRUE(bench.is("K1", "on"));
}

TEST(Horn, SoundsAtItsVoltage)
{
    CircuitBuilder b = with24V("P1", "horn", {{"rated_voltage_v", 24.0}});
    b.wire("G1:+", "P1:X1").wire("P1:X2", "G1:-");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("P1", "sounds"));
    bench.set("G1.+", 0.8).to(0.2);
    EXPECT_TRUE(bench.is("P1", "silent"));
}

TEST(SwitchDisconnector, CutsAllPolesAndItsAuxiliaryFollows)
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}})
        .device("Q0", "switch_disconnector", {{"auxiliary_contacts", Words{"13-14"}}});
    b.device("P1", "lamp", {{"rated_voltage_v", 230.0}})
        .wire("G0:L1", "Q0:1")
        .wire("Q0:2", "P1:X1")
        .wire("P1:X2", "G0:N");
    Bench bench(b.plant());
    bench.to(0.1);
    EXPECT_TRUE(bench.is("P1", "lit"));
    bench.act("Q0", "switch_off").to(0.2);
    EXPECT_TRUE(bench.is("P1", "dark"));
}

} // namespace
} // namespace ts
