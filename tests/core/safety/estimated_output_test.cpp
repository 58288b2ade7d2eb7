// Brakes and valves for which nobody gives reliability data: the category alone says PFHd and PL.

#include "core/io/dossier_text.h"
#include "core/safety/level.h"
#include "tests/support/circuits.h"

#include <algorithm>

namespace ts::safety {
namespace {

struct Valves {
    Dossier d = test::demoFile().dossier;
    ClaimedSubsystem s;

    explicit Valves(Category category, int channels = 1, double dc = 0.0)
    {
        s.name = "valves";
        s.category = category;
        s.wellTried = true;
        s.estimatedOutput = true;
        s.ccfAnswers = {"separation", "diversity", "overload_protection", "emc_contamination"};
        for (int k = 0; k < channels; ++k) {
            Device valve;
            valve.id = {5000 + k};
            valve.tag = "Y" + std::to_string(k + 1);
            valve.kind = "solenoid";
            d.circuit.devices.push_back(valve);
            ClaimedPart part{valve.id, "armature", {}, {}, {}, dc, {}};
            if (dc > 0.0)
                part.measure = "output.direct";
            s.channels.push_back({valve.tag, {part}});
        }
    }
    FunctionLevel level()
    {
        d.functions[0].claim = {s};
        return functionLevel(d, d.functions[0]);
    }
    double pfhd()
    {
        const FunctionLevel l = level();
        return l.pfhd < 0 ? 0.0 : l.explanation[l.pfhd].si;
    }
};

/// ISO 13849-1:2015 clause 4.5.5.
TEST(EstimatedOutput, GetsItsFiguresByCategory)
{
    EXPECT_EQ(Valves(Category::B).level().level, Level::B);
    EXPECT_DOUBLE_EQ(Valves(Category::B).pfhd(), 5.0e-6);
    EXPECT_EQ(Valves(Category::One).level().level, Level::C);
    EXPECT_DOUBLE_EQ(Valves(Category::One).pfhd(), 1.7e-6);
    EXPECT_EQ(Valves(Category::Three, 2, 0.99).level().level, Level::D);
    EXPECT_DOUBLE_EQ(Valves(Category::Three, 2, 0.99).pfhd(), 2.9e-7);
    EXPECT_EQ(Valves(Category::Four, 2, 0.99).level().level, Level::E);
    EXPECT_DOUBLE_EQ(Valves(Category::Four, 2, 0.99).pfhd(), 4.7e-8);
}

TEST(EstimatedOutput, SaysThatItIsAnEstimateAndAsksForWellTriedParts)
{
    Valves v(Category::One);
    const FunctionLevel level = v.level();
    EXPECT_TRUE(std::any_of(level.assumptions.begin(), level.assumptions.end(),
        [](const Message& m) { return m.id == "assume.estimated_output"; }));
    ASSERT_TRUE(level.chain);
    EXPECT_EQ(figuresOf(*level.chain).level, Level::C) << "the bare numbers say the same";
    v.s.wellTried = false;
    EXPECT_EQ(v.level().level, std::nullopt);
    Valves four(Category::Four, 2, 0.99);
    four.s.wellTried = false;
    EXPECT_EQ(four.level().level, std::nullopt);
}

TEST(EstimatedOutput, StillNeedsChannelsCoverageAndMeasures)
{
    EXPECT_EQ(Valves(Category::Three, 1, 0.99).level().level, std::nullopt) << "one channel";
    EXPECT_EQ(Valves(Category::Three, 2).level().level, std::nullopt) << "nothing notices a fault";
    Valves v(Category::Three, 2, 0.99);
    v.s.ccfAnswers.clear();
    EXPECT_EQ(v.level().level, std::nullopt);
}

TEST(EstimatedOutput, IsNoWayAroundAContactorsData)
{
    Valves v(Category::One);
    v.s.channels[0].parts[0] = {v.d.circuit.device("Q1")->id, "main", {}, {}, {}, 0.0, {}};
    const FunctionLevel level = v.level();
    EXPECT_EQ(level.level, std::nullopt);
    EXPECT_TRUE(std::any_of(level.contradictions.begin(), level.contradictions.end(),
        [](const Contradiction& c) { return c.what.id == "claim.estimated_part"; }));
}

TEST(EstimatedOutput, IsKeptInTheFile)
{
    Valves v(Category::One);
    v.d.circuit.devices.back().parameters = {{"coil_voltage_v", 24.0}, {"coil_current", test::word("dc")},
        {"coil_power_w", 12.0}, {"acts_in_s", 0.05}, {"rests_in_s", 0.08}};
    v.level();
    DossierFile file = test::demoFile();
    file.dossier = v.d;
    file.nextId = 6000;
    const auto again = io::parseDossier(io::printDossier(file));
    ASSERT_TRUE(again) << again.error().message.id;
    EXPECT_TRUE(again->dossier.functions[0].claim[0].estimatedOutput);
    EXPECT_EQ(again->dossier, v.d);
}

} // namespace
} // namespace ts::safety
