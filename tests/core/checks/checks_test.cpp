// Each check: a circuit that has the fault, one that nearly has it, none on the clean demo.

#include "core/analysis/analysis.h"
#include "core/checks/check.h"
#include "core/studies/working_out.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts {
namespace {

std::vector<Finding> findingsAfter(
    const std::function<void(Dossier&)>& change, std::vector<std::string_view> studies = {kLevels.id, kChecks.id})
{
    Dossier d = test::demoFile().dossier;
    change(d);
    Results results;
    EXPECT_TRUE(workOut(d, {.only = std::move(studies)}, results));
    const auto checked = results.find(kChecks);
    EXPECT_TRUE(checked);
    return checked ? checked->findings : std::vector<Finding>{};
}

bool has(const std::vector<Finding>& findings, std::string_view what)
{
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.what.id == what; });
}

TEST(Checks, CleanDemoHasNone)
{
    EXPECT_TRUE(findingsAfter([](Dossier&) {}).empty());
}

TEST(Checks, EveryFindingIsComplete)
{
    const auto findings = findingsAfter([](Dossier& d) {
        SafetyFunction& f = d.functions[0];
        f.requiredLevel = safety::Level::E;
        f.stopCategory = 2;
        f.trigger.device = {999};
        f.claim[2].category = safety::Category::One;
    });
    EXPECT_GE(findings.size(), 4u);
    for (const Finding& f : findings) {
        EXPECT_FALSE(f.what.id.empty());
        EXPECT_FALSE(f.consequence.id.empty());
        EXPECT_FALSE(f.mend.id.empty());
        EXPECT_FALSE(f.evidence.id.empty()) << "no finding without evidence";
        EXPECT_FALSE(f.clause.empty());
    }
}

TEST(LevelCheck, EquipmentProtectionHasNoLevelFinding)
{
    const auto findings = findingsAfter([](Dossier& d) {
        d.functions[0].reliedOnByPerson = false;
        d.functions[0].requiredLevel.reset();
        d.functions[0].claim.clear();
    });
    for (const Finding& f : findings)
        EXPECT_NE(f.id, "level");
    EXPECT_TRUE(has(findings, "finding.motor.no_function")) << "then nobody has decided how it is stopped";
}

/// Nothing to check is not the same as checked: without functions no level, stop or claim was looked at.
TEST(Checks, WithoutFunctionsMostOfThemAreAboutNothing)
{
    Dossier d = test::demoFile().dossier;
    d.functions.clear();
    d.scenarios.clear();
    Results results;
    ASSERT_TRUE(workOut(d, {.only = {kLevels.id, kScenarios.id, kDirected.id, kChecks.id}}, results));
    const auto checked = results.find(kChecks);
    ASSERT_TRUE(checked);
    for (const CheckMade& c : checked->checks) {
        const bool isOfTheCircuit = c.id == "motors" || c.id == "wires" || c.id == "contacts"
            || c.id == "protective_devices" || c.id == "starts" || c.id == "lines" || c.id == "held"
            || c.id == "emergency_stops" || c.id == "duty" || c.id == "orders" || checkNamed(c.id)->needs == kTrials.id
            || c.id == "sizes" || c.id == "contact_budget" || c.id == "record";
        EXPECT_EQ(c.isAboutNothing(), !isOfTheCircuit) << c.id;
    }
}

/// What a scenario expects is a claim like any other: it is run, and what does not come about is found.
TEST(ScenarioCheck, WhatDoesNotComeAboutIsFound)
{
    const std::vector<std::string_view> studies{kScenarios.id, kChecks.id};
    EXPECT_TRUE(findingsAfter([](Dossier&) {}, studies).empty());
    const auto findings = findingsAfter(
        [](Dossier& d) {
            d.scenarios[0].expectations.push_back({3.5, "M1", "at_rest"}); // it runs then
            d.scenarios[1].steps.push_back({1.0, "press", "S77"});
        },
        studies);
    ASSERT_TRUE(has(findings, "finding.scenario.unmet"));
    ASSERT_TRUE(has(findings, "finding.scenario.not_run"));
    const auto unmet = std::find_if(
        findings.begin(), findings.end(), [](const Finding& f) { return f.what.id == "finding.scenario.unmet"; });
    EXPECT_EQ(unmet->severity, Severity::Fix);
    EXPECT_EQ(unmet->devices, std::vector<std::string>{"M1"});
    EXPECT_EQ(unmet->target.scenario, test::demoFile().dossier.scenarios[0].id);
    EXPECT_EQ(unmet->target.atS, 3.5);
}

