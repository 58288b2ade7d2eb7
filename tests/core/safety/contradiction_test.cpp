// What a claim says against the file's own data. Each was tried from outside once, and the program printed a level.

#include "core/io/dossier_file.h"
#include "core/library/exclusion_rule.h"
#include "core/safety/level.h"
#include "tests/support/circuits.h"

#include <algorithm>
#include <limits>

namespace ts::safety {
namespace {

using Weight = Contradiction::Weight;

/// The demo's emergency stop, changed.
struct Claim {
    Dossier d = test::demoFile().dossier;
    SafetyFunction& function() { return d.functions.front(); }
    ClaimedSubsystem& button() { return function().claim.front(); }
    ClaimedSubsystem& contactors() { return function().claim.back(); }
    Device& device(std::string_view tag)
    {
        return *std::find_if(
            d.circuit.devices.begin(), d.circuit.devices.end(), [tag](const Device& x) { return x.tag == tag; });
    }
    Reliability& bought()
    {
        Device& relay = device("K1");
        relay.reliability = *d.circuit.reliabilityOf(relay);
        return *relay.reliability;
    }
    FunctionLevel level() const { return functionLevel(d, d.functions.front()); }
};

const Contradiction* found(const FunctionLevel& level, std::string_view id)
{
    const auto it = std::find_if(level.contradictions.begin(), level.contradictions.end(),
        [id](const Contradiction& c) { return c.what.id == id; });
    return it == level.contradictions.end() ? nullptr : &*it;
}

void expectNoLevel(const Claim& claim, std::string_view id)
{
    const FunctionLevel level = claim.level();
    const Contradiction* c = found(level, id);
    ASSERT_TRUE(c) << id;
    EXPECT_EQ(c->weight, Weight::EndsLevel) << id;
    EXPECT_FALSE(c->mend.id.empty());
    EXPECT_FALSE(c->clause.empty());
    EXPECT_EQ(level.level, std::nullopt) << id;
}

TEST(Contradictions, ThereAreNoneInTheDemo)
{
    Claim c;
    EXPECT_TRUE(c.level().contradictions.empty());
    EXPECT_EQ(c.level().level, Level::E);
}

TEST(Contradictions, OnePartIsNotTwoChannels)
{
    Claim c;
    c.contactors().channels[1].parts = c.contactors().channels[0].parts;
    expectNoLevel(c, "claim.one_part_twice");
    c.contactors().channels[1].parts[0].element = "13-14"; // another contact of the same armature
    expectNoLevel(c, "claim.one_part_twice");
    Claim two;
    EXPECT_FALSE(found(two.level(), "claim.one_part_twice")) << "two contacts that a hand opens directly";
    two.button().channels[1].parts[0].element = two.button().channels[0].parts[0].element;
    expectNoLevel(two, "claim.one_part_twice");
}

TEST(Contradictions, CoverageByContactsThatAreNotThere)
{
    Claim c;
    c.device("Q1").parameters["mirror_contacts"] = false;
    expectNoLevel(c, "claim.no_mirror");
    for (ClaimedChannel& channel : c.contactors().channels)
        channel.parts[0].measure = "output.indirect";
    EXPECT_FALSE(found(c.level(), "claim.no_mirror")) << "another measure does not rest on them";
}

TEST(Contradictions, DirectOpeningOfADeviceWithoutIt)
{
    Claim c;
    c.device("S0").parameters["direct_opening"] = false;
    expectNoLevel(c, "claim.no_direct_opening");
    const Device& s0 = c.device("S0");
    EXPECT_TRUE(exclusionRule(c.d.circuit, s0, "11-12", "does_not_open", true).table.empty());
    c.device("S0").parameters["direct_opening"] = true;
    EXPECT_EQ(exclusionRule(c.d.circuit, s0, "11-12", "does_not_open", true).table, "D.8");
}

TEST(Contradictions, AFailureIsExcludedOnlyByATable)
{
    Claim c;
    c.contactors().channels[0].parts[0].excludedBecause = "never welds";
    expectNoLevel(c, "claim.exclusion_no_table");
    Claim blank;
    blank.button().channels[0].parts[0].excludedBecause = " \t";
    expectNoLevel(blank, "claim.exclusion_no_reason");
    const Circuit& circuit = c.d.circuit;
    EXPECT_TRUE(mayBeExcluded(circuit, c.device("S0"), "11-12"));
    EXPECT_TRUE(mayBeExcluded(circuit, c.device("S0"), "latch"));
    EXPECT_FALSE(mayBeExcluded(circuit, c.device("Q1"), "main"));
    EXPECT_FALSE(mayBeExcluded(circuit, c.device("Q1"), "armature"));
    EXPECT_FALSE(mayBeExcluded(circuit, c.device("S2"), "13-14"));
}

TEST(Contradictions, TheHigherOfTwoRequiredLevelsCounts)
{
    Claim c;
    c.function().risk = RiskAnswers{.seriousInjury = true, .frequentExposure = true, .scarcelyAvoidable = true};
    c.function().requiredLevel = Level::D;
    const FunctionLevel level = c.level();
    EXPECT_TRUE(found(level, "claim.required_below_risk"));
    EXPECT_EQ(level.required, Level::E);
    c.function().requiredLevel = Level::E;
    EXPECT_FALSE(found(c.level(), "claim.required_below_risk"));
}

TEST(Contradictions, AProgrammableDeviceIsNeverWellTried)
{
    DossierFile file = *io::loadDossier(test::sourcePath("data/demo/larkspur_db2.sentry"));
    SafetyFunction& f = file.dossier.functions.front();
    const DeviceId controller = f.claim[1].encapsulated;
    ClaimedSubsystem s{.name = "made up", .category = Category::One, .channels = {{"one", {{.device = controller}}}}};
    s.wellTried = true;
    f.claim = {s};
    const auto level = functionLevel(file.dossier, f);
    EXPECT_TRUE(found(level, "claim.programmable_well_tried"));
    EXPECT_EQ(level.level, std::nullopt);
}

TEST(Contradictions, WhatIsBoughtMustFitTogether)
{
    Claim level;
    level.bought().pfhdPerHour = 5e-7; // PL d
    level.bought().performanceLevel = Level::E;
    expectNoLevel(level, "claim.bought_level");
    Claim category;
    category.bought().category = Category::One;
    category.bought().performanceLevel = Level::E;
    expectNoLevel(category, "claim.bought_category");
    Claim none;
    none.bought().pfhdPerHour = 1e-4;
    expectNoLevel(none, "claim.bought_no_level");
    Claim both;
    both.function().claim[1].category = Category::Three;
    expectNoLevel(both, "claim.bought_and_designed");
}

TEST(Contradictions, CyclesAreEnteredOnce)
{
    Claim c;
    c.contactors().channels[0].parts[0].operationsPerYear = 1000;
    expectNoLevel(c, "claim.both_cycles");
}

TEST(Contradictions, TheTableHoldsForTwentyYears)
{
    Claim c;
    c.d.arithmetic.missionYears = 50;
    expectNoLevel(c, "claim.long_mission");
    c.d.arithmetic.missionYears = 10;
    const FunctionLevel level = c.level();
    const Contradiction* shorter = found(level, "claim.short_mission");
    ASSERT_TRUE(shorter);
    EXPECT_EQ(shorter->weight, Weight::Remark);
    EXPECT_EQ(level.level, Level::E);
}

TEST(Contradictions, DutyThatNobodyEnteredIsAssumed)
{
    Claim c;
    c.d.machine.duty.isEntered = false;
    const FunctionLevel level = c.level();
    EXPECT_TRUE(found(level, "claim.duty_assumed"));
    const auto& all = level.explanation.values;
    EXPECT_TRUE(std::any_of(all.begin(), all.end(),
        [](const ExplainedValue& v) { return v.what == "value.days_per_year" && v.basis == Basis::Assumed; }));
}

TEST(Contradictions, ReadingsThatDifferAreNamed)
{
    Claim c;
    c.d.arithmetic.untestedParts = UntestedParts::LeftOut;
    c.d.arithmetic.toleranceOnLimits = true;
    const FunctionLevel level = c.level();
    EXPECT_TRUE(found(level, "claim.reading"));
    EXPECT_TRUE(found(level, "claim.tolerance"));
}

/// Tables, formulas and clauses here are those of 2015: a file that asks for 2023 must not get that label.
TEST(Contradictions, AnEditionThatIsNotReckonedWithIsSaid)
{
    Claim c;
    c.d.arithmetic.edition = Edition::Of2023;
    const FunctionLevel level = c.level();
    EXPECT_TRUE(found(level, "claim.edition"));
    EXPECT_FALSE(found(level, "claim.reading")) << "it is no reading of ours";
}

TEST(Contradictions, DetectionByTheProcessAloneGivesPlDAtMost)
{
    Claim c;
    for (ClaimedChannel& channel : c.contactors().channels)
        channel.parts[0].measure = "output.process";
    const FunctionLevel level = c.level();
    EXPECT_TRUE(found(level, "claim.process"));
    EXPECT_EQ(level.level, Level::D);
    ASSERT_TRUE(level.chain);
    EXPECT_EQ(figuresOf(*level.chain).level, Level::D) << "the bare numbers say the same";
}

TEST(Contradictions, SeparationOfChannelsInOneCable)
{
    Claim c;
    RouteId cable{};
    for (const Route& r : c.d.circuit.routes)
        if (r.name == "door cable W2")
            cable = r.id;
    for (Wire& w : c.d.circuit.wires)
        if (c.d.circuit.nameOf(w.from).starts_with("S0:") || c.d.circuit.nameOf(w.to).starts_with("S0:"))
            w.route = cable;
    EXPECT_TRUE(found(c.level(), "claim.shared_cable"));
    std::erase(c.button().ccfAnswers, "separation");
    EXPECT_FALSE(found(c.level(), "claim.shared_cable")) << "no points are claimed for it";
}

TEST(Contradictions, PointsNeedEvidence)
{
    Claim c;
    c.button().ccfEvidence.erase("separation");
    EXPECT_TRUE(found(c.level(), "claim.ccf_without_evidence"));
}

TEST(Contradictions, RareDemandsNeedATestByHand)
{
    Claim c; // once in five years, PL d: at least yearly
    for (ClaimedChannel& channel : c.button().channels) {
        channel.parts[0].secondsPerCycle.reset();
        channel.parts[0].operationsPerYear = 0.2;
    }
    expectNoLevel(c, "claim.rare_demand");
    c.function().manualTest.everyDays = 400;
    expectNoLevel(c, "claim.rare_demand");
    c.function().manualTest.everyDays = 180;
    EXPECT_TRUE(found(c.level(), "claim.test_never"));
    EXPECT_EQ(c.level().level, Level::E);
    c.function().manualTest.lastOn = "2026-01-01";
    const FunctionLevel tested = c.level();
    const Contradiction* due = found(tested, "claim.test_due");
    ASSERT_TRUE(due);
    EXPECT_EQ(std::get<std::string>(due->what.arguments[1]), "2026-06-30");
}

TEST(Contradictions, PartsThatWearOutEarlierHaveADay)
{
    Claim c; // B10d 1 300 000 at 4 s a cycle: 220 d, 16 h: 3 168 000 a year, T10d 0.41 y
    for (ClaimedChannel& channel : c.contactors().channels)
        channel.parts[0].secondsPerCycle = 4;
    const FunctionLevel level = c.level();
    const Contradiction* open = found(level, "claim.replace");
    ASSERT_TRUE(open);
    EXPECT_EQ(open->weight, Weight::Correct);
    EXPECT_NEAR(std::get<Measured>(open->what.arguments[2]).si, 1.3e6 / 3.168e6, 1e-6);
    c.d.machine.inUseSince = "2026-01-01";
    const FunctionLevel dated = c.level();
    const Contradiction* due = found(dated, "claim.replace_on");
    ASSERT_TRUE(due);
    EXPECT_EQ(std::get<std::string>(due->what.arguments[2]), "2026-05-30") << "149 whole days";
}

TEST(LevelByCount, IsTakenWhereAPartHasAPlOnly)
{
    Claim c;
    c.bought().pfhdPerHour.reset();
    c.bought().performanceLevel = Level::D;
    const FunctionLevel level = c.level();
    EXPECT_EQ(level.level, Level::D) << "one at d, two at e: table 11";
    EXPECT_LT(level.pfhd, 0) << "there is no sum";
    ASSERT_TRUE(level.chain);
    EXPECT_EQ(figuresOf(*level.chain).level, Level::D);
}

TEST(LevelOf, ASumThatIsRoundedToJustBelowALimitIsOnTheWorseSide)
{
    double sum = 0;
    for (int k = 0; k < 10; ++k)
        sum += 1e-8;
    EXPECT_LT(sum, 1e-7) << "as the machine adds";
    EXPECT_EQ(levelOf(perHour(sum)), Level::D);
    EXPECT_EQ(levelOf(perHour(9.999e-8)), Level::E);
}

TEST(ShortRule, ToEarthOnlyInsideAnEnclosure)
{
    EXPECT_EQ(shortRule(RouteKind::Enclosure, true).table, "D.4");
    EXPECT_TRUE(shortRule(RouteKind::ShieldedCable, true).table.empty());
    EXPECT_TRUE(shortRule(RouteKind::ProtectedCable, true).table.empty());
    EXPECT_EQ(shortRule(RouteKind::ShieldedCable, false).table, "D.4");
    EXPECT_TRUE(shortRule(RouteKind::Cable, false).table.empty());
}

} // namespace
} // namespace ts::safety
