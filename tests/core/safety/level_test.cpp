// Whole chains against hand calculation, and every way a claim can fall short.

#include "core/safety/level.h"
#include "tests/support/circuits.h"

namespace ts::safety {
namespace {

/// The demo's emergency stop, open to change.
struct Chain {
    Dossier dossier = test::demoFile().dossier;
    SafetyFunction& function() { return dossier.functions[0]; }
    ClaimedSubsystem& contactors() { return function().claim[2]; }
    FunctionLevel level() { return functionLevel(dossier, function()); }
    std::string firstUnmet(std::size_t subsystem)
    {
        const FunctionLevel f = level();
        EXPECT_FALSE(f.level);
        return f.subsystems[subsystem].unmet.empty() ? "" : f.subsystems[subsystem].unmet.front().id;
    }
    double valueOf(const FunctionLevel& f, ValueIndex i) { return f.explanation[i].si; }
};

TEST(DemoChain, IsTheHandCalculation)
{
    Chain c;
    const FunctionLevel f = c.level();
    ASSERT_EQ(f.subsystems.size(), 3u);
    // Button: nop = 220 * 16 * 3600 / 57600 = 220/y; MTTFd = 100000 / (0.1 * 220) = 4545.45 y; T10d = 454.5 y;
    // capped to 2500 y; equal channels stay 2500; DCavg 99 %; CCF 15+15+5+25+10 = 70; table: 9.06e-10.
    const SubsystemLevel& button = f.subsystems[0];
    const PartLevel& contact = button.channels[0].parts[0];
    EXPECT_DOUBLE_EQ(c.valueOf(f, contact.operations), 220.0);
    EXPECT_NEAR(c.valueOf(f, contact.mttfd), 4545.4545, 1e-3);
    EXPECT_NEAR(c.valueOf(f, contact.t10d), 454.54545, 1e-4);
    EXPECT_DOUBLE_EQ(c.valueOf(f, button.channels[0].capped), 2500.0);
    EXPECT_NEAR(c.valueOf(f, button.mttfd), 2500.0, 1e-9);
    EXPECT_NEAR(c.valueOf(f, button.coverage), 0.99, 1e-12);
    EXPECT_DOUBLE_EQ(c.valueOf(f, button.commonCause), 70.0);
    EXPECT_DOUBLE_EQ(c.valueOf(f, button.pfhd), 9.06e-10);
    // Relay: as its sheet says. Contactors: nop 660/y, MTTFd 19697 y, capped 2500: 9.06e-10.
    EXPECT_DOUBLE_EQ(c.valueOf(f, f.subsystems[1].pfhd), 2.5e-9);
    EXPECT_NEAR(c.valueOf(f, f.subsystems[2].channels[1].mttfd), 19696.97, 0.01);
    // Sum: 9.06e-10 + 2.5e-9 + 9.06e-10 = 4.312e-9 -> PL e.
    EXPECT_NEAR(c.valueOf(f, f.pfhd), 4.312e-9, 1e-15);
    EXPECT_EQ(f.level, Level::E);
    EXPECT_EQ(f.required, Level::D);
    EXPECT_TRUE(f.conditionsAnswered);
    EXPECT_EQ(f.weakest(), 1);
}

TEST(Explanation, EveryValueReachesBackToInputsAndSources)
{
    Chain c;
    const FunctionLevel f = c.level();
    for (std::size_t i = 0; i < f.explanation.values.size(); ++i) {
        const ExplainedValue& v = f.explanation.values[i];
        EXPECT_FALSE(v.source.empty()) << i;
        EXPECT_TRUE(std::isfinite(v.si)) << i;
        for (ValueIndex input : v.inputs)
            EXPECT_LT(input, static_cast<ValueIndex>(i));
        const bool isInput = v.formula == "formula.given" || v.formula == "formula.pfhd_maker"
            || v.formula == "formula.ccf";
        EXPECT_EQ(v.inputs.empty(), isInput) << v.what;
    }
}

TEST(CategoryThree, WithFrequentSwitchingByHand)
{
    // One start a minute: nop = 220 * 16 * 3600 / 60 = 211200/y; MTTFd = 1.3e6 / 21120 = 61.55 y per channel.
    // DC 90 % (medium), category 3: row of 56 y, DC medium: 1.03e-7. Sum 9.06e-10 + 2.5e-9 + 1.03e-7 = 1.06406e-7: PL
    // d.
    Chain c;
    c.contactors().category = safety::Category::Three;
    for (auto& channel : c.contactors().channels) {
        channel.parts[0].secondsPerCycle = 60;
        channel.parts[0].measure = "output.redundant_one_monitored";
        channel.parts[0].dc = 0.90;
    }
    const FunctionLevel f = c.level();
    EXPECT_NEAR(c.valueOf(f, f.subsystems[2].mttfd), 61.553, 0.001);
    EXPECT_DOUBLE_EQ(c.valueOf(f, f.subsystems[2].pfhd), 1.03e-7);
    EXPECT_NEAR(c.valueOf(f, f.pfhd), 1.06406e-7, 1e-12);
    EXPECT_EQ(f.level, Level::D);
    // T10d = 1.3e6 / 211200 = 6.155 y: named, because the mission time is 20 y.
    EXPECT_TRUE(std::any_of(
        f.assumptions.begin(), f.assumptions.end(), [](const Message& m) { return m.id == "assume.t10d"; }));
}

TEST(CategoryOne, StaysAtMostPlC)
{
    Chain c;
    ClaimedSubsystem& s = c.contactors();
    s.category = safety::Category::One;
    s.channels.pop_back();
    s.channels[0].parts[0].measure.clear();
    s.channels[0].parts[0].dc = 0;
    EXPECT_EQ(c.firstUnmet(2), "level.well_tried");
    s.wellTried = true;
    const FunctionLevel f = c.level();
    EXPECT_DOUBLE_EQ(c.valueOf(f, f.subsystems[2].pfhd), 1.14e-6); // cap 100 y
    EXPECT_EQ(f.subsystems[2].level, Level::C);
    EXPECT_EQ(f.level, Level::C);
}

TEST(CategoryB, StaysAtMostPlB)
{
    Chain c;
    ClaimedSubsystem& s = c.contactors();
    s.category = safety::Category::B;
    s.channels.pop_back();
    EXPECT_EQ(c.level().subsystems[2].level, Level::B) << "1.14e-6 alone would be PL c";
}

TEST(Claims, ThatFallShortGiveNoNumber)
{
    {
        Chain c;
        c.contactors().ccfAnswers = {"separation", "overload_protection", "well_tried"}; // 35 points
        EXPECT_EQ(c.firstUnmet(2), "level.ccf");
        EXPECT_LT(c.level().pfhd, 0);
    }
    {
        Chain c; // one mirror contact missing: DCavg 49.5 %
        c.contactors().channels[1].parts[0].measure.clear();
        c.contactors().channels[1].parts[0].dc = 0;
        EXPECT_EQ(c.firstUnmet(2), "level.dc_not_high");
        const FunctionLevel f = c.level();
        EXPECT_NEAR(c.valueOf(f, f.subsystems[2].coverage), 0.495, 1e-12);
        EXPECT_FALSE(f.subsystems[2].best)
            << "two channels with 49.5 % meet neither 3 nor 4, nor one channel's categories";
    }
    {
        Chain c;
        c.contactors().category = safety::Category::Two;
        EXPECT_EQ(c.firstUnmet(2), "level.channels_one");
        EXPECT_EQ(c.level().subsystems[2].best, Category::Four);
        c.contactors().channels.pop_back();
        EXPECT_EQ(c.firstUnmet(2), "level.no_test");
    }
    {
        Chain c;
        c.contactors().channels.pop_back();
        EXPECT_EQ(c.firstUnmet(2), "level.channels_two");
    }
    {
        Chain c; // 1.3e6 / (0.1 * n) < 3 y needs n > 4.33e6: every 2 s
        for (auto& channel : c.contactors().channels)
            channel.parts[0].secondsPerCycle = 2;
        EXPECT_EQ(c.firstUnmet(2), "level.mttfd_low");
    }
}

TEST(Claims, ThatAreImpossibleNameWhatToMend)
{
    const auto unmetAfter = [](auto change) {
        Chain c;
        change(c);
        return c.firstUnmet(2);
    };
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels[0].parts.clear(); }), "level.empty_channel");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels.clear(); }), "level.empty_channel");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].device = {9999}; }), "level.no_device");
    EXPECT_EQ(
        unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].device = {7}; }), "level.no_reliability"); // M1
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].device = {17}; }), "level.pfhd_part"); // K1
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].secondsPerCycle = 0; }), "level.no_cycles");
    EXPECT_EQ(
        unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].secondsPerCycle.reset(); }), "level.no_cycles");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.dossier.machine.duty.hoursPerDay = 0; }), "level.no_cycles");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].measure = "output|wishful thinking"; }),
        "level.measure_unknown");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].dc = 1.0; }), "level.measure_range");
    EXPECT_EQ(
        unmetAfter([](Chain& c) { c.contactors().channels[0].parts[0].measure.clear(); }), "level.dc_without_measure");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().ccfAnswers.push_back("luck"); }), "level.ccf_unknown");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().category.reset(); }), "level.no_category");
    EXPECT_EQ(unmetAfter([](Chain& c) { c.contactors().encapsulated = {4}; }), "claim.bought_and_designed");
    Chain empty;
    empty.function().claim.clear();
    EXPECT_EQ(empty.level().unmet.front().id, "level.no_claim");
    EXPECT_FALSE(empty.level().level);
}

