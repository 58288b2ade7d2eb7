// What is tried on a fed panel: by known circuits, and what must hold in every plan.

#include "core/library/registry.h"
#include "core/measuring/panel.h"
#include "core/patterns/advice.h"
#include "core/patterns/machine.h"
#include "tests/support/circuits.h"

#include <set>

namespace ts::measuring {
namespace {

using Texts = std::vector<std::string>;

Circuit pattern(const Texts& said)
{
    return patterns::machine(*patterns::advised(said))->dossier.circuit;
}

const TestPlan& planOf(const Texts& said)
{
    static std::map<Texts, TestPlan> known;
    const auto it = known.find(said);
    return it != known.end() ? it->second : known.emplace(said, *testPlanOf(pattern(said))).first->second;
}

std::vector<const TestStep*> stepsOf(const TestPlan& plan, Stage stage)
{
    std::vector<const TestStep*> steps;
    for (const TestStep& s : plan.steps)
        if (s.stage == stage)
            steps.push_back(&s);
    return steps;
}
bool isLastDone(const TestStep& s, const std::string& operation)
{
    return !s.in.bring.empty() && s.in.bring.back() == operation;
}
const TestStep* stepAfter(const TestPlan& plan, Stage stage, const std::string& operation)
{
    for (const TestStep* s : stepsOf(plan, stage))
        if (isLastDone(*s, operation))
            return s;
    return nullptr;
}
bool says(const TestStep* step, const std::string& word)
{
    return step && (", " + step->expect.word + ",").find(", " + word + ",") != std::string::npos;
}

class LiveSteps : public ::testing::TestWithParam<Texts> { };

/// Where a plan says that motors are off, none is driven, whatever hands do.
TEST_P(LiveSteps, MotorOffIsOff)
{
    StandIn panel(std::make_shared<const Plant>(*compile(pattern(GetParam()))));
    std::size_t tried = 0;
    for (const TestStep& s : planOf(GetParam()).steps) {
        if (s.in.power != Power::MotorOff)
            continue;
        ASSERT_TRUE(panel.bring(s.in)) << s.id;
        ++tried;
        for (const State& state : panel.trail())
            for (std::size_t m = 0; m < panel.plant().motors.size(); ++m)
                EXPECT_NE(state.actuatorMode[m], MotorMode::Driven) << s.id;
    }
    EXPECT_GT(tried, 5u);
}

/// Incoming lines before control, control before anything turns, stops before faults: each stage in one piece.
TEST_P(LiveSteps, StagesStandInTheirOrder)
{
    Stage last = Stage::Isolation;
    for (const TestStep& s : planOf(GetParam()).steps) {
        EXPECT_GE(s.stage, last) << s.id;
        last = std::max(last, s.stage);
    }
}

/// What is expected is what the right panel reads.
TEST_P(LiveSteps, ExpectWhatTheRightPanelShows)
{
    StandIn panel(std::make_shared<const Plant>(*compile(pattern(GetParam()))));
    for (const TestStep& s : planOf(GetParam()).steps) {
        ASSERT_TRUE(panel.bring(s.in)) << s.id;
        const auto reading = panel.look(s.look);
        ASSERT_TRUE(reading) << s.id;
        EXPECT_FALSE(differ(s.expect, *reading)) << s.id << " " << s.look.at.front();
    }
}

INSTANTIATE_TEST_SUITE_P(Patterns, LiveSteps,
    ::testing::Values(Texts{}, Texts{"base=reversing", "interlock=auxiliary+mechanical"},
        Texts{"base=star_delta", "motor=30kW", "load=none"}, Texts{"operation=inching"},
        Texts{"control=phase_neutral", "stop=contactor_relay"}));

TEST(LiveStep, IncomingLinesAreMeasuredAgainstEachOtherNeutralAndEarth)
{
    const auto steps = stepsOf(planOf({}), Stage::Incoming);
    std::size_t volts = 0, lineToLine = 0;
    for (const TestStep* s : steps) {
        if (s->look.with != Instrument::Volts || s->in.bring.empty()) // the main switch off; else breaker by breaker
            continue;
        ++volts;
        lineToLine += s->expect.low < 400 && s->expect.high > 400;
        EXPECT_TRUE(s->expect.high < 260 || s->expect.low > 350) << "230 V or 400 V, with ten per cent";
    }
    EXPECT_EQ(volts, 9u) << "three between lines, three to neutral, three to earth";
    EXPECT_EQ(lineToLine, 3u);
    EXPECT_TRUE(std::any_of(steps.begin(), steps.end(),
        [](const TestStep* s) { return s->look.with == Instrument::Sequence && s->expect.word == "right"; }));
}

TEST(LiveStep, TheFirstLookAtControlIsThatNothingStarts)
{
    const auto steps = stepsOf(planOf({}), Stage::Control);
    const auto rest = std::find_if(steps.begin(), steps.end(),
        [](const TestStep* s) { return s->in.bring.empty() && s->look.with == Instrument::Eye; });
    ASSERT_NE(rest, steps.end());
    EXPECT_TRUE(says(*rest, "Q1 out")) << (*rest)->expect.word;
    EXPECT_TRUE(says(*rest, "M1 at rest"));
    const TestStep* started = stepAfter(planOf({}), Stage::Control, "S2 release");
    EXPECT_TRUE(says(started, "Q1 in")) << "the contactor holds while the motor is off";
}

TEST(LiveStep, EachDirectionTurnsItsWayAndTakesItsCurrent)
{
    const Circuit c = pattern({"base=reversing"});
    const double rated = parametersOf(c, *c.device("M1"))->number("current_a");
    Texts directions;
    std::size_t currents = 0;
    for (const TestStep* s : stepsOf(planOf({"base=reversing"}), Stage::Direction)) {
        for (const char* way : {"M1 right", "M1 left"})
            if (says(s, way))
                directions.push_back(way);
        if (s->look.with == Instrument::Amperes) {
            ++currents;
            EXPECT_LT(s->expect.low, rated);
            EXPECT_GT(s->expect.high, 0.5 * rated);
        }
    }
    std::sort(directions.begin(), directions.end());
    EXPECT_EQ(directions, (Texts{"M1 left", "M1 right"}));
    EXPECT_EQ(currents, 6u) << "three lines in two directions";
}

/// Pressed, it stops; let go, it stays stopped; unlatched, too.
TEST(LiveStep, EmergencyStopsStopAndStayStopped)
{
    const TestPlan& plan = planOf({"stops=2"});
    const Circuit c = pattern({"stops=2"});
    std::size_t count = 0;
    for (const Device& d : c.devices) {
        if (d.kind != "emergency_stop")
            continue;
        ++count;
        const std::string& tag = d.tag;
        const TestStep* pressed = stepAfter(plan, Stage::Stops, tag + " press");
        ASSERT_NE(pressed, nullptr) << tag;
        EXPECT_TRUE(says(pressed, "M1 at rest")) << pressed->expect.word;
        EXPECT_EQ(pressed->serves.front(), "ISO 13850 clause 4.1");
        const TestStep* unlatched = stepAfter(plan, Stage::Stops, tag + " unlatch");
        ASSERT_NE(unlatched, nullptr) << tag;
        EXPECT_TRUE(says(unlatched, "M1 at rest"));
        EXPECT_TRUE(says(unlatched, tag + " free"));
    }
    EXPECT_EQ(count, 2u);
}

TEST(LiveStep, TheOverloadIsTrippedByItsTestButton)
{
    const TestStep* tripped = stepAfter(planOf({}), Stage::Stops, "F2 test");
    ASSERT_NE(tripped, nullptr);
    EXPECT_TRUE(says(tripped, "M1 at rest")) << tripped->expect.word;
    EXPECT_TRUE(says(tripped, "P3 lit")) << "and the lamp says so";
    EXPECT_EQ(stepAfter(planOf({"base=drive"}), Stage::Stops, "F2 test"), nullptr) << "a drive has none";
}

/// One channel or the reset wire off: the relay does not come, nothing starts.
TEST(LiveStep, EachInputOfTheRelayIsOpenedAlone)
{
    const auto steps = stepsOf(planOf({"stop=two_channel_relay"}), Stage::Faults);
    ASSERT_EQ(steps.size(), 3u);
    for (const TestStep* s : steps) {
        EXPECT_EQ(s->in.lifted.size(), 1u);
        EXPECT_TRUE(says(s, "K0 off")) << s->expect.word;
        EXPECT_TRUE(says(s, "Q1 out"));
    }
}

TEST(LiveStep, LinesAreLostOnlyWhereSomethingWatchesThem)
{
    const auto isLoss = [](const TestStep* s) { return s->in.bring.back().find("lose_l") != std::string::npos; };
    const auto watched = stepsOf(planOf({"monitor=voltage"}), Stage::Faults);
    EXPECT_EQ(std::count_if(watched.begin(), watched.end(), isLoss), 3);
    for (const TestStep* s : watched)
        if (isLoss(s))
            EXPECT_TRUE(says(s, "M1 at rest")) << s->expect.word;
    const auto plain = stepsOf(planOf({}), Stage::Faults);
    EXPECT_EQ(std::count_if(plain.begin(), plain.end(), isLoss), 0);
}

/// With the motor off first, and the contactor in: so that what watches has been seen to work before a motor runs.
TEST(LiveStep, LinesAreLostWithTheMotorOffBeforeItRuns)
{
    const TestPlan& plan = planOf({"monitor=voltage"});
    std::set<std::string> lost;
    for (const TestStep* s : stepsOf(plan, Stage::Control))
        if (!s->in.bring.empty() && s->in.bring.back().find("lose_l") != std::string::npos) {
            EXPECT_EQ(s->in.power, Power::MotorOff);
            EXPECT_TRUE(says(s, "Q1 out")) << s->expect.word;
            lost.insert(s->in.bring.back());
        }
    EXPECT_EQ(lost, (std::set<std::string>{"G0 lose_l1", "G0 lose_l2", "G0 lose_l3"}));
}

/// One armature held in, the other started: its coil gets nothing, whatever bars the armatures; left out, it does.
TEST(LiveStep, EachInterlockIsTriedAlone)
{
    const Circuit circuit = pattern({"base=reversing"});
    const TestPlan& plan = planOf({"base=reversing"});
    std::set<std::string> held;
    std::size_t both = 0;
    for (const TestStep* s : stepsOf(plan, Stage::Control)) {
        const Texts& bring = s->in.bring;
        if (s->serves != Texts{"EN 60204-1 clause 9.3.3"})
            continue;
        EXPECT_EQ(s->in.power, Power::MotorOff);
        if (s->look.with == Instrument::Eye) {
            ++both;
            continue;
        }
        ASSERT_GE(bring.size(), 2u);
        held.insert(bring[bring.size() - 2]);
        const std::string other = bring[bring.size() - 2].starts_with("Q1") ? "Q2" : "Q1";
        EXPECT_EQ(s->look.at, (Texts{other + ":A1", other + ":A2"}));
        EXPECT_LT(s->expect.high, 5.0);
        const std::vector<Mistake> mistakes = *mistakesOf(circuit);
        EXPECT_TRUE(std::any_of(mistakes.begin(), mistakes.end(), [&](const Mistake& m) {
            if (m.kind != MistakeKind::LeftOut)
                return false;
            StandIn built(std::make_shared<const Plant>(*plantWith(circuit, m)));
            return built.bring(s->in) && differ(*built.look(s->look), s->expect);
        })) << "a contact left out feeds it";
    }
    EXPECT_EQ(held, (std::set<std::string>{"Q1 push_in", "Q2 push_in"}));
    EXPECT_EQ(both, 1u) << "both starts held";
}

/// Both at once starts it, one after the other is not the same; each hand let go stops it, and so does the emergency
/// stop while both stay.
TEST(LiveStep, TwoHandsAreTriedAtOnce)
{
    const TestPlan& plan = planOf({"operation=two_hand"});
    const auto starts = stepsOf(plan, Stage::Direction);
    ASSERT_FALSE(starts.empty());
    EXPECT_EQ(starts.front()->in.bring.back(), "S2 press + S3 press");
    EXPECT_TRUE(says(starts.front(), "M1 right")) << starts.front()->expect.word;
    for (const char* stop : {"S0 press", "S2 release", "S3 release"}) {
        const TestStep* s = stepAfter(plan, Stage::Stops, stop);
        ASSERT_NE(s, nullptr) << stop;
        EXPECT_TRUE(says(s, "M1 at rest")) << s->expect.word;
    }
    const TestStep* again = stepAfter(plan, Stage::Stops, "S2 press");
    ASSERT_NE(again, nullptr);
    EXPECT_TRUE(says(again, "M1 at rest")) << "one hand tied down starts nothing";
    EXPECT_FALSE(stepsOf(plan, Stage::Times).empty());
}

/// By hand: line voltage over root 3 over the short-circuit level gives the line's impedance; the protective conductor
/// of the supply has none in the model.
TEST(LiveStep, LoopImpedanceFollowsFromTheShortCircuitLevel)
{
    std::size_t lines = 0;
    for (const TestStep* s : stepsOf(planOf({"short_circuit_ka=6"}), Stage::Incoming)) {
        if (s->look.with != Instrument::LoopOhms)
            continue;
        ++lines;
        const double ohm = 400 / std::sqrt(3.0) / 6000, low = bandOf("loop").low, high = bandOf("loop").high;
        EXPECT_NEAR(s->expect.low, low * ohm, 0.1 * low * ohm);
        EXPECT_NEAR(s->expect.high, high * ohm, 0.1 * high * ohm);
        EXPECT_EQ(s->look.at.back(), "G0:PE");
        EXPECT_EQ(s->serves, (Texts{"EN 60204-1 clause 18.2.2"}));
    }
    EXPECT_EQ(lines, 3u);
}

/// From the supply on, each with what lies behind it still out; what feeds motors stays out all the time.
TEST(LiveStep, BreakersAreClosedOneAfterTheOther)
{
    const TestPlan plan = planOf({"control=two_transformers"});
    std::vector<const TestStep*> closing;
    for (const TestStep* s : stepsOf(plan, Stage::Incoming))
        if (s->look.with == Instrument::Volts && s->in.bring.empty())
            closing.push_back(s);
    ASSERT_GE(closing.size(), 3u) << "line, first and second transformer each have a fuse";
    for (std::size_t k = 0; k + 1 < closing.size(); ++k) {
        EXPECT_GE(closing[k]->in.isolated.size(), closing[k + 1]->in.isolated.size());
        EXPECT_NE(closing[k]->look, closing[k + 1]->look);
    }
    for (const TestStep* s : closing) {
        EXPECT_GT(s->expect.low, 5) << "it has come";
        EXPECT_EQ(s->in.power, Power::MotorOff);
        EXPECT_NE(std::find(s->in.isolated.begin(), s->in.isolated.end(), "F1"), s->in.isolated.end())
            << "the motor's own fuses";
    }
    EXPECT_EQ(closing.front()->look.at.front(), "F3:2");
}

TEST(LiveStep, TimesToRestAreTakenWithTheEmergencyStop)
{
    const auto steps = stepsOf(planOf({}), Stage::Times);
    ASSERT_EQ(steps.size(), 2u);
    EXPECT_EQ(steps.front()->look, (Look{Instrument::Stopwatch, {"M1"}}));
    EXPECT_EQ(steps.back()->look, (Look{Instrument::VoltsLater, {"M1:U1", "M1:V1"}})) << "and whether it discharges";
    EXPECT_EQ(steps.back()->in, steps.front()->in);
    EXPECT_EQ(steps.front()->in.bring.back(), "S0 press");
    EXPECT_LT(steps.front()->expect.low, steps.front()->expect.high);
}

/// An overload relay cannot be taken out, a fuse can; with neither, the leads come off.
TEST(LiveStep, WhatIsTakenOutIsWhatOpens)
{
    for (const TestStep& s : planOf({}).steps)
        for (const std::string& tag : s.in.isolated)
            EXPECT_TRUE(tag.starts_with("F1") || s.stage == Stage::Incoming) << tag << ": breaker by breaker";
    DossierFile file = *patterns::machine(*patterns::advised(Texts{}));
    Circuit& c = file.dossier.circuit;
    const DeviceId fuse = c.device("F1")->id, contactor = c.device("Q9") ? c.device("Q9")->id : c.device("Q1")->id;
    for (Wire& w : c.wires) // past the fuse, straight to the contactor
        for (const auto& [from, to] : {std::pair{"2", "1"}, {"4", "3"}, {"6", "5"}})
            if (w.from == TerminalRef{fuse, from} && w.to == TerminalRef{contactor, to})
                w.from.marking = to;
    const auto plan = testPlanOf(c);
    ASSERT_TRUE(plan);
    const auto control = stepsOf(*plan, Stage::Control);
    ASSERT_FALSE(control.empty());
    for (const TestStep* s : control) {
        EXPECT_TRUE(s->in.isolated.empty());
        EXPECT_EQ(s->in.lifted.size(), 3u) << "the motor's three leads, not its protective conductor";
    }
}

} // namespace
} // namespace ts::measuring
