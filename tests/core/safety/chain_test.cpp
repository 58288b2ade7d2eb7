// Worked chains: from parts to the function's level, each with its sum by hand. Rows are those of pfhd_by_mttfd.csv.
// Then properties, and the explained calculation held against this one.

#include "core/safety/chain.h"
#include "core/safety/level.h"
#include "tests/support/circuits.h"

#include <random>

namespace ts::safety {
namespace {

ChainPart wearing(double b10d, double perYear, double dc = 0)
{
    ChainPart p;
    p.b10dCycles = b10d;
    p.operationsPerYear = perYear;
    p.coverage = dc;
    p.isTested = dc > 0;
    return p;
}

ChainPart lasting(double mttfdYears, double dc = 0)
{
    ChainPart p;
    p.mttfdYears = mttfdYears;
    p.coverage = dc;
    p.isTested = dc > 0;
    return p;
}

using Channel = std::vector<ChainPart>;

ChainSubsystem designed(Category category, std::vector<Channel> channels)
{
    ChainSubsystem s;
    s.category = category;
    s.channels = std::move(channels);
    s.facts.commonCausePoints = 65;
    s.facts.wellTried = true;
    return s;
}

ChainSubsystem tested(Channel channel, double testMttfdYears)
{
    ChainSubsystem s = designed(Category::Two, {std::move(channel)});
    s.facts.isTested = true;
    s.test = {lasting(testMttfdYears)};
    return s;
}

ChainSubsystem maker(double pfhd, Level level)
{
    ChainSubsystem s;
    s.makerPfhd = perHour(pfhd);
    s.makerLevel = level;
    return s;
}

void expect(const ChainSubsystem& s, double pfhd, std::optional<Level> level, const Readings& r = {})
{
    const SubsystemFigures f = figuresOf(s, r);
    EXPECT_EQ(f.level, level);
    if (level) {
        EXPECT_NEAR(f.pfhd.si(), pfhd, pfhd * 1e-9);
    }
}

TEST(WorkedChains, CategoryB)
{
    // 400 000 / (0.1 * 10 000) = 400 y, cap 100 y, read in the column of category 1: 1.14e-6; category B is at most PL
    // b.
    expect(designed(Category::B, {{wearing(400'000, 10'000)}}), 1.14e-6, Level::B);
    // 27 y is a row: 4.23e-6, PL b. 14 y is not: next lower row 13 y, 8.78e-6, PL b.
    expect(designed(Category::B, {{lasting(27)}}), 4.23e-6, Level::B);
    expect(designed(Category::B, {{lasting(14)}}), 8.78e-6, Level::B);
    // Read to the last row of its own column: 30 y, 3.80e-6.
    Readings own;
    own.categoryBReadsOne = false;
    expect(designed(Category::B, {{lasting(400)}}), 3.80e-6, Level::B, own);
}

TEST(WorkedChains, CategoryOne)
{
    // 1 300 000 / (0.1 * 200 000) = 65 y: row 62 y, 1.84e-6, PL c.
    expect(designed(Category::One, {{wearing(1'300'000, 200'000)}}), 1.84e-6, Level::C);
    // 30 y: 3.80e-6 is PL b, though category 1 could reach c.
    expect(designed(Category::One, {{lasting(30)}}), 3.80e-6, Level::B);
    // 1 / (1/60 + 1/40) = 24 y: medium, not category 1.
    expect(designed(Category::One, {{lasting(60), lasting(40)}}), 0, std::nullopt);
}

TEST(WorkedChains, CategoryTwo)
{
    // Row 47 y, DC 60 % is low: 1.24e-6, PL c; test equipment of 25 y is half of 50 y.
    expect(tested({lasting(50, 0.60)}, 25), 1.24e-6, Level::C);
    expect(tested({lasting(50, 0.60)}, 24.9), 0, std::nullopt);
    // 100 y, DC 90 %: 2.29e-7, PL d.
    ChainSubsystem s = tested({lasting(100, 0.90)}, 50);
    expect(s, 2.29e-7, Level::D);
    // 30 tests per demand: 1.1 * 2.29e-7 = 2.519e-7.
    s.facts.testsPerDemand = 30;
    expect(s, 2.519e-7, Level::D);
    // A test that only warns: the same number, at most PL c.
    s.facts.testsPerDemand.reset();
    s.facts.testOnlyWarns = true;
    expect(s, 2.29e-7, Level::C);
}

TEST(WorkedChains, CategoryThree)
{
    // Equal channels of 30 y, DC 60 %: 6.94e-7, PL d.
    expect(designed(Category::Three, {{lasting(30, 0.60)}, {lasting(30, 0.60)}}), 6.94e-7, Level::D);
    // 1 300 000 / (0.1 * 211 200) = 61.55 y, DC 90 %: row 56 y, 1.03e-7, just PL d.
    const ChainPart contactor = wearing(1'300'000, 211'200, 0.90);
    expect(designed(Category::Three, {{contactor}, {contactor}}), 1.03e-7, Level::D);
    // 100 and 20 y: 2/3 * (120 - 1/(1/100 + 1/20)) = 2/3 * (120 - 16.667) = 68.889 y, row 68 y; DC 60 %: 1.84e-7; DC 90
    // %: 7.68e-8.
    expect(designed(Category::Three, {{lasting(100, 0.60)}, {lasting(20, 0.60)}}), 1.84e-7, Level::D);
    expect(designed(Category::Three, {{lasting(100, 0.90)}, {lasting(20, 0.90)}}), 7.68e-8, Level::E);
    // 400 y is capped to 100: 2/3 * (150 - 33.333) = 77.778 y, row 75 y, DC 90 %: 6.62e-8.
    expect(designed(Category::Three, {{lasting(400, 0.90)}, {lasting(50, 0.90)}}), 6.62e-8, Level::E);
    // A channel of two parts: 1 / (1/100 + 1/300) = 75 y.
    const Channel two{lasting(100, 0.90), lasting(300, 0.90)};
    expect(designed(Category::Three, {two, two}), 6.62e-8, Level::E);
    // DCavg = (0.99/20 + 0.60/60) / (1/20 + 1/60) = 0.0595 / 0.066667 = 89.25 %: low. 2/3 * (80 - 15) = 43.33 y: row 43
    // y, 3.87e-7.
    expect(designed(Category::Three, {{lasting(20, 0.99)}, {lasting(60, 0.60)}}), 3.87e-7, Level::D);
    // One of two equal channels untested: (0.99 + 0) / 2 = 49.5 %: not category 3.
    expect(designed(Category::Three, {{lasting(30, 0.99)}, {lasting(30)}}), 0, std::nullopt);
}

TEST(WorkedChains, CategoryFour)
{
    // 13 000 000 y: cap 2500 y: 9.06e-10.
    expect(designed(Category::Four, {{wearing(1.3e6, 1, 0.99)}, {wearing(1.3e6, 1, 0.99)}}), 9.06e-10, Level::E);
    // 300 and 150 y: 2/3 * (450 - 100) = 233.33 y: row 220 y, 1.08e-8.
    expect(designed(Category::Four, {{lasting(300, 0.99)}, {lasting(150, 0.99)}}), 1.08e-8, Level::E);
    // 300 and 25 y: joined 2/3 * (325 - 23.077) = 201.28 y, high: row 200 y, 1.19e-8; by the lower channel it is
    // medium.
    const ChainSubsystem unlike = designed(Category::Four, {{lasting(300, 0.99)}, {lasting(25, 0.99)}});
    expect(unlike, 1.19e-8, Level::E);
    Readings byLower;
    byLower.classOfJoined = false;
    expect(unlike, 0, std::nullopt, byLower);
}

TEST(WorkedChains, Readings)
{
    // Category 3, 80 y, DC 90 %, between 75 y (6.62e-8) and 82 y (5.79e-8): share ln(80/75)/ln(82/75) = 0.72327;
    // 6.62e-8 * (5.79/6.62)^0.72327 = 6.0087e-8.
    const ChainSubsystem s = designed(Category::Three, {{lasting(80, 0.90)}, {lasting(80, 0.90)}});
    Readings between;
    between.method = PfhdMethod::Interpolated;
    EXPECT_NEAR(figuresOf(s, between).pfhd.si(), 6.0087e-8, 2e-12);
    expect(s, 6.62e-8, Level::E);
    // Untested parts left out of DCavg: 99 % remains, and category 4 is met: 30 y, 9.54e-8.
    const ChainSubsystem half = designed(Category::Four, {{lasting(30, 0.99)}, {lasting(30)}});
    expect(half, 0, std::nullopt);
    Readings leftOut;
    leftOut.untestedAsZero = false;
    expect(half, 9.54e-8, Level::E, leftOut);
}

TEST(WorkedChains, Exclusions)
{
    // A part whose failure is excluded takes no part: 75 y remain of 75 and 10 y.
    ChainPart excluded = lasting(10);
    excluded.isExcluded = true;
    const Channel channel{lasting(75, 0.90), excluded};
    expect(designed(Category::Three, {channel, channel}), 6.62e-8, Level::E);
    // The mechanics of a guard switch excluded: never PL e.
    ChainSubsystem guard = designed(Category::Three, {channel, channel});
    guard.isAtMostD = true;
    expect(guard, 6.62e-8, Level::D);
}

TEST(WorkedChains, InSeries)
{
    const ChainPart contactor = wearing(1'300'000, 211'200, 0.90);
    const ChainSubsystem contactors = designed(Category::Three, {{contactor}, {contactor}});
    const ChainSubsystem button = designed(
        Category::Four, {{wearing(100'000, 220, 0.99)}, {wearing(100'000, 220, 0.99)}});
    // 9.06e-10 + 2.5e-9 + 1.03e-7 = 1.06406e-7: PL d.
    const ChainFigures f = figuresOf(Chain{{button, maker(2.5e-9, Level::E), contactors}, {}});
    EXPECT_NEAR(f.pfhd.si(), 1.06406e-7, 1e-15);
    EXPECT_EQ(f.level, Level::D);
    // Never better than the lowest level: 9.06e-10 + 1e-9 would be PL e.
    EXPECT_EQ(figuresOf(Chain{{button, maker(1e-9, Level::C)}, {}}).level, Level::C);
    EXPECT_EQ(figuresOf(Chain{}).level, std::nullopt);
    EXPECT_EQ(figuresOf(Chain{{button, designed(Category::Three, {{lasting(2, 0.9)}, {lasting(2, 0.9)}})}, {}}).level,
        std::nullopt)
        << "2 y is not acceptable";
}

TEST(LevelByCount, TheTableFromBothSides)
{
    // Clause 6.3, table 11.
    const auto of = [](Level lowest, int count) {
        std::vector<Level> list(static_cast<std::size_t>(count), lowest);
        list.push_back(Level::E);
        return levelByCount(list);
    };
    EXPECT_EQ(of(Level::A, 3), Level::A);
    EXPECT_EQ(of(Level::A, 4), std::nullopt);
    EXPECT_EQ(of(Level::B, 2), Level::B);
    EXPECT_EQ(of(Level::B, 3), Level::A);
    EXPECT_EQ(of(Level::C, 2), Level::C);
    EXPECT_EQ(of(Level::C, 3), Level::B);
    EXPECT_EQ(of(Level::D, 3), Level::D);
    EXPECT_EQ(of(Level::D, 4), Level::C);
    EXPECT_EQ(of(Level::E, 2), Level::E); // three with the one that of() adds
    EXPECT_EQ(of(Level::E, 3), Level::D);
    EXPECT_EQ(levelByCount({}), std::nullopt);
}

/// Chains with a level, at random but always the same ones.
ChainSubsystem randomSubsystem(std::mt19937& random)
{
    const auto between = [&random](double low, double high) {
        return low * std::pow(high / low, std::uniform_real_distribution<>(0, 1)(random));
    };
    const auto channel = [&](double dc) {
        Channel parts;
        for (std::size_t k = 0; k < 1 + random() % 3; ++k)
            parts.push_back(
                random() % 2 ? wearing(between(1e5, 2e7), between(100, 1e6), dc) : lasting(between(5, 3000), dc));
        return parts;
    };
    switch (random() % 4) {
    case 0:
        return designed(Category::B, {channel(0)});
    case 1:
        return designed(Category::One, {channel(0)});
    case 2:
        return designed(Category::Three, {channel(0.90), channel(0.60)});
    default:
        return designed(Category::Four, {channel(0.99), channel(0.99)});
    }
}

TEST(ChainProperties, AMoreReliablePartNeverLowersTheLevel)
{
    std::mt19937 random(11);
    for (int k = 0; k < 2000; ++k) {
        ChainSubsystem s = randomSubsystem(random);
        const SubsystemFigures before = figuresOf(s, {});
        // The same factor for all parts keeps DCavg as it is: coverage is not what is looked at here.
        for (Channel& c : s.channels)
            for (ChainPart& p : c) {
                p.b10dCycles *= 1.7;
                p.mttfdYears *= 1.7;
            }
        const SubsystemFigures after = figuresOf(s, {});
        if (before.level) {
            ASSERT_TRUE(after.level) << k;
            EXPECT_GE(*after.level, *before.level) << k;
            EXPECT_LE(after.pfhd.si(), before.pfhd.si()) << k;
        }
    }
}

TEST(ChainProperties, TheOrderOfPartsAndChannelsDoesNotMatter)
{
    std::mt19937 random(12);
    for (int k = 0; k < 2000; ++k) {
        ChainSubsystem s = randomSubsystem(random);
        const SubsystemFigures before = figuresOf(s, {});
        std::reverse(s.channels.begin(), s.channels.end());
        for (Channel& c : s.channels)
            std::reverse(c.begin(), c.end());
        const SubsystemFigures after = figuresOf(s, {});
        EXPECT_EQ(before.level, after.level) << k;
        EXPECT_EQ(before.pfhd.si(), after.pfhd.si()) << k;
    }
}

TEST(ChainProperties, TwiceTheDutyIsTwiceTheCyclesAndHalfTheMttfd)
{
    Dossier d = test::demoFile().dossier;
    const FunctionLevel once = functionLevel(d, d.functions[0]);
    d.machine.duty.hoursPerDay *= 1.5;
    const FunctionLevel more = functionLevel(d, d.functions[0]);
    for (std::size_t s = 0; s < once.subsystems.size(); ++s)
        for (std::size_t c = 0; c < once.subsystems[s].channels.size(); ++c) {
            const PartLevel &a = once.subsystems[s].channels[c].parts[0], &b = more.subsystems[s].channels[c].parts[0];
            EXPECT_NEAR(more.explanation[b.operations].si, 1.5 * once.explanation[a.operations].si, 1e-6);
            EXPECT_NEAR(more.explanation[b.mttfd].si, once.explanation[a.mttfd].si / 1.5, 1e-6);
        }
}

TEST(ExplainedLevel, IsTheBareOne)
{
    std::mt19937 random(13);
    for (int k = 0; k < 300; ++k) {
        Dossier d = test::demoFile().dossier;
        SafetyFunction& f = d.functions[0];
        for (ClaimedSubsystem& s : f.claim)
            for (ClaimedChannel& c : s.channels)
                for (ClaimedPart& p : c.parts)
                    p.secondsPerCycle = std::pow(10.0, std::uniform_real_distribution<>(0.5, 5)(random));
        f.claim[2].category = std::array{Category::Three, Category::Four}[random() % 2];
        d.arithmetic.method = random() % 2 ? PfhdMethod::Row : PfhdMethod::Interpolated;
        const FunctionLevel explained = functionLevel(d, f);
        ASSERT_TRUE(explained.chain) << k;
        const ChainFigures bare = figuresOf(*explained.chain);
        EXPECT_EQ(explained.level, bare.level) << k;
        if (explained.pfhd >= 0) {
            EXPECT_EQ(explained.explanation[explained.pfhd].si, bare.pfhd.si()) << k;
        }
        for (std::size_t s = 0; s < explained.subsystems.size(); ++s)
            EXPECT_EQ(explained.subsystems[s].level,
                figuresOf(explained.chain->subsystems[s], explained.chain->readings).level)
                << k;
    }
}

} // namespace
} // namespace ts::safety
