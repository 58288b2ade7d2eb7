// Insulation with 500 V: what is tried, what is disconnected for it, and what it shows.

#include "core/measuring/insulation.h"
#include "core/measuring/panel.h"
#include "core/measuring/stop_times.h"
#include "core/record/record.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <set>

namespace ts::measuring {
namespace {

using test::CircuitBuilder;
using test::word;
using Words = std::vector<std::string>;

/// A phase monitor ahead of the contactor, control between L1 and N behind a fuse of its own, a motor.
CircuitBuilder starter()
{
    CircuitBuilder b;
    b.device("G0", "supply_three_phase", {{"voltage_v", 400.0}})
        .device("F1", "fuse", {{"rated_current_a", 2.0}})
        .device("B1", "phase_monitor", {{"line_voltage_v", 400.0}})
        .device("Q1", "contactor", {{"coil_voltage_v", 230.0}, {"coil_current", word("ac")}})
        .device("P1", "lamp", {{"rated_voltage_v", 230.0}})
        .device("S1", "push_button", {{"contacts", Words{"11-12"}}})
        .device("M1", "motor",
            {{"rated_power_w", 5500.0}, {"voltage_v", 400.0}, {"current_a", 11.0}, {"cos_phi", 0.83},
                {"speed_per_min", 1455.0}});
    for (const auto& [line, in, out, end, tap] :
        {std::array{"G0:L1", "Q1:1", "Q1:2", "M1:U1", "B1:L1"}, std::array{"G0:L2", "Q1:3", "Q1:4", "M1:V1", "B1:L2"},
            std::array{"G0:L3", "Q1:5", "Q1:6", "M1:W1", "B1:L3"}})
        b.wire(line, in).wire(out, end).wire(in, tap);
    b.wire("G0:L1", "F1:1").wire("F1:2", "S1:11").wire("S1:12", "Q1:A1").wire("Q1:A2", "G0:N");
    b.wire("Q1:A1", "P1:X1").wire("P1:X2", "Q1:A2").wire("M1:PE", "G0:PE");
    return b;
}

const DeadLook* lookAt(const InsulationLooks& all, const std::string& terminal)
{
    const auto it = std::find_if(all.found.looks.begin(), all.found.looks.end(),
        [&](const DeadLook& l) { return l.isInsulation && l.a == terminal; });
    return it == all.found.looks.end() ? nullptr : &*it;
}

TEST(Insulation, TriesEachPartThatLiesApartAndDisconnectsWhatDoesNotBearIt)
{
    const Circuit circuit = starter().circuit();
    const Plant plant = *compile(circuit);
    const InsulationLooks all = insulationLooksOf(plant);
    for (const char* terminal : {"G0:L1", "G0:L2", "G0:L3", "M1:U1"})
        EXPECT_NE(lookAt(all, terminal), nullptr) << terminal;
    EXPECT_EQ(
        std::count_if(all.found.looks.begin(), all.found.looks.end(), [](const DeadLook& l) { return l.isInsulation; }),
        4)
        << "the motor's three leads are one part";
    EXPECT_EQ(all.notReached, (Words{"F1:2", "S1:11"})) << "the control circuit behind the fuse that is out";
    const DeadState& l1 = all.found.states[lookAt(all, "G0:L1")->state];
    EXPECT_EQ(l1.bring, (Words{"F1 pull"})) << "one fuse takes the lamp and the coil off";
    const auto lifts = [&](const DeadState& s, const char* end) {
        return std::any_of(s.lifted.begin(), s.lifted.end(), [&](WireId w) {
            return circuit.nameOf(circuit.wire(w)->from) == end || circuit.nameOf(circuit.wire(w)->to) == end;
        });
    };
    EXPECT_TRUE(lifts(l1, "B1:L1")) << "the monitor has no fuse of its own";
    EXPECT_FALSE(lifts(l1, "B1:L2")) << "that one is on another part";
    EXPECT_TRUE(all.found.states[lookAt(all, "M1:U1")->state].lifted.empty());
}

TEST(Insulation, IsOpenAsDrawnAndEverythingLiftedIsProvedAgain)
{
    for (const DossierFile& file :
        {test::demoFile(), *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))}) {
        const Plant plant = *compile(file.dossier.circuit);
        const InsulationLooks all = insulationLooksOf(plant);
        const Overlay none = overlayOf(plant, {});
        std::set<WireId> lifted, proved;
        int tried = 0;
        for (const DeadLook& look : all.found.looks) {
            const DeadState& state = all.found.states[look.state];
            lifted.insert(state.lifted.begin(), state.lifted.end());
            Ohms ohms(plant, state.travel, none, state.gone);
            if (look.isInsulation) {
                ++tried;
                EXPECT_GE(ohms.lowest(look.nodesA, look.nodesB).low, bandOf("open_from").low) << look.a;
                continue;
            }
            EXPECT_FALSE(look.serves.empty()) << "required, whatever else shows it";
            for (const PlantWire& w : plant.wires)
                if (w.p == look.nodesA.front() && w.q == look.nodesB.front())
                    proved.insert(w.id);
        }
        EXPECT_GT(tried, 3);
        EXPECT_TRUE(std::includes(proved.begin(), proved.end(), lifted.begin(), lifted.end()));
    }
}