TEST(ScenarioCheck, OneThatChattersShowsNothing)
{
    const auto findings = findingsAfter(
        [](Dossier& d) { test::addSelfInterruptingContactor(d.circuit); }, {kScenarios.id, kChecks.id});
    EXPECT_TRUE(has(findings, "finding.scenario.chatters"));
}

TEST(DutyCheck, AValueForSmallLoadsIsNoneForAMotorsCurrent)
{
    const auto typical = [](const char* row, double rated) {
        return findingsAfter([=](Dossier& d) {
            for (Device& device : d.circuit.devices)
                if (device.tag == "Q1") {
                    device.parameters["rated_current_ac3_a"] = rated;
                    device.reliability = Reliability{};
                    device.reliability->typicalPart = row;
                }
        });
    };
    EXPECT_TRUE(has(typical("contactor.small_load", 5.0), "finding.duty.small_load")) << "about 1.5 A";
    EXPECT_FALSE(has(typical("contactor.small_load", 40.0), "finding.duty.small_load"));
    EXPECT_FALSE(has(typical("contactor.nominal_load", 5.0), "finding.duty.small_load"));
}

TEST(LevelCheck, AFunctionWithoutAClaimHasNone)
{
    const auto findings = findingsAfter([](Dossier& d) {
        SafetyFunction second = d.functions[0];
        second.id = {500};
        second.name = "Second";
        second.claim.clear();
        d.functions.push_back(second);
    });
    ASSERT_EQ(findings.size(), 1u);
    EXPECT_EQ(findings[0].what.id, "finding.level.none");
    EXPECT_EQ(findings[0].target.function, FunctionId{500});
    EXPECT_EQ(findings[0].target.aspect, Target::Aspect::Claim);
}

TEST(LevelCheck, ShortBorderAndReached)
{
    const auto everyMinute = [](Dossier& d) {
        for (auto& channel : d.functions[0].claim[2].channels)
            channel.parts[0].secondsPerCycle = 60; // MTTFd 61.6 y: category 4, row of 56 y 4.73e-8: PL e
    };
    EXPECT_FALSE(has(findingsAfter([&](Dossier& d) {
        everyMinute(d);
        d.functions[0].requiredLevel = safety::Level::E;
    }),
        "finding.level.short"));
    const auto every20s = [](Dossier& d) {
        for (auto& channel : d.functions[0].claim[2].channels) {
            channel.parts[0].secondsPerCycle = 20; // 20.5 y: category 4 is not met
            channel.parts[0].dc = 0.99;
        }
        d.functions[0].claim[2].category = safety::Category::Three; // row of 20 y, medium: 4.85e-7, PL d
        d.functions[0].requiredLevel = safety::Level::E;
    };
    EXPECT_TRUE(has(findingsAfter(every20s), "finding.level.short"));
}

TEST(LevelCheck, NoneRequiredAndOpenConditions)
{
    EXPECT_TRUE(
        has(findingsAfter([](Dossier& d) { d.functions[0].requiredLevel.reset(); }), "finding.level.not_required"));
    EXPECT_TRUE(
        has(findingsAfter([](Dossier& d) { d.functions[0].requiredLevel = safety::Level::B; }), "finding.level.estop"));
    EXPECT_FALSE(
        has(findingsAfter([](Dossier& d) { d.functions[0].requiredLevel = safety::Level::C; }), "finding.level.estop"));
    EXPECT_TRUE(has(
        findingsAfter([](Dossier& d) { d.functions[0].conditions.environment = false; }), "finding.level.conditions"));
    EXPECT_FALSE(has(findingsAfter([](Dossier& d) {
        d.functions[0].reliedOnByPerson = false;
        d.functions[0].requiredLevel.reset();
    }),
        "finding.level.not_required"));
}

