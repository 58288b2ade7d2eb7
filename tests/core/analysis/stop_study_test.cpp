// The worst case of a stop: limits of times and voltage, supply lost, single faults, operating states.

#include "core/analysis/stop_study.h"
#include "core/patterns/machine.h"
#include "tests/core/faults/stop_circuits.h"

namespace ts {
namespace {

StopStudy studied(const Dossier& d, bool withFaults = true, int threads = 0)
{
    auto s = stopStudy(d, d.functions.front(), {threads, withFaults});
    EXPECT_TRUE(s) << s.error().message.id;
    return s ? *s : StopStudy{};
}

const StopCase* caseOf(const ActuatorStudy& a, StopCase::Kind kind, std::string_view fault = {})
{
    for (const StopCase& c : a.cases)
        if (c.kind == kind && c.fault == fault)
            return &c;
    ADD_FAILURE() << nameOf(kind) << ' ' << fault;
    return nullptr;
}

TEST(StopStudy, OfTheDemoByHand)
{
    const StopStudy s = studied(test::demoFile().dossier);
    const ActuatorStudy& m = s.actuators.at(0);
    EXPECT_EQ(m.category, 0);
    // 3 ms button + 20 ms relay + 15 ms * 1.2 contactor with varistor + 10 ms arc; slow: 8 ms + 20 ms + 30 ms * 1.4 +
    // 10 ms.
    EXPECT_NEAR(caseOf(m, StopCase::Kind::Nominal)->stop.removedAfter->si(), 0.051, 1e-9);
    EXPECT_NEAR(caseOf(m, StopCase::Kind::SlowTimes)->stop.removedAfter->si(), 0.080, 1e-9);
    EXPECT_LT(caseOf(m, StopCase::Kind::FastTimes)->stop.removedAfter->si(), 0.051);
    const StopCase& latest = m.cases.at(static_cast<std::size_t>(m.latestRemoval));
    for (const StopCase& c : m.cases)
        if (c.stop.category) {
            EXPECT_LE(c.stop.removedAfter->si(), latest.stop.removedAfter->si());
        }
    EXPECT_GT(s.faultCount, 20u);
}

TEST(StopStudy, HasNothingToSayOfAMotorThatNeverRuns)
{
    // Once a place in the cases stood at 0 where there is none: a false highest speed at removal, or a crash.
    EXPECT_EQ(ActuatorStudy{}.fastestRemoval, -1);
    const StopStudy healthy = studied(test::demoFile().dossier, false);
    EXPECT_EQ(healthy.actuators.at(0).fastestRemoval, -1) << "every case is of category 0";
    Dossier d = test::demoFile().dossier;
    std::erase_if(d.circuit.wires, [&](const Wire& w) {
        return d.circuit.nameOf(w.from).starts_with("M1:") || d.circuit.nameOf(w.to).starts_with("M1:");
    });
    const StopStudy s = studied(d, false);
    const ActuatorStudy& m = s.actuators.at(0);
    EXPECT_TRUE(m.cases.empty());
    for (int place : {m.latestRemoval, m.latestRest, m.earliestRest, m.fastestRemoval})
        EXPECT_EQ(place, -1);
}

TEST(StopStudy, AWeldedContactorAloneRunsOnAndIsNeverStopCategoryTwo)
{
    test::CircuitBuilder b = test::motorBehind({"Q1"});
    b.device("S0", "emergency_stop", {{"contacts", test::Words{"11-12"}}})
        .device("S3", "push_button", {{"contacts", test::Words{"13-14"}}});
    b.wire("G1:+", "S0:11")
        .wire("S0:12", "S3:13")
        .wire("S3:14", "Q1:A1")
        .wire("Q1:A2", "G1:-")
        .wire("S0:12", "Q1:13")
        .wire("Q1:14", "Q1:A1");
    const StopStudy s = studied(test::stopping(b.circuit()));
    const ActuatorStudy& m = s.actuators.at(0);
    const StopCase* welded = caseOf(m, StopCase::Kind::Fault, "Q1/main:welded");
    EXPECT_FALSE(welded->stop.category) << "it runs on: no stop, whatever is claimed";
    EXPECT_EQ(m.category, 0) << "without a fault it is one";
    EXPECT_TRUE(std::any_of(m.noStop.begin(), m.noStop.end(),
        [&](int k) { return m.cases[static_cast<std::size_t>(k)].fault == "Q1/main:welded"; }));
    for (const StopCase& c : m.cases)
        EXPECT_NE(c.stop.category, 2);
}

TEST(StopStudy, TakesEveryScenarioThatDemandsItAsAnOperatingState)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    Scenario again = d.scenarios.front();
    again.id = {9002};
    again.steps.back().atS = 1.8; // still speeding up
    d.scenarios.push_back(again);
    Scenario other = again;
    other.id = {9003};
    other.steps.pop_back(); // never stops
    d.scenarios.push_back(other);
    const StopStudy s = studied(d, false);
    EXPECT_EQ(s.states, (std::vector<ScenarioId>{{9000}, {9002}}));
    EXPECT_EQ(s.actuators.at(0).cases.size(), 12u) << "six cases for each";
    EXPECT_NE(s.actuators[0].cases.at(static_cast<std::size_t>(s.actuators[0].latestRest)).state, ScenarioId{9002})
        << "at full speed it runs down longer";
}

TEST(StopStudy, ADriveIsCategoryOneAndZeroWhenTheMainsGo)
{
    const std::vector<std::string> with{"base=drive", "stop=delayed_relay"};
    DossierFile file = *patterns::machine(*patterns::MachinePlan::from(with));
    Dossier& d = file.dossier;
    const auto demands = std::find_if(d.scenarios.begin(), d.scenarios.end(), [&](const Scenario& s) {
        return std::any_of(s.steps.begin(), s.steps.end(),
            [](const Step& step) { return step.target == "S0" && step.action == "press"; });
    });
    ASSERT_NE(demands, d.scenarios.end());
    SafetyFunction f;
    f.id = {9001};
    f.trigger = {d.circuit.device("S0")->id, "press"};
    f.mustRest = {d.circuit.device("M1")->id};
    f.demandScenario = demands->id;
    d.functions = {f};
    const StopStudy s = studied(d, false);
    const ActuatorStudy& m = s.actuators.at(0);
    EXPECT_EQ(caseOf(m, StopCase::Kind::Nominal)->stop.category, 1);
    EXPECT_NE(caseOf(m, StopCase::Kind::SupplyLost)->stop.category, 1) << "no ramp without mains";
}

TEST(StopStudy, IsTheSameOnOneAndTwoThreads)
{
    const Dossier d = test::stopping(test::twoChannels().circuit());
    const StopStudy one = studied(d, true, 1), two = studied(d, true, 2);
    ASSERT_EQ(one.actuators.at(0).cases.size(), two.actuators.at(0).cases.size());
    for (std::size_t k = 0; k < one.actuators[0].cases.size(); ++k) {
        EXPECT_EQ(one.actuators[0].cases[k].fault, two.actuators[0].cases[k].fault);
        EXPECT_EQ(one.actuators[0].cases[k].stop.why, two.actuators[0].cases[k].stop.why);
    }
}

TEST(StopStudy, RefusesWithoutADemand)
{
    Dossier d = test::stopping(test::twoChannels().circuit());
    d.scenarios.front().steps.pop_back();
    const auto none = stopStudy(d, d.functions.front(), {});
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().message.id, "stop.no_demand");
}

} // namespace
} // namespace ts
