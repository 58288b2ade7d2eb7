// The panel that is simulated, and what would hurt on one that is not as it should be.

#include "core/measuring/dangers.h"
#include "tests/support/circuits.h"

namespace ts::measuring {
namespace {

using Texts = std::vector<std::string>;

const Circuit& blower()
{
    static const Circuit c = test::demoFile().dossier.circuit;
    return c;
}
std::shared_ptr<const Plant> rightPlant()
{
    static const auto plant = std::make_shared<const Plant>(*compile(blower()));
    return plant;
}
/// The blower with a wire's ends elsewhere, or without it.
Circuit rewired(int id, const char* from, const char* to)
{
    Circuit c = blower();
    const auto terminal = [&c](std::string_view text) {
        const std::size_t colon = text.find(':');
        return TerminalRef{c.device(text.substr(0, colon))->id, std::string(text.substr(colon + 1))};
    };
    const auto wire = std::find_if(c.wires.begin(), c.wires.end(), [id](const Wire& w) { return w.id.value == id; });
    EXPECT_NE(wire, c.wires.end());
    if (!from)
        c.wires.erase(wire);
    else
        std::tie(wire->from, wire->to) = std::pair(terminal(from), terminal(to));
    return c;
}

const Texts kStart{"S3 press", "S3 release", "S2 press", "S2 release"};
const Texts kStops{"S1 press", "S0 press"};

/// "moves M1" while it is started, or nothing.
std::string dangerOn(const Circuit& built, const Texts& bring, const Texts& stops = kStops)
{
    const Situation in{Power::On, bring, {}, {}};
    StandIn right(rightPlant()), panel(std::make_shared<const Plant>(*compile(built)));
    EXPECT_TRUE(right.bring(in));
    EXPECT_TRUE(panel.bring(in));
    const auto danger = dangerIn(panel, right.plant(), right.trail(), stops);
    return danger ? std::string(wordOf(danger->kind)) + " " + danger->device : std::string();
}

TEST(Dangers, TheRightPanelHasNone)
{
    EXPECT_EQ(dangerOn(blower(), {}), "");
    EXPECT_EQ(dangerOn(blower(), kStart), "");
}

TEST(Dangers, AMissingLineRunsOnTwo)
{
    EXPECT_EQ(dangerOn(rewired(44, nullptr, nullptr), kStart), "two_phases F2") << "until its relay trips";
    EXPECT_EQ(dangerOn(rewired(44, nullptr, nullptr), {}), "") << "nothing runs yet";
}

TEST(Dangers, ABridgedStartButtonMovesUnasked)
{
    // The wire to S2:13 on S2:14: closed as soon as the relay is reset.
    EXPECT_EQ(dangerOn(rewired(64, "S1:12", "S2:14"), {"S3 press", "S3 release"}), "moves M1");
}

TEST(Dangers, WhatNoStopStopsIsUnstoppable)
{
    // Both stops are past by: the hold is fed from the rail, ahead of stop and relay.
    Circuit c = blower();
    for (const auto& [id, from, to] : {std::tuple{70, "F5:2", "Q1:A1"}, std::tuple{71, "F5:2", "Q2:A1"}})
        for (Wire& w : c.wires)
            if (w.id.value == id) {
                w.from = {c.device("F5")->id, "2"};
                w.to = {c.device(std::string_view(to).substr(0, 2))->id, "A1"};
                (void)from;
            }
    EXPECT_EQ(dangerOn(c, {}), "moves M1") << "at switching on already";
    StandIn panel(std::make_shared<const Plant>(*compile(c)));
    ASSERT_TRUE(panel.bring({Power::On, {}, {}, {}}));
    const auto danger = dangerIn(panel, panel.plant(), panel.trail(), kStops); // as if it were meant so
    ASSERT_TRUE(danger);
    EXPECT_EQ(danger->kind, DangerKind::Unstoppable);
}

TEST(Dangers, ALineOnTheFrameIsLive)
{
    // The protective conductor at the motor is off, and a line on its terminal.
    Circuit c = rewired(47, nullptr, nullptr);
    for (Wire& w : c.wires)
        if (w.id.value == 45)
            w.to.marking = "PE";
    const std::string danger = dangerOn(c, kStart);
    EXPECT_TRUE(danger == "frame_live M1" || danger == "two_phases M1") << danger;
    EXPECT_NE(danger, "");
}

TEST(Dangers, LinesJoinedMeltAFuse)
{
    const std::string danger = dangerOn(rewired(40, "F2:2", "F2:4"), kStart);
    EXPECT_TRUE(danger.starts_with("live_poles_joined") || danger.starts_with("two_phases")) << danger;
    // Behind both contactors: a line on another one's terminal.
    EXPECT_TRUE(dangerOn(rewired(37, "Q2:2", "Q2:4"), kStart).starts_with("live_poles_joined"));
}

TEST(StandIn, DeadItMeasuresAndLiveItLooks)
{
    StandIn panel(rightPlant());
    ASSERT_TRUE(panel.bring({Power::LockedOff, {"S1 press"}, {}, {}}));
    EXPECT_EQ(panel.look({Instrument::Ohms, {"S1:11", "S1:12"}})->low, kEndless);
    EXPECT_EQ(*panel.look({Instrument::Volts, {"G0:L1", "G0:L2"}}), figure(0));
    ASSERT_TRUE(panel.bring({Power::On, kStart, {}, {}}));
    EXPECT_EQ(panel.look({Instrument::Eye, {"Q1", "Q2", "P1", "M1"}})->word, "Q1 in, Q2 in, P1 lit, M1 right");
    EXPECT_NEAR(panel.look({Instrument::Volts, {"G1:+", "G1:-"}})->low, 24.0, 0.5);
    EXPECT_EQ(panel.look({Instrument::Sequence, {"G0:L1", "G0:L2", "G0:L3"}})->word, "right");
    EXPECT_EQ(panel.look({Instrument::Sequence, {"G0:L1", "G0:L3", "G0:L2"}})->word, "left");
    const Device& motor = *blower().device("M1");
    const double rated = std::get<double>(motor.parameters.at("current_a"));
    const Reading amperes = *panel.look({Instrument::Amperes, {"M1:U1"}});
    EXPECT_GT(amperes.low, 0.3 * rated);
    EXPECT_LT(amperes.low, 1.2 * rated);
    Texts stopped = kStart;
    stopped.push_back("S0 press");
    ASSERT_TRUE(panel.bring({Power::On, stopped, {}, {}}));
    EXPECT_EQ(panel.look({Instrument::Eye, {"Q1", "M1", "S0"}})->word, "Q1 out, M1 at rest, S0 held");
    EXPECT_GT(panel.look({Instrument::Stopwatch, {"M1"}})->low, 0.5) << "it runs down";
}

TEST(StandIn, WhatIsNotThereIsSaid)
{
    StandIn panel(rightPlant());
    EXPECT_EQ(panel.bring({Power::On, {"S9 press"}, {}, {}}).error().code, ErrorCode::NotFound);
    EXPECT_EQ(panel.bring({Power::LockedOff, {"S1 dance"}, {}, {}}).error().code, ErrorCode::NotFound);
    ASSERT_TRUE(panel.bring({Power::LockedOff, {}, {}, {}}));
    EXPECT_EQ(panel.look({Instrument::Ohms, {"S1:99", "S1:12"}}).error().code, ErrorCode::NotFound);
}

/// With the power circuit taken out nothing moves, whatever is pressed.
TEST(StandIn, TakenOutNothingMoves)
{
    StandIn panel(rightPlant());
    ASSERT_TRUE(panel.bring({Power::MotorOff, kStart, {"F1"}, {}}));
    EXPECT_EQ(panel.look({Instrument::Eye, {"M1"}})->word, "M1 at rest");
}

} // namespace
} // namespace ts::measuring