TEST(Insulation, LiftsABondThatIsInTheWay)
{
    CircuitBuilder b = starter();
    b.wire("Q1:2", "G0:PE");
    const Circuit circuit = b.circuit();
    const InsulationLooks all = insulationLooksOf(*compile(circuit));
    const DeadLook* look = lookAt(all, "M1:U1");
    ASSERT_NE(look, nullptr);
    const DeadState& state = all.found.states[look->state];
    ASSERT_EQ(state.lifted.size(), 1u);
    EXPECT_EQ(circuit.wire(state.lifted.front())->to.marking, "PE");
}

TEST(Insulation, StandsInThePlanBetweenWhatSomebodyDoes)
{
    const auto plan = testPlanOf(starter().circuit());
    ASSERT_TRUE(plan);
    std::vector<std::string> done;
    for (const TestStep& s : plan->steps)
        if (s.stage == Stage::Insulation)
            done.push_back(s.look.with == Instrument::Person ? s.look.at.front() : std::string(wordOf(s.look.with)));
    ASSERT_GE(done.size(), 4u);
    EXPECT_EQ(done.front(), "people_away");
    EXPECT_EQ(done[1], "insulation");
    EXPECT_EQ(done[done.size() - 2], "discharged");
    EXPECT_EQ(done.back(), "reconnected");
    for (const TestStep& s : plan->steps)
        if (s.look.with == Instrument::Insulation) {
            EXPECT_EQ(s.expect.low, 1e6) << "EN 60204-1 clause 18.3";
            EXPECT_EQ(s.expect.high, kEndless);
        }
    const bool isDischargeRead = std::any_of(plan->steps.begin(), plan->steps.end(), [](const TestStep& s) {
        return s.look.with == Instrument::VoltsLater && s.expect == Reading{0, 60, {}};
    });
    EXPECT_FALSE(isDischargeRead) << "nothing here is stopped by a protective device";
}

TEST(Interlock, OfTwoArmaturesIsPushedByHand)
{
    CircuitBuilder b = starter();
    b.device("Q2", "contactor", {{"coil_voltage_v", 230.0}, {"coil_current", word("ac")}}).interlock("Q1", "Q2");
    const auto plan = testPlanOf(b.circuit());
    ASSERT_TRUE(plan);
    const auto step = std::find_if(plan->steps.begin(), plan->steps.end(), [](const TestStep& s) {
        return s.look == Look{Instrument::Person, {"interlock", "Q1", "Q2"}};
    });
    ASSERT_NE(step, plan->steps.end());
    EXPECT_EQ(step->in.power, Power::LockedOff);
    EXPECT_TRUE(isDead(step->stage));
    EXPECT_FALSE(step->serves.empty());
}

/// A record with the plan's first stopwatch step read so often.
DossierFile timed(DossierFile file, const TestPlan& plan, const std::vector<double>& seconds)
{
    const auto step = std::find_if(
        plan.steps.begin(), plan.steps.end(), [](const TestStep& s) { return s.look.with == Instrument::Stopwatch; });
    EXPECT_NE(step, plan.steps.end());
    for (const double s : seconds) {
        StepTaken taken{step->id, "A. Tester", "2026-12-01T08:00:00Z", "stopwatch 3", "", 0, s, ""};
        auto entry = entryOf(taken, plan, file.dossier, file.record);
        EXPECT_TRUE(entry);
        file.record.push_back(*std::move(entry));
    }
    return file;
}

TEST(StopTimes, GoIntoTheFunctionAfterTenRuns)
{
    const DossierFile demo = test::demoFile();
    const TestPlan plan = *testPlanOf(demo.dossier.circuit);
    const auto step = std::find_if(
        plan.steps.begin(), plan.steps.end(), [](const TestStep& s) { return s.look.with == Instrument::Stopwatch; });
    ASSERT_NE(step, plan.steps.end());
    const auto functions = functionsTimedBy(*step, demo.dossier);
    ASSERT_FALSE(functions.empty());
    const double middle = (step->expect.low + step->expect.high) / 2;
    const DossierFile nine = timed(demo, plan, std::vector<double>(9, middle));
    const auto refused = withStopTimes(plan, nine);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().message.id, "results.no_stop_times");
    const auto taken = withStopTimes(plan, timed(nine, plan, {middle * 1.01}));
    ASSERT_TRUE(taken);
    const SafetyFunction* f = taken->dossier.function(functions.front()->id);
    EXPECT_EQ(f->approach.measuredStopsS.size(), 10u);
    EXPECT_DOUBLE_EQ(f->approach.measuredStopsS.back(), middle * 1.01);
    EXPECT_EQ(f->approach.measuredOn, "2026-12-01");
    // One that disagrees opens the step: its times say nothing.
    EXPECT_FALSE(withStopTimes(plan, timed(*taken, plan, {step->expect.high * 3})));
}

TEST(Discharge, IsReadAfterTheStopThatIsTimed)
{
    const TestPlan plan = *testPlanOf(test::demoFile().dossier.circuit);
    const auto later = std::find_if(
        plan.steps.begin(), plan.steps.end(), [](const TestStep& s) { return s.look.with == Instrument::VoltsLater; });
    ASSERT_NE(later, plan.steps.end());
    EXPECT_EQ(later->expect, (Reading{0, 60, {}})) << "EN 60204-1 clause 6.2.4";
    EXPECT_EQ(later->serves, (Words{"EN 60204-1 clause 6.2.4"}));
    StandIn panel(std::make_shared<const Plant>(*compile(test::demoFile().dossier.circuit)));
    ASSERT_TRUE(panel.bring(later->in));
    const auto reads = panel.look(later->look);
    ASSERT_TRUE(reads);
    EXPECT_GE(reads->low, 0);
    EXPECT_LT(reads->high, 60);
}

} // namespace
} // namespace ts::measuring