TEST(StopCheck, ChosenCategoryAgainstTheOneRead)
{
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].stopCategory = 2; }), "finding.stop.not_allowed"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].stopCategory = 1; }), "finding.stop.differs"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].allowedTimeS = 16.0; }), "finding.stop.late"));
    EXPECT_FALSE(has(findingsAfter([](Dossier& d) { d.functions[0].allowedTimeS = 17.0; }), "finding.stop.late"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].demandScenario = {}; }), "finding.stop.unread"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.scenarios[0].steps.erase(d.scenarios[0].steps.begin() + 1); }),
        "finding.stop.unread"))
        << "never started: the run shows nothing";
}

TEST(StopCheck, AStopThatIsWiredPastIsNoStop)
{
    // Both channels bridged at the relay: the emergency stop does nothing.
    const auto findings = findingsAfter([](Dossier& d) {
        Circuit& c = d.circuit;
        const DeviceId k1 = c.device("K1")->id;
        int id = 900;
        for (const auto& [from, to] : {std::pair{"S11", "S12"}, {"S21", "S22"}})
            c.wires.push_back({{++id}, "b", {k1, from}, {k1, to}, 1.0, 0.1, "", {}});
    });
    EXPECT_TRUE(has(findings, "finding.stop.no_stop"));
}

TEST(RestartCheck, HoldsTheRuleAgainstWhatStartsItInTheRun)
{
    // The blower starts with S2 after the reset by S3. If S2 itself were named as the reset, the reset would start it.
    const auto startedBy = [](const char* reset, RestartRule rule) {
        return findingsAfter([=](Dossier& d) {
            d.scenarios[0].steps.push_back({29.0, "operate", "S2", 0.3}); // after the reset at 28 s
            d.scenarios[0].lengthS = 32;
            d.functions[0].emergencyStop = false;
            d.functions[0].resetBy = d.circuit.device(reset)->id;
            d.functions[0].restart = rule;
        });
    };
    EXPECT_FALSE(has(startedBy("S3", RestartRule::StartAction), "finding.restart.by_reset"));
    EXPECT_TRUE(has(startedBy("S2", RestartRule::StartAction), "finding.restart.by_reset"));
    EXPECT_FALSE(has(startedBy("S2", RestartRule::Reset), "finding.restart.by_reset"))
        << "decided so, and no emergency stop";
    EXPECT_TRUE(
        has(findingsAfter([](Dossier& d) { d.functions[0].restart = RestartRule::Reset; }), "finding.restart.rule"));
}

TEST(DutyCheck, AContactorThatInchesIsNotReckonedWithItsTypicalValue)
{
    // Stopped 60 ms after it was started the blower has hardly turned: that is AC-4. After 2.5 s it runs.
    const auto stoppedAfter = [](double s, bool typical) {
        return findingsAfter([=](Dossier& d) {
            Scenario inch;
            inch.id = {777};
            inch.name = "inch";
            inch.lengthS = 10;
            inch.steps = {{0.5, "operate", "S3", 0.3}, {1.5, "operate", "S2", 0.05}, {1.5 + s, "operate", "S1", 0.3}};
            d.scenarios = {d.scenarios.front(), inch};
            for (Part& p : d.circuit.parts)
                if (p.kind == "contactor")
                    p.reliability = typical ? Reliability{.typicalPart = "contactor.nominal_load"} : p.reliability;
        });
    };
    EXPECT_TRUE(has(stoppedAfter(0.06, true), "finding.duty.typical"));
    EXPECT_FALSE(has(stoppedAfter(2.5, true), "finding.duty.typical"));
    EXPECT_TRUE(has(stoppedAfter(0.06, false), "finding.duty.sheet")) << "a sheet may be right: said, not refused";
}