TEST(Function, IsNeverBetterThanItsLowestSubsystem)
{
    Chain c;
    for (Part& p : c.dossier.circuit.parts)
        if (p.id == "LK-SR2")
            p.reliability->performanceLevel = safety::Level::C; // a maker's PL below what its PFHd alone would say
    EXPECT_EQ(c.level().level, Level::C);
}

TEST(Conditions, UnansweredOnesAreSaid)
{
    Chain c;
    c.function().conditions.environment = false;
    EXPECT_FALSE(c.level().conditionsAnswered);
    EXPECT_EQ(unansweredConditions(c.dossier.circuit, c.function()), std::vector<std::string>{"condition.environment"});
}

TEST(Interpolated, IsNeverAboveTheRow)
{
    for (double s : {30.0, 45.0, 60.0, 100.0, 400.0}) {
        Chain c;
        for (auto& channel : c.contactors().channels)
            channel.parts[0].secondsPerCycle = s;
        const FunctionLevel row = c.level();
        c.dossier.arithmetic.method = PfhdMethod::Interpolated;
        const FunctionLevel between = c.level();
        ASSERT_GE(row.pfhd, 0) << s;
        EXPECT_LE(c.valueOf(between, between.pfhd), c.valueOf(row, row.pfhd) * (1 + 1e-12)) << s;
    }
}

} // namespace
} // namespace ts::safety