TEST(DistanceCheck, FromBothSides)
{
    // The blower rests after about 11 s: 1.6 m/s times that and more than any hall. With 100 m it is far enough.
    const auto at = [](double metres, bool emergency) {
        return findingsAfter(
            [=](Dossier& d) {
                d.functions[0].emergencyStop = emergency;
                d.functions[0].approach.distanceM = metres;
            },
            {kLevels.id, kSingleFaults.id, kChecks.id});
    };
    EXPECT_TRUE(has(at(1.0, false), "finding.distance"));
    EXPECT_FALSE(has(at(100.0, false), "finding.distance"));
    EXPECT_FALSE(has(at(1.0, true), "finding.distance")) << "no distance is asked of an emergency stop";
}

TEST(DistanceCheck, FewerThanTenMeasuredStopsCountAsTheirLongestAndAreAFinding)
{
    const auto with = [](std::size_t count) {
        return findingsAfter(
            [count](Dossier& d) {
                d.functions[0].emergencyStop = false;
                d.functions[0].approach.distanceM = 50.0; // enough for what the simulation shows
                d.functions[0].approach.measuredStopsS.assign(count, 40.0);
            },
            {kLevels.id, kSingleFaults.id, kChecks.id});
    };
    EXPECT_TRUE(has(with(9), "finding.measured.few"));
    EXPECT_TRUE(has(with(9), "finding.distance")) << "40 s at 1.6 m/s are 64 m";
    EXPECT_FALSE(has(with(10), "finding.measured.few"));
    EXPECT_TRUE(has(with(10), "finding.distance"));
}

/// A lost line that is kept alive by motors without load, below the monitor's 8 %: nobody entered the load.
TEST(StopCheck, WhatStopsOnlyWithItsLoadIsNamed)
{
    Dossier d = io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"))->dossier;
    for (Device& device : d.circuit.devices) {
        device.parameters.erase("lowest_load_share");
        if (device.tag == "B1")
            device.parameters["unbalance_pct"] = 8.0;
    }
    Results results;
    ASSERT_TRUE(workOut(d, {.only = {kLevels.id, kChecks.id}}, results));
    EXPECT_TRUE(has(results.find(kChecks)->findings, "finding.stop.load_keeps"));
}

TEST(StopCheck, ALeastLoadThatNobodyEnteredIsNamed)
{
    const auto without = [](double allowedS) {
        return findingsAfter([allowedS](Dossier& d) {
            for (Device& device : d.circuit.devices)
                if (device.tag == "M1")
                    device.parameters.erase("lowest_load_share");
            d.functions[0].allowedTimeS = allowedS;
        });
    };
    const auto severity = [](const std::vector<Finding>& findings) {
        for (const Finding& f : findings)
            if (f.what.id == "finding.stop.load")
                return f.severity;
        return Severity::Stop;
    };
    EXPECT_EQ(severity(without(20.0)), Severity::Fix) << "75 s without load, 20 s allowed";
    EXPECT_EQ(severity(without(100.0)), Severity::Note);
    EXPECT_FALSE(has(findingsAfter([](Dossier&) {}), "finding.stop.load"));
}

TEST(ClaimCheck, NamesWhatIsMissing)
{
    EXPECT_TRUE(
        has(findingsAfter([](Dossier& d) { d.functions[0].claim[1].encapsulated = {777}; }), "finding.claim.device"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].claim[2].channels[0].parts[0].device = {777}; }),
        "finding.claim.device"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].claim[0].channels[0].parts[0].element = "31-32"; }),
        "finding.claim.role"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].trigger.device = {777}; }), "finding.claim.trigger"));
    EXPECT_TRUE(has(findingsAfter([](Dossier& d) { d.functions[0].mustRest = {{4}}; }), "finding.claim.rest"))
        << "a contactor is no motor";
}

TEST(Analysis, CountsAssumedParameters)
{
    Dossier d = test::demoFile().dossier;
    const int before = assumedParameterCount(d.circuit);
    EXPECT_GT(before, 0);
    for (Device& device : d.circuit.devices)
        if (device.tag == "F2")
            device.parameters.erase("trip_class");
    EXPECT_EQ(assumedParameterCount(d.circuit), before + 1);
}

} // namespace
} // namespace ts
